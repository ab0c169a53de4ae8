package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
)

// What a person decides about the shop and its work after it was set up.

// RemovePin lets an event go where the plan puts it.
func (tx *Tx) RemovePin(ctx context.Context, event schedule.Event) error {
	_, err := tx.ExecContext(ctx, `delete from pin where step_id = $1 and coat = $2`, event.Step, event.Coat)
	return explain(err)
}

// SetOrder replaces the accepted order of work, first served first.
func (tx *Tx) SetOrder(ctx context.Context, order []schedule.Event) error {
	if _, err := tx.ExecContext(ctx, `delete from work_order`); err != nil {
		return explain(err)
	}
	steps, coats := make([]uuid.UUID, len(order)), make([]int, len(order))
	for i, e := range order {
		steps[i], coats[i] = e.Step, e.Coat
	}
	_, err := tx.ExecContext(ctx, `
		insert into work_order (rank, step_id, coat)
		select n, step_id, coat from unnest($1::uuid[], $2::int[]) with ordinality as given (step_id, coat, n)`, steps, coats)
	return explain(err)
}

// ChangeStep keeps what a step is now as its next version; its piece, its slot and
// its place in the order stay. It fails with ErrConflict when the step has another version by now.
func (tx *Tx) ChangeStep(ctx context.Context, piece *job.Piece, s job.Step) error {
	row := stepRowOf(uuid.Nil, piece, 0, s)
	result, err := tx.NamedExecContext(ctx, changeStep, row)
	if err != nil {
		return explain(err)
	}
	if changed, err := result.RowsAffected(); err != nil || changed == 0 {
		return errors.Join(ErrConflict, err)
	}
	for _, query := range []string{`delete from step_region where step_id = $1`, `delete from step_after where step_id = $1`} {
		if _, err := tx.ExecContext(ctx, query, s.ID); err != nil {
			return explain(err)
		}
	}
	if err := tx.linkSteps(ctx, []stepRow{row}); err != nil {
		return explain(err)
	}
	_, err = tx.ExecContext(ctx, handOn, s.ID)
	return explain(err)
}

// handOn completes what stands of a step on the regions that it has gained: those were split off from the
// ones that it was done to.
const handOn = `
	insert into completion (step_id, coat, region_id, entry_id)
	select done.step_id, done.coat, r.region_id, done.entry_id
	from (select distinct step_id, coat, entry_id from completion where step_id = $1) done join step_region r using (step_id)
	where not exists (select from completion c where c.step_id = done.step_id and c.coat = done.coat and c.region_id = r.region_id)`

// InsertStep puts a step into a piece at its position; those from there on move
// on by one. It does not touch the order of work.
func (tx *Tx) InsertStep(ctx context.Context, instrument uuid.UUID, piece *job.Piece, position int, s job.Step) error {
	const apart = 100_000 // positions are unique at every moment
	for _, query := range []string{
		`update step set position = position + $3::int where piece_id = $1 and position >= $2::int`,
		`update step set position = position - $3::int + 1 where piece_id = $1 and position >= $2::int + $3::int`,
	} {
		if _, err := tx.ExecContext(ctx, query, piece.ID, position, apart); err != nil {
			return explain(err)
		}
	}
	rows := []stepRow{stepRowOf(instrument, piece, position, s)}
	if err := inBulk(ctx, tx, insertSteps, rows); err != nil {
		return explain(err)
	}
	return explain(tx.linkSteps(ctx, rows))
}

// ChangeWish keeps what is wanted of an instrument now, as its next version.
func (tx *Tx) ChangeWish(ctx context.Context, id uuid.UUID, wish recipe.Wish) error {
	_, err := tx.ExecContext(ctx, `update instrument set wish = $2, version = version + 1 where id = $1`, id, JSON[recipe.Wish]{wish})
	return explain(err)
}

// ChangeInstrument keeps what an instrument is called and promised, and whether it is put aside, as its next version.
func (tx *Tx) ChangeInstrument(ctx context.Context, in recipe.Instrument) error {
	_, err := tx.NamedExecContext(ctx, `
		update instrument set name = :name, serial = :serial, promise = :promise, show_day = :show_day, archived_at = :archived_at, version = version + 1
		where id = :id`, rowOf(in))
	return explain(err)
}

// DropInstrument deletes an instrument of which nothing is logged, with all its parts. It fails with ErrConflict
// where the log speaks of it.
func (tx *Tx) DropInstrument(ctx context.Context, id uuid.UUID) error {
	var logged bool
	if err := tx.GetContext(ctx, &logged, `select exists (select from log_entry where instrument_id = $1)`, id); err != nil {
		return explain(err)
	}
	if logged {
		return ErrConflict
	}
	for _, query := range []string{
		`delete from pin where step_id in (select id from step where instrument_id = $1)`,
		`delete from work_order where step_id in (select id from step where instrument_id = $1)`,
		`delete from step_after where step_id in (select id from step where instrument_id = $1)`,
		`delete from step_region where step_id in (select id from step where instrument_id = $1)`,
		`delete from step where instrument_id = $1`,
		`delete from region where piece_id in (select id from piece where instrument_id = $1)`,
		`delete from piece where instrument_id = $1`,
		`delete from forecast_snapshot where instrument_id = $1`,
		`delete from schedule_edit where instrument_id = $1`,
		`delete from instrument where id = $1`,
	} {
		if _, err := tx.ExecContext(ctx, query, id); err != nil {
			return explain(err)
		}
	}
	return nil
}

