package schedule_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/unit"
)

func TestWaitTable(t *testing.T) {
	clear := func() schedule.Step { return Coats("water-clear", 1) }
	for name, test := range map[string]struct {
		below, next schedule.Step
		hours       float64
	}{
		"same product":        {clear(), clear(), 2},
		"another product":     {clear(), Coats("dewaxed-shellac", 1), 24},
		"scuff":               {clear(), schedule.Step{Step: job.Step{Kind: schedule.Scuff}}, 4},
		"sand":                {clear(), schedule.Step{Step: job.Step{Kind: schedule.Sand}}, 4},
		"interim levelling":   {clear(), schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Sand}}, 4},
		"levelling for gloss": {clear(), schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Buff}}, 336},
		"tape off":            {clear(), schedule.Step{Step: job.Step{Kind: schedule.MaskOff}}, 0.5},
		"tape on over film":   {clear(), schedule.Step{Step: job.Step{Kind: schedule.MaskOn}}, 24},
		"handle":              {clear(), schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.Handle}}, 24},
		"first stringing": {clear(), schedule.Step{Step: job.Step{Kind: schedule.Gate, Terms: schedule.Terms{Strings: true}}},
			336},
		"stringing over a slow film": {Coats("wipe-varnish", 1),
			schedule.Step{Step: job.Step{Kind: schedule.Gate, Terms: schedule.Terms{Strings: true}}}, 504},
		"stringing over oil": {Coats("drying-oil", 1),
			schedule.Step{Step: job.Step{Kind: schedule.Gate, Terms: schedule.Terms{Strings: true}}}, 336},
		"delivery":                  {clear(), schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.FullCure}}, 720},
		"a gate that names none":    {clear(), schedule.Step{Step: job.Step{Kind: schedule.Gate}}, 24},
		"levelling that names none": {clear(), schedule.Step{Step: job.Step{Kind: schedule.Level}}, 336},
		"buffing that names none":   {clear(), schedule.Step{Step: job.Step{Kind: schedule.Buff}}, 336},
	} {
		t.Run(name, func(t *testing.T) {
			in := InstrumentOf("Curlew", "2027-01-01", PieceOf("body", test.below, test.next))
			p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Calendar: Always(), Instruments: []schedule.Instrument{in}})
			assert.Equal(t, test.hours, Nth(t, p, "body", 2).Start.Sub(Nth(t, p, "body", 1).End).Hours())
		})
	}
}

func TestMarginStretchesEveryWait(t *testing.T) {
	in := InstrumentOf("Curlew", "2027-01-01", PieceOf("body", Coats("water-clear", 2)))
	p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Margin: 1.25, Instruments: []schedule.Instrument{in}})
	assert.Equal(t, At("2026-03-10 13:00"), Nth(t, p, "body", 2).Start) // 10:30 + 2 h × 1.25
	assert.Equal(t, "Coat 1 of 2, waterborne clear is dry enough to recoat from 13:00.",
		unit.Unmarked(explain.Sentence(p, Nth(t, p, "body", 2).Event)))
	shown, found := explain.Working(p, Nth(t, p, "body", 2).Event)
	require.True(t, found)
	assert.Equal(t, "2 h 30 min, until 13:00", unit.Unmarked(shown.Result))
	assert.True(t, shown.Estimate)
}

func TestFinishingWorkWaitsForEveryFilmBelow(t *testing.T) {
	in := InstrumentOf("Curlew", "2027-01-01", PieceOf("body",
		Coats("drying-oil", 1), Coats("shellac", 1), schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.FullCure}}))
	p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Calendar: Always(), Instruments: []schedule.Instrument{in}})
	oil, strings := Nth(t, p, "body", 1), Nth(t, p, "body", 3)
	assert.GreaterOrEqual(t, strings.Start.Sub(oil.End), 720*time.Hour)
	assert.GreaterOrEqual(t, strings.Start.Sub(Nth(t, p, "body", 2).End), 672*time.Hour)
}

