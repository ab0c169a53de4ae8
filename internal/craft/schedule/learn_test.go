package schedule_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

func TestLearnPace(t *testing.T) {
	assert.Equal(t, schedule.DefaultPace, schedule.LearnPace(nil))
	slow := schedule.LearnPace([]float64{1.5, 1.5, 1.5, 1.5, 1.5, 1.5, 1.5})
	assert.InDelta(t, 1.33, slow.Median, 0.02, "seven against a prior of three")
	assert.Equal(t, 7, slow.Observations)
}

func TestWhatTestsAndMinutesTeach(t *testing.T) {
	in := Asked{Now: At("2026-03-14 09:00"), Calendar: Always(), Places: InRoom(Steady(20, 50)),
		Instruments: One(Coats("water-clear", 3), schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Sand, HandsOnMin: 60}})}
	steps := in.Instruments[0].Pieces[0].Steps
	in.Facts = map[schedule.Event]schedule.Fact{}
	for n, event := range steps[0].Events() {
		end := At("2026-03-10 09:00").Add(time.Duration(n) * 24 * time.Hour)
		in.Facts[event] = schedule.Fact{End: end, Minutes: 45}
		in.Tests = append(in.Tests, schedule.Test{event, material.Sand, end.Add(5 * time.Hour), false},
			schedule.Test{event, material.Sand, end.Add(6 * time.Hour), true})
	}
	learned := Must(schedule.Retime(in.Input())).Learned()
	factor := learned.Factors["water-clear"]
	assert.Equal(t, 6, factor.Observations)
	assert.InDelta(t, 1.37, factor.Median, 0.08, "between five and six hours of a sheet's four")
	assert.Equal(t, factor, learned.Milestones["water-clear"][material.Sand])
	assert.Equal(t, 3, learned.Pace[schedule.Coat].Observations, "45 minutes for a planned half hour")
	assert.Greater(t, learned.Pace[schedule.Coat].Median, 1.15)
	assert.Empty(t, learned.Pace[schedule.Level])
}

// What does not hold: each of these is true of the rules, not a fault.

func TestAWarmerRoomMayFinishLater(t *testing.T) {
	// Cool, the second coat is only ready next morning, within its slow window. Warm,
	// the window has closed overnight, and the film must be scuffed, which waits in turn.
	finish := func(temperature float64) time.Time {
		clear := Coats("binder-stain", 2)
		clear.HandsOnMin = 60
		hours := Weekdays(calendar.Hours{Open: 9 * 60, Close: 11 * 60})
		p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Calendar: hours, Margin: 1, Places: InRoom(Steady(temperature, 50)),
			Instruments: One(clear)})
		return p.Forecasts[0].Finish
	}
	assert.True(t, finish(30).After(finish(20)), "30 °C: %s, 20 °C: %s", finish(30), finish(20))
}

func TestALaterStartMayFinishEarlier(t *testing.T) {
	// A coat on Friday evening misses its window over the weekend and is scuffed on
	// Monday; begun on Monday it needs no scuff.
	finish := func(now string) time.Time {
		clear := Coats("water-clear", 2)
		clear.HandsOnMin, clear.ScuffMin = 30, 200
		return Plan(t, Asked{Now: At(now), Margin: 1, Instruments: One(clear)}).Forecasts[0].Finish
	}
	assert.True(t, finish("2026-03-13 17:00").After(finish("2026-03-16 09:00")))
}

func TestDatesAndChancesRestOnTheSameFactors(t *testing.T) {
	// Tested soft twice at a time and a half, this clear is slow here: every coat of it
	// waits longer than the margin, and the draws are made round that.
	steps := PieceOf("curlew", Coats("water-clear", 4))
	in := Asked{Now: At("2026-03-12 09:00"), Calendar: Always(),
		Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-06-01", steps)}}
	events := OrderOf(in.Instruments...)
	in.Facts = map[schedule.Event]schedule.Fact{events[0]: {End: At("2026-03-11 09:00"), Minutes: 30}}
	sheet := Plan(t, in)
	for range 3 {
		in.Tests = append(in.Tests, schedule.Test{events[0], material.Sand, At("2026-03-11 15:00"), false})
	}
	slow := Plan(t, in)
	factor := slow.Learned().Factors["water-clear"].Median
	assert.Greater(t, factor, 1.4)
	gap := func(p *schedule.Plan) float64 {
		return Nth(t, p, "curlew", 3).Start.Sub(Nth(t, p, "curlew", 2).End).Hours()
	}
	assert.InDelta(t, 2, gap(sheet), 0.02)
	assert.InDelta(t, 2*factor, gap(slow), 0.02, "the dates wait as long as was learned")
	in.Factors = map[string]float64{"water-clear": 1.1}
	assert.InDelta(t, 2.2, gap(Plan(t, in)), 0.02, "unless a file says otherwise")
	again := slow
	in.Factors = nil
	again = Must(slow.Retime(in.Input()))
	assert.InDelta(t, 2*factor, gap(again), 0.02)
}
