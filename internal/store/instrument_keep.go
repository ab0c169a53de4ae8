package store

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// addInstrument saves a new instrument with all its parts.
func addInstrument(ctx context.Context, tx *Tx, in *recipe.Instrument) error {
	if _, err := tx.sql.NamedExecContext(ctx, `
		insert into instrument (id, name, outline, outline_path, promise, show_day, weight, serial, wish, created_at, version, archived_at)
		values (:id, :name, :outline, :outline_path, :promise, :show_day, :weight, :serial, :wish, :created_at, :version, :archived_at)`,
		rowOf(*in)); err != nil {
		return explain(err)
	}
	var pieces []pieceRow
	var regions []regionRow
	var steps []stepRow
	for p := range in.Pieces {
		piece := &in.Pieces[p]
		pieces, regions = append(pieces, pieceRowOf(in.ID, p, *piece)), append(regions, regionRows(piece)...)
		for s, step := range piece.Steps {
			steps = append(steps, stepRowOf(in.ID, piece.ID, s, step))
		}
	}
	for _, add := range []func() error{
		func() error { return inBulk(ctx, tx, insertPieces, pieces) },
		func() error { return inBulk(ctx, tx, insertRegions, regions) },
		func() error { return inBulk(ctx, tx, insertSteps, steps) },
		func() error { return linkSteps(ctx, tx, steps) },
	} {
		if err := add(); err != nil {
			return explain(err)
		}
	}
	return nil
}

// changeInstrument writes what differs of an instrument. It reports whether the database is just as it says: a piece
// or a region that is gone stays where the log speaks of it. It fails with ErrConflict where a step has another version
// by now.
func changeInstrument(ctx context.Context, tx *Tx, was, in *recipe.Instrument) (exact bool, err error) {
	if was.Version != in.Version {
		if _, err := tx.sql.NamedExecContext(ctx, `
			update instrument set name = :name, outline = :outline, outline_path = :outline_path, promise = :promise, show_day = :show_day,
				weight = :weight, serial = :serial, wish = :wish, version = :version, archived_at = :archived_at
			where id = :id`, rowOf(*in)); err != nil {
			return false, explain(err)
		}
	}
	for _, change := range []func() error{
		func() error { return dropSteps(ctx, tx, was, in) },
		func() error { return changePieces(ctx, tx, was, in) },
		func() error { return changeSteps(ctx, tx, was, in) },
	} {
		if err := change(); err != nil {
			return false, err
		}
	}
	return dropPieces(ctx, tx, was, in)
}

// dropSteps takes the steps that are gone out of their schedule, with their pins and their part of the order of work.
func dropSteps(ctx context.Context, tx *Tx, was, in *recipe.Instrument) error {
	gone := stepsOf(was)
	for id := range stepsOf(in) {
		delete(gone, id)
	}
	if len(gone) == 0 {
		return nil
	}
	ids := slices.Collect(maps.Keys(gone))
	for _, query := range []string{
		`delete from pin where step_id = any($1)`,
		`delete from work_order where step_id = any($1)`,
		`delete from step_after where step_id = any($1) or after_id = any($1)`,
		`delete from step_region where step_id = any($1)`,
		`delete from step where id = any($1)`,
	} {
		if _, err := tx.sql.ExecContext(ctx, query, ids); err != nil {
			return explain(err)
		}
	}
	return nil
}

// stepsOf is every step of an instrument.
func stepsOf(in *recipe.Instrument) map[uuid.UUID]*job.Step {
	steps := make(map[uuid.UUID]*job.Step)
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			steps[in.Pieces[p].Steps[s].ID] = &in.Pieces[p].Steps[s]
		}
	}
	return steps
}

// pieceOf is a piece of an instrument; nil where it has none of this id.
func pieceOf(in *recipe.Instrument, id uuid.UUID) *job.Piece {
	for p := range in.Pieces {
		if in.Pieces[p].ID == id {
			return &in.Pieces[p]
		}
	}
	return nil
}

