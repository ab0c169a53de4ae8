package schedule

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// The limits of what a step and a shop may say: the last value that is taken, and the
// first one that is refused.
func TestLimitsOfAStep(t *testing.T) {
	gate := Step{Step: job.Step{Kind: Gate, Title: "odd"}}
	for name, limit := range map[string]struct {
		last, first func(*Step)
	}{
		"coats": {func(s *Step) { *s = coats("water-clear", 50) }, func(s *Step) { *s = coats("water-clear", 51) }},
		"a stretch of handwork": {
			func(s *Step) { *s = Step{Step: job.Step{Kind: Sand, Terms: Terms{Divide: &Divide{LeastMin: 5}}}} },
			func(s *Step) { *s = Step{Step: job.Step{Kind: Sand, Terms: Terms{Divide: &Divide{LeastMin: 4}}}} }},
		"rounds": {
			func(s *Step) { *s = coats("water-filler", 4); s.Repeat = &Repeat{Least: 1, Most: 50} },
			func(s *Step) { *s = coats("water-filler", 4); s.Repeat = &Repeat{Least: 1, Most: 51} }},
		"how late something on order comes": {
			func(s *Step) {
				s.Arrival = &Arrival{Expected: calendar.Day{Year: 2026, Month: 4, Date: 1}, SpreadDays: 366}
			},
			func(s *Step) {
				s.Arrival = &Arrival{Expected: calendar.Day{Year: 2026, Month: 4, Date: 1}, SpreadDays: 367}
			}},
		"coats a day": {
			func(s *Step) { *s = coats("water-clear", 4); s.PerDay = &PerDay{Coats: 50, Reason: "on purpose"} },
			func(s *Step) { *s = coats("water-clear", 4); s.PerDay = &PerDay{Coats: 51, Reason: "on purpose"} }},
		"a warm box": {
			func(s *Step) {
				*s = coats("water-clear", 1)
				s.Box = &Box{Air: climate.Reference, Minutes: 14 * 24 * 60}
			},
			func(s *Step) {
				*s = coats("water-clear", 1)
				s.Box = &Box{Air: climate.Reference, Minutes: 14*24*60 + 1}
			}},
		"full strength of a glue": {
			func(s *Step) { s.Glue = &Glue{ClampMin: 60, HandleMin: 120, FullMin: 60 * 24 * 60} },
			func(s *Step) { s.Glue = &Glue{ClampMin: 60, HandleMin: 120, FullMin: 60*24*60 + 1} }},
	} {
		step := gate
		limit.last(&step)
		assert.NoError(t, instrumentOf("Curlew", "2026-06-01", pieceOf("body", step)).Validate(), name)
		step = gate
		limit.first(&step)
		assert.Error(t, instrumentOf("Curlew", "2026-06-01", pieceOf("body", step)).Validate(), name)
	}
	follows := func(before int) error {
		return instrumentOf("Curlew", "2026-06-01", pieceOf("body", coats("shellac", 1), Step{Step: job.Step{Kind: Inspect, Terms: Terms{Within: &Within{AfterMin: 0, BeforeMin: minutesOf(before)}}}})).Validate()
	}
	assert.NoError(t, follows(8*60))
	assert.Error(t, follows(8*60+1), "a sitting has an end")
}

func TestLimitsOfAShop(t *testing.T) {
	for margin, fits := range map[float64]bool{0.99: false, 1: true, 3: true, 3.01: false} {
		_, err := NewShop(Setting{Calendar: always(), Margin: margin})
		assert.Equal(t, fits, err == nil, "a margin of %g", margin)
	}
	assert.Equal(t, 1.25, DefaultMargin, "rules §2")
}

func TestABoxEndsAndThePieceDriesOnWhereItHangs(t *testing.T) {
	// At 30 °C a two-pack goes twice as fast: six hours in the box are twelve of its
	// twenty-four, the other twelve it hangs at 20 °C.
	boxed := coats("urethane-2k", 1)
	boxed.Box = &Box{Air: climate.Air{Temperature: 30, Humidity: 50}, Minutes: 6 * 60}
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Places: inRoom(steady(20, 50)), Instruments: one(boxed, Step{Step: job.Step{Kind: Sand}})}
	assert.Equal(t, at("2026-03-11 03:30"), nth(t, plan(t, in), "body", 2).Start)
}

func TestHandworkIsSpreadFromAnHourUp(t *testing.T) {
	// Forty minutes are left of the day: an hour of sanding waits for one go, a minute more is spread.
	for minutes, start := range map[int]string{60: "2026-03-11 09:00", 61: "2026-03-10 17:20"} {
		in := asked{Now: at("2026-03-10 17:20"), Instruments: one(Step{Step: job.Step{Kind: Sand, HandsOnMin: minutesOf(minutes)}})}
		assert.Equal(t, at(start), nth(t, plan(t, in), "body", 1).Start, "%d min", minutes)
	}
}

func TestHalfOfAWipedCoatIsPutOn(t *testing.T) {
	// 121 minutes of a wiped filler are put on in 61 of them: the rest is wiping off, with the pot empty.
	filler := of("epoxy-filler")
	require.Positive(t, filler.Family.WipeBefore)
	n := node{step: &Step{Material: filler, Step: job.Step{Kind: Coat, HandsOnMin: 121, Method: material.Wipe}}}
	assert.EqualValues(t, 61, n.puttingOn())
	n.step.Method = material.Spray
	assert.EqualValues(t, 121, n.puttingOn())
}

func TestTimesAsPeopleSayThem(t *testing.T) {
	now := at("2026-03-10 12:00") // a Tuesday
	for when, said := range map[string]string{"2026-03-16 09:00": "Mon 09:00", "2026-03-17 09:00": "Tue 17 Mar", "2026-03-10 18:00": "tonight 18:00", "2026-03-10 17:59": "at 17:59"} {
		assert.Equal(t, said, Say(at(when), now, berlin))
	}
	assert.Equal(t, 1, calendar.DaysBetween(calendar.Day{Year: 2026, Month: 3, Date: 28}, calendar.Day{Year: 2026, Month: 3, Date: 29}), "the day before the clocks go on")
}

func TestAWindowThatIsShorterThanItsOwnWaitSaysHowLongThatIs(t *testing.T) {
	// A scuff would ruin flake. At a margin of 3 its window of a day closes after 8 hours;
	// here it has been learned to take twenty times its half an hour.
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Margin: 3, Factors: map[string]float64{"flake-clear": 20}, Instruments: one(coats("flake-clear", 2))}
	why := nth(t, plan(t, in), "body", 2).Impossible
	assert.Contains(t, why, "within 8 h of")
	assert.Contains(t, why, "for 10 h: a smaller margin or a product with a longer window")
}