// AddPieces adds the pieces and regions that an instrument does not have yet, without
// steps, and puts its pieces into this order.
func (tx *Tx) AddPieces(ctx context.Context, instrument uuid.UUID, pieces []job.Piece) error {
	const apart = 1000 // positions are unique at every moment
	if _, err := tx.ExecContext(ctx, `update piece set position = position + $2::int where instrument_id = $1`, instrument, apart); err != nil {
		return explain(err)
	}
	for i, piece := range pieces {
		result, err := tx.ExecContext(ctx, `update piece set position = $2 where id = $1`, piece.ID, i)
		if err != nil {
			return explain(err)
		}
		if there, err := result.RowsAffected(); err != nil || there == 0 {
			if err := errors.Join(err, tx.addPieces(ctx, []pieceRow{pieceRowOf(instrument, i, piece)})); err != nil {
				return explain(err)
			}
		}
		if err := tx.addRegions(ctx, regionRows(&piece), `on conflict (id) do update set sheen = excluded.sheen, area_m2 = excluded.area_m2, wood_id = excluded.wood_id`); err != nil {
			return explain(err)
		}
	}
	return nil
}

// DropStep takes a step of which nothing is logged out of its schedule, with its
// pins and its part of the order of work.
func (tx *Tx) DropStep(ctx context.Context, id uuid.UUID) error {
	for _, query := range []string{
		`delete from pin where step_id = $1`,
		`delete from work_order where step_id = $1`,
		`delete from step_after where step_id = $1 or after_id = $1`,
		`delete from step_region where step_id = $1`,
		`delete from step where id = $1`,
	} {
		if _, err := tx.ExecContext(ctx, query, id); err != nil {
			return explain(err)
		}
	}
	return nil
}

// DropPiece takes a piece that has no steps left out of its instrument, with its
// regions. One that was carried somewhere stays: the log speaks of it.
func (tx *Tx) DropPiece(ctx context.Context, id uuid.UUID) error {
	for _, query := range []string{
		`delete from region where piece_id = $1 and not exists (select from log_entry where piece_id = $1)`,
		`delete from piece where id = $1 and not exists (select from log_entry where piece_id = $1)`,
	} {
		if _, err := tx.ExecContext(ctx, query, id); err != nil {
			return explain(err)
		}
	}
	return nil
}

// DropRegion takes a region to which nothing is done, and nothing was, out of its piece.
func (tx *Tx) DropRegion(ctx context.Context, id uuid.UUID) error {
	_, err := tx.ExecContext(ctx, `
		delete from region where id = $1 and not exists (select from step_region where region_id = $1)
			and not exists (select from completion where region_id = $1)`, id)
	return explain(err)
}

// PlaceSteps puts the steps of a piece into this order.
func (tx *Tx) PlaceSteps(ctx context.Context, piece uuid.UUID, steps []uuid.UUID) error {
	const apart = 100_000 // positions are unique at every moment
	if _, err := tx.ExecContext(ctx, `update step set position = position + $2::int where piece_id = $1`, piece, apart); err != nil {
		return explain(err)
	}
	_, err := tx.ExecContext(ctx, `
		update step s set position = given.n - 1
		from unnest($2::uuid[]) with ordinality as given (id, n)
		where s.id = given.id and s.piece_id = $1`, piece, steps)
	return explain(err)
}

// ChangePerson keeps another name and other hours of somebody, and whether they
// have left.
func (tx *Tx) ChangePerson(ctx context.Context, p Person) error {
	_, err := tx.ExecContext(ctx, `update person set name = $2, week = $3, has_left = $4 where id = $1`, p.ID, p.Name, p.Week, p.Left)
	return explain(err)
}

// DismissProposal notes that a gain is not wanted.
func (tx *Tx) DismissProposal(ctx context.Context, gain string, at time.Time) error {
	_, err := tx.ExecContext(ctx, `insert into proposal_dismissed (gain, at) values ($1, $2) on conflict (gain) do update set at = excluded.at`, gain, at)
	return explain(err)
}

// ProposalDismissed reports whether a gain was declined since a moment.
func (tx *Tx) ProposalDismissed(ctx context.Context, gain string, since time.Time) (bool, error) {
	var dismissed bool
	err := tx.GetContext(ctx, &dismissed, `select exists (select from proposal_dismissed where gain = $1 and at >= $2)`, gain, since)
	return dismissed, explain(err)
}

// KeptChanges is what a decision said that was kept before; ErrNotFound when none
// of this id was.
func (tx *Tx) KeptChanges(ctx context.Context, id uuid.UUID) ([]string, error) {
	var said JSON[[]string]
	err := tx.GetContext(ctx, &said, `select said from change_kept where id = $1`, id)
	return said.V, explain(err)
}

// NoteKept notes that a decision was kept.
func (tx *Tx) NoteKept(ctx context.Context, id uuid.UUID, said []string, at time.Time) error {
	_, err := tx.ExecContext(ctx, `insert into change_kept (id, said, at) values ($1, $2, $3)`, id, JSON[[]string]{said}, at)
	return explain(err)
}
