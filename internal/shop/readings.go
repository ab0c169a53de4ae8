package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// NewReading is the air of a place as a device measured it, or as a forecast has it.
type NewReading struct {
	PlaceID     uuid.UUID  `json:"placeId"`
	At          *time.Time `json:"at,omitempty" doc:"absent means now; up to 60 days ahead is a forecast"`
	Temperature float64    `json:"temperatureC" doc:"−30 to 60"`
	Humidity    float64    `json:"humidityPct" doc:"relative, 1 to 100"`
	Surface     *float64   `json:"surfaceC,omitempty" doc:"of the piece, −30 to 80"`
}

// NewReadings is a batch of readings.
type NewReadings struct {
	ID       uuid.UUID    `json:"id" doc:"made by the device; sending it again changes nothing"`
	Confirm  []string     `json:"confirm,omitempty" maxItems:"4" doc:"doubts that somebody has answered: unlikely"`
	Readings []NewReading `json:"readings" minItems:"1" maxItems:"2000"`
}

// Once is the id under which it is kept once.
func (in NewReadings) Once() uuid.UUID { return in.ID }

// TypedReading is the air of a place as a person read it off.
type TypedReading struct {
	ID          uuid.UUID `json:"id" doc:"made by the device; sending it again changes nothing"`
	PlaceID     uuid.UUID `json:"placeId"`
	Temperature string    `json:"temperature" doc:"as typed: 18.6, 18.6 °C, 65 °F"`
	Humidity    string    `json:"humidity" doc:"as typed: 52, 52 %"`
	PersonID    uuid.UUID `json:"personId"`
	Confirm     []string  `json:"confirm,omitempty" maxItems:"4" doc:"doubts that the person has answered: unlikely"`
}

// Once is the id under which it is kept once.
func (in TypedReading) Once() uuid.UUID { return in.ID }

// ReadingsKept is what readings did.
type ReadingsKept struct {
	Kept  int             `json:"kept"`
	Moved []MovedForecast `json:"moved" doc:"instruments whose finish they moved"`
}

// unlikely is the doubt of air that hardly any finishing room has: it is mostly a slip, or a sensor that is broken.
const unlikely = "unlikely"

// What the air of a finishing room is like when nobody asks: colder, warmer, drier or damper is asked about.
var (
	likelyTemperature = [2]unit.Celsius{0, 45}
	likelyHumidity    = [2]unit.Percent{10, 99}
)

// AddReadings keeps readings. It fails with *Invalid, naming each, and with *Doubtful on those that are unlikely, and
// keeps none when one cannot be accepted.
func (s *Service) AddReadings(ctx context.Context, in NewReadings) (ReadingsKept, error) {
	now := s.clock()
	asked := in
	asked.Confirm = nil
	if in.ID == uuid.Nil {
		in.ID = uuid.New() // from inside
	}
	return s.keepReadings(ctx, asked.ID, asked, in.Confirm, func(m *moment) ([]settings.Reading, error) {
		var bad Invalid
		rows := make([]settings.Reading, len(in.Readings))
		for i, r := range in.Readings {
			rows[i] = settings.Reading{Place: r.PlaceID, At: now, RecordedAt: now, Air: climate.Air{Temperature: unit.Celsius(r.Temperature), Humidity: unit.Percent(r.Humidity)},
				Surface: (*unit.Celsius)(r.Surface)}
			rows[i].ID = uuid.NewSHA1(in.ID, fmt.Appendf(nil, "reading %d", i))
			if r.At != nil {
				rows[i].At = *r.At
			}
			bad.Faults = append(bad.Faults, m.checkReading(rows[i], fmt.Sprintf("readings[%d].", i)).Faults...)
		}
		if len(bad.Faults) > 0 {
			return nil, &bad
		}
		return rows, nil
	})
}

