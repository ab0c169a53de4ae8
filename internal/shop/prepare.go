package shop

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
)

// Start is what a shop has decided about itself when it begins.
type Start struct {
	settings.Setting
	Places []settings.Place
}

// PlaceID is the identity of a place that a shop was set up with, by its key.
func PlaceID(key string) uuid.UUID {
	return uuid.NewSHA1(uuid.NameSpaceOID, []byte("place "+key))
}

// StartPlace is a place of a shop that begins.
func StartPlace(key string, v settings.PlaceVersion) settings.Place {
	v.ValidFrom = always
	return settings.Place{ID: PlaceID(key), Versions: []settings.PlaceVersion{v}}
}

// always is before anything that a shop may want to log.
var always = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// Default is a shop that has decided nothing yet: weekdays from 9 to 18, one room
// in which everything is done and everything dries.
func Default(timeZone string) Start {
	start := Start{Setting: settings.Setting{Name: "Finishing room", TimeZone: timeZone, Margin: schedule.DefaultMargin}}
	for day := time.Monday; day <= time.Friday; day++ {
		start.Week[day] = []calendar.Hours{{Open: 9 * 60, Close: 18 * 60}}
	}
	start.Places = []settings.Place{StartPlace("room", settings.PlaceVersion{Name: "the room", Kind: settings.Bench,
		Profile: &settings.Profile{Knots: []climate.Knot{{Air: climate.Reference}}}})}
	return start
}

// Prepare gives an empty database its first settings and people. One that has
// settings is left as it is; it reports whether it did anything.
func (s Decider) Prepare(ctx context.Context, start Start, people ...string) (bool, error) {
	prepared := false
	err := s.change(ctx, func(w *changes.Unit) error {
		if begun, err := w.Begun(ctx); err != nil || begun {
			return err
		}
		zone, err := time.LoadLocation(start.TimeZone)
		if err == nil {
			_, err = calendar.New(zone, start.Week, nil)
		}
		if err != nil {
			return refuse.Field("settings", err.Error(), start.TimeZone)
		}
		if err := w.NewShop(ctx); err != nil {
			return err
		}
		first := &workshop.Workshop{Shop: settings.Shop{Settings: []settings.Setting{start.Setting}, Places: start.Places}}
		first.Shop.Settings[0].ValidFrom = always
		for _, name := range people {
			first.Shop.People = append(first.Shop.People, settings.Person{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("person "+name)),
				Name: name})
		}
		_, err = w.Tx.Keep(ctx, &workshop.Workshop{}, first)
		prepared = err == nil
		return err
	})
	return prepared, err
}

// AddProduct puts a product on the shelf with its data sheet, as JSON.
func (s Decider) AddProduct(ctx context.Context, name, family, sheet string) (uuid.UUID, error) {
	p := material.Product{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("product "+name)), Name: name, Family: family,
		Versions: []material.SheetVersion{{ValidFrom: always, Sheet: json.RawMessage(sheet)}}}
	if err := p.Check(); err != nil {
		return uuid.Nil, refuse.Field("sheet", err.Error(), sheet)
	}
	return p.ID, s.onShop(ctx, func(w *changes.Unit) error {
		next := w.Before.Workshop.Clone()
		next.Products = append(slices.Clone(next.Products), p)
		if _, err := w.Tx.Keep(ctx, w.Before.Workshop, next); err != nil {
			return changes.NotKept(err)
		}
		return w.Reread(ctx) // the database writes a sheet in its own way
	})
}
