package schedule

import (
	"fmt"
	"time"

	"github.com/google/uuid"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// randomZone is a time zone, most with daylight saving, one that shifts by half an
// hour and two whose hours begin at half past elsewhere.
func randomZone(t *rapid.T) *time.Location {
	name := rapid.SampledFrom([]string{"Europe/Berlin", "Australia/Lord_Howe", "Asia/Kolkata", "America/St_Johns"}).Draw(t, "zone")
	return must(time.LoadLocation(name))
}

// randomHours are the hours of a whole shop.
func randomHours(t *rapid.T, zone *time.Location) *calendar.Calendar {
	return rapid.SampledFrom([]*calendar.Calendar{weekdaysIn(zone, calendar.Hours{Open: 9 * 60, Close: 18 * 60}), alwaysIn(zone), weekdaysIn(zone, calendar.Hours{Open: 18 * 60, Close: 22 * 60}),
		weekdaysIn(zone, calendar.Hours{Open: 8 * 60, Close: 12 * 60}, calendar.Hours{Open: 13 * 60, Close: 17*60 + 30})}).Draw(t, "hours")
}

// randomOwn are a person's own hours, or none.
func randomOwn(t *rapid.T, zone *time.Location) *calendar.Calendar {
	var days [7][]calendar.Hours
	days[time.Tuesday], days[time.Thursday] = []calendar.Hours{{Open: 8 * 60, Close: 21 * 60}}, []calendar.Hours{{Open: 8 * 60, Close: 21 * 60}}
	return rapid.SampledFrom([]*calendar.Calendar{nil, nil, weekdaysIn(zone, calendar.Hours{Open: 10*60 + 20, Close: 20 * 60}), must(calendar.New(zone, days, nil))}).Draw(t, "own hours")
}

// randomPlaces are a bench, a booth and a drying room that share airs, hooks and
// room in many ways; or nothing that anybody watches.
func randomPlaces(t *rapid.T, zone *time.Location) []Place {
	if rapid.IntRange(0, 3).Draw(t, "watched") == 0 {
		return nil
	}
	var room *climate.Room
	if rapid.Bool().Draw(t, "climate") {
		night := climate.Air{Temperature: unit.Celsius(rapid.IntRange(6, 20).Draw(t, "night")), Humidity: unit.Percent(rapid.IntRange(40, 80).Draw(t, "damp"))}
		day := climate.Air{Temperature: unit.Celsius(rapid.IntRange(18, 28).Draw(t, "day")), Humidity: 50}
		var knots []climate.Knot
		for d := range 7 {
			knots = append(knots, climate.Knot{Hour: d*24 + 5, Air: night}, climate.Knot{Hour: d*24 + 14, Air: day})
		}
		room = must(climate.NewRoom(zone, must(climate.ProfileOf(knots, [12]climate.Shift{})), nil))
	}
	bench := Place{ID: id("bench"), Name: "the bench", Kind: Bench, Air: "shop", Room: room, Capacity: rapid.IntRange(0, 3).Draw(t, "bench")}
	booth := Place{ID: id("booth"), Name: "the booth", Kind: Booth, Air: rapid.SampledFrom([]string{"shop", "booth"}).Draw(t, "air"), Room: room,
		Capacity: rapid.IntRange(1, 2).Draw(t, "booth"), HangsIn: id("rack")}
	if rapid.Bool().Draw(t, "booth hours") {
		booth.Calendar = weekdaysIn(zone, calendar.Hours{Open: 10 * 60, Close: 20 * 60})
	}
	rack := Place{ID: id("rack"), Name: "the rack", Kind: "drying", Room: room, Hooks: rapid.SampledFrom([]int{0, 0, 2, 3}).Draw(t, "hooks"),
		Air: rapid.SampledFrom([]string{"", "shop"}).Draw(t, "hanging air")}
	return []Place{bench, booth, rack}
}

var randomFamilies = []string{"water-clear", "hardwax-oil", "nitro", "water-dye", "dewaxed-shellac", "water-filler", "flake-clear", "polyester-uv", "urethane-2k"}

func randomStep(t *rapid.T, first bool) Step {
	kind := rapid.SampledFrom([]Kind{Sand, Coat, Coat, Coat, MaskOn, MaskOff, Level, Inspect, Gate}).Draw(t, "kind")
	step := Step{Step: job.Step{Kind: kind, HandsOnMin: unit.Minutes(rapid.IntRange(5, 110).Draw(t, "minutes"))}}
	switch kind {
	case Coat:
		step.Material, step.Coats = of(rapid.SampledFrom(randomFamilies).Draw(t, "family")), rapid.IntRange(1, 4).Draw(t, "coats")
		step.Method = rapid.SampledFrom([]material.Method{material.Spray, material.Wipe}).Draw(t, "method")
		step.SetUpMin = min(step.HandsOnMin, unit.Minutes(rapid.IntRange(0, 20).Draw(t, "set-up")))
		if !first && rapid.IntRange(0, 5).Draw(t, "within") == 0 {
			step.Within = &Within{AfterMin: 2, BeforeMin: 12}
		}
	case Level, Gate:
		step.Film = rapid.SampledFrom([]material.Milestone{material.Sand, material.Handle}).Draw(t, "film")
		if kind == Gate && rapid.IntRange(0, 3).Draw(t, "glue") == 0 {
			step.Film, step.Glue = "", &Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240, FullMin: 1440}
		}
	case Sand:
		if rapid.Bool().Draw(t, "divided") {
			step.HandsOnMin, step.Divide = step.HandsOnMin+40, &Divide{LeastMin: 20}
		}
	}
	return step
}

