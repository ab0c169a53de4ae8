package changes

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// happening is an entry that is about to be kept: with when its event was planned.
type happening struct {
	entry   *job.Entry
	planned *time.Time
}

// happened is what one tap tells: the entry itself first.
type happened []happening

// happen judges an entry about an event with all that it says was done along with it, and asks once about all of
// it. The entry that it puts right is struck first.
func (w *Unit) happen(ctx context.Context, in Entry, entry *job.Entry) (happened, error) {
	about(w.Before, entry, EventRef{in.StepID, in.Coat})
	if in.Corrects != uuid.Nil {
		if err := w.correct(ctx, in, entry); err != nil {
			return nil, err
		}
	}
	if in.CaughtUp {
		if err := w.catchUp(ctx, in, *entry); err != nil {
			return nil, err
		}
	}
	if entry.Minutes != nil && len(in.Along) > 0 {
		share := int(math.Round(float64(*entry.Minutes) / float64(1+len(in.Along))))
		entry.Minutes = &share
	}
	all := make(happened, 0, 1+len(in.Along))
	doubts, err := w.judge(ctx, in, entry, &all)
	if err != nil {
		return nil, err
	}
	for k, event := range in.Along {
		e, err := w.alongside(in, *entry, k, event)
		if err != nil {
			return nil, err
		}
		also, err := w.judge(ctx, in, &e, &all)
		if err != nil {
			return nil, err
		}
		at, _ := w.Before.Find(event.StepID)
		for _, d := range also {
			doubts = append(doubts, refuse.Doubt{Code: d.Code, Message: fmt.Sprintf("%s %s: %s", at.Instrument().Name, at.Piece().Kind,
				d.Message)})
		}
	}
	return all, in.answer(doubts)
}

// about says which event an entry is about.
func about(m *snapshot.Snapshot, entry *job.Entry, event EventRef) {
	at, _ := m.Find(event.StepID)
	entry.Instrument, entry.Step, entry.Coat = at.Instrument().ID, &event.StepID, &event.Coat
}

// alongside is the entry about the k-th event that was done with the same tap. It has the entry that it comes
// with for its device.
func (w *Unit) alongside(in Entry, with job.Entry, k int, event EventRef) (job.Entry, error) {
	at, found := w.Before.Find(event.StepID)
	path := fmt.Sprintf("along[%d].", k)
	switch {
	case !found:
		return job.Entry{}, refuse.Field(path+"stepId", "must be a step of a schedule", event.StepID)
	case event.Coat < 1 || event.Coat > w.Before.MostCoats(at):
		return job.Entry{}, refuse.Field(path+"coat", fmt.Sprintf("this step has coats 1 to %d", w.Before.MostCoats(at)), event.Coat)
	case event == EventRef{in.StepID, in.Coat} || slices.Contains(in.Along[:k], event):
		return job.Entry{}, refuse.Field(path+"stepId", "is logged with this tap already", event.StepID)
	}
	e := with
	e.ID, e.Device, e.DeviceSeq = uuid.NewSHA1(in.ID, fmt.Appendf(nil, "along %s %d", event.StepID, event.Coat)), in.ID, int64(1000+k)
	e.Flags, e.Planned, e.Figures, e.Corrects = nil, nil, nil, nil
	if used := e.Actual; used != nil && used.Product != nil && at.Step().Family != w.familyOf(with) {
		return job.Entry{}, refuse.Field(path+"stepId", "takes another family than the product that was used; log it by itself",
			event.StepID)
	}
	about(w.Before, &e, event)
	return e, nil
}

func (w *Unit) familyOf(e job.Entry) string {
	at, _ := w.Before.Find(*e.Step)
	return at.Step().Family
}

// judge looks at what an entry about an event does: whether another was first, whether it will stand, and what is
// doubtful about it. It completes the entry with its flags and figures.
func (w *Unit) judge(ctx context.Context, in Entry, entry *job.Entry, all *happened) ([]refuse.Doubt, error) {
	m, h := w.Before, happening{entry: entry}
	event := entry.Event()
	e, expected := m.Plan.Find(event)
	if e.Event = event; expected && !e.Done && e.Impossible == "" {
		h.planned = &e.Start
	}
	at, _ := m.Find(event.Step)
	made := at.Planned().Material
	if used := m.Catalogue.Product(entry.Used()); used != nil {
		made = used
	}
	if made != nil {
		figures := made.Resolve(m.Setting.Margin)
		entry.Figures = &figures
	}
	entry.Planned = at.ToBe(event.Coat)
	if in.Kind == job.Failed {
		*all = append(*all, h)
		return nil, nil
	}
	first := w.standing(event)
	switch {
	case first != nil && !in.Late:
		return nil, taken(m, *first)
	case first != nil:
		entry.Flags = append(entry.Flags, job.Duplicate)
	}
	if err := w.overdue(ctx, entry); err != nil {
		return nil, err
	}
	doubts := w.doubts(e, in, entry)
	flag(entry, doubts)
	*all = append(*all, h)
	return doubts, nil
}

