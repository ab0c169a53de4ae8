package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
)

// sittingRow is a sitting as a row.
type sittingRow struct {
	job.Sitting
	ToDo         jsonb[[]job.Event] `db:"events"` // Events, in their column
	Acknowledged jsonb[[]string]    `db:"seen"`   // Seen, in its
}

func sittingRowOf(s job.Sitting) sittingRow {
	row := sittingRow{Sitting: s}
	row.ToDo.V, row.Acknowledged.V = append([]job.Event{}, s.Events...), append([]string{}, s.Seen...)
	return row
}

func (row sittingRow) sitting() job.Sitting {
	s := row.Sitting
	s.Events, s.Seen, s.StartedAt = row.ToDo.V, row.Acknowledged.V, s.StartedAt.UTC()
	if s.EndedAt != nil {
		ended := s.EndedAt.UTC()
		s.EndedAt = &ended
	}
	if len(s.Seen) == 0 {
		s.Seen = nil
	}
	return s
}

func sittingsOf(rows []sittingRow, err error) ([]job.Sitting, error) {
	var list []job.Sitting
	for _, row := range rows {
		list = append(list, row.sitting())
	}
	return list, err
}

// AddSitting keeps a sitting that was begun. An id that is taken is ErrConflict.
func (tx *Tx) AddSitting(ctx context.Context, s job.Sitting) error {
	_, err := tx.sql.NamedExecContext(ctx, `
		insert into sitting (id, place_id, person_id, started_at, ended_at, events, seen)
		values (:id, :place_id, :person_id, :started_at, :ended_at, :events, :seen)`, sittingRowOf(s))
	return explain(err)
}

// Sitting returns a sitting; ErrNotFound when there is none.
func (tx *Tx) Sitting(ctx context.Context, id uuid.UUID) (job.Sitting, error) {
	var row sittingRow
	err := tx.sql.GetContext(ctx, &row, `select * from sitting where id = $1`, id)
	return row.sitting(), explain(err)
}

// ChangeSitting keeps what became of a sitting: its end, what is to be done in it, the cautions that were seen.
func (tx *Tx) ChangeSitting(ctx context.Context, s job.Sitting) error {
	_, err := tx.sql.NamedExecContext(ctx, `update sitting set ended_at = :ended_at, events = :events, seen = :seen where id = :id`,
		sittingRowOf(s))
	return explain(err)
}

// OpenSittings are those that were begun since a moment and have not ended, the newest first.
func (tx *Tx) OpenSittings(ctx context.Context, since time.Time) ([]job.Sitting, error) {
	return sittingsOf(all[sittingRow](ctx, tx, most, `
		select * from sitting where ended_at is null and started_at >= $1 order by started_at desc, id limit $2`, since))
}

// WholeSittings reads every sitting, the oldest first.
func (tx *Tx) WholeSittings(ctx context.Context) ([]job.Sitting, error) {
	return sittingsOf(all[sittingRow](ctx, tx, 10*most, `select * from sitting order by started_at, id limit $1`))
}

// TimersSince are the timers that were started since a moment and that nobody has stopped or struck, the oldest first.
func (tx *Tx) TimersSince(ctx context.Context, since time.Time) ([]job.Entry, error) {
	return entriesOf(all[entryRow](ctx, tx, most, `
		select e.* from log_entry e
		where e.kind = 'timed' and e.happened_at >= $1
			and not exists (select from log_entry s where s.stops = e.id) and not exists (select from log_entry v where v.voids = e.id)
		order by e.happened_at, e.id limit $2`, since))
}

// Worked is work whose minutes somebody looked at.
type Worked struct {
	Kind       string     `db:"kind"` // of its step
	Method     string     `db:"method"`
	Person     uuid.UUID  `db:"person_id"`
	PersonName string     `db:"person_name"`
	Instrument uuid.UUID  `db:"instrument_id"`
	Name       string     `db:"name"` // of the instrument
	Times      int        `db:"times"`
	Minutes    int        `db:"minutes"`
	Planned    int        `db:"planned"`
	Log        float64    `db:"log"` // the sum of the natural logarithms of minutes taken by minutes planned
	Square     float64    `db:"square"`
	Latest     *time.Time `db:"latest"`
}

// HoursWorked is how long work took against what was planned when it was logged, since a moment: by kind of step,
// method, person and instrument.
func (tx *Tx) HoursWorked(ctx context.Context, since time.Time) ([]Worked, error) {
	return all[Worked](ctx, tx, most, `
		select s.kind, s.method, e.person_id, p.name as person_name, e.instrument_id, i.name,
			count(*) as times, sum(e.minutes) as minutes, sum(w.planned) as planned,
			sum(ln(greatest(e.minutes, 1) / w.planned::float8)) as log, sum(ln(greatest(e.minutes, 1) / w.planned::float8) ^ 2) as square,
			max(e.happened_at) as latest
		from log_entry e join step s on s.id = e.step_id join person p on p.id = e.person_id join instrument i on i.id = e.instrument_id,
			lateral (select coalesce((e.planned ->> 'minutes')::int, s.hands_on_min) as planned) w
		where e.kind = 'done' and e.minutes is not null and w.planned > 0 and e.happened_at >= $1
			and exists (select from completion c where c.entry_id = e.id)
		group by 1, 2, 3, 4, 5, 6 order by 1, 2, 4, 6 limit $2`, since)
}
