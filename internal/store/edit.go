package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
)

// ScheduleEdit is what a change did to the schedule of an instrument.
type ScheduleEdit struct {
	ID         uuid.UUID      `db:"id"`
	Instrument uuid.UUID      `db:"instrument_id"`
	At         time.Time      `db:"at"`
	Person     *uuid.UUID     `db:"person_id"`
	Said       []string       `db:"-"` // each change in words
	Delta      edit.Delta     `db:"-"`
	Seats      edit.BothSeats `db:"-"` // what became of the order of work and the pins
	Undone     bool           `db:"undone"`
}

// editRow is a change of a schedule as a row.
type editRow struct {
	ScheduleEdit
	Words      jsonb[[]string]       `db:"said"`
	Difference jsonb[edit.Delta]     `db:"delta"`
	Places     jsonb[edit.BothSeats] `db:"places"`
}

// AddScheduleEdit keeps what a change did. What was taken back cannot be made again after it, and what is
// older than a moment is forgotten.
func (tx *Tx) AddScheduleEdit(ctx context.Context, e ScheduleEdit, oldest time.Time) error {
	if _, err := tx.sql.ExecContext(ctx, `delete from schedule_edit where (instrument_id = $1 and undone) or at < $2`, e.Instrument,
		oldest); err != nil {
		return explain(err)
	}
	row := editRow{e, jsonb[[]string]{e.Said}, jsonb[edit.Delta]{e.Delta}, jsonb[edit.BothSeats]{e.Seats}}
	_, err := tx.sql.NamedExecContext(ctx, `
		insert into schedule_edit (id, instrument_id, at, person_id, said, delta, places, undone)
		values (:id, :instrument_id, :at, :person_id, :said, :delta, :places, :undone)`, row)
	return explain(err)
}

// ScheduleEdits are the changes of an instrument's schedule since a moment, the oldest first.
func (tx *Tx) ScheduleEdits(ctx context.Context, instrument uuid.UUID, since time.Time) ([]ScheduleEdit, error) {
	rows, err := all[editRow](ctx, tx, most, `
		select * from schedule_edit where instrument_id = $1 and at >= $2 order by at, id limit $3`, instrument, since)
	list := make([]ScheduleEdit, len(rows))
	for i, row := range rows {
		list[i] = row.ScheduleEdit
		list[i].Said, list[i].Delta, list[i].Seats = row.Words.V, row.Difference.V, row.Places.V
	}
	return list, err
}

// TurnScheduleEdit notes that a change is taken back, or made again.
func (tx *Tx) TurnScheduleEdit(ctx context.Context, id uuid.UUID, undone bool) error {
	_, err := tx.sql.ExecContext(ctx, `update schedule_edit set undone = $2 where id = $1`, id, undone)
	return explain(err)
}
