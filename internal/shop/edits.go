package shop

import (
	"context"
	"errors"
	"reflect"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// EditView is a change of a schedule that can be taken back, or made again.
type EditView struct {
	ID   uuid.UUID `json:"id"`
	Said []string  `json:"said" doc:"each change in words"`
	At   Moment    `json:"at"`
	By   string    `json:"by,omitempty" doc:"who made it"`
}

// editsKept is how long a change of a schedule can be taken back.
const editsKept = 24 * time.Hour

// seats are the places of an instrument's events in the order of work, each behind another event, and its pins.
type seats struct {
	Order []seat        `json:"order"`
	Pins  []formats.Pin `json:"pins,omitempty"`
}

type seat struct {
	Event job.Event `json:"event"`
	After job.Event `json:"after,omitzero"` // of any instrument; none: it comes first
}

// bothSeats are the places before and after a change.
type bothSeats struct {
	Before seats `json:"before"`
	After  seats `json:"after"`
}

// seatsOf are the places of an instrument's events in a shop's order of work.
func seatsOf(file *formats.File, in *recipe.Instrument) seats {
	own := ownSteps(in)
	var s seats
	last := job.Event{}
	for _, e := range file.Order {
		if own[e.Step] {
			s.Order = append(s.Order, seat{e, last})
		}
		last = e
	}
	for _, p := range file.Pins {
		if own[p.Step] {
			s.Pins = append(s.Pins, p)
		}
	}
	return s
}

func ownSteps(in *recipe.Instrument) map[uuid.UUID]bool {
	own := make(map[uuid.UUID]bool)
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			own[s.ID] = true
		}
	}
	return own
}

// noteEdits keeps what changes did to schedules, so that it can be taken back.
func (w *writing) noteEdits(ctx context.Context, b *bent, by uuid.UUID) error {
	for i := range b.file.Instruments {
		after := &b.file.Instruments[i]
		at := slices.IndexFunc(w.before.file.Instruments, func(in recipe.Instrument) bool { return in.ID == after.ID })
		if at < 0 {
			continue // it was put aside
		}
		before := &w.before.file.Instruments[at]
		delta := edit.Between(*before, *after)
		if delta.Empty() {
			continue
		}
		id, err := uuid.NewV7()
		if err != nil {
			return err
		}
		row := store.ScheduleEdit{ID: id, Instrument: after.ID, At: w.before.now, Said: store.JSON[[]string]{V: b.said},
			Delta: store.JSON[edit.Delta]{V: delta}, Person: &by}
		if by == uuid.Nil {
			row.Person = nil
		}
		if err := row.Places.Set(bothSeats{seatsOf(w.before.file, before), seatsOf(b.file, after)}); err != nil {
			return err
		}
		if err := w.AddScheduleEdit(ctx, row, w.before.now.Add(-editsKept)); err != nil {
			return err
		}
	}
	return nil
}

// TakenBack asks to take back, or to make again, what was changed last.
type TakenBack struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	EditID       uuid.UUID `json:"editId" doc:"the change that is meant: another than the last is not taken back"`
	PersonID     uuid.UUID `json:"personId"`
}

// Undo takes back the change of an instrument's schedule that was made last; Redo makes it again. They fail
// with *Taken where another change has come since, and with *Invalid where what is logged since forbids it.
func (s *Service) Undo(ctx context.Context, in TakenBack) (Kept, error) {
	return s.turn(ctx, in, false)
}

// Redo makes again what was taken back last: see Undo.
func (s *Service) Redo(ctx context.Context, in TakenBack) (Kept, error) {
	return s.turn(ctx, in, true)
}

func (s *Service) turn(ctx context.Context, in TakenBack, again bool) (Kept, error) {
	in.PersonID = who(ctx, in.PersonID)
	kept := Kept{}
	err := s.onShop(ctx, func(w *writing) error {
		row, err := w.turnable(ctx, in, again)
		if err != nil {
			return err
		}
		b, err := w.before.bend(nil, in.PersonID)
		if err != nil {
			return err
		}
		delta, places, word := row.Delta.V.Inverse(), bothSeats{}, "taken back"
		if err := row.Places.Get(&places); err != nil {
			return err
		}
		to := places.Before
		if again {
			delta, to, word = row.Delta.V, places.After, "made again"
		}
		if err := b.turn(in.InstrumentID, delta, to); err != nil {
			return err
		}
		if err := b.say(false, "%s: %s", phrase.Capital(word), strings.Join(row.Said.V, "; ")); err != nil {
			return err
		}
		if _, err := b.answer(); err != nil {
			return err
		}
		if err := b.keep(ctx, w.Tx); err != nil {
			return err
		}
		if err := w.TurnScheduleEdit(ctx, row.ID, !again); err != nil {
			return err
		}
		if err := w.reread(ctx); err != nil {
			return err
		}
		kept = Kept{b.said, moved(w.before, w.after)}
		return w.remember(ctx, b.said[0], nil)
	})
	return kept, err
}

