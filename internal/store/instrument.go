package store

import (
	"cmp"
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
)

// instrumentRow is an instrument as a row.
type instrumentRow struct {
	recipe.Instrument
	PromiseOn time.Time          `db:"promise"`  // Promise, a date at midnight UTC
	ShowOn    *time.Time         `db:"show_day"` // Show, likewise
	Wished    *JSON[recipe.Wish] `db:"wish"`     // Wish
}

func rowOf(in recipe.Instrument) instrumentRow {
	row := instrumentRow{Instrument: in, PromiseOn: in.Promise.At(0, time.UTC)}
	if in.Show != nil {
		day := in.Show.At(0, time.UTC)
		row.ShowOn = &day
	}
	if in.Wish != nil {
		row.Wished = &JSON[recipe.Wish]{*in.Wish}
	}
	if row.Weight == 0 {
		row.Weight = 1
	}
	return row
}

func (row instrumentRow) instrument() recipe.Instrument {
	in := row.Instrument
	in.CreatedAt, in.Promise = in.CreatedAt.UTC(), calendar.DayOf(row.PromiseOn.UTC())
	if in.Archived != nil {
		at := in.Archived.UTC()
		in.Archived = &at
	}
	if row.ShowOn != nil {
		day := calendar.DayOf(row.ShowOn.UTC())
		in.Show = &day
	}
	if row.Wished != nil {
		in.Wish = &row.Wished.V
	}
	return in
}

// pieceRow is a piece as a row.
type pieceRow struct {
	job.Piece
	Instrument       uuid.UUID `db:"instrument_id"`
	Position         int       `db:"position"`
	LengthM          *float64  `db:"length_m"`
	LengthEntered    string    `db:"length_entered"`
	WidthM           *float64  `db:"width_m"`
	WidthEntered     string    `db:"width_entered"`
	ThicknessM       *float64  `db:"thickness_m"`
	ThicknessEntered string    `db:"thickness_entered"`
}

func pieceRowOf(instrument uuid.UUID, position int, piece job.Piece) pieceRow {
	row := pieceRow{Piece: piece, Instrument: instrument, Position: position}
	row.LengthM, row.LengthEntered = columnsOf(piece.Length)
	row.WidthM, row.WidthEntered = columnsOf(piece.Width)
	row.ThicknessM, row.ThicknessEntered = columnsOf(piece.Thickness)
	return row
}

func columnsOf(size *job.Size) (*float64, string) {
	if size == nil {
		return nil, ""
	}
	return &size.Metres, size.Entered
}

func (row pieceRow) piece() job.Piece {
	p := row.Piece
	p.Length, p.Width, p.Thickness = sizeOf(row.LengthM, row.LengthEntered), sizeOf(row.WidthM, row.WidthEntered),
		sizeOf(row.ThicknessM, row.ThicknessEntered)
	return p
}

func sizeOf(metres *float64, entered string) *job.Size {
	if metres == nil {
		return nil
	}
	return &job.Size{Metres: *metres, Entered: entered}
}

// regionRow is a region as a row.
type regionRow struct {
	job.Region
	Piece    uuid.UUID `db:"piece_id"`
	Position int       `db:"position"`
}

func regionRows(piece *job.Piece) []regionRow {
	rows := make([]regionRow, len(piece.Regions))
	for i, region := range piece.Regions {
		rows[i] = regionRow{region, piece.ID, i}
	}
	return rows
}

// stepRow is a step as a row.
type stepRow struct {
	job.Step
	Instrument uuid.UUID       `db:"instrument_id"`
	Piece      uuid.UUID       `db:"piece_id"`
	Position   int             `db:"position"`
	Grits      JSON[[]string]  `db:"ladder"` // Ladder, in its column
	Asked      JSON[job.Terms] `db:"terms"`  // Terms, in theirs
}

// stepRowOf is a step of a piece, with what it leaves open filled in.
func stepRowOf(instrument uuid.UUID, piece *job.Piece, position int, s job.Step) stepRow {
	s.Regions = piece.RegionsOf(&s)
	s.Coats, s.Version, s.Slot = max(s.Coats, 1), max(s.Version, 1), cmp.Or(s.Slot, s.ID.String())
	row := stepRow{Step: s, Instrument: instrument, Piece: piece.ID, Position: position}
	row.Grits.V, row.Asked.V = append([]string{}, s.Ladder...), s.Terms
	return row
}