// randomRegions are some of the three regions of a piece, in any order.
func randomRegions(t *rapid.T, piece string) []uuid.UUID {
	regions := []uuid.UUID{id(piece + " top"), id(piece + " back"), id(piece + " sides")}
	shuffled := rapid.Permutation(regions).Draw(t, "regions")
	return shuffled[:rapid.SampledFrom([]int{3, 3, 2, 1}).Draw(t, "regions of it")]
}

// randomShop draws a shop of some instruments with some of the work done.
func randomShop(t *rapid.T) asked {
	zone := randomZone(t)
	in := asked{
		Now:      at("2026-03-24 11:07").Add(time.Duration(rapid.IntRange(0, 20000).Draw(t, "minutes on")) * time.Minute),
		Margin:   rapid.SampledFrom([]float64{1, 1.25, 2}).Draw(t, "margin"),
		Calendar: randomHours(t, zone), Places: randomPlaces(t, zone), People: rapid.IntRange(1, 3).Draw(t, "people"),
		Facts: make(map[Event]Fact), Pins: make(map[Event]time.Time),
	}
	for range in.People - 1 { // one is there whenever the shop is, so that there is somebody
		in.Own = append(in.Own, randomOwn(t, zone))
	}
	for i := range rapid.IntRange(1, 4).Draw(t, "instruments") {
		var pieces []Piece
		for p := range rapid.IntRange(1, 2).Draw(t, "pieces") {
			name := fmt.Sprintf("piece %d.%d", i, p)
			var steps []Step
			for s := range rapid.IntRange(1, 8).Draw(t, "steps") {
				steps = append(steps, randomStep(t, s == 0))
				steps[s].Regions = randomRegions(t, name)
			}
			pieces = append(pieces, pieceOf(name, steps...))
		}
		in.Instruments = append(in.Instruments, instrumentOf(fmt.Sprintf("job %d", i), "2026-05-01", pieces...))
		done := in.Now.Add(-200 * time.Hour)
		events := orderOf(in.Instruments[i])
		for _, event := range events[:rapid.IntRange(0, 3).Draw(t, "done")%len(events)] {
			done = done.Add(7 * time.Hour)
			in.Facts[event] = Fact{End: done, Minutes: 20}
		}
		if rapid.IntRange(0, 4).Draw(t, "pinned") == 0 {
			in.Pins[rapid.SampledFrom(events).Draw(t, "pin")] = in.Now.Add(time.Duration(rapid.IntRange(0, 200).Draw(t, "pin in h")) * time.Hour)
		}
	}
	in.Order = rapid.Permutation(orderOf(in.Instruments...)).Draw(t, "order")
	return in
}
