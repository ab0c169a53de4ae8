package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// AddReadings keeps readings. It fails with *Invalid, naming each, and with *Doubtful on those that are unlikely, and
// keeps none when one cannot be accepted.
func (s Recorder) AddReadings(ctx context.Context, in changes.NewReadings) (changes.ReadingsKept, error) {
	now := s.clock()
	asked := in
	asked.Confirm = nil
	if in.ID == uuid.Nil {
		in.ID = uuid.New() // from inside
	}
	return s.keepReadings(ctx, asked.ID, asked, in.Confirm, func(m *snapshot.Snapshot) ([]settings.Reading, error) {
		var bad refuse.Invalid
		rows := make([]settings.Reading, len(in.Readings))
		for i, r := range in.Readings {
			rows[i] = settings.Reading{Place: r.PlaceID, At: now, RecordedAt: now,
				Air:     climate.Air{Temperature: unit.Celsius(r.Temperature), Humidity: unit.Percent(r.Humidity)},
				Surface: (*unit.Celsius)(r.Surface)}
			rows[i].ID = uuid.NewSHA1(in.ID, fmt.Appendf(nil, "reading %d", i))
			if r.At != nil {
				rows[i].At = *r.At
			}
			bad.Faults = append(bad.Faults, changes.CheckReading(m, rows[i], fmt.Sprintf("readings[%d].", i)).Faults...)
		}
		if len(bad.Faults) > 0 {
			return nil, &bad
		}
		return rows, nil
	})
}

// TypeReading keeps what a person read off. It fails as AddReadings does.
func (s Recorder) TypeReading(ctx context.Context, in changes.TypedReading) (changes.ReadingsKept, error) {
	asked := in
	asked.Confirm = nil
	in.PersonID = access.Who(ctx, in.PersonID)
	if in.ID == uuid.Nil {
		in.ID = uuid.New()
	}
	now := s.clock()
	return s.keepReadings(ctx, asked.ID, asked, in.Confirm, func(m *snapshot.Snapshot) ([]settings.Reading, error) {
		var bad refuse.Invalid
		row := settings.Reading{ID: in.ID, Place: in.PlaceID, At: now, RecordedAt: now,
			Entered: strings.TrimSpace(in.Temperature) + ", " + strings.TrimSpace(in.Humidity)}
		temperature, err := unit.ParseCelsius(in.Temperature)
		if err != nil {
			bad.Faults = append(bad.Faults, refuse.Field("temperature", err.Error(), in.Temperature).Faults...)
		}
		humidity, err := unit.ParsePercent(in.Humidity)
		if err != nil {
			bad.Faults = append(bad.Faults, refuse.Field("humidity", err.Error(), in.Humidity).Faults...)
		}
		if len(bad.Faults) > 0 {
			return nil, &bad
		}
		row.Temperature, row.Humidity = temperature, humidity
		row.Person = &in.PersonID
		if err := m.IsOfShop("personId", in.PersonID); err != nil {
			return nil, err
		}
		if wrong := changes.CheckReading(m, row, ""); len(wrong.Faults) > 0 {
			for i, f := range wrong.Faults { // as the form has them
				wrong.Faults[i].Path = map[string]string{"temperatureC": "temperature", "humidityPct": "humidity"}[f.Path]
				if wrong.Faults[i].Path == "" {
					wrong.Faults[i].Path = f.Path
				}
			}
			return nil, wrong
		}
		return []settings.Reading{row}, nil
	})
}

func (s Recorder) keepReadings(ctx context.Context, id uuid.UUID, asked any, confirm []string,
	make func(*snapshot.Snapshot) ([]settings.Reading, error)) (changes.ReadingsKept, error) {
	kept := changes.ReadingsKept{Moved: []changes.MovedForecast{}}
	err := s.onShop(ctx, func(w *changes.Unit) error {
		if err := w.Once(ctx, "readings", id, asked, s.clock()); err != nil {
			return err
		}
		rows, err := make(w.Before)
		if err != nil {
			return err
		}
		if doubts := changes.DoubtAir(w.Before, rows); len(doubts) > 0 && !slices.Contains(confirm, changes.Unlikely) {
			return &refuse.Doubtful{Doubts: doubts}
		}
		added, err := w.AddReadings(ctx, rows)
		if err != nil {
			return err
		}
		st, err := w.Before.Measured(w.Revision, w.Before.Now, rows)
		if err != nil {
			return err
		}
		if err := w.Dated(st); err != nil {
			return err
		}
		kept = changes.ReadingsKept{Kept: added, Moved: changes.Moved(w.Before, w.After)}
		return w.RecordHistory(ctx, "readings of "+w.Before.PlaceName(rows[0].Place), nil)
	})
	if errors.Is(err, changes.ErrKept) {
		err = nil
	}
	return kept, err
}

// StrikeReading lets a reading count no more; it stays, struck. Striking it once more changes nothing.
func (s Recorder) StrikeReading(ctx context.Context, in changes.ReadingStruck) (changes.ReadingsKept, error) {
	in.PersonID = access.Who(ctx, in.PersonID)
	kept := changes.ReadingsKept{Moved: []changes.MovedForecast{}}
	err := s.onShop(ctx, func(w *changes.Unit) error {
		if err := w.Before.IsOfShop("personId", in.PersonID); err != nil {
			return err
		}
		known := w.Before.Workshop.Shop.Readings
		at := slices.IndexFunc(known, func(r settings.Reading) bool { return r.ID == in.ID })
		switch {
		case at >= 0 && known[at].StruckAt != nil:
			return changes.ErrKept
		case at < 0:
			return refuse.Missing("reading", in.ID)
		}
		if err := w.Tx.StrikeReading(ctx, in.ID, in.PersonID, s.clock()); err != nil {
			return err
		}
		st, err := w.Before.Struck(w.Revision, w.Before.Now, in.ID, in.PersonID, s.clock())
		if err != nil {
			return err
		}
		if err := w.Dated(st); err != nil {
			return err
		}
		kept = changes.ReadingsKept{Kept: 1, Moved: changes.Moved(w.Before, w.After)}
		return w.RecordHistory(ctx, "a reading of "+w.Before.PlaceName(known[at].Place)+" struck", nil)
	})
	if errors.Is(err, changes.ErrKept) {
		err = nil
	}
	return kept, err
}
