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
)

// instrumentRow is an instrument as a row.
type instrumentRow struct {
	recipe.Instrument
	PromiseOn time.Time           `db:"promise"`  // Promise, a date at midnight UTC
	ShowOn    *time.Time          `db:"show_day"` // Show, likewise
	Wished    *jsonb[recipe.Wish] `db:"wish"`     // Wish
}

func rowOf(in recipe.Instrument) instrumentRow {
	row := instrumentRow{Instrument: in, PromiseOn: in.Promise.At(0, time.UTC)}
	if in.Show != nil {
		day := in.Show.At(0, time.UTC)
		row.ShowOn = &day
	}
	if in.Wish != nil {
		row.Wished = &jsonb[recipe.Wish]{*in.Wish}
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
	Instrument uuid.UUID        `db:"instrument_id"`
	Piece      uuid.UUID        `db:"piece_id"`
	Position   int              `db:"position"`
	Grits      jsonb[[]string]  `db:"ladder"` // Ladder, in its column
	Asked      jsonb[job.Terms] `db:"terms"`  // Terms, in theirs
}

// stepRowOf is a step of a piece.
func stepRowOf(instrument, piece uuid.UUID, position int, s job.Step) stepRow {
	row := stepRow{Step: s, Instrument: instrument, Piece: piece, Position: position}
	row.Grits.V, row.Asked.V = append([]string{}, s.Ladder...), s.Terms
	return row
}

// readInstruments loads every instrument with all its parts, the oldest first.
func readInstruments(ctx context.Context, tx *Tx) ([]recipe.Instrument, error) {
	rows, err1 := all[instrumentRow](ctx, tx, most, `select * from instrument order by created_at, id limit $1`)
	pieces, err2 := all[pieceRow](ctx, tx, most, `select * from piece order by instrument_id, position limit $1`)
	regions, err3 := all[regionRow](ctx, tx, most, `select * from region order by piece_id, position limit $1`)
	steps, err4 := all[stepRow](ctx, tx, most, `select * from step order by piece_id, position limit $1`)
	stepRegions, err5 := all[pair](ctx, tx, 10*most,
		`select step_id as a, region_id as b from step_region order by step_id, region_id limit $1`)
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

// Pieces are written without their regions and steps.
const (
	insertPieces = `
		insert into piece (id, instrument_id, kind, position, recipe_id, length_m, length_entered,
			width_m, width_entered, thickness_m, thickness_entered)
		values (:id, :instrument_id, :kind, :position, :recipe_id, :length_m, :length_entered,
			:width_m, :width_entered, :thickness_m, :thickness_entered)`
	putPieces = insertPieces + `
		on conflict (id) do update set position = excluded.position, recipe_id = excluded.recipe_id,
			length_m = excluded.length_m, length_entered = excluded.length_entered, width_m = excluded.width_m,
			width_entered = excluded.width_entered, thickness_m = excluded.thickness_m, thickness_entered = excluded.thickness_entered`
	insertRegions = `
		insert into region (id, piece_id, name, position, wood_id, area_m2, sheen)
		values (:id, :piece_id, :name, :position, :wood_id, :area_m2, :sheen)`
	putRegions = insertRegions + `
		on conflict (id) do update set position = excluded.position, sheen = excluded.sheen,
			area_m2 = excluded.area_m2, wood_id = excluded.wood_id`
)

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
	updateStep = func() string {
		var set []string
		for _, column := range stepColumns {
			set = append(set, column+" = :"+column)
		}
		return `update step set ` + strings.Join(set, ", ") + `, version = :version where id = :id and version = :version - 1`
	}()
)
