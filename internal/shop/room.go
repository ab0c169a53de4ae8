package shop

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/store"
)

// RoomNow is the air of the shop's places, and what may be put on in it.
type RoomNow struct {
	Places   []PlaceNow    `json:"places" doc:"those whose air somebody has said anything about"`
	Verdicts []RoomVerdict `json:"verdicts" doc:"of each product that is due today, where it is put on"`
}

// PlaceNow is the air of one place.
type PlaceNow struct {
	ID          uuid.UUID `json:"id"`
	Name        string    `json:"name"`
	Temperature string    `json:"temperature" doc:"18.6 °C"`
	Humidity    string    `json:"humidity" doc:"52 %"`
	Dew         string    `json:"dew" doc:"dew point: 8.6 °C"`
	Source      string    `json:"source" doc:"read 4 min ago, or its usual air"`
	Read        bool      `json:"read" doc:"a reading says so"`
	Past        []AirAt   `json:"past" doc:"the last day, hour by hour"`
}

// AirAt is the air at a moment.
type AirAt struct {
	At          time.Time `json:"at"`
	Temperature float64   `json:"temperatureC"`
	Humidity    float64   `json:"humidityPct"`
}

// RoomVerdict says whether a product may be put on now.
type RoomVerdict struct {
	Product string `json:"product"`
	Place   string `json:"place"`
	Verdict string `json:"verdict" enum:"go,go with care,wait"`
	Text    string `json:"text" doc:"go, dries at 0.9 speed; or wait until 14:20"`
	Reason  string `json:"reason"`
}

// recently is how old a reading may be and still be called the air now.
const recently = climate.MaxGap

func (m *moment) roomNow() RoomNow {
	room := RoomNow{Places: []PlaceNow{}, Verdicts: []RoomVerdict{}}
	for _, p := range m.input.Shop.Places {
		if p.Room != nil {
			room.Places = append(room.Places, m.placeNow(p))
		}
	}
	seen := make(map[string]bool)
	today, _, _ := m.today()
	for _, e := range today {
		at, _ := m.find(e.Step)
		made := at.planned().Material
		place := m.input.Shop.PlaceOf(ptr(at.planned()))
		if made == nil || place.Room == nil || seen[made.Key()+place.Name] {
			continue
		}
		seen[made.Key()+place.Name] = true
		room.Verdicts = append(room.Verdicts, m.verdict(*made, place, at.planned().HandsOnMin))
	}
	return room
}

func ptr[T any](v T) *T { return &v }

func (m *moment) placeNow(p schedule.Place) PlaceNow {
	air, source, read := m.airOf(p)
	now := PlaceNow{ID: p.ID, Name: p.Name, Temperature: air.Temperature.Text(), Humidity: air.Humidity.Text(),
		Dew: air.DewPoint().Text(), Source: source, Read: read, Past: []AirAt{}}
	for h := 24; h >= 0; h-- {
		at := m.now.Add(-time.Duration(h) * time.Hour)
		past, _ := p.Room.At(at)
		if h == 0 {
			past = air
		}
		now.Past = append(now.Past, AirAt{at.UTC(), float64(past.Temperature), float64(past.Humidity)})
	}
	return now
}

// airOf is the air of a place now: the last reading while it is recent, else
// what the profile says.
func (m *moment) airOf(p schedule.Place) (air climate.Air, source string, read bool) {
	air, _ = p.Room.At(m.now)
	source = "its usual air"
	var last time.Time
	for _, r := range m.file.Shop.Readings {
		if r.Place == p.ID && !r.At.After(m.now) && m.now.Sub(r.At) <= recently && !r.At.Before(last) {
			air, last, read = r.Air, r.At, true
			source = "read " + m.plan.Say(r.At)
		}
	}
	return air, source, read
}

func (m *moment) verdict(made material.Material, p schedule.Place, work unit.Minutes) RoomVerdict {
	air, _, read := m.airOf(p)
	limits := climate.LimitsOf(made)
	surface := p.Room.Surface(m.now)
	fit := limits.Judge(air, surface)
	v := RoomVerdict{Product: made.Name, Place: p.Name, Verdict: fit.Verdict.Text(), Reason: fit.Reason}
	speed := climate.DryingOf(made.Family, material.Recoat).Rate(air)
	v.Text = fmt.Sprintf("%s, dries at %.1f speed", v.Verdict, speed)
	if fit.Verdict == climate.Wait {
		v.Text = "wait"
		long := time.Duration(work+made.Family.Flash) * time.Minute
		next, found := p.Room.NextFit(limits, m.now, long, 14*24*time.Hour)
		switch {
		case found && next.After(m.now):
			v.Text = "wait until " + m.plan.Clock(next)
		case !found:
			v.Text = m.notBefore(limits, p.Room, long)
		case read:
			v.Text = "wait for the room" // its usual air would do; what was read now does not
		}
	}
	return v
}

