package changes

import (
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// checkEntry refuses what is malformed, and reads what was true of it.
func checkEntry(m *snapshot.Snapshot, in Entry, entry *job.Entry) error {
	var bad refuse.Invalid
	fault := func(path, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field(path, message, value).Faults...)
	}
	if in.ID == uuid.Nil {
		fault("id", "must be a UUID that the device made", in.ID)
	}
	if in.DeviceID == uuid.Nil {
		fault("deviceId", "must be the UUID of the device", in.DeviceID)
	}
	if wrong := m.IsOfShop("personId", in.PersonID); wrong != nil {
		bad.Faults = append(bad.Faults, wrong.Faults...)
	}
	if !refuse.Plausible(entry.HappenedAt, m.Now) {
		fault("happenedAt", refuse.DatesAccepted, nil)
	}
	if (in.Kind == job.Skipped || in.Kind == job.Note) && entry.Note == "" {
		fault("note", "say why, in 1 to 2000 characters", in.Note)
	}
	var faults []recipe.Fault
	entry.Actual, faults = readActual(m, in)
	bad.Faults = append(bad.Faults, faults...)
	for path, text := range map[string]string{"note": in.Note, "actual.lot": lotOf(in)} {
		if strings.ContainsRune(text, 0) {
			fault(path, "must be text, without a zero byte", "")
		}
	}
	if (len(in.Along) > 0 || in.Corrects != uuid.Nil) && in.Kind != job.Done {
		fault("kind", "only what was done is logged along with others, or put right", in.Kind)
	}
	switch in.Kind {
	case job.Void, job.Stopped:
	case job.Moved:
		if m.OwnerOf(in.PieceID) == uuid.Nil {
			fault("pieceId", "must be a piece of an instrument", in.PieceID)
		}
		if !slices.ContainsFunc(m.Input.Shop.Places, func(p schedule.Place) bool { return p.ID == in.PlaceID }) {
			fault("placeId", "must be a place of this shop", in.PlaceID)
		}
	case job.Note:
		if !slices.ContainsFunc(m.Workshop.Instruments, func(i recipe.Instrument) bool { return i.ID == in.InstrumentID }) {
			fault("instrumentId", "must be an instrument of this shop", in.InstrumentID)
		}
		at, found := m.Find(in.StepID)
		switch {
		case in.StepID == uuid.Nil:
		case !found || at.Instrument().ID != in.InstrumentID:
			fault("stepId", "must be a step of that instrument, or be left out", in.StepID)
		case in.Coat < 1 || in.Coat > m.MostCoats(at):
			fault("coat", fmt.Sprintf("this step has coats 1 to %d", m.MostCoats(at)), in.Coat)
		}
	default:
		at, found := m.Find(in.StepID)
		switch {
		case !found:
			fault("stepId", "must be a step of a schedule", in.StepID)
		case in.Kind == job.Tested && (in.Milestone == "" || in.Passed == nil || at.Step().Family == ""):
			fault("milestone", "say of which coat, for which milestone, and whether it passed", in.Milestone)
		case at.Step().Out != "" && !in.Late:
			fault("stepId", "this step is left out: "+at.Step().Out+". Take it back into the schedule first", in.StepID)
		case in.Kind == job.Settled && at.Step().Repeat == nil:
			fault("kind", "only a step that is done in rounds is settled", in.Kind)
		case in.Coat < 1 || in.Coat > m.MostCoats(at):
			fault("coat", fmt.Sprintf("this step has coats 1 to %d", m.MostCoats(at)), in.Coat)
		case in.Kind == job.Timed && !startable(in.Timer):
			fault("timer", "must be one of the timers of its sheet, of 1 minute to 12 hours", in.Timer)
		case in.Kind == job.Failed && at.Step().Kind != schedule.Inspect:
			fault("kind", "only a check can fail to pass", in.Kind)
		}
	}
	if len(bad.Faults) > 0 {
		return &bad
	}
	return nil
}

func lotOf(in Entry) string {
	if in.Actual == nil {
		return ""
	}
	return in.Actual.Lot
}

// startable reports whether a timer can be started.
func startable(t *job.Timer) bool {
	short := func(text string, most int) bool {
		return text != "" && len(text) <= most && !strings.ContainsRune(text, 0)
	}
	return t != nil && slices.Contains(timer.Kinds, t.Kind) && t.Minutes >= 1 && t.Minutes <= 12*60 && t.BeforeMin >= 0 &&
		t.BeforeMin <= 14*24*60 &&
		short(t.Title, 200) && short(t.Then, 300)
}
