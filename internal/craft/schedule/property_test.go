package schedule

import (
	"fmt"
	"sort"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// randomShop draws a shop of some instruments with some of the work done.
func randomShop(t *rapid.T) Input {
	families := []string{"water-clear", "hardwax-oil", "nitro", "water-dye", "dewaxed-shellac", "water-filler"}
	in := Input{
		Now:    at("2026-03-24 11:07").Add(time.Duration(rapid.IntRange(0, 20000).Draw(t, "minutes on")) * time.Minute),
		Margin: rapid.SampledFrom([]float64{1, 1.25, 2}).Draw(t, "margin"),
		Facts:  make(map[Event]Fact),
		Calendar: rapid.SampledFrom([]*Calendar{nineToSix(), always(), weekdays(Hours{19 * 60, 21 * 60}),
			weekdays(Hours{8 * 60, 12 * 60}, Hours{13 * 60, 17*60 + 30})}).Draw(t, "hours"),
	}
	for i := range rapid.IntRange(1, 4).Draw(t, "instruments") {
		var pieces []Piece
		for p := range rapid.IntRange(1, 2).Draw(t, "pieces") {
			var steps []Step
			for range rapid.IntRange(1, 8).Draw(t, "steps") {
				kind := rapid.SampledFrom([]Kind{Sand, Coat, Coat, Coat, MaskOn, MaskOff, Level, Inspect, Gate}).Draw(t, "kind")
				step := Step{Kind: kind, Minutes: unit.Minutes(rapid.IntRange(5, 110).Draw(t, "minutes"))}
				switch kind {
				case Coat:
					step.Material, step.Coats = of(rapid.SampledFrom(families).Draw(t, "family")), rapid.IntRange(1, 5).Draw(t, "coats")
				case Level, Gate:
					step.Film = rapid.SampledFrom([]material.Milestone{material.Sand, material.Handle}).Draw(t, "film")
				}
				steps = append(steps, step)
			}
			pieces = append(pieces, pieceOf(fmt.Sprintf("piece %d.%d", i, p), steps...))
		}
		in.Instruments = append(in.Instruments, instrumentOf(fmt.Sprintf("job %d", i), "2026-06-01", pieces...))
		done := in.Now.Add(-200 * time.Hour)
		for _, event := range orderOf(in.Instruments[i])[:rapid.IntRange(0, 3).Draw(t, "done")%len(orderOf(in.Instruments[i]))] {
			done = done.Add(7 * time.Hour)
			in.Facts[event] = Fact{End: done, Minutes: 20}
		}
	}
	in.Order = rapid.Permutation(orderOf(in.Instruments...)).Draw(t, "order")
	return in
}

func TestNoTwoEventsShareHandsAndAllIsInOpenHours(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := randomShop(t)
		p, err := Retime(in)
		require.NoError(t, err)
		var spans []Span
		for _, e := range p.Events {
			if e.Done || e.Impossible != "" {
				continue
			}
			assert.False(t, e.Start.Before(in.Now), "nothing is planned in the past")
			if e.Spans == nil {
				e.Spans = []Span{{e.Start, e.End}}
			}
			spans = append(spans, e.Spans...)
		}
		sort.Slice(spans, func(i, j int) bool { return spans[i].Start.Before(spans[j].Start) })
		for i, span := range spans {
			if i > 0 {
				require.False(t, span.Start.Before(spans[i-1].End), "two events share the same hands at %s", span.Start)
			}
			day := DayOf(span.Start.In(berlin))
			within := false
			for _, open := range in.Calendar.OpenOn(day) {
				within = within || (!span.Start.Before(open.Start) && !span.End.After(open.End))
			}
			require.True(t, within, "%s to %s is outside opening hours", span.Start, span.End)
		}
	})
}

// TestEveryWaitIsRespected checks the dates against waits worked out anew here,
// by walking each chain without the planner's own links.
func TestEveryWaitIsRespected(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := randomShop(t)
		p, err := Retime(in)
		require.NoError(t, err)
		for _, instrument := range in.Instruments {
			for _, piece := range instrument.Pieces {
				checkChain(t, in, p, piece)
			}
		}
	})
}

func checkChain(t *rapid.T, in Input, p *Plan, piece Piece) {
	var previous, film *Planned
	var under *material.Material
	day := make(map[string]int)
	for s := range piece.Steps {
		step := &piece.Steps[s]
		for _, event := range step.Events() {
			e, found := p.Find(event)
			require.True(t, found)
			if e.Impossible != "" {
				return
			}
			if previous != nil && !e.Done {
				require.False(t, e.Start.Before(previous.End), "%s begins before what it follows", step.EventTitle(event.Coat))
			}
			if film != nil && !e.Done {
				least := earliestHours(under, step) * in.Margin
				require.GreaterOrEqual(t, e.Start.Sub(film.End).Hours(), least-1e-9, "%s over %s", step.EventTitle(event.Coat), under.Name)
			}
			previous = &e
			if step.Kind == Coat {
				film, under = &e, step.Material
				key := step.Material.Key() + in.Calendar.ShopDay(e.Start).String()
				day[key]++
				if !e.Done {
					require.LessOrEqual(t, day[key], step.Material.CoatsPerDay(), "coats per day")
				}
			}
		}
	}
}

func earliestHours(under *material.Material, next *Step) float64 {
	milestone := map[Kind]material.Milestone{Scuff: material.Sand, Sand: material.Sand, MaskOff: material.TouchDry,
		MaskOn: material.Topcoat, Inspect: material.TouchDry, Level: next.Film, Gate: next.Film, Coat: material.Topcoat}[next.Kind]
	if next.Kind == Coat && next.Material.Key() == under.Key() {
		milestone = material.Recoat
	}
	limit, _ := under.Limit(milestone)
	hours, _ := limit.Hours()
	return hours
}

func TestTheSameInputGivesTheSameDates(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := randomShop(t)
		first, err := Retime(in)
		require.NoError(t, err)
		second, err := Retime(in)
		require.NoError(t, err)
		assert.Equal(t, first.Events, second.Events)
		assert.Equal(t, first.Forecasts, second.Forecasts)
	})
}

func TestFactsAreNeverMoved(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := randomShop(t)
		p, err := Retime(in)
		require.NoError(t, err)
		for event, fact := range in.Facts {
			e, _ := p.Find(event)
			assert.True(t, e.Done)
			assert.Equal(t, fact.End, e.End)
		}
	})
}

func benchmarkShop(instruments int) Input {
	in := Input{Now: at("2026-03-10 10:00"), Calendar: nineToSix(), Margin: 1.25}
	for i := range instruments {
		in.Instruments = append(in.Instruments, instrumentOf(fmt.Sprintf("job %d", i), "2026-12-01",
			bodyOf(fmt.Sprintf("body %d", i)), bodyOf(fmt.Sprintf("neck %d", i))))
	}
	in.Order = orderOf(in.Instruments...)
	return in
}

func benchmarkRetime(b *testing.B, instruments int) {
	in := benchmarkShop(instruments)
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