func TestCoatsPerDayAndOvernightRest(t *testing.T) {
	in := InstrumentOf("Curlew", "2027-01-01", PieceOf("body", Coats("water-clear", 5)))
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{in}})
	var days []string
	for n := 1; n <= 5; n++ {
		days = append(days, Nth(t, p, "body", n).Start.In(Berlin).Format("Mon 15:04"))
	}
	assert.Equal(t, []string{"Tue 09:00", "Tue 11:30", "Tue 14:00", "Wed 09:00", "Wed 11:30"}, days)
	assert.Equal(t, "Ready Wed 11 Mar 04:00, but the shop is closed until Wed 11 Mar 09:00.",
		unit.Unmarked(explain.Sentence(p, Nth(t, p, "body", 4).Event)))
}

func TestTheShopDayTurnsAtFour(t *testing.T) {
	in := InstrumentOf("Curlew", "2027-01-01", PieceOf("body", Coats("water-clear", 4)))
	p := Plan(t, Asked{Now: At("2026-03-10 19:00"), Calendar: Always(), Instruments: []schedule.Instrument{in}})
	assert.Equal(t, At("2026-03-11 00:00"), Nth(t, p, "body", 3).Start, "midnight still counts with the evening")
	assert.Equal(t, At("2026-03-11 10:30"), Nth(t, p, "body", 4).Start, "three coats, then ten hours of rest")
	assert.Equal(t, schedule.Overnight, Nth(t, p, "body", 4).Because.Cause)
}

func TestOnePairOfHands(t *testing.T) {
	curlew := InstrumentOf("Curlew", "2027-01-01", PieceOf("curlew body",
		schedule.Step{Step: job.Step{Kind: schedule.Sand, Title: "Sand", HandsOnMin: 60}}))
	knot := InstrumentOf("Knot", "2027-01-01", PieceOf("knot body",
		schedule.Step{Step: job.Step{Kind: schedule.Sand, Title: "Sand", HandsOnMin: 60}}))
	in := Asked{Now: At("2026-03-10 10:00"), Instruments: []schedule.Instrument{curlew, knot}, Order: OrderOf(knot, curlew)}
	p := Plan(t, in)
	assert.Equal(t, At("2026-03-10 10:00"), Nth(t, p, "knot body", 1).Start, "the order decides, not the list")
	second := Nth(t, p, "curlew body", 1)
	assert.Equal(t, At("2026-03-10 11:00"), second.Start)
	assert.Equal(t, At("2026-03-10 10:00"), second.Open)
	assert.Equal(t, "Hands are busy with Knot knot body, “Sand”, until 11:00.", unit.Unmarked(explain.Sentence(p, second.Event)))
}

func TestLaterWorkFillsTheGapsOfDrying(t *testing.T) {
	curlew := InstrumentOf("Curlew", "2027-01-01", PieceOf("curlew body", Coats("water-clear", 2)))
	knot := InstrumentOf("Knot", "2027-01-01", PieceOf("knot body", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 90}}))
	p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Instruments: []schedule.Instrument{curlew, knot}, Order: OrderOf(curlew, knot)})
	assert.Equal(t, At("2026-03-10 10:30"), Nth(t, p, "knot body", 1).Start)
	assert.Equal(t, At("2026-03-10 12:30"), Nth(t, p, "curlew body", 2).Start)
}

func TestFactsReplaceThePlan(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body", Coats("water-clear", 3)))
	first := in.Pieces[0].Steps[0].Events()[0]
	before := Plan(t, Asked{Now: At("2026-03-10 10:00"), Instruments: []schedule.Instrument{in}})
	after := Plan(t, Asked{Now: At("2026-03-10 12:00"), Instruments: []schedule.Instrument{in},
		Facts: map[schedule.Event]schedule.Fact{first: {End: At("2026-03-10 11:50"), Minutes: 20}}})
	assert.True(t, Nth(t, after, "body", 1).Done)
	assert.Equal(t, At("2026-03-10 11:30"), Nth(t, after, "body", 1).Start)
	assert.Equal(t, At("2026-03-10 13:50"), Nth(t, after, "body", 2).Start)
	assert.True(t, Nth(t, after, "body", 2).Startable)
	assert.False(t, Nth(t, after, "body", 3).Startable)
	assert.Greater(t, before.Forecasts[0].Slack, after.Forecasts[0].Slack)
}