// changePieces writes the pieces and regions that are new or differ, and their order.
func changePieces(ctx context.Context, tx *Tx, was, in *recipe.Instrument) error {
	var pieces []pieceRow
	var regions []regionRow
	for p := range in.Pieces {
		piece := &in.Pieces[p]
		row, old := pieceRowOf(in.ID, p, *piece), pieceOf(was, piece.ID)
		if p >= len(was.Pieces) || was.Pieces[p].ID != piece.ID || !reflect.DeepEqual(row,
			pieceRowOf(in.ID, p, withParts(was.Pieces[p], piece))) {
			pieces = append(pieces, row)
		}
		for i, region := range regionRows(piece) {
			if old == nil || i >= len(old.Regions) || old.Regions[i] != region.Region {
				regions = append(regions, region)
			}
		}
	}
	if len(pieces) > 0 {
		const apart = 1000 // positions are unique at every moment
		if _, err := tx.sql.ExecContext(ctx, `update piece set position = position + $2::int where instrument_id = $1`, in.ID,
			apart); err != nil {
			return explain(err)
		}
		pieces = pieces[:0]
		for p, piece := range in.Pieces {
			pieces = append(pieces, pieceRowOf(in.ID, p, piece))
		}
	}
	if err := inBulk(ctx, tx, putPieces, pieces); err != nil {
		return err
	}
	return inBulk(ctx, tx, putRegions, regions)
}

// withParts is a piece with the regions and steps of another, which are rows of their own.
func withParts(piece job.Piece, of *job.Piece) job.Piece {
	piece.Regions, piece.Steps = of.Regions, of.Steps
	return piece
}

// changeSteps writes new steps, those that have another version, and the order of steps where it is another.
func changeSteps(ctx context.Context, tx *Tx, was, in *recipe.Instrument) error {
	old := stepsOf(was)
	var added, changed []stepRow
	for p := range in.Pieces {
		piece := &in.Pieces[p]
		for s, step := range piece.Steps {
			row := stepRowOf(in.ID, piece.ID, s, step)
			switch known := old[step.ID]; {
			case known == nil:
				added = append(added, row)
			case known.Version != step.Version:
				changed = append(changed, row)
			}
		}
		if err := makeRoom(ctx, tx, pieceOf(was, piece.ID), piece); err != nil {
			return err
		}
	}
	if err := inBulk(ctx, tx, insertSteps, added); err != nil {
		return err
	}
	for _, row := range changed {
		if err := changeStep(ctx, tx, row); err != nil {
			return err
		}
	}
	return explain(linkSteps(ctx, tx, slices.Concat(added, changed)))
}

// makeRoom puts the steps that a piece keeps where they stand now; the places of new ones are free.
func makeRoom(ctx context.Context, tx *Tx, was, piece *job.Piece) error {
	ids := func(p *job.Piece) []uuid.UUID {
		list := make([]uuid.UUID, len(p.Steps))
		for i := range p.Steps {
			list[i] = p.Steps[i].ID
		}
		return list
	}
	if was == nil || slices.Equal(ids(was), ids(piece)) {
		return nil
	}
	const apart = 100_000 // positions are unique at every moment
	if _, err := tx.sql.ExecContext(ctx, `update step set position = position + $2::int where piece_id = $1`, piece.ID, apart); err != nil {
		return explain(err)
	}
	_, err := tx.sql.ExecContext(ctx, `
		update step s set position = given.n - 1
		from unnest($2::uuid[]) with ordinality as given (id, n)
		where s.id = given.id and s.piece_id = $1`, piece.ID, ids(piece))
	return explain(err)
}

