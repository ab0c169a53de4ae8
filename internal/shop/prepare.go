package shop

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/store"
)

// Settings are what a shop decides about itself.
type Settings struct {
	Name       string
	TimeZone   string // IANA
	Margin     float64
	Week       [7][]schedule.Hours // Sunday first
	Exceptions map[string][]schedule.Hours
}

// always is before anything that a shop may want to log.
var always = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// Usual is a shop that has decided nothing yet: weekdays from 9 to 18.
func Usual(timeZone string) Settings {
	settings := Settings{Name: "Finishing room", TimeZone: timeZone, Margin: schedule.DefaultMargin}
	for day := time.Monday; day <= time.Friday; day++ {
		settings.Week[day] = []schedule.Hours{{Open: 9 * 60, Close: 18 * 60}}
	}
	return settings
}

// Prepare gives an empty database its first settings and people. One that has
// settings is left as it is; it reports whether it did anything.
func (s *Service) Prepare(ctx context.Context, settings Settings, people ...string) (bool, error) {
	prepared := false
	err := s.store.Write(ctx, func(tx *store.Tx) error {
		if _, err := tx.ShopAt(ctx, s.clock()); !errors.Is(err, store.ErrNotFound) {
			return err
		}
		row := store.ShopSetting{ValidFrom: always, Name: settings.Name, TimeZone: settings.TimeZone, Margin: settings.Margin}
		row.Week.V, row.Exceptions.V = settings.Week, settings.Exceptions
		if row.Exceptions.V == nil {
			row.Exceptions.V = map[string][]schedule.Hours{}
		}
		if _, err := calendarOf(row); err != nil {
			return invalid("settings", err.Error(), settings.TimeZone)
		}
		if err := tx.AddShopSetting(ctx, row); err != nil {
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

// AddProduct puts a product on the shelf with its data sheet, as JSON.
func (s *Service) AddProduct(ctx context.Context, name, family, sheet string) (uuid.UUID, error) {
	id := uuid.NewSHA1(uuid.NameSpaceOID, []byte("product "+name))
	if err := checkSheet(name, family, sheet); err != nil {
		return uuid.Nil, invalid("sheet", err.Error(), sheet)
	}
	return id, s.store.Write(ctx, func(tx *store.Tx) error {
		return tx.AddProduct(ctx, store.Product{ID: id, Name: name, Family: family, Sheet: sheet}, always)
	})
}