func TestAnEventLeftOpenIsStillToDo(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body", Coats("water-clear", 4)))
	events := in.Pieces[0].Steps[0].Events()
	p := Plan(t, Asked{Now: At("2026-03-10 15:00"), Instruments: []schedule.Instrument{in}, Facts: map[schedule.Event]schedule.Fact{
		events[0]: {End: At("2026-03-10 09:30")}, events[2]: {End: At("2026-03-10 12:00")}}})
	open, next := Nth(t, p, "body", 2), Nth(t, p, "body", 4)
	assert.False(t, open.Done)
	assert.Equal(t, At("2026-03-10 15:00"), open.Start)
	assert.False(t, next.Start.Before(open.End), "what follows still follows what was left open")
}

func TestASkippedCoatLeavesNoFilm(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body", Coats("water-clear", 1),
		schedule.Step{Step: job.Step{Kind: schedule.Scuff}}))
	event := in.Pieces[0].Steps[0].Events()[0]
	p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Instruments: []schedule.Instrument{in},
		Facts: map[schedule.Event]schedule.Fact{event: {End: At("2026-03-10 10:00"), Skipped: true}}})
	assert.Equal(t, At("2026-03-10 10:00"), Nth(t, p, "body", 2).Start)
}

func TestJointWaitsForBothPieces(t *testing.T) {
	body := PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 60}})
	neck := PieceOf("neck", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 120}})
	whole := PieceOf("whole", schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Bolt on",
		After: []uuid.UUID{body.Steps[0].ID, neck.Steps[0].ID}}})
	in := InstrumentOf("Curlew", "2026-03-20", body, neck, whole)
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{in}, Order: OrderOf(in)})
	joint := Nth(t, p, "whole", 1)
	assert.Equal(t, Nth(t, p, "neck", 1).End, joint.Start)
	assert.Equal(t, "Waits for the Curlew neck: “sand”, done by 12:00.", unit.Unmarked(explain.Sentence(p, joint.Event)))
}

func TestRestAfterWetting(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body",
		schedule.Step{Step: job.Step{Kind: schedule.Sand, Title: "Wet the grain", RestMin: 120}},
		schedule.Step{Step: job.Step{Kind: schedule.Sand}}))
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{in}})
	assert.Equal(t, At("2026-03-10 11:30"), Nth(t, p, "body", 2).Start)
	assert.Equal(t, "The piece rests after “Wet the grain” until 11:30.", unit.Unmarked(explain.Sentence(p, Nth(t, p, "body", 2).Event)))
}

func TestHandworkSpreadsOverEvenings(t *testing.T) {
	evenings := Weekdays(calendar.Hours{Open: 19 * 60, Close: 21 * 60})
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Level, HandsOnMin: 5 * 60}}))
	p := Plan(t, Asked{Now: At("2026-03-10 12:00"), Calendar: evenings, Instruments: []schedule.Instrument{in}})
	level := Nth(t, p, "body", 1)
	require.Len(t, level.Spans, 3)
	assert.Equal(t, At("2026-03-12 20:00"), level.End)
}

func TestWhatCannotBePlacedSaysWhy(t *testing.T) {
	evenings := Weekdays(calendar.Hours{Open: 19 * 60, Close: 20 * 60})
	long := Coats("water-clear", 1)
	long.HandsOnMin = 90
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body", long, schedule.Step{Step: job.Step{Kind: schedule.Scuff}}))
	p := Plan(t, Asked{Now: At("2026-03-10 12:00"), Calendar: evenings, Instruments: []schedule.Instrument{in}})
	assert.Contains(t, explain.Sentence(p, Nth(t, p, "body", 1).Event), "takes 1 h 30 min in one go")
	assert.Contains(t, Nth(t, p, "body", 2).Impossible, "comes after")
	assert.True(t, p.Forecasts[0].Late())

	waxed := InstrumentOf("Knot", "2026-03-20", PieceOf("knot body", Coats("paste-wax", 1),
		schedule.Step{Step: job.Step{Kind: schedule.Sand}}))
	p = Plan(t, Asked{Now: At("2026-03-10 12:00"), Instruments: []schedule.Instrument{waxed}})
	assert.Equal(t, "paste wax is never hard enough to sand", Nth(t, p, "knot body", 2).Impossible)
}