// Instruments loads every instrument with all its parts, the oldest first.
func (tx *Tx) Instruments(ctx context.Context) ([]recipe.Instrument, error) {
	rows, err1 := all[instrumentRow](ctx, tx, most, `select * from instrument order by created_at, id limit $1`)
	pieces, err2 := all[pieceRow](ctx, tx, most, `select * from piece order by instrument_id, position limit $1`)
	regions, err3 := all[regionRow](ctx, tx, most, `select * from region order by piece_id, position limit $1`)
	steps, err4 := all[stepRow](ctx, tx, most, `select * from step order by piece_id, position limit $1`)
	stepRegions, err5 := all[pair](ctx, tx, 10*most, `select step_id as a, region_id as b from step_region order by step_id, region_id limit $1`)
	stepAfter, err6 := all[pair](ctx, tx, 10*most, `select step_id as a, after_id as b from step_after order by step_id, after_id limit $1`)
	if err := cmp.Or(err1, err2, err3, err4, err5, err6); err != nil {
		return nil, err
	}
	regionsOf, afterOf := gather(stepRegions), gather(stepAfter)
	stepsIn, regionsIn, piecesIn := make(map[uuid.UUID][]job.Step), make(map[uuid.UUID][]job.Region), make(map[uuid.UUID][]job.Piece)
	for _, row := range steps {
		s := row.Step
		s.Ladder, s.Terms, s.Regions, s.After = row.Grits.V, row.Asked.V, regionsOf[s.ID], afterOf[s.ID]
		stepsIn[row.Piece] = append(stepsIn[row.Piece], s)
	}
	for _, row := range regions {
		regionsIn[row.Piece] = append(regionsIn[row.Piece], row.Region)
	}
	for _, row := range pieces {
		p := row.piece()
		p.Regions, p.Steps = append([]job.Region{}, regionsIn[p.ID]...), append([]job.Step{}, stepsIn[p.ID]...)
		piecesIn[row.Instrument] = append(piecesIn[row.Instrument], p)
	}
	instruments := make([]recipe.Instrument, len(rows))
	for i, row := range rows {
		instruments[i] = row.instrument()
		instruments[i].Pieces = piecesIn[row.ID]
	}
	return instruments, nil
}

type pair struct {
	A, B uuid.UUID
}

func gather(pairs []pair) map[uuid.UUID][]uuid.UUID {
	lists := make(map[uuid.UUID][]uuid.UUID)
	for _, p := range pairs {
		lists[p.A] = append(lists[p.A], p.B)
	}
	return lists
}

// AddInstrument saves a new instrument with all its parts and puts its events
// at the end of the order of work, unless it is put aside. An id that is taken is ErrConflict.
func (tx *Tx) AddInstrument(ctx context.Context, in recipe.Instrument) error {
	if _, err := tx.NamedExecContext(ctx, `
		insert into instrument (id, name, outline, outline_path, promise, show_day, weight, serial, wish, created_at, version, archived_at)
		values (:id, :name, :outline, :outline_path, :promise, :show_day, :weight, :serial, :wish, :created_at, greatest(:version, 1), :archived_at)`, rowOf(in)); err != nil {
		return explain(err)
	}
	var pieces []pieceRow
	var regions []regionRow
	var steps []stepRow
	for p := range in.Pieces {
		piece := &in.Pieces[p]
		pieces, regions = append(pieces, pieceRowOf(in.ID, p, *piece)), append(regions, regionRows(piece)...)
		for s, step := range piece.Steps {
			steps = append(steps, stepRowOf(in.ID, piece, s, step))
		}
	}
	for _, add := range []func() error{
		func() error { return tx.addPieces(ctx, pieces) },
		func() error { return tx.addRegions(ctx, regions, "") },
		func() error { return inBulk(ctx, tx, insertSteps, steps) },
		func() error { return tx.linkSteps(ctx, steps) },
		func() error {
			if in.Archived != nil {
				return nil
			}
			return tx.queue(ctx, steps)
		},
	} {
		if err := add(); err != nil {
			return explain(err)
		}
	}
	return nil
}