// turnable is the change that may be taken back, or made again.
func (w *writing) turnable(ctx context.Context, in TakenBack, again bool) (store.ScheduleEdit, error) {
	if err := w.before.isOfShop("personId", in.PersonID); err != nil {
		return store.ScheduleEdit{}, err
	}
	rows, err := w.ScheduleEdits(ctx, in.InstrumentID, w.before.now.Add(-editsKept))
	if err != nil {
		return store.ScheduleEdit{}, err
	}
	undo, redo := lastEdits(rows)
	row := undo
	if again {
		row = redo
	}
	if row == nil || row.ID != in.EditID {
		return store.ScheduleEdit{}, &Taken{Message: "the schedule has been changed otherwise in the meantime; look at it again"}
	}
	return *row, nil
}

// lastEdits are the change that can be taken back and the one that can be made again, of those of a day in
// the order in which they were made.
func lastEdits(rows []store.ScheduleEdit) (undo, redo *store.ScheduleEdit) {
	for i := range rows {
		switch {
		case !rows[i].Undone:
			undo, redo = &rows[i], nil
		case redo == nil:
			redo = &rows[i]
		}
	}
	return undo, redo
}

// turn makes an instrument what it was on the other side of a change.
func (b *bent) turn(instrument uuid.UUID, delta edit.Delta, to seats) error {
	in, err := b.instrumentOf(instrument)
	if err != nil {
		return err
	}
	next, err := delta.Apply(*in, b.loggedOf(in))
	var wrong *edit.Fault
	if errors.As(err, &wrong) {
		return invalid("editId", phrase.Capital(wrong.Message)+". Change the schedule by hand instead.", nil)
	} else if err != nil {
		return err
	}
	b.wished[in.ID] = !reflect.DeepEqual(in.Wish, next.Wish) || len(in.Pieces) != len(next.Pieces)
	b.become(in, next)
	b.seat(in, to)
	return nil
}

// eventsOf are the events of an instrument in the order of its chains.
func eventsOf(in *recipe.Instrument) (list []job.Event) {
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			for coat := 1; coat <= max(s.Coats, 1); coat++ {
				list = append(list, job.Event{Step: s.ID, Coat: coat})
			}
		}
	}
	return list
}

// seat puts the events of an instrument where they were in the order of work, behind those they came after, and
// its pins with them.
func (b *bent) seat(in *recipe.Instrument, to seats) {
	own, events := ownSteps(in), eventsOf(in)
	order := slices.DeleteFunc(slices.Clone(b.file.Order), func(e job.Event) bool { return own[e.Step] })
	place := -1
	for _, s := range to.Order {
		at := slices.Index(events, s.Event)
		if at < 0 {
			continue
		}
		events = slices.Delete(events, at, at+1)
		if s.After == (job.Event{}) {
			place = -1
		} else if at := slices.Index(order, s.After); at >= 0 {
			place = at
		}
		place++
		order = slices.Insert(order, place, s.Event)
	}
	b.file.Order, b.order = append(order, events...), true // those that came since come last
	b.file.Pins = slices.DeleteFunc(b.file.Pins, func(p formats.Pin) bool { return own[p.Step] })
	for _, p := range to.Pins {
		if own[p.Step] {
			b.file.Pins = append(b.file.Pins, p)
		}
	}
	for _, p := range slices.Concat(b.moment.file.Pins, to.Pins) {
		if own[p.Step] {
			b.pins[p.Event] = true
		}
	}
}

// editViews are what can be taken back of an instrument's schedule, and made again.
func (m *moment) editViews(rows []store.ScheduleEdit) (undo, redo *EditView) {
	view := func(row *store.ScheduleEdit) *EditView {
		if row == nil {
			return nil
		}
		v := EditView{ID: row.ID, Said: row.Said.V, At: m.moment(row.At)}
		for _, p := range m.people {
			if row.Person != nil && p.ID == *row.Person {
				v.By = p.Name
			}
		}
		return &v
	}
	last, next := lastEdits(rows)
	return view(last), view(next)
}
