package scheduletest

import (
	"fmt"
	"time"

	"github.com/google/uuid"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// RandomZone is a time zone, most with daylight saving, one that shifts by half an
// hour and two whose hours begin at half past elsewhere.
func RandomZone(t *rapid.T) *time.Location {
	name := rapid.SampledFrom([]string{"Europe/Berlin", "Australia/Lord_Howe", "Asia/Kolkata", "America/St_Johns"}).Draw(t, "zone")
	return calendartest.Must(time.LoadLocation(name))
}

// RandomHours are the hours of a whole shop.
func RandomHours(t *rapid.T, zone *time.Location) *calendar.Calendar {
	return rapid.SampledFrom([]*calendar.Calendar{calendartest.WeekdaysIn(zone, calendar.Hours{Open: 9 * 60, Close: 18 * 60}),
		calendartest.AlwaysIn(zone), calendartest.WeekdaysIn(zone, calendar.Hours{Open: 18 * 60, Close: 22 * 60}),
		calendartest.WeekdaysIn(zone, calendar.Hours{Open: 8 * 60, Close: 12 * 60},
			calendar.Hours{Open: 13 * 60, Close: 17*60 + 30})}).Draw(t, "hours")
}

// RandomOwn are a person's own hours, or none.
func RandomOwn(t *rapid.T, zone *time.Location) *calendar.Calendar {
	var days [7][]calendar.Hours
	days[time.Tuesday], days[time.Thursday] = []calendar.Hours{{Open: 8 * 60, Close: 21 * 60}},
		[]calendar.Hours{{Open: 8 * 60, Close: 21 * 60}}
	return rapid.SampledFrom([]*calendar.Calendar{nil, nil, calendartest.WeekdaysIn(zone, calendar.Hours{Open: 10*60 + 20, Close: 20 * 60}),
		calendartest.Must(calendar.New(zone, days, nil))}).Draw(t, "own hours")
}

// RandomPlaces are a bench, a booth and a drying room that share airs, hooks and
// room in many ways; or nothing that anybody watches.
func RandomPlaces(t *rapid.T, zone *time.Location) []schedule.Place {
	if rapid.IntRange(0, 3).Draw(t, "watched") == 0 {
		return nil
	}
	var room *climate.Room
	if rapid.Bool().Draw(t, "climate") {
		night := climate.Air{Temperature: unit.Celsius(rapid.IntRange(6, 20).Draw(t, "night")),
			Humidity: unit.Percent(rapid.IntRange(40, 80).Draw(t, "damp"))}
		day := climate.Air{Temperature: unit.Celsius(rapid.IntRange(18, 28).Draw(t, "day")), Humidity: 50}
		var knots []climate.Knot
		for d := range 7 {
			knots = append(knots, climate.Knot{Hour: d*24 + 5, Air: night}, climate.Knot{Hour: d*24 + 14, Air: day})
		}
		room = calendartest.Must(climate.NewRoom(zone, calendartest.Must(climate.ProfileOf(knots, [12]climate.Shift{})), nil))
	}
	bench := schedule.Place{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, Air: "shop", Room: room,
		Capacity: rapid.IntRange(0, 3).Draw(t, "bench")}
	booth := schedule.Place{ID: ID("booth"), Name: "the booth", Kind: settings.Booth,
		Air: rapid.SampledFrom([]string{"shop", "booth"}).Draw(t, "air"), Room: room,
		Capacity: rapid.IntRange(1, 2).Draw(t, "booth"), HangsIn: ID("rack")}
	if rapid.Bool().Draw(t, "booth hours") {
		booth.Calendar = calendartest.WeekdaysIn(zone, calendar.Hours{Open: 10 * 60, Close: 20 * 60})
	}
	rack := schedule.Place{ID: ID("rack"), Name: "the rack", Kind: "drying", Room: room,
		Hooks: rapid.SampledFrom([]int{0, 0, 2, 3}).Draw(t, "hooks"),
		Air:   rapid.SampledFrom([]string{"", "shop"}).Draw(t, "hanging air")}
	return []schedule.Place{bench, booth, rack}
}

var RandomFamilies = []string{"water-clear", "hardwax-oil", "nitro", "water-dye", "dewaxed-shellac", "water-filler", "flake-clear",
	"polyester-uv", "urethane-2k"}

func RandomStep(t *rapid.T, first bool) schedule.Step {
	kind := rapid.SampledFrom([]schedule.Kind{schedule.Sand, schedule.Coat, schedule.Coat, schedule.Coat, schedule.MaskOn, schedule.MaskOff,
		schedule.Level, schedule.Inspect, schedule.Gate}).Draw(t, "kind")
	step := schedule.Step{Step: job.Step{Kind: kind, HandsOnMin: unit.Minutes(rapid.IntRange(5, 110).Draw(t, "minutes"))}}
	switch kind {
	case schedule.Coat:
		step.Material, step.Coats = Of(rapid.SampledFrom(RandomFamilies).Draw(t, "family")), rapid.IntRange(1, 4).Draw(t, "coats")
		step.Method = rapid.SampledFrom([]material.Method{material.Spray, material.Wipe}).Draw(t, "method")
		step.SetUpMin = min(step.HandsOnMin, unit.Minutes(rapid.IntRange(0, 20).Draw(t, "set-up")))
		if !first && rapid.IntRange(0, 5).Draw(t, "within") == 0 {
			step.Within = &schedule.Within{AfterMin: 2, BeforeMin: 12}
		}
	case schedule.Level, schedule.Gate:
		step.Film = rapid.SampledFrom([]material.Milestone{material.Sand, material.Handle}).Draw(t, "film")
		if kind == schedule.Gate && rapid.IntRange(0, 3).Draw(t, "glue") == 0 {
			step.Film, step.Glue = "", &schedule.Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240,
				FullMin: 1440}
		}
	case schedule.Sand:
		if rapid.Bool().Draw(t, "divided") {
			step.HandsOnMin, step.Divide = step.HandsOnMin+40, &schedule.Divide{LeastMin: 20}
		}
	}
	return step
}

