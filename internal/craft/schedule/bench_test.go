package schedule

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"testing"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/unit"
)

// heatedRoom is a room that cools at night and was measured every half hour for
// the last week.
func heatedRoom(now time.Time) *climate.Room {
	var knots []climate.Knot
	for day := range 7 {
		knots = append(knots, climate.Knot{Hour: day*24 + 6, Air: climate.Air{Temperature: 17, Humidity: 55}}, climate.Knot{Hour: day*24 + 15, Air: climate.Air{Temperature: 21, Humidity: 48}})
	}
	var readings []climate.Reading
	for h := range 336 {
		readings = append(readings, climate.Reading{At: now.Add(-time.Duration(h) * 30 * time.Minute),
			Air: climate.Air{Temperature: 19 + unit.Celsius(h%48)/24, Humidity: 50}})
	}
	return must(climate.NewRoom(berlin, must(climate.ProfileOf(knots, [12]climate.Shift{})), readings))
}

// sharedPlaces is a bench and a booth for two pieces at a time that is free on
// four days of the week.
func sharedPlaces(now time.Time) []Place {
	var days [7][]calendar.Hours
	for day := time.Monday; day <= time.Thursday; day++ {
		days[day] = []calendar.Hours{{Open: 8 * 60, Close: 18 * 60}}
	}
	room := heatedRoom(now)
	return []Place{
		{ID: id("bench"), Name: "the bench", Kind: Bench, Air: "shop", Room: room},
		{ID: id("booth"), Name: "the booth", Kind: Booth, Air: "booth", Capacity: 2, HangsIn: id("rack"), Room: room, Calendar: must(calendar.New(berlin, days, nil))},
		{ID: id("rack"), Name: "the drying room", Kind: "drying", Air: "rack", Room: room},
		{ID: id("wheel"), Name: "the wheel", Kind: Wheel, Air: "wheel", Capacity: 1, Room: room},
	}
}

func benchmarkShop(instruments int) Input {
	now := at("2026-03-10 10:00")
	in := asked{Now: now, Calendar: nineToSix(), Margin: 1.25, People: 1, Places: sharedPlaces(now)}
	if instruments >= 20 {
		in.People = 5
	}
	for i := range instruments {
		promise := must(calendar.ParseDay("2026-06-01")).AddDays(i * 3 / 2)
		in.Instruments = append(in.Instruments, instrumentOf(fmt.Sprintf("job %d", i), promise.String(),
			bodyOf(fmt.Sprintf("body %d", i)), bodyOf(fmt.Sprintf("neck %d", i))))
	}
	in.Order = orderOf(in.Instruments...)
	return in.input()
}

func benchmarkRetime(b *testing.B, instruments int) {
	in := benchmarkShop(instruments)
	must(Retime(in)) // a shop that has planned before knows its clocks and hours
	b.ReportAllocs()
	for b.Loop() {
		if _, err := Retime(in); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(len(in.Order)), "events")
}

func BenchmarkRetimeOne(b *testing.B)        { benchmarkRetime(b, 1) }
func BenchmarkRetimeTwenty(b *testing.B)     { benchmarkRetime(b, 20) }
func BenchmarkRetimeTwoHundred(b *testing.B) { benchmarkRetime(b, 200) }

// BenchmarkAfterOneEntry is a shop of 200 where five people are at work and one
// of them logs what is done.
func BenchmarkAfterOneEntry(b *testing.B) {
	in := benchmarkShop(200)
	first := must(Retime(in)).Events
	slices.SortStableFunc(first, func(a, b Planned) int { return a.Start.Compare(b.Start) })
	in.Begun = make(map[Event]time.Time)
	for _, e := range first[:5] {
		in.Begun[e.Event] = e.Start
	}
	in.Now = first[0].End.Add(-time.Minute)
	before := must(Retime(in))
	in.Begun = maps.Clone(in.Begun)
	delete(in.Begun, first[0].Event)
	in.Now = first[0].End
	taken := 0
	b.ReportAllocs()
	for b.Loop() {
		in.Facts = map[Event]Fact{first[0].Event: {End: in.Now, Minutes: 150}}
		taken = must(before.Retime(in)).taken()
	}
	b.ReportMetric(float64(taken), "taken-over")
}

func BenchmarkProposeTwoHundred(b *testing.B) {
	in := benchmarkShop(200)
	var last Proposal
	for b.Loop() {
		last = must(Propose(in, Effort{Seed: 1}))
	}
	bound := last.Plan.LowerBoundLate()
	b.ReportMetric(float64(last.Tried), "orders")
	b.ReportMetric(last.Before.DaysLate, "days-late-before")
	b.ReportMetric(last.After.DaysLate, "days-late-after")
	b.ReportMetric(last.After.DaysLate-bound, "gap-to-bound")
}

// BenchmarkGrowth prints how retiming grows from 50 to 400 instruments: the
// exponent of time over size.
func BenchmarkGrowth(b *testing.B) {
	sizes := []int{50, 100, 200, 400}
	took := make([]float64, len(sizes))
	for i, size := range sizes {
		in := benchmarkShop(size)
		b.Run(fmt.Sprint(size), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				must(Retime(in))
			}
			took[i] = b.Elapsed().Seconds() / float64(b.N)
			if i > 0 && took[0] > 0 {
				b.ReportMetric(math.Log(took[i]/took[0])/math.Log(float64(size)/float64(sizes[0])), "exponent")
			}
		})
	}
}

func BenchmarkChance(b *testing.B) {
	today := must(Retime(benchmarkShop(20)))
	for b.Loop() {
		must(today.Chances(Learned{}, 1, 10, nil))
	}
}

// BenchmarkMoveByHand is what a hand waits for that moves a sitting in a shop of 200:
// where it may be put over twelve weeks, and what each place would do.
func BenchmarkMoveByHand(b *testing.B) {
	in := benchmarkShop(200)
	today := must(Retime(in))
	e := today.Events[len(today.Events)/2]
	b.Run("starts", func(b *testing.B) {
		for b.Loop() {
			today.Starts(e.Event, in.Now.AddDate(0, 0, 84))
		}
	})
	b.Run("what-if", func(b *testing.B) {
		pinned := in
		pinned.Pins = map[Event]time.Time{e.Event: e.Start.AddDate(0, 0, 7)}
		for b.Loop() {
			must(WhatIf(today, pinned, false))
		}
	})
}

// taken counts the events that were taken over from the plan before.
func (p *Plan) taken() int {
	n := 0
	for i := range p.r.dates {
		if p.r.dates[i].copied {
			n++
		}
	}
	return n
}