func (tx *Tx) addPieces(ctx context.Context, pieces []pieceRow) error {
	return inBulk(ctx, tx, `
		insert into piece (id, instrument_id, kind, position, recipe_id, length_m, length_entered,
			width_m, width_entered, thickness_m, thickness_entered)
		values (:id, :instrument_id, :kind, :position, :recipe_id, :length_m, :length_entered,
			:width_m, :width_entered, :thickness_m, :thickness_entered)`, pieces)
}

func (tx *Tx) addRegions(ctx context.Context, regions []regionRow, otherwise string) error {
	return inBulk(ctx, tx, `
		insert into region (id, piece_id, name, position, wood_id, area_m2, sheen)
		values (:id, :piece_id, :name, :position, :wood_id, :area_m2, :sheen) `+otherwise, regions)
}

// stepColumns is what is kept of a step, but for what it is (id, instrument_id, piece_id, slot),
// where it stands (position) and its version. A new field of a step is one more here.
var stepColumns = []string{
	"kind", "title", "role", "family_id", "product_id", "method", "coats", "hands_on_min", "setup_min", "scuff_min", "ladder", "check_id",
	"film",
	"rest_min", "tool", "how", "why", "no_return", "school", "sheen", "edited", "moved",
	"out_because", "note", "recipe", "place_id", "terms",
}

var (
	insertSteps = fmt.Sprintf(`insert into step (id, instrument_id, piece_id, slot, position, version, %s)
		values (:id, :instrument_id, :piece_id, :slot, :position, :version, :%s)`, strings.Join(stepColumns, ", "), strings.Join(stepColumns, ", :"))
	changeStep = func() string {
		var set []string
		for _, column := range stepColumns {
			set = append(set, column+" = :"+column)
		}
		return `update step set ` + strings.Join(set, ", ") + `, version = version + 1 where id = :id and version = :version`
	}()
)

// linkSteps says which regions steps are done to, and what they wait for.
func (tx *Tx) linkSteps(ctx context.Context, steps []stepRow) error {
	var done, regions, waits, after []uuid.UUID
	for _, step := range steps {
		for _, region := range step.Regions {
			done, regions = append(done, step.ID), append(regions, region)
		}
		for _, other := range step.After {
			waits, after = append(waits, step.ID), append(after, other)
		}
	}
	if _, err := tx.ExecContext(ctx, `
		insert into step_region (step_id, region_id) select * from unnest($1::uuid[], $2::uuid[])`, done, regions); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `insert into step_after (step_id, after_id) select * from unnest($1::uuid[], $2::uuid[])`, waits, after)
	return err
}

// queue puts the events of steps at the end of the order of work.
func (tx *Tx) queue(ctx context.Context, steps []stepRow) error {
	ids, coats := make([]uuid.UUID, len(steps)), make([]int, len(steps))
	for i, step := range steps {
		ids[i], coats[i] = step.ID, step.Coats
	}
	_, err := tx.ExecContext(ctx, `
		insert into work_order (rank, step_id, coat)
		select (select coalesce(max(rank), 0) from work_order) + row_number() over (order by n, coat), step_id, coat
		from unnest($1::uuid[], $2::int[]) with ordinality as given (step_id, coats, n), generate_series(1, coats) as coat`, ids, coats)
	return err
}

// Order is the accepted order of work, first served first.
func (tx *Tx) Order(ctx context.Context) ([]schedule.Event, error) {
	type event struct {
		Step uuid.UUID `db:"step_id"`
		Coat int       `db:"coat"`
	}
	rows, err := all[event](ctx, tx, 10*most, `select step_id, coat from work_order order by rank limit $1`)
	if err != nil {
		return nil, err
	}
	order := make([]schedule.Event, len(rows))
	for i, row := range rows {
		order[i] = schedule.Event{Step: row.Step, Coat: row.Coat}
	}
	return order, nil
}

// Reorder puts events at the end of the order of work, in this order.
func (tx *Tx) Reorder(ctx context.Context, events []schedule.Event) error {
	steps, coats := make([]uuid.UUID, len(events)), make([]int, len(events))
	for i, e := range events {
		steps[i], coats[i] = e.Step, e.Coat
	}
	_, err := tx.ExecContext(ctx, `
		with last as (select coalesce(max(rank), 0) as rank from work_order)
		update work_order w set rank = last.rank + given.n
		from unnest($1::uuid[], $2::int[]) with ordinality as given (step_id, coat, n), last
		where w.step_id = given.step_id and w.coat = given.coat`, steps, coats)
	return explain(err)
}
