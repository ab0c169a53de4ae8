package schedule_test

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"testing"
	"time"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

func benchmarkRetime(b *testing.B, instruments int) {
	in := BenchmarkShop(instruments)
	Must(schedule.Retime(in)) // a shop that has planned before knows its clocks and hours
	b.ReportAllocs()
	for b.Loop() {
		if _, err := schedule.Retime(in); err != nil {
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
	in := BenchmarkShop(200)
	first := Must(schedule.Retime(in)).Events
	slices.SortStableFunc(first, func(a, b schedule.Planned) int { return a.Start.Compare(b.Start) })
	in.Begun = make(map[schedule.Event]time.Time)
	for _, e := range first[:5] {
		in.Begun[e.Event] = e.Start
	}
	in.Now = first[0].End.Add(-time.Minute)
	before := Must(schedule.Retime(in))
	in.Begun = maps.Clone(in.Begun)
	delete(in.Begun, first[0].Event)
	in.Now = first[0].End
	taken := 0
	b.ReportAllocs()
	for b.Loop() {
		in.Facts = map[schedule.Event]schedule.Fact{first[0].Event: {End: in.Now, Minutes: 150}}
		taken = Must(before.Retime(in)).TakenOver()
	}
	b.ReportMetric(float64(taken), "taken-over")
}

// BenchmarkGrowth prints how retiming grows from 50 to 400 instruments: the
// exponent of time over size.
func BenchmarkGrowth(b *testing.B) {
	sizes := []int{50, 100, 200, 400}
	took := make([]float64, len(sizes))
	for i, size := range sizes {
		in := BenchmarkShop(size)
		b.Run(fmt.Sprint(size), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				Must(schedule.Retime(in))
			}
			took[i] = b.Elapsed().Seconds() / float64(b.N)
			if i > 0 && took[0] > 0 {
				b.ReportMetric(math.Log(took[i]/took[0])/math.Log(float64(size)/float64(sizes[0])), "exponent")
			}
		})
	}
}

// BenchmarkMoveByHand is what a hand waits for that moves a sitting in a shop of 200:
// where it may be put over twelve weeks.
func BenchmarkMoveByHand(b *testing.B) {
	in := BenchmarkShop(200)
	today := Must(schedule.Retime(in))
	e := today.Events[len(today.Events)/2]
	b.Run("starts", func(b *testing.B) {
		for b.Loop() {
			explain.Starts(today, e.Event, in.Now.AddDate(0, 0, 84))
		}
	})
}
