package schedule_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/proptest"
)

func TestAnOrderIsUntangledAndNothingIsLost(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		require.NoError(t, Must(schedule.Retime(RandomShop(t).Input())).CheckOrder())
	})
}

func TestWhatTheOrderDoesNotNameComesLast(t *testing.T) {
	named := InstrumentOf("Curlew", "2026-06-01", PieceOf("curlew", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))
	other := InstrumentOf("Knot", "2026-06-01", PieceOf("knot", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{other, named}, Order: OrderOf(named)})
	assert.True(t, Nth(t, p, "curlew", 1).Start.Before(Nth(t, p, "knot", 1).Start))
}

func TestRunsAreWhatHardWindowsJoin(t *testing.T) {
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: One(schedule.Step{Step: job.Step{Kind: schedule.Sand}}, Coats("flake-clear", 3),
		schedule.Step{Step: job.Step{Kind: schedule.Inspect}}, Coats("water-clear", 2))}
	var sizes []int
	for _, run := range Must(schedule.Retime(in.Input())).Runs() {
		sizes = append(sizes, len(run.Events))
	}
	assert.Equal(t, []int{1, 3, 1, 1, 1}, sizes)
}

// TestStartedAtItsLatestAPromiseHolds begins an instrument at its latest start,
// alone in the shop, and keeps its promise.
func TestStartedAtItsLatestAPromiseHolds(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		var steps []schedule.Step
		for range rapid.IntRange(1, 7).Draw(t, "steps") {
			switch rapid.IntRange(0, 3).Draw(t, "kind") {
			case 0:
				steps = append(steps, schedule.Step{Step: job.Step{Kind: schedule.Sand,
					HandsOnMin: MinutesOf(rapid.IntRange(5, 200).Draw(t, "sand"))}})
			case 1:
				steps = append(steps, schedule.Step{Step: job.Step{Kind: schedule.Inspect, HandsOnMin: 10}})
			case 2:
				steps = append(steps, schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Sand,
					HandsOnMin: MinutesOf(rapid.IntRange(5, 60).Draw(t, "level"))}})
			default:
				family := rapid.SampledFrom([]string{"nitro", "dewaxed-shellac", "water-dye"}).Draw(t, "family")
				steps = append(steps, Coats(family, rapid.IntRange(1, 4).Draw(t, "coats")))
			}
		}
		in := Asked{Now: At("2026-03-10 10:00"), Margin: 1.25,
			Calendar: rapid.SampledFrom([]*calendar.Calendar{NineToSix(), Lunch(),
				Weekdays(calendar.Hours{Open: 18 * 60, Close: 21 * 60})}).Draw(t, "hours"),
			Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-06-30", PieceOf("body", steps...))}}
		p := Must(schedule.Retime(in.Input()))
		latest := p.LatestStart(0)
		require.False(t, latest.IsZero())
		require.False(t, latest.Before(p.Now))
		in.Now = latest
		kept := Must(schedule.Retime(in.Input()))
		require.False(t, kept.Forecasts[0].Late(), "started %s it is ready %s", latest, kept.Forecasts[0].Finish)
	})
}