// RandomRegions are some of the three regions of a piece, in any order.
func RandomRegions(t *rapid.T, piece string) []uuid.UUID {
	regions := []uuid.UUID{ID(piece + " top"), ID(piece + " back"), ID(piece + " sides")}
	shuffled := rapid.Permutation(regions).Draw(t, "regions")
	return shuffled[:rapid.SampledFrom([]int{3, 3, 2, 1}).Draw(t, "regions of it")]
}

// RandomShop draws a shop of some instruments with some of the work done.
func RandomShop(t *rapid.T) Asked {
	zone := RandomZone(t)
	in := Asked{
		Now:      calendartest.At("2026-03-24 11:07").Add(time.Duration(rapid.IntRange(0, 20000).Draw(t, "minutes on")) * time.Minute),
		Margin:   rapid.SampledFrom([]float64{1, 1.25, 2}).Draw(t, "margin"),
		Calendar: RandomHours(t, zone), Places: RandomPlaces(t, zone), People: rapid.IntRange(1, 3).Draw(t, "people"),
		Facts: make(map[schedule.Event]schedule.Fact), Pins: make(map[schedule.Event]time.Time),
	}
	for range in.People - 1 { // one is there whenever the shop is, so that there is somebody
		in.Own = append(in.Own, RandomOwn(t, zone))
	}
	for i := range rapid.IntRange(1, 4).Draw(t, "instruments") {
		var pieces []schedule.Piece
		for p := range rapid.IntRange(1, 2).Draw(t, "pieces") {
			name := fmt.Sprintf("piece %d.%d", i, p)
			var steps []schedule.Step
			for s := range rapid.IntRange(1, 8).Draw(t, "steps") {
				steps = append(steps, RandomStep(t, s == 0))
				steps[s].Regions = RandomRegions(t, name)
			}
			pieces = append(pieces, PieceOf(name, steps...))
		}
		in.Instruments = append(in.Instruments, InstrumentOf(fmt.Sprintf("job %d", i), "2026-05-01", pieces...))
		done := in.Now.Add(-200 * time.Hour)
		events := OrderOf(in.Instruments[i])
		for _, event := range events[:rapid.IntRange(0, 3).Draw(t, "done")%len(events)] {
			done = done.Add(7 * time.Hour)
			in.Facts[event] = RandomFact(t, done, in.Places)
		}
		if rapid.IntRange(0, 4).Draw(t, "pinned") == 0 {
			in.Pins[rapid.SampledFrom(events).Draw(t, "pin")] = in.Now.Add(time.Duration(rapid.IntRange(0, 200).Draw(t,
				"pin in h")) * time.Hour)
		}
	}
	in.Order = rapid.Permutation(OrderOf(in.Instruments...)).Draw(t, "order")
	return in
}

// RandomFact is work that was done then: mostly as it was planned, else somewhere else or with another material.
func RandomFact(t *rapid.T, done time.Time, places []schedule.Place) schedule.Fact {
	fact := schedule.Fact{End: done, Minutes: 20}
	if len(places) > 0 && rapid.IntRange(0, 3).Draw(t, "elsewhere") == 0 {
		fact.Place = rapid.SampledFrom(places).Draw(t, "done at").ID
	}
	if rapid.IntRange(0, 3).Draw(t, "otherwise") == 0 {
		fact.Material = Of(rapid.SampledFrom(RandomFamilies).Draw(t, "used"))
	}
	return fact
}
