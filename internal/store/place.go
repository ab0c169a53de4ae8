package store

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
)

// Place is somewhere in the shop, as it was from ValidFrom on.
type Place struct {
	ID         uuid.UUID                         `db:"place_id"`
	ValidFrom  time.Time                         `db:"valid_from"`
	Name       string                            `db:"name"`
	Kind       string                            `db:"kind"`
	Capacity   int                               `db:"capacity"`
	Week       *JSON[[7][]calendar.Hours]        `db:"week"`
	Exceptions JSON[map[string][]calendar.Hours] `db:"exceptions"`
	Air        string                            `db:"air"`
	HangsIn    *uuid.UUID                        `db:"hangs_in"`
	Hooks      int                               `db:"hooks"`
	Profile    *JSON[Profile]                    `db:"profile"`
}

// Profile is a place's usual air.
type Profile struct {
	Knots  []climate.Knot     `json:"knots"`
	Months *[12]climate.Shift `json:"months,omitempty"`
}

// Reading is the air of a place at a moment.
type Reading struct {
	ID          uuid.UUID  `db:"uid"`
	Place       uuid.UUID  `db:"place_id"`
	At          time.Time  `db:"at"`
	RecordedAt  time.Time  `db:"recorded_at"`
	Temperature float64    `db:"temperature_c"`
	Humidity    float64    `db:"humidity_pct"`
	Surface     *float64   `db:"surface_c"`
	Entered     string     `db:"entered"`
	Person      *uuid.UUID `db:"person_id"`
	StruckAt    *time.Time `db:"struck_at"`
	StruckBy    *uuid.UUID `db:"struck_by"`
}

// PlaceVersions lists every version of every place, in the order of the places
// and then of time.
func (tx *Tx) PlaceVersions(ctx context.Context) ([]Place, error) {
	return all[Place](ctx, tx, most, `
		select v.* from place_version v join place p on p.id = v.place_id
		order by p.position, p.id, v.valid_from limit $1`)
}

// AddPlace records what a place is like from a time on, in place of what was said
// for that very moment; a new one goes to the end of the list.
func (tx *Tx) AddPlace(ctx context.Context, p Place) error {
	if _, err := tx.ExecContext(ctx, `
		insert into place (id, position) values ($1, (select coalesce(max(position), 0) + 1 from place))
		on conflict (id) do nothing`, p.ID); err != nil {
		return explain(err)
	}
	if p.Exceptions.V == nil {
		p.Exceptions.V = map[string][]calendar.Hours{}
	}
	_, err := tx.NamedExecContext(ctx, `
		insert into place_version (place_id, valid_from, name, kind, capacity, week, exceptions, air, hangs_in, hooks, profile)
		values (:place_id, :valid_from, :name, :kind, :capacity, :week, :exceptions, :air, :hangs_in, :hooks, :profile)
		on conflict (place_id, valid_from) do update set name = excluded.name, kind = excluded.kind, capacity = excluded.capacity,
			week = excluded.week, exceptions = excluded.exceptions, air = excluded.air, hangs_in = excluded.hangs_in, hooks = excluded.hooks, profile = excluded.profile`, p)
	return explain(err)
}

// AddReadings appends readings, and says how many are new: the very same one, to the moment it was recorded, is kept
// once. Those without an id get one.
func (tx *Tx) AddReadings(ctx context.Context, readings []Reading) (added int, err error) {
	readings = slices.Clone(readings)
	for i := range readings {
		if readings[i].ID == uuid.Nil {
			readings[i].ID = uuid.New()
		}
	}
	return counted(ctx, tx, `
		insert into reading (uid, place_id, at, recorded_at, temperature_c, humidity_pct, surface_c, entered, person_id, struck_at, struck_by)
		values (:uid, :place_id, :at, :recorded_at, :temperature_c, :humidity_pct, :surface_c, :entered, :person_id, :struck_at, :struck_by)
		on conflict do nothing`, readings)
}

// StrikeReading lets a reading count no more. ErrNotFound when there is none, or it is struck.
func (tx *Tx) StrikeReading(ctx context.Context, id, by uuid.UUID, at time.Time) error {
	return some(tx.ExecContext(ctx, `update reading set struck_at = $3, struck_by = $2 where uid = $1 and struck_at is null`, id, by, at))
}

// ReadingsSince lists the readings from a moment on, by place and time.
func (tx *Tx) ReadingsSince(ctx context.Context, since time.Time) ([]Reading, error) {
	return all[Reading](ctx, tx, 10*most, `
		select uid, place_id, at, recorded_at, temperature_c, humidity_pct, surface_c, entered, person_id, struck_at, struck_by from reading
		where at >= $1 order by place_id, at, recorded_at, id limit $2`, since)
}

// Pin is an event that somebody fixed to a time.
type Pin struct {
	Step   uuid.UUID  `db:"step_id"`
	Coat   int        `db:"coat"`
	At     time.Time  `db:"at"`
	Person *uuid.UUID `db:"person_id"`
	MadeAt time.Time  `db:"made_at"`
}

// Pins lists every pin.
func (tx *Tx) Pins(ctx context.Context) ([]Pin, error) {
	return all[Pin](ctx, tx, most, `select * from pin order by step_id, coat limit $1`)
}

// AddPin fixes an event to a time, in place of where it was fixed before.
func (tx *Tx) AddPin(ctx context.Context, p Pin) error {
	_, err := tx.NamedExecContext(ctx, `
		insert into pin (step_id, coat, at, person_id, made_at) values (:step_id, :coat, :at, :person_id, :made_at)
		on conflict (step_id, coat) do update set at = excluded.at, person_id = excluded.person_id, made_at = excluded.made_at`, p)
	return explain(err)
}
