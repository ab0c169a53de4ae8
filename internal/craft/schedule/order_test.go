package schedule

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/proptest"
)

func TestAnOrderIsUntangledAndNothingIsLost(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		r := must(Retime(randomShop(t).input())).r
		require.Len(t, r.order, len(r.units))
		sorted := slices.Sorted(slices.Values(r.order))
		for i, u := range sorted {
			require.EqualValues(t, i, u, "every run has one place")
		}
		place := make([]int, len(r.units))
		for at, u := range r.order {
			place[u] = at
		}
		for i := range r.nodes {
			for _, l := range r.nodes[i].links {
				require.LessOrEqual(t, place[r.unitOf[l.from]], place[r.unitOf[i]], "nothing comes before what it waits for")
			}
		}
	})
}

func TestWhatTheOrderDoesNotNameComesLast(t *testing.T) {
	named := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}))
	other := instrumentOf("Knot", "2026-06-01", pieceOf("knot", Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}))
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{other, named}, Order: orderOf(named)})
	assert.True(t, nth(t, p, "curlew", 1).Start.Before(nth(t, p, "knot", 1).Start))
}

func TestRunsAreWhatHardWindowsJoin(t *testing.T) {
	in := asked{Now: at("2026-03-10 09:00"), Instruments: one(Step{Step: job.Step{Kind: Sand}}, coats("flake-clear", 3), Step{Step: job.Step{Kind: Inspect}}, coats("water-clear", 2))}
	r := must(Retime(in.input())).r
	var sizes []int32
	for _, u := range r.units {
		sizes = append(sizes, u.to-u.from)
	}
	assert.Equal(t, []int32{1, 3, 1, 1, 1}, sizes)
}

// TestStartedAtItsLatestAPromiseHolds begins an instrument at its latest start,
// alone in the shop, and keeps its promise.
func TestStartedAtItsLatestAPromiseHolds(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		var steps []Step
		for range rapid.IntRange(1, 7).Draw(t, "steps") {
			switch rapid.IntRange(0, 3).Draw(t, "kind") {
			case 0:
				steps = append(steps, Step{Step: job.Step{Kind: Sand, HandsOnMin: minutesOf(rapid.IntRange(5, 200).Draw(t, "sand"))}})
			case 1:
				steps = append(steps, Step{Step: job.Step{Kind: Inspect, HandsOnMin: 10}})
			case 2:
				steps = append(steps, Step{Step: job.Step{Kind: Level, Film: material.Sand, HandsOnMin: minutesOf(rapid.IntRange(5, 60).Draw(t, "level"))}})
			default:
				family := rapid.SampledFrom([]string{"nitro", "dewaxed-shellac", "water-dye"}).Draw(t, "family")
				steps = append(steps, coats(family, rapid.IntRange(1, 4).Draw(t, "coats")))
			}
		}
		in := asked{Now: at("2026-03-10 10:00"), Margin: 1.25, Calendar: rapid.SampledFrom([]*calendar.Calendar{nineToSix(), lunch(), weekdays(calendar.Hours{Open: 18 * 60, Close: 21 * 60})}).Draw(t, "hours"),
			Instruments: []Instrument{instrumentOf("Curlew", "2026-06-30", pieceOf("body", steps...))}}
		p := must(Retime(in.input()))
		latest := p.LatestStart(0)
		require.False(t, latest.IsZero())
		require.False(t, latest.Before(p.Now))
		in.Now = latest
		kept := must(Retime(in.input()))
		require.False(t, kept.Forecasts[0].Late(), "started %s it is ready %s", latest, kept.Forecasts[0].Finish)
	})
}
