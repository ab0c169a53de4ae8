package shop

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/store"
)

// Settings are what a shop decides about itself.
type Settings struct {
	Name       string
	TimeZone   string // IANA
	Margin     float64
	Week       [7][]calendar.Hours // Sunday first
	Exceptions map[string][]calendar.Hours
	Notation   unit.Notation
	Places     []Place
}

// Place is somewhere in the shop as it is set up for the first time.
type Place struct {
	Key      string // names it among the others, for HangsIn
	Name     string
	Kind     schedule.PlaceKind
	Capacity int
	Air      string
	HangsIn  string
	Hooks    int
	Week     *[7][]calendar.Hours
	Profile  []climate.Knot
	Months   *[12]climate.Shift // how each month differs from it
}

// PlaceID is the identity of a place that a shop was set up with.
func PlaceID(key string) uuid.UUID {
	return uuid.NewSHA1(uuid.NameSpaceOID, []byte("place "+key))
}

// always is before anything that a shop may want to log.
var always = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// Usual is a shop that has decided nothing yet: weekdays from 9 to 18, one room
// in which everything is done and everything dries.
func Usual(timeZone string) Settings {
	settings := Settings{Name: "Finishing room", TimeZone: timeZone, Margin: schedule.DefaultMargin}
	for day := time.Monday; day <= time.Friday; day++ {
		settings.Week[day] = []calendar.Hours{{Open: 9 * 60, Close: 18 * 60}}
	}
	settings.Places = []Place{{Key: "room", Name: "the room", Kind: schedule.Bench, Profile: []climate.Knot{{Air: climate.Reference}}}}
	return settings
}

// Prepare gives an empty database its first settings and people. One that has
// settings is left as it is; it reports whether it did anything.
func (s *Service) Prepare(ctx context.Context, settings Settings, people ...string) (bool, error) {
	prepared := false
	err := s.change(ctx, func(w *writing) error {
		tx := w.Tx
		if kept, err := tx.ShopSettings(ctx); err != nil || len(kept) > 0 {
			return err
		}
		row := store.ShopSetting{ValidFrom: always, Name: settings.Name, TimeZone: settings.TimeZone, Margin: settings.Margin}
		row.Week.V, row.Exceptions.V, row.Ways.V, row.Notation.V = settings.Week, settings.Exceptions, map[string]string{}, settings.Notation
		if row.Exceptions.V == nil {
			row.Exceptions.V = map[string][]calendar.Hours{}
		}
		zone, err := time.LoadLocation(settings.TimeZone)
		if err == nil {
			_, err = calendar.New(zone, settings.Week, nil)
		}
		if err != nil {
			return invalid("settings", err.Error(), settings.TimeZone)
		}
		if err := tx.NewShop(ctx); err != nil {
			return err
		}
		if err := tx.AddShopSetting(ctx, row); err != nil {
			return err
		}
		if err := addPlaces(ctx, tx, settings.Places); err != nil {
			return err
		}
		for _, name := range people {
			if err := tx.AddPerson(ctx, store.Person{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("person "+name)), Name: name}); err != nil {
				return err
			}
		}
		prepared = true
		return nil
	})
	return prepared, err
}

// addPlaces adds the places in the order given; one that hangs its pieces in
// another comes after it.
func addPlaces(ctx context.Context, tx *store.Tx, places []Place) error {
	for _, p := range places {
		row := store.Place{ID: PlaceID(p.Key), ValidFrom: always, Name: p.Name, Kind: string(p.Kind), Capacity: p.Capacity, Air: p.Air,
			Hooks: p.Hooks}
		if p.HangsIn != "" {
			hangs := PlaceID(p.HangsIn)
			row.HangsIn = &hangs
		}
		if p.Week != nil {
			row.Week = &store.JSON[[7][]calendar.Hours]{V: *p.Week}
		}
		if p.Profile != nil {
			row.Profile = &store.JSON[store.Profile]{V: store.Profile{Knots: p.Profile, Months: p.Months}}
		}
		if err := tx.AddPlace(ctx, row); err != nil {
			return err
		}
	}
	return nil
}

// AddProduct puts a product on the shelf with its data sheet, as JSON.
func (s *Service) AddProduct(ctx context.Context, name, family, sheet string) (uuid.UUID, error) {
	id := uuid.NewSHA1(uuid.NameSpaceOID, []byte("product "+name))
	if err := checkSheet(name, family, sheet); err != nil {
		return uuid.Nil, invalid("sheet", err.Error(), sheet)
	}
	return id, s.change(ctx, func(w *writing) error {
		tx := w.Tx
		return tx.AddProduct(ctx, store.Product{ID: id, Name: name, Family: family, Sheet: sheet}, always)
	})
}
