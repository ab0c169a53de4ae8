package changes

import (
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
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

// Unlikely is the doubt of air that hardly any finishing room has: it is mostly a slip, or a sensor that is broken.
const Unlikely = "unlikely"

// What the air of a finishing room is like when nobody asks: colder, warmer, drier or damper is asked about.
var (
	likelyTemperature = [2]unit.Celsius{0, 45}
	likelyHumidity    = [2]unit.Percent{10, 99}
)

// DoubtAir asks about air that hardly any finishing room has; of many readings once.
func DoubtAir(m *snapshot.Snapshot, rows []settings.Reading) []refuse.Doubt {
	for _, r := range rows {
		temperature, humidity := r.Temperature, r.Humidity
		if temperature >= likelyTemperature[0] && temperature <= likelyTemperature[1] && humidity >= likelyHumidity[0] &&
			humidity <= likelyHumidity[1] {
			continue
		}
		return []refuse.Doubt{{Code: Unlikely, Message: fmt.Sprintf("%s and %s in %s are unlikely where a finish is put on. Is that right?",
			temperature.String(), humidity.String(), m.PlaceName(r.Place))}}
	}
	return nil
}

// ReadingStruck is a reading that is to count no more.
type ReadingStruck struct {
	ID       uuid.UUID `json:"id" doc:"of the reading"`
	PersonID uuid.UUID `json:"personId"`
}

// ReadingLine is a reading in words.
type ReadingLine struct {
	ID     uuid.UUID       `json:"id"`
	At     snapshot.Moment `json:"at"`
	Text   string          `json:"text" doc:"18.6 °C, 52 %"`
	By     string          `json:"by" doc:"who typed it; empty: a device"`
	Struck bool            `json:"struck"`
}

// shownReadings is how many of the last readings of a place are shown.
const shownReadings = 6

// LastReadings are the last readings of a place, the newest first.
func LastReadings(m *snapshot.Snapshot, place uuid.UUID) []ReadingLine {
	lines := []ReadingLine{}
	for _, r := range slices.Backward(m.Workshop.Shop.Readings) {
		if r.Place != place || r.At.After(m.Now) {
			continue
		}
		line := ReadingLine{ID: r.ID, At: m.Moment(r.At), Text: r.Temperature.String() + ", " + r.Humidity.String(),
			Struck: r.StruckAt != nil}
		if r.Person != nil {
			line.By = m.PersonName(*r.Person)
		}
		if lines = append(lines, line); len(lines) == shownReadings {
			break
		}
	}
	return lines
}

func CheckReading(m *snapshot.Snapshot, r settings.Reading, path string) *refuse.Invalid {
	bad := &refuse.Invalid{}
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field(path+field, message, value).Faults...)
	}
	if !slices.ContainsFunc(m.Input.Shop.Places, func(p schedule.Place) bool { return p.ID == r.Place }) {
		fault("placeId", "must be a place of this shop", r.Place)
	}
	if !refuse.Plausible(r.At, m.Now) || r.At.Sub(m.Now) > forecastAhead {
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

// forecastAhead is how far ahead a forecast of the air may speak.
const forecastAhead = 60 * 24 * time.Hour

func Ptr[T any](v T) *T { return &v }
