package store

import (
	"context"
	"fmt"
	"iter"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// entryRow is an entry as a row.
type entryRow struct {
	job.Entry
	Marks    jsonb[[]string]          `db:"flags"`   // Flags, in their column
	Resolved jsonb[*material.Figures] `db:"figures"` // Figures, in theirs
	ToBe     jsonb[*job.Planned]      `db:"planned"` // Planned, in its
	WasSo    jsonb[*job.Actual]       `db:"actual"`  // Actual, in its
	Clock    jsonb[*job.Timer]        `db:"timer"`   // Timer, in its
	On       jsonb[*job.Entered]      `db:"entered"` // Entered, in its
}

func entryRows(entries []job.Entry) []entryRow {
	rows := make([]entryRow, len(entries))
	for i, e := range entries {
		rows[i].Entry, rows[i].Marks.V, rows[i].Resolved.V, rows[i].ToBe.V = e, append([]string{}, e.Flags...), e.Figures, e.Planned
		rows[i].WasSo.V, rows[i].Clock.V, rows[i].On.V = e.Actual, e.Timer, e.Entered
	}
	return rows
}

func (row entryRow) entry() job.Entry {
	e := row.Entry
	e.HappenedAt, e.RecordedAt, e.Flags, e.Figures, e.Planned = e.HappenedAt.UTC(), e.RecordedAt.UTC(), row.Marks.V, row.Resolved.V,
		row.ToBe.V
	e.Actual, e.Timer, e.Entered = row.WasSo.V, row.Clock.V, row.On.V
	return e
}

func entriesOf(rows []entryRow, err error) ([]job.Entry, error) {
	entries := make([]job.Entry, len(rows))
	for i, row := range rows {
		entries[i] = row.entry()
	}
	return entries, explain(err)
}

// Entry returns one entry; ErrNotFound when there is none.
func (tx *Tx) Entry(ctx context.Context, id uuid.UUID) (job.Entry, error) {
	var row entryRow
	err := tx.sql.GetContext(ctx, &row, `select * from log_entry where id = $1`, id)
	return row.entry(), explain(err)
}

// CaughtUpWith lists what was logged along with an entry, and still stands, latest first:
// such entries have it for their device.
func (tx *Tx) CaughtUpWith(ctx context.Context, id uuid.UUID) ([]job.Entry, error) {
	var rows []entryRow
	err := tx.sql.SelectContext(ctx, &rows, `
		select * from log_entry e where device_id = $1 and kind <> 'void' and not exists (select from log_entry v where v.voids = e.id)
		order by device_seq desc`, id)
	return entriesOf(rows, err)
}

// AddEntry appends to the log. An entry with the same id, or the same device
// and sequence, or that voids what is void, is ErrConflict.
func (tx *Tx) AddEntry(ctx context.Context, e job.Entry) error {
	return tx.AddEntries(ctx, []job.Entry{e})
}

// AddEntries appends entries, those that others void before them. All of them are kept, or none.
func (tx *Tx) AddEntries(ctx context.Context, entries []job.Entry) error {
	return inBulk(ctx, tx, `
		insert into log_entry (id, kind, instrument_id, step_id, coat, voids, happened_at, recorded_at, person_id,
			device_id, device_seq, minutes, note, flags, figures, planned, piece_id, place_id, milestone, passed,
			actual, timer, stops, corrects, sitting_id, entered)
		values (:id, :kind, :instrument_id, :step_id, :coat, :voids, :happened_at, :recorded_at, :person_id,
			:device_id, :device_seq, :minutes, :note, :flags, :figures, :planned, :piece_id, :place_id, :milestone, :passed,
			:actual, :timer, :stops, :corrects, :sitting_id, :entered)`, entryRows(entries))
}

// Complete lets entries stand for their events, on all regions of their steps.
// ErrConflict when another entry already does.
func (tx *Tx) Complete(ctx context.Context, entries ...job.Entry) error {
	steps, coats, ids := make([]uuid.UUID, len(entries)), make([]int, len(entries)), make([]uuid.UUID, len(entries))
	for i, e := range entries {
		steps[i], coats[i], ids[i] = *e.Step, *e.Coat, e.ID
	}
	_, err := tx.sql.ExecContext(ctx, `
		insert into completion (step_id, coat, region_id, entry_id)
		select r.step_id, given.coat, r.region_id, given.id
		from unnest($1::uuid[], $2::int[], $3::uuid[]) as given (step_id, coat, id) join step_region r using (step_id)`, steps, coats, ids)
	return explain(err)
}

// Uncomplete takes back what a struck entry completed.
func (tx *Tx) Uncomplete(ctx context.Context, entry uuid.UUID) error {
	_, err := tx.sql.ExecContext(ctx, `delete from completion where entry_id = $1`, entry)
	return explain(err)
}

// Facts lists the entries that say what is so, without those that were struck, and without what is not needed to fold
// them; and the steps that the log speaks of, also in entries that were struck.
func (tx *Tx) Facts(ctx context.Context) (facts []job.Entry, spoken []uuid.UUID, err error) {
	facts, err = entriesOf(all[entryRow](ctx, tx, 2*most, `
		select e.id, e.kind, e.instrument_id, e.step_id, e.coat, e.piece_id, e.place_id,
			e.milestone, e.passed, e.happened_at, e.recorded_at,
			e.person_id, e.minutes, e.flags, e.actual
		from log_entry e
		where e.kind in ('done', 'skipped', 'moved', 'tested', 'settled') and not exists (select from log_entry v where v.voids = e.id)
		order by e.happened_at, e.recorded_at, e.id limit $1`))
	if err != nil {
		return nil, nil, err
	}
	spoken, err = all[uuid.UUID](ctx, tx, most, `
		select id from step s where exists (select from log_entry where step_id = s.id) limit $1`)
	return facts, spoken, err
}

// TimerStopped reports whether a timer was stopped, by the entry that started it.
func (tx *Tx) TimerStopped(ctx context.Context, started uuid.UUID) (bool, error) {
	return exists(ctx, tx, `select exists (select from log_entry where stops = $1)`, started)
}

// Struck reports whether an entry was struck.
func (tx *Tx) Struck(ctx context.Context, entry uuid.UUID) (bool, error) {
	return exists(ctx, tx, `select exists (select from log_entry where voids = $1)`, entry)
}

func exists(ctx context.Context, tx *Tx, query string, args ...any) (is bool, err error) {
	err = tx.sql.GetContext(ctx, &is, query, args...)
	return is, explain(err)
}

// EachEntry gives every entry, in the order in which they were recorded, one by one.
func (tx *Tx) EachEntry(ctx context.Context) iter.Seq2[job.Entry, error] {
	return func(yield func(job.Entry, error) bool) {
		for row, err := range each[entryRow](ctx, tx, `select * from log_entry order by recorded_at, id`) {
			if !yield(row.entry(), err) {
				return
			}
		}
	}
}

// changeColumns is what is kept of how a forecast moved.
const changeColumns = `revision, at, cause, entry_id, instrument_id, finish_before, finish_after, planned_start, told`

// changeOf is how a forecast moved, as it is read: in UTC.
func changeOf(row job.ForecastChange) job.ForecastChange {
	row.At, row.FinishBefore, row.FinishAfter, row.PlannedStart = row.At.UTC(), utc(row.FinishBefore), utc(row.FinishAfter),
		utc(row.PlannedStart)
	return row
}

// EachForecastChange gives how every forecast moved, the oldest first, one by one.
func (tx *Tx) EachForecastChange(ctx context.Context) iter.Seq2[job.ForecastChange, error] {
	return func(yield func(job.ForecastChange, error) bool) {
		for row, err := range each[job.ForecastChange](ctx, tx, `select `+changeColumns+` from forecast_snapshot order by id`) {
			if !yield(changeOf(row), err) {
				return
			}
		}
	}
}

// logPage is how much of the log is read at a time at most, logHead how much of an instrument's log comes with it.
const (
	logPage = 500
	logHead = 60
)

// LogLine is an entry as it is read: with who made it, and whether it is void.
type LogLine struct {
	job.Entry
	PersonName   string     `db:"person_name"`
	VoidedBy     *uuid.UUID `db:"voided_by"`
	PlannedStart *time.Time `db:"planned_start"`
}

// lineRow is a line of the log as a row.
type lineRow struct {
	entryRow
	PersonName   string     `db:"person_name"`
	VoidedBy     *uuid.UUID `db:"voided_by"`
	PlannedStart *time.Time `db:"planned_start"`
}

// LogAsked is which lines of the log are wanted; what is zero leaves nothing out.
type LogAsked struct {
	Instrument uuid.UUID
	Piece      job.PieceKind
	Kind       job.Kind // of the step
	Product    uuid.UUID
	Person     uuid.UUID // who logged it, or worked on it too
	From, To   time.Time // when it happened; To is not part of it
	Before     *LogPlace // only what stands behind this line
	Count      int
}

// LogPlace is where a line stands in the log.
type LogPlace struct {
	HappenedAt, RecordedAt time.Time
	ID                     uuid.UUID
}

// LogPage reads lines of the log, the newest first: (happened, recorded, id).
func (tx *Tx) LogPage(ctx context.Context, asked LogAsked) ([]LogLine, error) {
	where, args := []string{"true"}, []any{}
	only := func(condition string, values ...any) {
		for _, v := range values {
			args = append(args, v)
			condition = strings.Replace(condition, "?", fmt.Sprintf("$%d", len(args)), 1)
		}
		where = append(where, condition)
	}
	if asked.Instrument != uuid.Nil {
		only("e.instrument_id = ?", asked.Instrument)
	}
	if asked.Piece != "" {
		only(`(exists (select from step s join piece p on p.id = s.piece_id where s.id = e.step_id and p.kind = ?)
			or exists (select from piece p where p.id = e.piece_id and p.kind = ?))`, asked.Piece, asked.Piece)
	}
	if asked.Kind != "" {
		only("exists (select from step s where s.id = e.step_id and s.kind = ?)", asked.Kind)
	}
	if asked.Product != uuid.Nil {
		only("e.figures ->> 'product' = ?", asked.Product.String())
	}
	if asked.Person != uuid.Nil {
		only("(e.person_id = ? or jsonb_exists(e.actual -> 'with', ?))", asked.Person, asked.Person.String())
	}
	if !asked.From.IsZero() {
		only("e.happened_at >= ?", asked.From)
	}
	if !asked.To.IsZero() {
		only("e.happened_at < ?", asked.To)
	}
	if b := asked.Before; b != nil {
		only("(e.happened_at, e.recorded_at, e.id) < (?, ?, ?)", b.HappenedAt, b.RecordedAt, b.ID)
	}
	args = append(args, min(max(asked.Count, 1), logPage))
	var rows []lineRow
	err := tx.sql.SelectContext(ctx, &rows, fmt.Sprintf(`
		with page as materialized (select * from log_entry e where %s order by e.happened_at desc, e.recorded_at desc, e.id desc limit $%d),
			start as (select distinct on (s.entry_id) s.entry_id, s.planned_start from forecast_snapshot s join page on page.id = s.entry_id
			          where s.planned_start is not null order by s.entry_id, s.id)
		select e.*, p.name as person_name, v.id as voided_by, start.planned_start
		from page e join person p on p.id = e.person_id left join log_entry v on v.voids = e.id left join start on start.entry_id = e.id
		order by e.happened_at desc, e.recorded_at desc, e.id desc`, strings.Join(where, " and "), len(args)), args...)
	lines := make([]LogLine, len(rows))
	for i, row := range rows {
		lines[i] = LogLine{row.entry(), row.PersonName, row.VoidedBy, row.PlannedStart}
	}
	return lines, explain(err)
}

// LogOf reads the newest lines of an instrument's log, and whether there are more.
func (tx *Tx) LogOf(ctx context.Context, instrument uuid.UUID) (rows []LogLine, more bool, err error) {
	rows, err = tx.LogPage(ctx, LogAsked{Instrument: instrument, Count: logHead + 1})
	return rows[:min(len(rows), logHead)], len(rows) > logHead, err
}

// AddForecastChanges writes how forecasts moved beside the change that moved them.
func (tx *Tx) AddForecastChanges(ctx context.Context, rows []job.ForecastChange) error {
	return inBulk(ctx, tx, `
		insert into forecast_snapshot (revision, at, cause, entry_id, instrument_id, finish_before, finish_after, planned_start, told)
		values (:revision, :at, :cause, :entry_id, :instrument_id, :finish_before, :finish_after, :planned_start, :told)`, rows)
}

// ForecastChangesOf reads how an instrument's forecast moved, the newest first.
func (tx *Tx) ForecastChangesOf(ctx context.Context, instrument uuid.UUID) ([]job.ForecastChange, error) {
	var rows []job.ForecastChange
	err := tx.sql.SelectContext(ctx, &rows,
		`select `+changeColumns+` from forecast_snapshot where instrument_id = $1 order by id desc limit $2`,
		instrument, logPage)
	for i := range rows {
		rows[i] = changeOf(rows[i])
	}
	return rows, explain(err)
}