// TypeReading keeps what a person read off. It fails as AddReadings does.
func (s *Service) TypeReading(ctx context.Context, in TypedReading) (ReadingsKept, error) {
	asked := in
	asked.Confirm = nil
	in.PersonID = who(ctx, in.PersonID)
	if in.ID == uuid.Nil {
		in.ID = uuid.New()
	}
	now := s.clock()
	return s.keepReadings(ctx, asked.ID, asked, in.Confirm, func(m *moment) ([]settings.Reading, error) {
		var bad Invalid
		row := settings.Reading{ID: in.ID, Place: in.PlaceID, At: now, RecordedAt: now,
			Entered: strings.TrimSpace(in.Temperature) + ", " + strings.TrimSpace(in.Humidity)}
		temperature, err := unit.ParseCelsius(in.Temperature)
		if err != nil {
			bad.Faults = append(bad.Faults, invalid("temperature", err.Error(), in.Temperature).Faults...)
		}
		humidity, err := unit.ParsePercent(in.Humidity)
		if err != nil {
			bad.Faults = append(bad.Faults, invalid("humidity", err.Error(), in.Humidity).Faults...)
		}
		if len(bad.Faults) > 0 {
			return nil, &bad
		}
		row.Temperature, row.Humidity = temperature, humidity
		row.Person = &in.PersonID
		if err := m.isOfShop("personId", in.PersonID); err != nil {
			return nil, err
		}
		if wrong := m.checkReading(row, ""); len(wrong.Faults) > 0 {
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

func (s *Service) keepReadings(ctx context.Context, id uuid.UUID, asked any, confirm []string, make func(*moment) ([]settings.Reading, error)) (ReadingsKept, error) {
	kept := ReadingsKept{Moved: []MovedForecast{}}
	err := s.onShop(ctx, func(w *unitOfWork) error {
		if err := w.once(ctx, "readings", id, asked, s.clock()); err != nil {
			return err
		}
		rows, err := make(w.before)
		if err != nil {
			return err
		}
		if doubts := w.before.unlikely(rows); len(doubts) > 0 && !slices.Contains(confirm, unlikely) {
			return &Doubtful{doubts}
		}
		added, err := w.AddReadings(ctx, rows)
		if err != nil {
			return err
		}
		st, err := w.before.measured(w.Revision, w.before.now, rows)
		if err != nil {
			return err
		}
		if err := w.dated(st); err != nil {
			return err
		}
		kept = ReadingsKept{added, moved(w.before, w.after)}
		return w.recordHistory(ctx, "readings of "+w.before.placeName(rows[0].Place), nil)
	})
	if errors.Is(err, errKept) {
		err = nil
	}
	return kept, err
}

// unlikely asks about air that hardly any finishing room has; of many readings once.
func (m *moment) unlikely(rows []settings.Reading) []Doubt {
	for _, r := range rows {
		temperature, humidity := r.Temperature, r.Humidity
		if temperature >= likelyTemperature[0] && temperature <= likelyTemperature[1] && humidity >= likelyHumidity[0] && humidity <= likelyHumidity[1] {
			continue
		}
		return []Doubt{{unlikely, fmt.Sprintf("%s and %s in %s are unlikely where a finish is put on. Is that right?",
			temperature.Text(), humidity.Text(), m.placeName(r.Place))}}
	}
	return nil
}

// ReadingStruck is a reading that is to count no more.
type ReadingStruck struct {
	ID       uuid.UUID `json:"id" doc:"of the reading"`
	PersonID uuid.UUID `json:"personId"`
}

// StrikeReading lets a reading count no more; it stays, struck. Striking it once more changes nothing.
func (s *Service) StrikeReading(ctx context.Context, in ReadingStruck) (ReadingsKept, error) {
	in.PersonID = who(ctx, in.PersonID)
	kept := ReadingsKept{Moved: []MovedForecast{}}
	err := s.onShop(ctx, func(w *unitOfWork) error {
		if err := w.before.isOfShop("personId", in.PersonID); err != nil {
			return err
		}
		known := w.before.file.Shop.Readings
		at := slices.IndexFunc(known, func(r settings.Reading) bool { return r.ID == in.ID })
		switch {
		case at >= 0 && known[at].StruckAt != nil:
			return errKept
		case at < 0:
			return missing("reading", in.ID)
		}
		if err := w.Tx.StrikeReading(ctx, in.ID, in.PersonID, s.clock()); err != nil {
			return err
		}
		st, err := w.before.struck(w.Revision, w.before.now, in.ID, in.PersonID, s.clock())
		if err != nil {
			return err
		}
		if err := w.dated(st); err != nil {
			return err
		}
		kept = ReadingsKept{1, moved(w.before, w.after)}
		return w.recordHistory(ctx, "a reading of "+w.before.placeName(known[at].Place)+" struck", nil)
	})
	if errors.Is(err, errKept) {
		err = nil
	}
	return kept, err
}

// ReadingLine is a reading in words.
type ReadingLine struct {
	ID     uuid.UUID `json:"id"`
	At     Moment    `json:"at"`
	Text   string    `json:"text" doc:"18.6 °C, 52 %"`
	By     string    `json:"by" doc:"who typed it; empty: a device"`
	Struck bool      `json:"struck"`
}

// shownReadings is how many of the last readings of a place are shown.
const shownReadings = 6

// lastReadings are the last readings of a place, the newest first.
func (m *moment) lastReadings(place uuid.UUID) []ReadingLine {
	lines := []ReadingLine{}
	for _, r := range slices.Backward(m.file.Shop.Readings) {
		if r.Place != place || r.At.After(m.now) {
			continue
		}
		line := ReadingLine{ID: r.ID, At: m.moment(r.At), Text: r.Temperature.Text() + ", " + r.Humidity.Text(), Struck: r.StruckAt != nil}
		if r.Person != nil {
			line.By = m.personName(*r.Person)
		}
		if lines = append(lines, line); len(lines) == shownReadings {
			break
		}
	}
	return lines
}

func (m *moment) checkReading(r settings.Reading, path string) *Invalid {
	bad := &Invalid{}
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, invalid(path+field, message, value).Faults...)
	}
	if !slices.ContainsFunc(m.input.Shop.Places, func(p schedule.Place) bool { return p.ID == r.Place }) {
		fault("placeId", "must be a place of this shop", r.Place)
	}
	if !plausible(r.At, m.now) || r.At.Sub(m.now) > forecastAhead {
		fault("at", "must be from the year 2000 on, or as a forecast within the next 60 days", r.At)
	}
	air := climate.Air{Temperature: r.Temperature, Humidity: 50}
	if err := air.Check(); err != nil {
		fault("temperatureC", err.Error(), float64(r.Temperature))
	}
	air = climate.Air{Temperature: 20, Humidity: r.Humidity}
	if err := air.Check(); err != nil {
		fault("humidityPct", err.Error(), float64(r.Humidity))
	}
	if r.Surface != nil && (*r.Surface < -30 || *r.Surface > 80) {
		fault("surfaceC", "a surface is from −30 to 80 °C", float64(*r.Surface))
	}
	return bad
}