func TestSlackAndLatestStart(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-03-12", PieceOf("body", Coats("water-clear", 2)))
	p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Instruments: []schedule.Instrument{in}})
	f := p.Forecasts[0]
	assert.Equal(t, At("2026-03-10 13:00"), f.Finish)
	assert.Equal(t, At("2026-03-13 00:00").Sub(f.Finish), f.Slack)
	// the second coat 17:30 to 18:00 on the 12th, the first two hours earlier
	assert.Equal(t, At("2026-03-12 15:00"), p.LatestStart(0).In(Berlin))

	late := Plan(t, Asked{Now: At("2026-03-16 10:00"), Instruments: []schedule.Instrument{in}})
	assert.True(t, late.Forecasts[0].Late())
	assert.True(t, late.LatestStart(0).IsZero())
}

func TestLatestStartKeepsThePromise(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-05-29", BodyOf("body"))
	now := At("2026-03-10 10:00")
	latest := Plan(t, Asked{Now: now, Margin: 1.25, Instruments: []schedule.Instrument{in}}).LatestStart(0)
	require.False(t, latest.IsZero())
	kept := Plan(t, Asked{Now: latest, Margin: 1.25, Instruments: []schedule.Instrument{in}}).Forecasts[0]
	assert.False(t, kept.Late(), "started at %s it finishes %s", latest, kept.Finish)
}

func TestTooLittleOfTheDayIsLeft(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-03-20", PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))
	p := Plan(t, Asked{Now: At("2026-03-10 17:30"), Instruments: []schedule.Instrument{in}})
	assert.Equal(t, "Ready now, but then too little of the opening is left; the next begins Wed 11 Mar 09:00.",
		unit.Unmarked(explain.Sentence(p, Nth(t, p, "body", 1).Event)))
}

func TestValidateNamesTheStep(t *testing.T) {
	for want, step := range map[string]schedule.Step{
		"a coat needs a material":           {Step: job.Step{Kind: schedule.Coat, Title: "odd", Coats: 2}},
		"only coats and rounds are counted": {Step: job.Step{Kind: schedule.Sand, Title: "odd", Coats: 2}},
		"waits for a step that is":          {Step: job.Step{Kind: schedule.Gate, Title: "odd", After: []uuid.UUID{ID("nothing")}}},
		"minutes is not from 0":             {Step: job.Step{Kind: schedule.Sand, Title: "odd", HandsOnMin: 2000}},
	} {
		err := InstrumentOf("Curlew", "2026-03-12", PieceOf("body", step)).Validate()
		assert.ErrorContains(t, err, want)
		assert.ErrorContains(t, err, `Curlew body, step "odd"`)
	}
	assert.NoError(t, InstrumentOf("Curlew", "2026-03-12", BodyOf("body")).Validate())
}

func TestALatestStartIsPastWhenADoneCoatCuresTooLate(t *testing.T) {
	// The coat is on, and is cured a day after the promise: no start of what is left keeps it.
	clear := Coats("water-clear", 1)
	body := PieceOf("body", clear, schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.FullCure}})
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(),
		Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-03-20", body)},
		Facts:       map[schedule.Event]schedule.Fact{{Step: body.Steps[0].ID, Coat: 1}: {End: At("2026-03-10 08:00"), Minutes: 30}}}
	p := Plan(t, in)
	require.True(t, p.Forecasts[0].Late())
	assert.True(t, p.LatestStart(0).IsZero())
	assert.Contains(t, explain.LatestStart(p, 0).Result, "is past")
}
