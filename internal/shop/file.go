package shop

import (
	"context"
	"encoding/json"
	"io"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// readingsKept is how far back readings are looked at for planning: longer than
// the slowest film cures in a cold room.
const readingsKept = 200 * 24 * time.Hour

// readShop reads the shop as a schedule file without its log: what dates are
// derived from, but for what has happened.
func readShop(ctx context.Context, tx *store.Tx, since time.Time) (*formats.File, error) {
	file := &formats.File{Format: formats.Name, Version: formats.Version}
	settings, err := tx.ShopSettings(ctx)
	if err != nil {
		return nil, err
	}
	if len(settings) == 0 {
		return nil, ErrNotBegun
	}
	for _, s := range settings {
		file.Shop.Settings = append(file.Shop.Settings,
			formats.Setting{ValidFrom: s.ValidFrom.UTC(), Name: s.Name, TimeZone: s.TimeZone, Margin: s.Margin, Notation: s.Notation.V, Week: whole(s.Week.V),
				Exceptions: s.Exceptions.V, Ways: s.Ways.V})
	}
	people, err := tx.People(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range people {
		file.Shop.People = append(file.Shop.People, formats.Person{ID: p.ID, Name: p.Name, Week: weekOf(p.Week), Left: p.Left})
	}
	if err := readPlaces(ctx, tx, file, since); err != nil {
		return nil, err
	}
	if err := readProducts(ctx, tx, file); err != nil {
		return nil, err
	}
	if file.Recipes, err = tx.OwnRecipes(ctx); err != nil {
		return nil, err
	}
	if file.Instruments, err = tx.Instruments(ctx); err != nil {
		return nil, err
	}
	return file, readOrder(ctx, tx, file)
}

func weekOf(week *store.JSON[[7][]calendar.Hours]) *formats.Week {
	if week == nil {
		return nil
	}
	w := whole(week.V)
	return &w
}

// whole is a week in which a closed day is an empty list, not none.
func whole(week [7][]calendar.Hours) formats.Week {
	for day, hours := range week {
		if hours == nil {
			week[day] = []calendar.Hours{}
		}
	}
	return week
}

func readPlaces(ctx context.Context, tx *store.Tx, file *formats.File, since time.Time) error {
	versions, err := tx.PlaceVersions(ctx)
	if err != nil {
		return err
	}
	for _, v := range versions {
		list := &file.Shop.Places
		if n := len(*list); n == 0 || (*list)[n-1].ID != v.ID {
			*list = append(*list, formats.Place{ID: v.ID})
		}
		version := formats.PlaceVersion{ValidFrom: v.ValidFrom.UTC(), Name: v.Name, Kind: schedule.PlaceKind(v.Kind), Capacity: v.Capacity,
			Week: weekOf(v.Week), Exceptions: v.Exceptions.V, Air: v.Air, HangsIn: v.HangsIn, Hooks: v.Hooks}
		if v.Profile != nil {
			version.Profile = &formats.Profile{Knots: v.Profile.V.Knots, Months: v.Profile.V.Months}
		}
		last := &(*list)[len(*list)-1]
		last.Versions = append(last.Versions, version)
	}
	readings, err := tx.ReadingsSince(ctx, since)
	if err != nil {
		return err
	}
	for _, r := range readings {
		file.Shop.Readings = append(file.Shop.Readings, fileReading(r))
	}
	return nil
}

// fileReading is a reading as the schedule file has it, to the microsecond as the database keeps it.
func fileReading(r store.Reading) formats.Reading {
	reading := formats.Reading{ID: r.ID, Place: r.Place, StruckAt: utc(r.StruckAt), StruckBy: r.StruckBy, At: r.At.UTC().Round(time.Microsecond),
		RecordedAt: r.RecordedAt.UTC().Round(time.Microsecond),
		Person:     r.Person, Entered: r.Entered, Air: climate.Air{Temperature: unit.Celsius(r.Temperature),
			Humidity: unit.Percent(r.Humidity)}}
	if r.Surface != nil {
		surface := unit.Celsius(*r.Surface)
		reading.Surface = &surface
	}
	return reading
}

func readProducts(ctx context.Context, tx *store.Tx, file *formats.File) error {
	sheets, err := tx.ProductSheets(ctx)
	if err != nil {
		return err
	}
	for _, s := range sheets {
		list := &file.Products
		if n := len(*list); n == 0 || (*list)[n-1].ID != s.ID {
			*list = append(*list, formats.Product{ID: s.ID, Name: s.Name, Family: s.Family})
		}
		last := &(*list)[len(*list)-1]
		last.Versions = append(last.Versions, formats.Sheet{ValidFrom: s.From.UTC(), Sheet: json.RawMessage(s.Sheet)})
	}
	return nil
}

func readOrder(ctx context.Context, tx *store.Tx, file *formats.File) error {
	var err error
	if file.Order, err = tx.Order(ctx); err != nil {
		return err
	}
	pins, err := tx.Pins(ctx)
	for _, p := range pins {
		file.Pins = append(file.Pins, formats.Pin{Event: job.Event{Step: p.Step, Coat: p.Coat}, At: p.At.UTC(), Person: p.Person,
			MadeAt: p.MadeAt.UTC()})
	}
	return err
}

// Export writes the whole shop, or one instrument with what it needs of the
// shop, as a schedule file.
func (s *Service) Export(ctx context.Context, only *uuid.UUID) (*formats.File, error) {
	var file *formats.File
	err := s.store.Read(ctx, func(tx *store.Tx) error {
		var err error
		if file, err = exportOf(ctx, tx, s.clock().UTC()); err != nil {
			return err
		}
		if only != nil && !file.Only(*only) {
			return missing("instrument", *only)
		}
		return nil
	})
	return file, err
}

// exportOf is the whole shop with its log, as of a present.
func exportOf(ctx context.Context, tx *store.Tx, now time.Time) (*formats.File, error) {
	file, err := readShop(ctx, tx, time.Time{})
	if err != nil {
		return nil, err
	}
	file.Now = &now
	return file, readLog(ctx, tx, file)
}

func readLog(ctx context.Context, tx *store.Tx, file *formats.File) error {
	var err error
	if file.Log, err = tx.WholeLog(ctx); err != nil {
		return err
	}
	if file.Sittings, err = tx.WholeSittings(ctx); err != nil {
		return err
	}
	snapshots, err := tx.WholeSnapshots(ctx)
	for _, row := range snapshots {
		file.Snapshots = append(file.Snapshots, fileSnapshot(row))
	}
	return err
}

// fileSnapshot is a snapshot as the schedule file has it.
func fileSnapshot(row store.Snapshot) formats.Snapshot {
	return formats.Snapshot{Revision: row.Revision, At: row.At.UTC(), Cause: row.Cause, Entry: row.Entry, Instrument: row.Instrument, Told: row.Told,
		FinishBefore: utc(row.FinishBefore), FinishAfter: utc(row.FinishAfter), PlannedStart: utc(row.PlannedStart)}
}

// ExportTo writes the whole shop as a schedule file of any size, its log line by line.
func (s *Service) ExportTo(ctx context.Context, to io.Writer) error {
	return s.store.Read(ctx, func(tx *store.Tx) error { return exportTo(ctx, tx, s.clock().UTC(), to) })
}

func exportTo(ctx context.Context, tx *store.Tx, now time.Time, to io.Writer) error {
	head, err := readShop(ctx, tx, time.Time{})
	if err != nil {
		return err
	}
	head.Now = &now
	if head.Sittings, err = tx.WholeSittings(ctx); err != nil {
		return err
	}
	return formats.WriteStream(to, head, tx.EachEntry(ctx), func(yield func(formats.Snapshot, error) bool) {
		for row, err := range tx.EachSnapshot(ctx) {
			if !yield(fileSnapshot(row), err) {
				return
			}
		}
	})
}

func utc(t *time.Time) *time.Time {
	if t == nil {
		return nil
	}
	u := t.UTC()
	return &u
}
