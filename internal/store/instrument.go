package store

import (
	"context"
	"time"

	"github.com/google/uuid"

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
func (in Instrument) PromiseDay() schedule.Day { return schedule.DayOf(in.Promise.UTC()) }

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

// Region is a part of a piece's surface with its own wood.
type Region struct {
	ID       uuid.UUID `db:"id"`
	Piece    uuid.UUID `db:"piece_id"`
	Name     string    `db:"name"`
	Position int       `db:"position"`
	Wood     string    `db:"wood_id"`
	AreaM2   float64   `db:"area_m2"`
	Sheen    string    `db:"sheen"` // what it is to end with; empty: nothing was asked
	Plain    bool      `db:"plain"` // it stays without the colour of its piece
}

// Step is one line of a schedule.
type Step struct {
	ID         uuid.UUID            `db:"id"`
	Instrument uuid.UUID            `db:"instrument_id"`
	Piece      uuid.UUID            `db:"piece_id"`
	Slot       string               `db:"slot"`
	Position   int                  `db:"position"`
	Kind       string               `db:"kind"`
	Title      string               `db:"title"`
	Role       string               `db:"role"`
	Family     string               `db:"family_id"`
	Product    *uuid.UUID           `db:"product_id"`
	Method     string               `db:"method"`
	Coats      int                  `db:"coats"`
	HandsOnMin int                  `db:"hands_on_min"`
	Ladder     JSON[[]string]       `db:"ladder"`
	Check      string               `db:"check_id"`
	Film       string               `db:"film"`
	RestMin    int                  `db:"rest_min"`
	Tool       string               `db:"tool"`
	How        string               `db:"how"`
	Why        string               `db:"why"`
	NoReturn   bool                 `db:"no_return"`
	School     string               `db:"school"`
	Sheen      string               `db:"sheen"`  // what a coat leaves out of the can
	Edited     bool                 `db:"edited"` // changed by hand: composing again leaves it
	Version    int                  `db:"version"`
	Place      *uuid.UUID           `db:"place_id"`
	SetUpMin   int                  `db:"setup_min"`
	ScuffMin   int                  `db:"scuff_min"`
	Terms      JSON[schedule.Terms] `db:"terms"`
	Regions    []uuid.UUID          `db:"-"`
	After      []uuid.UUID          `db:"-"`
}

// Instruments loads every instrument with all its parts, the oldest first.
func (tx *Tx) Instruments(ctx context.Context) ([]Instrument, error) {
	var instruments []Instrument
	var pieces []Piece
	var regions []Region
	var steps []Step
	var stepRegions, stepAfter []pair
	for _, list := range []struct {
		into  any
		query string
	}{
		{&instruments, `select * from instrument order by created_at, id limit $1`},
		{&pieces, `select * from piece order by instrument_id, position limit $1`},
		{&regions, `select * from region order by piece_id, position limit $1`},
		{&steps, `select * from step order by piece_id, position limit $1`},
		{&stepRegions, `select step_id as a, region_id as b from step_region order by step_id, region_id limit $1`},
		{&stepAfter, `select step_id as a, after_id as b from step_after order by step_id, after_id limit $1`},
	} {
		if err := tx.SelectContext(ctx, list.into, list.query, most); err != nil {
			return nil, explain(err)
		}
	}
	regionsOf, afterOf := gather(stepRegions), gather(stepAfter)
	stepsOf, regionsIn, piecesOf := make(map[uuid.UUID][]Step), make(map[uuid.UUID][]Region), make(map[uuid.UUID][]Piece)
	for _, s := range steps {
		s.Regions, s.After = regionsOf[s.ID], afterOf[s.ID]
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
	for _, piece := range in.Pieces {
		if err := tx.addPiece(ctx, piece); err != nil {
			return explain(err)
		}
	}
	for _, piece := range in.Pieces { // once every step and region is there
		for _, step := range piece.Steps {
			if err := tx.tieStep(ctx, step); err != nil {
				return explain(err)
			}
		}
	}
	return nil
}

func (tx *Tx) addPiece(ctx context.Context, piece Piece) error {
	if _, err := tx.NamedExecContext(ctx, `
		insert into piece (id, instrument_id, kind, position, recipe_id, length_m, length_entered,
			width_m, width_entered, thickness_m, thickness_entered)
		values (:id, :instrument_id, :kind, :position, :recipe_id, :length_m, :length_entered,
			:width_m, :width_entered, :thickness_m, :thickness_entered)`, piece); err != nil {
		return err
	}
	for _, region := range piece.Regions {
		if err := tx.addRegion(ctx, region, ""); err != nil {
			return err
		}
	}
	for _, step := range piece.Steps {
		if err := tx.addStep(ctx, step); err != nil {
			return err
		}
	}
	return nil
}

func (tx *Tx) addRegion(ctx context.Context, region Region, otherwise string) error {
	_, err := tx.NamedExecContext(ctx, `
		insert into region (id, piece_id, name, position, wood_id, area_m2, sheen, plain)
		values (:id, :piece_id, :name, :position, :wood_id, :area_m2, :sheen, :plain) `+otherwise, region)
	return err
}

func (tx *Tx) addStep(ctx context.Context, step Step) error {
	_, err := tx.NamedExecContext(ctx, `
			insert into step (id, instrument_id, piece_id, slot, position, kind, title, role, family_id, product_id, method,
				coats, hands_on_min, ladder, check_id, film, rest_min, tool, how, why, no_return, version, place_id, setup_min, scuff_min, terms, school, sheen, edited)
			values (:id, :instrument_id, :piece_id, :slot, :position, :kind, :title, :role, :family_id, :product_id, :method,
				:coats, :hands_on_min, :ladder, :check_id, :film, :rest_min, :tool, :how, :why, :no_return, greatest(:version, 1), :place_id, :setup_min, :scuff_min, :terms, :school, :sheen, :edited)`, step)
	return err
}

func (tx *Tx) tieStep(ctx context.Context, step Step) error {
	if err := tx.linkStep(ctx, step); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `
		insert into work_order (rank, step_id, coat)
		select (select coalesce(max(rank), 0) from work_order) + n, $1, n from generate_series(1, $2::int) as n`, step.ID, step.Coats)
	return err
}

// linkStep says which regions a step is done to, and what it waits for.
func (tx *Tx) linkStep(ctx context.Context, step Step) error {
	if _, err := tx.ExecContext(ctx, `insert into step_region (step_id, region_id) select $1, unnest($2::uuid[])`, step.ID, step.Regions); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `insert into step_after (step_id, after_id) select $1, unnest($2::uuid[])`, step.ID, step.After)
	return err
}

// Order is the accepted order of work, first served first.
func (tx *Tx) Order(ctx context.Context) ([]schedule.Event, error) {
	var rows []struct {
		Step uuid.UUID `db:"step_id"`
		Coat int       `db:"coat"`
	}
	if err := tx.SelectContext(ctx, &rows, `select step_id, coat from work_order order by rank limit $1`, most); err != nil {
		return nil, explain(err)
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
