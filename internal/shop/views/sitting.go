package views

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/caution"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/sitting"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// SittingsNow is the sittings that are under way, and those that could be started today.
type SittingsNow struct {
	Open    []SittingHead `json:"open" doc:"begun and not ended, the newest first"`
	Offered []SittingHead `json:"offered" doc:"the rest of today's work, place by place"`
}

// SittingHead is a sitting at a glance.
type SittingHead struct {
	ID      uuid.UUID        `json:"id,omitzero" doc:"of one that was begun"`
	Event   changes.EventRef `json:"event" doc:"the first of its work that is not done"`
	Place   string           `json:"place"`
	When    string           `json:"when" doc:"now, 14:20; of one that was begun: since 14:20"`
	Title   string           `json:"title" doc:"what comes first in it"`
	Pieces  string           `json:"pieces"`
	Steps   int              `json:"steps" doc:"how many are not done"`
	Minutes string           `json:"minutes" doc:"of work that is not done"`
	By      string           `json:"by" doc:"who began it; empty: nobody yet"`
}

// SittingView is a sitting: before it is begun what to lay out and to know, then one step after the other.
type SittingView struct {
	SittingHead
	Started  *snapshot.Moment `json:"started,omitempty"`
	Ended    *snapshot.Moment `json:"ended,omitempty"`
	Work     []SittingStep    `json:"work" doc:"its steps in order"`
	Lay      LayView          `json:"lay"`
	Cautions []CautionView    `json:"cautions" doc:"of all its steps, each once"`
	Verdicts []RoomVerdict    `json:"verdicts" doc:"on the air now, of each product"`
}

// SittingStep is one step of a sitting: one event, or one coat on several pieces.
type SittingStep struct {
	Title   string        `json:"title"`
	Done    bool          `json:"done"`
	Minutes string        `json:"minutes"`
	Works   []SittingWork `json:"works" doc:"what is logged with one tap"`
	Mix     []BatchView   `json:"mix" doc:"batches to be mixed for it now"`
	Sheet   Sheet         `json:"sheet" doc:"of the first of its works that is not done"`
}

// SittingWork is one event of a step.
type SittingWork struct {
	Event  changes.EventRef `json:"event"`
	Name   string           `json:"name"`
	Piece  job.PieceKind    `json:"piece"`
	Title  string           `json:"title"`
	Done   bool             `json:"done"`
	CanLog bool             `json:"canLog" doc:"its piece is ready for it now"`
	When   string           `json:"when"`
}

// CautionView is a caution, and whether somebody has acknowledged it in this sitting.
type CautionView struct {
	caution.Caution
	Seen bool `json:"seen"`
}

// SittingsKept is how long a sitting that nobody ends is shown.
const SittingsKept = 24 * time.Hour

func Sittings(m *snapshot.Snapshot, open []job.Sitting) SittingsNow {
	now := SittingsNow{Open: []SittingHead{}, Offered: []SittingHead{}}
	taken := make(map[schedule.Event]bool)
	for _, one := range open {
		for _, e := range one.Events {
			taken[e] = true
		}
		now.Open = append(now.Open, sittingHead(m, one))
	}
	today, _, _ := today(m)
	var events []schedule.Planned
	for _, e := range today {
		if !taken[e.Event] {
			events = append(events, *e)
		}
	}
	for _, one := range sitting.Gather(events) {
		now.Offered = append(now.Offered, sittingHead(m, PlannedSitting(one)))
	}
	return now
}

// PlannedSitting is a sitting that nobody has begun.
func PlannedSitting(one sitting.Sitting) job.Sitting {
	planned := job.Sitting{Place: &one.Place}
	for _, e := range one.Events {
		planned.Events = append(planned.Events, e.Event)
	}
	return planned
}

func sittingHead(m *snapshot.Snapshot, one job.Sitting) SittingHead {
	head := SittingHead{ID: one.ID}
	if one.Place != nil {
		head.Place = m.PlaceName(*one.Place)
	}
	if begun := one.ID != uuid.Nil; begun {
		head.By, head.When = m.PersonName(one.Person), "since "+m.Plan.Clock(one.StartedAt)
	}
	works := works(m, one, one.StartedAt)
	var pieces []string
	var minutes unit.Minutes
	for _, step := range sitting.Together(works) {
		open := false
		for _, k := range step {
			e, _ := m.Plan.Find(works[k].Event)
			if e.Done {
				continue
			}
			at, _ := m.Find(e.Step)
			if name := at.Instrument().Name + " " + string(at.Piece().Kind); !slices.Contains(pieces, name) {
				pieces = append(pieces, name)
			}
			if minutes += works[k].Minutes; head.Title == "" {
				head.Event, head.Title = changes.Ref(e.Event), works[k].Step.EventTitle(e.Coat)
				if head.When == "" {
					head.When = m.Plan.Say(e.Start)
				}
			}
			open = true
		}
		if open {
			head.Steps++
		}
	}
	head.Pieces, head.Minutes = phrase.List(pieces), "about "+minutes.String()
	return head
}

// works are the events of a sitting that are still in the schedule, each beginning when those before it are
// through: so its batches are the same however far it has got.
func works(m *snapshot.Snapshot, one job.Sitting, start time.Time) []sitting.Work {
	var works []sitting.Work
	for _, event := range one.Events {
		at, found := m.Find(event.Step)
		e, planned := m.Plan.Find(event)
		if !found || !planned {
			continue
		}
		if start.IsZero() {
			start = e.Start
		}
		step := at.Planned()
		w := sitting.Work{Event: event, Step: &step, AreaM2: areaOf(m, at), Start: start, Minutes: step.HandsOnMin}
		if !e.Done && len(e.Spans) > 1 {
			w.Minutes = unit.Minutes(e.Spans[0].Length().Minutes())
		}
		if step.Kind == schedule.Coat {
			w.PotLife, _ = m.Input.Shop.PotLifeOf(&step)
		}
		works = append(works, w)
		start = start.Add(time.Duration(w.Minutes) * time.Minute)
	}
	return works
}

