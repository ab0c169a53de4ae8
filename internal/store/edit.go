package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
)

// ScheduleEdit is what a change did to the schedule of an instrument.
type ScheduleEdit struct {
	ID         uuid.UUID        `db:"id"`
	Instrument uuid.UUID        `db:"instrument_id"`
	At         time.Time        `db:"at"`
	Person     *uuid.UUID       `db:"person_id"`
	Said       JSON[[]string]   `db:"said"`
	Delta      JSON[edit.Delta] `db:"delta"`
	Places     Blob             `db:"places"` // what became of the order of work and the pins, as the shop writes it
	Undone     bool             `db:"undone"`
}

// Blob is JSON that only its writer reads.
type Blob struct{ JSON[json.RawMessage] }

// Set writes a value.
func (b *Blob) Set(value any) (err error) {
	b.V, err = json.Marshal(value)
	return err
}

// Get reads what was written.
func (b *Blob) Get(into any) error { return json.Unmarshal(b.V, into) }

// AddScheduleEdit keeps what a change did. What was taken back cannot be made again after it, and what is
// older than a moment is forgotten.
func (tx *Tx) AddScheduleEdit(ctx context.Context, e ScheduleEdit, oldest time.Time) error {
	if _, err := tx.ExecContext(ctx, `delete from schedule_edit where (instrument_id = $1 and undone) or at < $2`, e.Instrument, oldest); err != nil {
		return explain(err)
	}
	_, err := tx.NamedExecContext(ctx, `
		insert into schedule_edit (id, instrument_id, at, person_id, said, delta, places, undone)
		values (:id, :instrument_id, :at, :person_id, :said, :delta, :places, :undone)`, e)
	return explain(err)
}

// ScheduleEdits are the changes of an instrument's schedule since a moment, the oldest first.
func (tx *Tx) ScheduleEdits(ctx context.Context, instrument uuid.UUID, since time.Time) ([]ScheduleEdit, error) {
	return all[ScheduleEdit](ctx, tx, most, `
		select * from schedule_edit where instrument_id = $1 and at >= $2 order by at, id limit $3`, instrument, since)
}

// TurnScheduleEdit notes that a change is taken back, or made again.
func (tx *Tx) TurnScheduleEdit(ctx context.Context, id uuid.UUID, undone bool) error {
	_, err := tx.ExecContext(ctx, `update schedule_edit set undone = $2 where id = $1`, id, undone)
	return explain(err)
}