// notBefore answers when a product could be put on here at all: the first month
// with a day on which the air is fit while the shop is open.
func (m *moment) notBefore(limits climate.Limits, room *climate.Room, long time.Duration) string {
	opens, closes := 24, 0
	for _, hours := range m.setting.Week {
		for _, h := range hours {
			opens, closes = min(opens, h.Open/60), max(closes, (h.Close+59)/60)
		}
	}
	month, found := room.FirstMonth(limits, m.now, long, opens, closes)
	if !found {
		return "not in this room"
	}
	return "not before " + month.In(m.plan.Zone).Format("January")
}

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
	Readings []NewReading `json:"readings" minItems:"1" maxItems:"2000"`
}

// TypedReading is the air of a place as a person read it off.
type TypedReading struct {
	PlaceID     uuid.UUID `json:"placeId"`
	Temperature string    `json:"temperature" doc:"as typed: 18.6, 18.6 °C, 65 °F"`
	Humidity    string    `json:"humidity" doc:"as typed: 52, 52 %"`
	PersonID    uuid.UUID `json:"personId"`
}

// ReadingsKept is what readings did.
type ReadingsKept struct {
	Kept  int             `json:"kept"`
	Moved []MovedForecast `json:"moved" doc:"instruments whose finish they moved"`
}

// AddReadings keeps readings. It fails with *Invalid, naming each, and keeps none
// when one cannot be accepted.
func (s *Service) AddReadings(ctx context.Context, in NewReadings) (ReadingsKept, error) {
	now := s.clock()
	return s.keepReadings(ctx, func(m *moment) ([]store.Reading, error) {
		var bad Invalid
		rows := make([]store.Reading, len(in.Readings))
		for i, r := range in.Readings {
			rows[i] = store.Reading{Place: r.PlaceID, At: now, RecordedAt: now, Temperature: r.Temperature, Humidity: r.Humidity,
				Surface: r.Surface}
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

// TypeReading keeps what a person read off.
func (s *Service) TypeReading(ctx context.Context, in TypedReading) (ReadingsKept, error) {
	in.PersonID = who(ctx, in.PersonID)
	now := s.clock()
	return s.keepReadings(ctx, func(m *moment) ([]store.Reading, error) {
		var bad Invalid
		row := store.Reading{Place: in.PlaceID, At: now, RecordedAt: now,
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
		row.Temperature, row.Humidity = float64(temperature), float64(humidity)
		row.Person = &in.PersonID
		if !slices.ContainsFunc(m.people, func(p store.Person) bool { return p.ID == in.PersonID }) {
			return nil, invalid("personId", "must be one of the people of this shop", in.PersonID)
		}
		if wrong := m.checkReading(row, ""); len(wrong.Faults) > 0 {
			return nil, wrong
		}
		return []store.Reading{row}, nil
	})
}

func (s *Service) keepReadings(ctx context.Context, make func(*moment) ([]store.Reading, error)) (ReadingsKept, error) {
	var kept ReadingsKept
	err := s.onShop(ctx, func(w *writing) error {
		rows, err := make(w.before)
		if err != nil {
			return err
		}
		if err := w.AddReadings(ctx, rows); err != nil {
			return err
		}
		st, err := w.before.measured(w.Revision, w.before.now, rows)
		if err != nil {
			return err
		}
		if err := w.dated(st); err != nil {
			return err
		}
		kept = ReadingsKept{len(rows), moved(w.before, w.after)}
		return w.remember(ctx, "readings of "+w.before.placeName(rows[0].Place), nil)
	})
	return kept, err
}

func (m *moment) placeName(id uuid.UUID) string {
	for _, p := range m.input.Shop.Places {
		if p.ID == id {
			return p.Name
		}
	}
	return "a place"
}

func (m *moment) checkReading(r store.Reading, path string) *Invalid {
	bad := &Invalid{}
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, invalid(path+field, message, value).Faults...)
	}
	if !slices.ContainsFunc(m.input.Shop.Places, func(p schedule.Place) bool { return p.ID == r.Place }) {
		fault("placeId", "must be a place of this shop", r.Place)
	}
	if age := m.now.Sub(r.At); age > 5*365*24*time.Hour || age < -60*24*time.Hour {
		fault("at", "must lie within the last five years, or as a forecast within the next 60 days", r.At)
	}
	air := climate.Air{Temperature: unit.Celsius(r.Temperature), Humidity: 50}
	if err := air.Check(); err != nil {
		fault("temperatureC", err.Error(), r.Temperature)
	}
	air = climate.Air{Temperature: 20, Humidity: unit.Percent(r.Humidity)}
	if err := air.Check(); err != nil {
		fault("humidityPct", err.Error(), r.Humidity)
	}
	if r.Surface != nil && (*r.Surface < -30 || *r.Surface > 80) {
		fault("surfaceC", "a surface is from −30 to 80 °C", *r.Surface)
	}
	return bad
}