func SittingOf(m *snapshot.Snapshot, one job.Sitting) (SittingView, error) {
	view := SittingView{SittingHead: sittingHead(m, one), Work: []SittingStep{}, Cautions: []CautionView{}, Verdicts: []RoomVerdict{}}
	if one.ID != uuid.Nil {
		started := m.Moment(one.StartedAt)
		view.Started = &started
	}
	if one.EndedAt != nil {
		ended := m.Moment(*one.EndedAt)
		view.Ended = &ended
	}
	works := works(m, one, one.StartedAt)
	lay, err := sitting.Out(works)
	if err != nil {
		return view, err
	}
	view.Lay = layView(m, lay)
	for _, together := range sitting.Together(works) {
		step, err := sittingStep(m, works, together, view.Lay)
		if err != nil {
			return view, err
		}
		view.Work = append(view.Work, step)
		view.warn(step.Sheet, one.Seen)
	}
	return view, nil
}

// warn adds what a step warns of, and whether the air is fit for it, each once.
func (v *SittingView) warn(sheet Sheet, seen []string) {
	for _, c := range sheet.Cautions {
		if !slices.ContainsFunc(v.Cautions, func(known CautionView) bool { return known.ID == c.ID }) {
			v.Cautions = append(v.Cautions, CautionView{c, slices.Contains(seen, c.ID)})
		}
	}
	if sheet.Room != nil && !slices.ContainsFunc(v.Verdicts, func(known RoomVerdict) bool {
		return known.Product == sheet.Room.Product && known.Place == sheet.Room.Place
	}) {
		v.Verdicts = append(v.Verdicts, *sheet.Room)
	}
}

func sittingStep(m *snapshot.Snapshot, works []sitting.Work, together []int, lay LayView) (SittingStep, error) {
	step := SittingStep{Done: true, Works: []SittingWork{}, Mix: []BatchView{}}
	var minutes unit.Minutes
	shown := works[together[0]].Event
	for _, k := range together {
		w := works[k]
		e, _ := m.Plan.Find(w.Event)
		at, _ := m.Find(w.Event.Step)
		if minutes += w.Minutes; step.Done && !e.Done {
			step.Done, shown = false, w.Event
		}
		step.Works = append(step.Works, SittingWork{Event: changes.Ref(w.Event), Name: at.Instrument().Name, Piece: at.Piece().Kind,
			Title: w.Step.EventTitle(w.Event.Coat), Done: e.Done, CanLog: loggable(m, e) && !blocked(m, e), When: m.Plan.Say(e.Start)})
		for _, material := range lay.Materials {
			for _, b := range material.Batches {
				if b.first == w.Event {
					step.Mix = append(step.Mix, b)
				}
			}
		}
	}
	var err error
	step.Sheet, err = SheetOf(m, shown.Step, shown.Coat)
	step.Title, step.Minutes = step.Sheet.Title, "about "+minutes.String()
	return step, err
}

// SittingBegun is a sitting as somebody begins it.
type SittingBegun struct {
	ID       uuid.UUID          `json:"id" doc:"made by the device; sending it again changes nothing"`
	PersonID uuid.UUID          `json:"personId"`
	Events   []changes.EventRef `json:"events" minItems:"1" maxItems:"200" doc:"what is to be done in it, in order"`
	Seen     []string           `json:"seen,omitempty" maxItems:"40" doc:"cautions that were acknowledged, by id"`
}

// Once is the id under which it is kept once.
func (in SittingBegun) Once() uuid.UUID { return in.ID }

func CheckSitting(m *snapshot.Snapshot, in SittingBegun, one *job.Sitting) error {
	var bad refuse.Invalid
	fault := func(path, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field(path, message, value).Faults...)
	}
	if in.ID == uuid.Nil {
		fault("id", "must be a UUID that the device made", in.ID)
	}
	if wrong := m.IsOfShop("personId", in.PersonID); wrong != nil {
		bad.Faults = append(bad.Faults, wrong.Faults...)
	}
	for k, event := range one.Events {
		e, found := m.Plan.Find(event)
		switch {
		case !found || e.Done:
			fault(fmt.Sprintf("events[%d]", k), "must be work that is planned and not done", in.Events[k])
		case slices.Contains(one.Events[:k], event):
			fault(fmt.Sprintf("events[%d]", k), "stands in this sitting already", in.Events[k])
		case one.Place == nil:
			one.Place = &e.Place
		}
	}
	if len(bad.Faults) > 0 {
		return &bad
	}
	return nil
}

// SittingChanged is what becomes of a sitting.
type SittingChanged struct {
	ID    uuid.UUID `json:"id"`
	Seen  []string  `json:"seen,omitempty" maxItems:"40" doc:"cautions that were acknowledged, by id"`
	Ended *bool     `json:"ended,omitempty" doc:"it is over; false: it goes on after all"`
}

// See notes cautions that were acknowledged.
func See(one *job.Sitting, ids []string) error {
	for k, id := range ids {
		if id = strings.TrimSpace(id); id == "" || len(id) > 100 || strings.ContainsRune(id, 0) {
			return refuse.Field(fmt.Sprintf("seen[%d]", k), "must be the id of a caution", "")
		}
		if !slices.Contains(one.Seen, id) {
			one.Seen = append(one.Seen, id)
		}
	}
	return nil
}