// changeStep keeps what a step is now, but for its links, which are taken off. It fails with ErrConflict when the step
// has another version by now than the one before.
func changeStep(ctx context.Context, tx *Tx, row stepRow) error {
	result, err := tx.sql.NamedExecContext(ctx, updateStep, row)
	if err != nil {
		return explain(err)
	}
	if changed, err := result.RowsAffected(); err != nil || changed == 0 {
		return fmt.Errorf("the step “%s”: %w", row.Title, errors.Join(ErrConflict, err))
	}
	for _, query := range []string{`delete from step_region where step_id = $1`, `delete from step_after where step_id = $1`} {
		if _, err := tx.sql.ExecContext(ctx, query, row.ID); err != nil {
			return explain(err)
		}
	}
	return nil
}

// dropPieces takes pieces that are gone out of their instrument, and regions out of their pieces, and reports whether
// all went: one of which the log speaks stays.
func dropPieces(ctx context.Context, tx *Tx, was, in *recipe.Instrument) (exact bool, err error) {
	var pieces, regions []uuid.UUID
	for _, old := range was.Pieces {
		piece := pieceOf(in, old.ID)
		if piece == nil {
			pieces = append(pieces, old.ID)
		}
		for _, region := range old.Regions {
			if piece == nil || !slices.ContainsFunc(piece.Regions, func(r job.Region) bool { return r.ID == region.ID }) {
				regions = append(regions, region.ID)
			}
		}
	}
	if len(regions)+len(pieces) == 0 {
		return true, nil
	}
	for _, drop := range []struct {
		query string
		ids   []uuid.UUID
	}{
		{`delete from region r where id = any($1) and not exists (select from step_region where region_id = r.id)
			and not exists (select from completion where region_id = r.id)
			and not exists (select from log_entry e where e.piece_id = r.piece_id)`, regions},
		{`delete from piece p where id = any($1) and not exists (select from log_entry where piece_id = p.id)`, pieces},
	} {
		result, err := tx.sql.ExecContext(ctx, drop.query, drop.ids)
		if err != nil {
			return false, explain(err)
		}
		gone, err := result.RowsAffected()
		if err != nil {
			return false, err
		}
		exact = gone == int64(len(drop.ids))
		if !exact {
			break
		}
	}
	return exact, nil
}

// dropInstrument deletes an instrument of which nothing is logged, with all its parts. It fails with ErrConflict
// where the log speaks of it.
func dropInstrument(ctx context.Context, tx *Tx, id uuid.UUID) error {
	var logged bool
	if err := tx.sql.GetContext(ctx, &logged, `select exists (select from log_entry where instrument_id = $1)`, id); err != nil {
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
		if _, err := tx.sql.ExecContext(ctx, query, id); err != nil {
			return explain(err)
		}
	}
	return nil
}

// linkSteps says which regions steps are done to, and what they wait for. What stands of a step is completed on the
// regions that it has gained: those were split off from the ones that it was done to.
func linkSteps(ctx context.Context, tx *Tx, steps []stepRow) error {
	var ids, done, regions, waits, after []uuid.UUID
	for _, step := range steps {
		ids = append(ids, step.ID)
		for _, region := range step.Regions {
			done, regions = append(done, step.ID), append(regions, region)
		}
		for _, other := range step.After {
			waits, after = append(waits, step.ID), append(after, other)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	if _, err := tx.sql.ExecContext(ctx, `
		insert into step_region (step_id, region_id) select * from unnest($1::uuid[], $2::uuid[])`, done, regions); err != nil {
		return err
	}
	if _, err := tx.sql.ExecContext(ctx, `insert into step_after (step_id, after_id) select * from unnest($1::uuid[], $2::uuid[])`, waits,
		after); err != nil {
		return err
	}
	_, err := tx.sql.ExecContext(ctx, `
		insert into completion (step_id, coat, region_id, entry_id)
		select done.step_id, done.coat, r.region_id, done.entry_id
		from (select distinct step_id, coat, entry_id from completion where step_id = any($1)) done join step_region r using (step_id)
		where not exists (
			select from completion c where c.step_id = done.step_id and c.coat = done.coat and c.region_id = r.region_id)`, ids)
	return err
}
