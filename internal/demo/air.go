package demo

import (
	"context"
	"fmt"
	"hash/fnv"
	"math"
	"time"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
)

// places is the room's bench, its booth, which a neighbour has on Wednesdays, the
// drying loft over the stove, and the buffing wheel out in the lean-to.
func places(week settings.Week) []place {
	booth := week
	booth[time.Wednesday] = nil
	loft, bench := shop.PlaceID("loft"), shop.PlaceID("bench")
	return []place{
		{"loft", settings.PlaceVersion{Name: "the drying loft", Kind: settings.Drying, Hooks: 16, Profile: profile(19.5, 21.5, 50, 46)}},
		{"bench", settings.PlaceVersion{Name: "the bench", Kind: settings.Bench, Air: "workshop", Profile: profile(17.5, 20.5, 56, 50)}},
		{"booth", settings.PlaceVersion{Name: "the booth", Kind: settings.Booth, Capacity: 2, Air: "booth", HangsIn: &loft, Week: &booth,
			Profile: profile(17.5, 21, 54, 47)}},
		{"wheel", settings.PlaceVersion{Name: "the wheel", Kind: settings.Wheel, Capacity: 1, Air: "lean-to", HangsIn: &bench}},
	}
}

// place is a place of the room, by a key.
type place struct {
	key string
	settings.PlaceVersion
}

// profile is a place that is coolest and dampest before dawn and warmest in the
// afternoon, and is let cool on Sundays.
func profile(night, day unit.Celsius, damp, dry unit.Percent) *settings.Profile {
	var knots []climate.Knot
	for d := range 7 {
		warm := day
		if time.Weekday(d) == time.Sunday {
			warm -= 1
		}
		knots = append(knots, climate.Knot{Hour: d*24 + 5, Air: climate.Air{Temperature: night, Humidity: damp}},
			climate.Knot{Hour: d*24 + 14, Air: climate.Air{Temperature: warm, Humidity: dry}},
			climate.Knot{Hour: d*24 + 20, Air: climate.Air{Temperature: warm - 0.5, Humidity: dry + 2}})
	}
	return &settings.Profile{Knots: knots}
}

// The room measures every hour, and has done so for so many days.
const (
	readEvery = time.Hour
	readDays  = 30
)

// postReadings hands in what the loggers in the room have read, as a device would.
func postReadings(ctx context.Context, service *shop.Service, now time.Time) error {
	var batch changes.NewReadings
	for at := now.AddDate(0, 0, -readDays); !at.After(now); at = at.Add(readEvery) {
		for _, place := range places(settings.Week{}) {
			if place.Profile == nil {
				continue
			}
			air := measured(place, at)
			batch.Readings = append(batch.Readings, changes.NewReading{PlaceID: shop.PlaceID(place.key), At: &at,
				Temperature: float64(air.Temperature), Humidity: float64(air.Humidity)})
		}
	}
	for len(batch.Readings) > 0 {
		page := changes.NewReadings{Readings: batch.Readings[:min(2000, len(batch.Readings))]}
		if _, err := service.AddReadings(ctx, page); err != nil {
			return fmt.Errorf("readings: %w", err)
		}
		batch.Readings = batch.Readings[len(page.Readings):]
	}
	return nil
}

// measured is a place's usual air with some weather: warmer and colder days by
// turns, and what a thermometer wavers by.
func measured(place place, at time.Time) climate.Air {
	usual, err := climate.ProfileOf(place.Profile.Knots, [12]climate.Shift{})
	if err != nil {
		panic(err) // a profile written here
	}
	zone, err := time.LoadLocation("Europe/London")
	if err != nil {
		panic(err) // zone data is part of the binary
	}
	local := at.In(zone)
	air := usual.Week[int(local.Weekday())*24+local.Hour()]
	weather := math.Sin(float64(at.Unix()) / (86400 * 2.7))
	h := fnv.New32a()
	fmt.Fprint(h, place.key, at.Unix())
	waver := float64(h.Sum32()%100)/100 - 0.5
	air.Temperature += unit.Celsius(math.Round((0.8*weather+0.4*waver)*10) / 10)
	air.Humidity += unit.Percent(math.Round(-2.5*weather + 2*waver))
	return air
}
