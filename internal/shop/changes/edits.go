package changes

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/store"
)

// EditsKept is how long a change of a schedule can be taken back.
const EditsKept = 24 * time.Hour

// NoteEdits keeps what changes did to schedules, so that it can be taken back.
func (w *Unit) NoteEdits(ctx context.Context, b *Set, by uuid.UUID) error {
	for i := range b.Workshop.Instruments {
		after := &b.Workshop.Instruments[i]
		at := slices.IndexFunc(w.Before.Workshop.Instruments, func(in recipe.Instrument) bool { return in.ID == after.ID })
		if at < 0 {
			continue // it was put aside
		}
		before := &w.Before.Workshop.Instruments[at]
		delta := edit.Between(*before, *after)
		if delta.Empty() {
			continue
		}
		id, err := uuid.NewV7()
		if err != nil {
			return err
		}
		row := store.ScheduleEdit{ID: id, Instrument: after.ID, At: w.Before.Now, Said: b.Summary, Delta: delta, Person: &by,
			Seats: edit.BothSeats{Before: edit.SeatsOf(before, w.Before.Workshop.Order, w.Before.Workshop.Pins),
				After: edit.SeatsOf(after, b.Workshop.Order, b.Workshop.Pins)}}
		if by == uuid.Nil {
			row.Person = nil
		}
		if err := w.AddScheduleEdit(ctx, row, w.Before.Now.Add(-EditsKept)); err != nil {
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

// Turnable is the change that may be taken back, or made again.
func (w *Unit) Turnable(ctx context.Context, in TakenBack, again bool) (store.ScheduleEdit, error) {
	if err := w.Before.IsOfShop("personId", in.PersonID); err != nil {
		return store.ScheduleEdit{}, err
	}
	rows, err := w.ScheduleEdits(ctx, in.InstrumentID, w.Before.Now.Add(-EditsKept))
	if err != nil {
		return store.ScheduleEdit{}, err
	}
	undo, redo := LastEdits(rows)
	row := undo
	if again {
		row = redo
	}
	if row == nil || row.ID != in.EditID {
		return store.ScheduleEdit{}, &refuse.Taken{Message: "the schedule has been changed otherwise in the meantime; look at it again"}
	}
	return *row, nil
}

// LastEdits are the change that can be taken back and the one that can be made again, of those of a day in
// the order in which they were made.
func LastEdits(rows []store.ScheduleEdit) (undo, redo *store.ScheduleEdit) {
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

// Turn makes an instrument what it was on the other side of a change.
func (b *Set) Turn(instrument uuid.UUID, delta edit.Delta, to edit.Seats) error {
	in, err := b.instrumentOf(instrument)
	if err != nil {
		return err
	}
	next, err := delta.Apply(*in, b.LoggedOf(in))
	var wrong *edit.Fault
	if errors.As(err, &wrong) {
		return refuse.Field("editId", phrase.Capital(wrong.Message)+". Change the schedule by hand instead.", nil)
	} else if err != nil {
		return err
	}
	b.become(in, next)
	b.Workshop.Order, b.Workshop.Pins = to.Restore(in, b.Workshop.Order, b.Workshop.Pins)
	return nil
}