// correct strikes the entry of the same event that another puts right.
func (w *Unit) correct(ctx context.Context, in Entry, entry *job.Entry) error {
	wrong, err := voidable(ctx, w.Tx, in.Corrects)
	var taken *refuse.Taken
	if in.Late && errors.As(err, &taken) {
		return nil // struck meanwhile: it is kept all the same
	}
	if err != nil {
		return err
	}
	if wrong.Kind != job.Done || wrong.Event() != (schedule.Event{Step: in.StepID, Coat: in.Coat}) {
		return refuse.Field("correctsId", "must be an entry that says when this same work was done", in.Corrects)
	}
	entry.Corrects = &wrong.ID
	return w.strikeAlong(ctx, *entry, []job.Entry{wrong}, 500)
}

// void strikes an entry, and what was logged along with it where that is wished.
func (w *Unit) void(ctx context.Context, in Entry, entry *job.Entry) (job.Entry, error) {
	voided, err := voidable(ctx, w.Tx, in.Voids)
	if err != nil {
		return voided, err
	}
	entry.Voids, entry.Instrument = &voided.ID, voided.Instrument
	var along []job.Entry
	if in.CaughtUp {
		if along, err = w.CaughtUpWith(ctx, voided.ID); err != nil {
			return voided, err
		}
	}
	if err := judgeStrike(w.Before, in, entry, append(along, voided)); err != nil {
		return voided, err
	}
	return voided, w.strikeAlong(ctx, *entry, along, 1)
}

// strikeAlong strikes entries along with one that is made. What strikes them has that one for its device, and
// is counted there from a first number on.
func (w *Unit) strikeAlong(ctx context.Context, with job.Entry, along []job.Entry, first int64) error {
	for k, struck := range along {
		e := job.Entry{ID: uuid.NewSHA1(with.ID, struck.ID[:]), Kind: job.Void, Instrument: struck.Instrument, Voids: &struck.ID,
			Person:     with.Person,
			HappenedAt: with.HappenedAt, RecordedAt: with.RecordedAt, Device: with.ID, DeviceSeq: first + int64(k)}
		if err := w.enter(ctx, e); err != nil {
			return err
		}
	}
	return nil
}

// stop says which timer an entry stops.
func (w *Unit) stop(ctx context.Context, entry *job.Entry, id uuid.UUID) error {
	started, err := w.Entry(ctx, id)
	if errors.Is(err, store.ErrNotFound) || (err == nil && started.Kind != job.Timed) {
		return refuse.Field("stopsId", "must be an entry that started a timer", id)
	}
	if err != nil {
		return err
	}
	if stopped, err := w.TimerStopped(ctx, id); err != nil {
		return err
	} else if stopped {
		return &refuse.Taken{Message: "that timer has been stopped already"}
	}
	entry.Stops, entry.Instrument, entry.Step, entry.Coat = &started.ID, started.Instrument, started.Step, started.Coat
	ran := int(math.Round(entry.HappenedAt.Sub(started.HappenedAt).Minutes()))
	entry.Minutes = new(max(0, min(ran, 24*60)))
	if overran(started, entry.HappenedAt) {
		entry.Flags = append(entry.Flags, tooLate)
	}
	return nil
}

// overran reports whether what a timer counts was to be done before some moment.
func overran(started job.Entry, at time.Time) bool {
	before := started.Timer.BeforeMin
	return before > 0 && at.Sub(started.HappenedAt) > time.Duration(before)*time.Minute
}

// overdue flags work that was done later than a timer that ran with it allowed.
func (w *Unit) overdue(ctx context.Context, entry *job.Entry) error {
	running, err := w.TimersSince(ctx, entry.HappenedAt.Add(-TimersKept))
	for _, started := range running {
		if started.Event() == entry.Event() && timer.Within(started.Timer.Kind) && overran(started, entry.HappenedAt) {
			entry.Flags = append(entry.Flags, tooLate)
			break
		}
	}
	return err
}

// inSitting says in which sitting an entry was made.
func (w *Unit) inSitting(ctx context.Context, in Entry, entry *job.Entry) error {
	if in.SittingID == uuid.Nil {
		return nil
	}
	_, err := w.Sitting(ctx, in.SittingID)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return refuse.Field("sittingId", "must be a sitting that was begun here", in.SittingID)
	case err != nil:
		return err
	}
	entry.Sitting = &in.SittingID
	return nil
}

// TimersKept is how long a timer that nobody stops is shown.
const TimersKept = 36 * time.Hour
