package shop

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
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

// noteEdits keeps what changes did to schedules, so that it can be taken back.
func (w *unitOfWork) noteEdits(ctx context.Context, b *changeSet, by uuid.UUID) error {
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
		row := store.ScheduleEdit{ID: id, Instrument: after.ID, At: w.before.now, Said: b.summary, Delta: delta, Person: &by,
			Seats: edit.BothSeats{Before: edit.SeatsOf(before, w.before.file.Order, w.before.file.Pins),
				After: edit.SeatsOf(after, b.file.Order, b.file.Pins)}}
		if by == uuid.Nil {
			row.Person = nil
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
	err := s.onShop(ctx, func(w *unitOfWork) error {
		row, err := w.turnable(ctx, in, again)
		if err != nil {
			return err
		}
		b, err := w.before.bend(nil, in.PersonID)
		if err != nil {
			return err
		}
		delta, to, word := row.Delta.Inverse(), row.Seats.Before, "taken back"
		if again {
			delta, to, word = row.Delta, row.Seats.After, "made again"
		}
		if err := b.turn(in.InstrumentID, delta, to); err != nil {
			return err
		}
		if err := b.say(false, "%s: %s", phrase.Capital(word), strings.Join(row.Said, "; ")); err != nil {
			return err
		}
		if err := w.decide(ctx, b); err != nil {
			return err
		}
		if err := w.TurnScheduleEdit(ctx, row.ID, !again); err != nil {
			return err
		}
		kept = Kept{b.summary, moved(w.before, w.after)}
		return w.recordHistory(ctx, b.summary[0], nil)
	})
	return kept, err
}

// turnable is the change that may be taken back, or made again.
func (w *unitOfWork) turnable(ctx context.Context, in TakenBack, again bool) (store.ScheduleEdit, error) {
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
func (b *changeSet) turn(instrument uuid.UUID, delta edit.Delta, to edit.Seats) error {
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
	b.become(in, next)
	b.file.Order, b.file.Pins = to.Restore(in, b.file.Order, b.file.Pins)
	return nil
}

// editViews are what can be taken back of an instrument's schedule, and made again.
func (m *moment) editViews(rows []store.ScheduleEdit) (undo, redo *EditView) {
	view := func(row *store.ScheduleEdit) *EditView {
		if row == nil {
			return nil
		}
		v := EditView{ID: row.ID, Said: row.Said, At: m.moment(row.At)}
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
