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

// Instrument is a job with its pieces and their steps.
type Instrument struct {
	ID        uuid.UUID          `db:"id"`
	Name      string             `db:"name"`
	Outline   string             `db:"outline"`
	Promise   time.Time          `db:"promise"`  // a date, read as midnight UTC
	Show      *time.Time         `db:"show_day"` // a date, likewise
	Weight    float64            `db:"weight"`
	Serial    string             `db:"serial"`
	Wish      *JSON[recipe.Wish] `db:"wish"` // nil: it came from elsewhere
	CreatedAt time.Time          `db:"created_at"`
	Version   int                `db:"version"`
	Pieces    []Piece            `db:"-"`
}

// PromiseDay is the promised day.
func (in Instrument) PromiseDay() calendar.Day { return calendar.DayOf(in.Promise.UTC()) }

// Piece is something finished on its own.
type Piece struct {
	ID               uuid.UUID `db:"id"`
	Instrument       uuid.UUID `db:"instrument_id"`
	Kind             string    `db:"kind"`
	Position         int       `db:"position"`
	Recipe           string    `db:"recipe_id"`
	LengthM          *float64  `db:"length_m"`
	LengthEntered    string    `db:"length_entered"`
	WidthM           *float64  `db:"width_m"`
	WidthEntered     string    `db:"width_entered"`
	ThicknessM       *float64  `db:"thickness_m"`
	ThicknessEntered string    `db:"thickness_entered"`
	Regions          []Region  `db:"-"`
	Steps            []Step    `db:"-"`
}

// Region is a region as a row.
type Region struct {
	job.Region
	Piece    uuid.UUID `db:"piece_id"`
	Position int       `db:"position"`
}

// Step is a step as a row.
type Step struct {
	job.Step
	Instrument uuid.UUID       `db:"instrument_id"`
	Piece      uuid.UUID       `db:"piece_id"`
	Position   int             `db:"position"`
	Grits      JSON[[]string]  `db:"ladder"` // Ladder, in its column
	Asked      JSON[job.Terms] `db:"terms"`  // Terms, in theirs
}

// columns puts what is kept as JSON into its columns.
func (s Step) columns() Step {
	s.Grits.V, s.Asked.V, s.Version = append([]string{}, s.Ladder...), s.Terms, max(1, s.Version)
	return s
}

// Instruments loads every instrument with all its parts, the oldest first.
func (tx *Tx) Instruments(ctx context.Context) ([]Instrument, error) {
	instruments, err1 := all[Instrument](ctx, tx, most, `select * from instrument order by created_at, id limit $1`)
	pieces, err2 := all[Piece](ctx, tx, most, `select * from piece order by instrument_id, position limit $1`)
	regions, err3 := all[Region](ctx, tx, most, `select * from region order by piece_id, position limit $1`)
	steps, err4 := all[Step](ctx, tx, most, `select * from step order by piece_id, position limit $1`)
	stepRegions, err5 := all[pair](ctx, tx, 10*most, `select step_id as a, region_id as b from step_region order by step_id, region_id limit $1`)
	stepAfter, err6 := all[pair](ctx, tx, 10*most, `select step_id as a, after_id as b from step_after order by step_id, after_id limit $1`)
	if err := cmp.Or(err1, err2, err3, err4, err5, err6); err != nil {
		return nil, err
	}
	regionsOf, afterOf := gather(stepRegions), gather(stepAfter)
	stepsOf, regionsIn, piecesOf := make(map[uuid.UUID][]Step), make(map[uuid.UUID][]Region), make(map[uuid.UUID][]Piece)
	for _, s := range steps {
		s.Ladder, s.Terms, s.Regions, s.After = s.Grits.V, s.Asked.V, regionsOf[s.ID], afterOf[s.ID]
		stepsOf[s.Piece] = append(stepsOf[s.Piece], s)
	}
	for _, z := range regions {
		regionsIn[z.Piece] = append(regionsIn[z.Piece], z)
	}
	for _, p := range pieces {
		p.Regions, p.Steps = regionsIn[p.ID], stepsOf[p.ID]
		piecesOf[p.Instrument] = append(piecesOf[p.Instrument], p)
	}
	for i := range instruments {
		instruments[i].Pieces = piecesOf[instruments[i].ID]
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
// at the end of the order of work. An id that is taken is ErrConflict.
func (tx *Tx) AddInstrument(ctx context.Context, in Instrument) error {
	if in.Weight == 0 {
		in.Weight = 1
	}
	if _, err := tx.NamedExecContext(ctx, `
		insert into instrument (id, name, outline, promise, show_day, weight, serial, wish, created_at, version)
		values (:id, :name, :outline, :promise, :show_day, :weight, :serial, :wish, :created_at, greatest(:version, 1))`, in); err != nil {
		return explain(err)
	}
	var steps []Step
	for _, piece := range in.Pieces {
		steps = append(steps, piece.Steps...)
	}
	for _, add := range []func() error{
		func() error { return tx.addPieces(ctx, in.Pieces) },
		func() error { return tx.addSteps(ctx, steps) },
		func() error { return tx.linkSteps(ctx, steps) },
		func() error { return tx.queue(ctx, steps) },
	} {
		if err := add(); err != nil {
			return explain(err)
		}
	}
	return nil
}

// addPieces saves pieces with their regions, but not their steps.
func (tx *Tx) addPieces(ctx context.Context, pieces []Piece) error {
	var regions []Region
	for _, piece := range pieces {
		regions = append(regions, piece.Regions...)
	}
	if err := inBulk(ctx, tx, `
		insert into piece (id, instrument_id, kind, position, recipe_id, length_m, length_entered,
			width_m, width_entered, thickness_m, thickness_entered)
		values (:id, :instrument_id, :kind, :position, :recipe_id, :length_m, :length_entered,
			:width_m, :width_entered, :thickness_m, :thickness_entered)`, pieces); err != nil {
		return err
	}
	return tx.addRegions(ctx, regions, "")
}

func (tx *Tx) addRegions(ctx context.Context, regions []Region, otherwise string) error {
	return inBulk(ctx, tx, `
		insert into region (id, piece_id, name, position, wood_id, area_m2, sheen, plain)
		values (:id, :piece_id, :name, :position, :wood_id, :area_m2, :sheen, :plain) `+otherwise, regions)
}

// stepColumns is what is kept of a step, but for what it is (id, instrument_id, piece_id, slot),
// where it stands (position) and its version. A new field of a step is one more here.
var stepColumns = []string{
	"kind", "title", "role", "family_id", "product_id", "method", "coats", "hands_on_min", "setup_min", "scuff_min", "ladder", "check_id", "film",
	"rest_min", "tool", "how", "why", "no_return", "school", "sheen", "edited", "place_id", "terms",
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

func (tx *Tx) addSteps(ctx context.Context, steps []Step) error {
	rows := make([]Step, len(steps))
	for i, s := range steps {
		rows[i] = s.columns()
	}
	return inBulk(ctx, tx, insertSteps, rows)
}

// linkSteps says which regions steps are done to, and what they wait for.
func (tx *Tx) linkSteps(ctx context.Context, steps []Step) error {
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
func (tx *Tx) queue(ctx context.Context, steps []Step) error {
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
