package store

import (
	"context"
	"reflect"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// settingRow is a setting as a row.
type settingRow struct {
	settings.Setting
	Hours   jsonb[settings.Week]       `db:"week"`
	Special jsonb[settings.Exceptions] `db:"exceptions"`
	Figures jsonb[unit.Notation]       `db:"notation"`
	Schools jsonb[map[string]string]   `db:"ways"`
}

// personRow is somebody as a row.
type personRow struct {
	settings.Person
	Hours *jsonb[settings.Week] `db:"week"`
}

// placeRow is a version of a place as a row.
type placeRow struct {
	Place uuid.UUID `db:"place_id"`
	settings.PlaceVersion
	Hours   *jsonb[settings.Week]      `db:"week"`
	Special jsonb[settings.Exceptions] `db:"exceptions"`
	Usual   *jsonb[settings.Profile]   `db:"profile"`
}

// weekOf is a week of hours of one's own; nil where there is none.
func weekOf(row *jsonb[settings.Week]) *settings.Week {
	if row == nil {
		return nil
	}
	week := row.V.Whole()
	return &week
}

// Begun reports whether the shop has said anything about itself.
func (tx *Tx) Begun(ctx context.Context) (bool, error) {
	var begun bool
	err := tx.sql.GetContext(ctx, &begun, `select exists (select from shop_setting)`)
	return begun, explain(err)
}

// readShop reads what a shop has decided about itself, and the readings of its air since a moment.
func readShop(ctx context.Context, tx *Tx, since time.Time) (shop settings.Shop, err error) {
	for _, read := range []func() error{
		func() (err error) { shop.Settings, err = readSettings(ctx, tx); return err },
		func() (err error) { shop.People, err = readPeople(ctx, tx); return err },
		func() (err error) { shop.Places, err = readPlaces(ctx, tx); return err },
		func() (err error) { shop.Readings, err = readReadings(ctx, tx, since); return err },
	} {
		if err := read(); err != nil {
			return shop, err
		}
	}
	return shop, nil
}

// readSettings lists the settings, the oldest first.
func readSettings(ctx context.Context, tx *Tx) ([]settings.Setting, error) {
	rows, err := all[settingRow](ctx, tx, most, `
		select valid_from, name, time_zone, margin, week, exceptions, notation, ways from shop_setting order by valid_from limit $1`)
	var list []settings.Setting
	for _, row := range rows {
		s := row.Setting
		s.ValidFrom, s.Week, s.Exceptions = s.ValidFrom.UTC(), row.Hours.V.Whole(), row.Special.V
		s.Notation, s.Ways = row.Figures.V, row.Schools.V
		list = append(list, s)
	}
	return list, err
}

// readPeople lists who works in the shop, and who has.
func readPeople(ctx context.Context, tx *Tx) ([]settings.Person, error) {
	rows, err := all[personRow](ctx, tx, most, `select id, name, week, has_left from person order by position limit $1`)
	var list []settings.Person
	for _, row := range rows {
		row.Person.Week = weekOf(row.Hours)
		list = append(list, row.Person)
	}
	return list, err
}

// readPlaces lists every place with all its versions.
func readPlaces(ctx context.Context, tx *Tx) ([]settings.Place, error) {
	rows, err := all[placeRow](ctx, tx, most, `
		select v.* from place_version v join place p on p.id = v.place_id
		order by p.position, p.id, v.valid_from limit $1`)
	var list []settings.Place
	for _, row := range rows {
		if n := len(list); n == 0 || list[n-1].ID != row.Place {
			list = append(list, settings.Place{ID: row.Place})
		}
		v := row.PlaceVersion
		v.ValidFrom, v.Week, v.Exceptions = v.ValidFrom.UTC(), weekOf(row.Hours), row.Special.V
		if row.Usual != nil {
			v.Profile = &row.Usual.V
		}
		last := &list[len(list)-1]
		last.Versions = append(last.Versions, v)
	}
	return list, err
}

// keepShop writes what differs between two states of what a shop has decided about itself.
func keepShop(ctx context.Context, tx *Tx, before, after *settings.Shop) error {
	for _, s := range after.Settings {
		same := func(known settings.Setting) bool {
			return known.ValidFrom.Equal(s.ValidFrom) && reflect.DeepEqual(known, s)
		}
		if slices.ContainsFunc(before.Settings, same) {
			continue
		}
		if err := putSetting(ctx, tx, s); err != nil {
			return unkept("settings", s.Name, err)
		}
	}
	for _, p := range after.People {
		at := slices.IndexFunc(before.People, func(known settings.Person) bool { return known.ID == p.ID })
		if at >= 0 && reflect.DeepEqual(before.People[at], p) {
			continue
		}
		if err := putPerson(ctx, tx, p); err != nil {
			return unkept("people", p.Name, err)
		}
	}
	return keepPlaces(ctx, tx, before.Places, after.Places)
}

// putSetting writes a setting from its day on, in place of any of that very moment.
func putSetting(ctx context.Context, tx *Tx, s settings.Setting) error {
	row := settingRow{Setting: s}
	row.Hours.V, row.Special.V, row.Figures.V, row.Schools.V = s.Week, s.Exceptions, s.Notation, s.Ways
	if s.Exceptions == nil {
		row.Special.V = settings.Exceptions{}
	}
	if s.Ways == nil {
		row.Schools.V = map[string]string{}
	}
	_, err := tx.sql.NamedExecContext(ctx, `
		insert into shop_setting (valid_from, name, time_zone, margin, week, exceptions, notation, ways)
		values (:valid_from, :name, :time_zone, :margin, :week, :exceptions, :notation, :ways)
		on conflict (valid_from) do update set name = excluded.name, time_zone = excluded.time_zone, margin = excluded.margin,
			week = excluded.week, exceptions = excluded.exceptions, notation = excluded.notation, ways = excluded.ways`, row)
	return explain(err)
}

// putPerson writes somebody, at the end of the list where they are new.
func putPerson(ctx context.Context, tx *Tx, p settings.Person) error {
	row := personRow{Person: p}
	if p.Week != nil {
		row.Hours = &jsonb[settings.Week]{*p.Week}
	}
	_, err := tx.sql.NamedExecContext(ctx, `
		insert into person (id, name, week, has_left, position)
		values (:id, :name, :week, :has_left, (select coalesce(max(position), 0) + 1 from person))
		on conflict (id) do update set name = excluded.name, week = excluded.week, has_left = excluded.has_left`, row)
	return explain(err)
}

// keepPlaces writes new places and new versions. A place may hang its pieces in one that comes later in the list.
func keepPlaces(ctx context.Context, tx *Tx, before, after []settings.Place) error {
	known := make(map[uuid.UUID]*settings.Place)
	for i := range before {
		known[before[i].ID] = &before[i]
	}
	for _, p := range after {
		if known[p.ID] != nil {
			continue
		}
		if _, err := tx.sql.ExecContext(ctx, `
			insert into place (id, position) values ($1, (select coalesce(max(position), 0) + 1 from place))`, p.ID); err != nil {
			return unkept("places", p.Versions[0].Name, explain(err))
		}
	}
	for _, p := range after {
		for _, v := range p.Versions {
			same := func(was settings.PlaceVersion) bool {
				return was.ValidFrom.Equal(v.ValidFrom) && reflect.DeepEqual(was, v)
			}
			if was := known[p.ID]; was != nil && slices.ContainsFunc(was.Versions, same) {
				continue
			}
			if err := putPlace(ctx, tx, p.ID, v); err != nil {
				return unkept("places", v.Name, err)
			}
		}
	}
	return nil
}

// putPlace writes what a place is like from a moment on, in place of what was said for that very moment.
func putPlace(ctx context.Context, tx *Tx, id uuid.UUID, v settings.PlaceVersion) error {
	row := placeRow{Place: id, PlaceVersion: v}
	if v.Week != nil {
		row.Hours = &jsonb[settings.Week]{*v.Week}
	}
	if row.Special.V = v.Exceptions; v.Exceptions == nil {
		row.Special.V = settings.Exceptions{}
	}
	if v.Profile != nil {
		row.Usual = &jsonb[settings.Profile]{*v.Profile}
	}
	_, err := tx.sql.NamedExecContext(ctx, `
		insert into place_version (place_id, valid_from, name, kind, capacity, week, exceptions, air, hangs_in, hooks, profile)
		values (:place_id, :valid_from, :name, :kind, :capacity, :week, :exceptions, :air, :hangs_in, :hooks, :profile)
		on conflict (place_id, valid_from) do update set name = excluded.name, kind = excluded.kind, capacity = excluded.capacity,
			week = excluded.week, exceptions = excluded.exceptions, air = excluded.air, hangs_in = excluded.hangs_in,
			hooks = excluded.hooks, profile = excluded.profile`, row)
	return explain(err)
}

// AddReadings appends readings, and says how many are new: the very same one, to the moment it was recorded, is kept
// once. Those without an id get one.
func (tx *Tx) AddReadings(ctx context.Context, readings []settings.Reading) (added int, err error) {
	readings = slices.Clone(readings)
	for i := range readings {
		if readings[i].ID == uuid.Nil {
			readings[i].ID = uuid.New()
		}
	}
	return counted(ctx, tx, `
		insert into reading (uid, place_id, at, recorded_at, temperature_c, humidity_pct,
			surface_c, entered, person_id, struck_at, struck_by)
		values (:uid, :place_id, :at, :recorded_at, :temperature_c, :humidity_pct, :surface_c, :entered, :person_id, :struck_at, :struck_by)
		on conflict do nothing`, readings)
}

// StrikeReading lets a reading count no more. ErrNotFound when there is none, or it is struck.
func (tx *Tx) StrikeReading(ctx context.Context, id, by uuid.UUID, at time.Time) error {
	return some(tx.sql.ExecContext(ctx, `update reading set struck_at = $3, struck_by = $2 where uid = $1 and struck_at is null`, id, by,
		at))
}

// readReadings lists the readings from a moment on, by place and time.
func readReadings(ctx context.Context, tx *Tx, since time.Time) ([]settings.Reading, error) {
	list, err := all[settings.Reading](ctx, tx, 10*most, `
		select uid, place_id, at, recorded_at, temperature_c, humidity_pct, surface_c, entered, person_id, struck_at, struck_by from reading
		where at >= $1 order by place_id, at, recorded_at, id limit $2`, since)
	for i := range list {
		r := &list[i]
		r.At, r.RecordedAt, r.StruckAt = r.At.UTC(), r.RecordedAt.UTC(), utc(r.StruckAt)
	}
	return list, err
}

// utc is a time in UTC; nil stays nil.
func utc(t *time.Time) *time.Time {
	if t == nil {
		return nil
	}
	u := t.UTC()
	return &u
}
