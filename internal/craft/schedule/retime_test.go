package schedule

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

func TestWaitTable(t *testing.T) {
	clear := func() Step { return coats("water-clear", 1) }
	for name, test := range map[string]struct {
		below, next Step
		hours       float64
	}{
		"same product":               {clear(), clear(), 2},
		"another product":            {clear(), coats("dewaxed-shellac", 1), 24},
		"scuff":                      {clear(), Step{Step: job.Step{Kind: Scuff}}, 4},
		"sand":                       {clear(), Step{Step: job.Step{Kind: Sand}}, 4},
		"interim levelling":          {clear(), Step{Step: job.Step{Kind: Level, Film: material.Sand}}, 4},
		"levelling for gloss":        {clear(), Step{Step: job.Step{Kind: Level, Film: material.Buff}}, 336},
		"tape off":                   {clear(), Step{Step: job.Step{Kind: MaskOff}}, 0.5},
		"tape on over film":          {clear(), Step{Step: job.Step{Kind: MaskOn}}, 24},
		"handle":                     {clear(), Step{Step: job.Step{Kind: Gate, Film: material.Handle}}, 24},
		"first stringing":            {clear(), Step{Step: job.Step{Kind: Gate, Terms: Terms{Strings: true}}}, 336},
		"stringing over a slow film": {coats("wipe-varnish", 1), Step{Step: job.Step{Kind: Gate, Terms: Terms{Strings: true}}}, 504},
		"stringing over oil":         {coats("drying-oil", 1), Step{Step: job.Step{Kind: Gate, Terms: Terms{Strings: true}}}, 336},
		"delivery":                   {clear(), Step{Step: job.Step{Kind: Gate, Film: material.FullCure}}, 720},
		"a gate that names none":     {clear(), Step{Step: job.Step{Kind: Gate}}, 24},
		"levelling that names none":  {clear(), Step{Step: job.Step{Kind: Level}}, 336},
		"buffing that names none":    {clear(), Step{Step: job.Step{Kind: Buff}}, 336},
	} {
		t.Run(name, func(t *testing.T) {
			in := instrumentOf("Curlew", "2027-01-01", pieceOf("body", test.below, test.next))
			p := plan(t, asked{Now: at("2026-03-10 10:00"), Calendar: always(), Instruments: []Instrument{in}})
			assert.Equal(t, test.hours, nth(t, p, "body", 2).Start.Sub(nth(t, p, "body", 1).End).Hours())
		})
	}
}

func TestMarginStretchesEveryWait(t *testing.T) {
	in := instrumentOf("Curlew", "2027-01-01", pieceOf("body", coats("water-clear", 2)))
	p := plan(t, asked{Now: at("2026-03-10 10:00"), Margin: 1.25, Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-10 13:00"), nth(t, p, "body", 2).Start) // 10:30 + 2 h × 1.25
	assert.Equal(t, "Coat 1 of 2, waterborne clear is dry enough to recoat from 13:00.", p.Sentence(nth(t, p, "body", 2).Event))
	shown, found := p.Working(nth(t, p, "body", 2).Event)
	require.True(t, found)
	assert.Equal(t, "2 h 30 min, until 13:00", shown.Result)
	assert.True(t, shown.Estimate)
}

func TestFinishingWorkWaitsForEveryFilmBelow(t *testing.T) {
	in := instrumentOf("Curlew", "2027-01-01", pieceOf("body",
		coats("drying-oil", 1), coats("shellac", 1), Step{Step: job.Step{Kind: Gate, Film: material.FullCure}}))
	p := plan(t, asked{Now: at("2026-03-10 10:00"), Calendar: always(), Instruments: []Instrument{in}})
	oil, strings := nth(t, p, "body", 1), nth(t, p, "body", 3)
	assert.GreaterOrEqual(t, strings.Start.Sub(oil.End), 720*time.Hour)
	assert.GreaterOrEqual(t, strings.Start.Sub(nth(t, p, "body", 2).End), 672*time.Hour)
}

func TestCoatsPerDayAndOvernightRest(t *testing.T) {
	in := instrumentOf("Curlew", "2027-01-01", pieceOf("body", coats("water-clear", 5)))
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{in}})
	var days []string
	for n := 1; n <= 5; n++ {
		days = append(days, nth(t, p, "body", n).Start.In(berlin).Format("Mon 15:04"))
	}
	assert.Equal(t, []string{"Tue 09:00", "Tue 11:30", "Tue 14:00", "Wed 09:00", "Wed 11:30"}, days)
	assert.Equal(t, "Ready Wed 11 Mar 04:00, but the shop is closed until Wed 11 Mar 09:00.", p.Sentence(nth(t, p, "body", 4).Event))
}

func TestTheShopDayTurnsAtFour(t *testing.T) {
	in := instrumentOf("Curlew", "2027-01-01", pieceOf("body", coats("water-clear", 4)))
	p := plan(t, asked{Now: at("2026-03-10 19:00"), Calendar: always(), Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-11 00:00"), nth(t, p, "body", 3).Start, "midnight still counts with the evening")
	assert.Equal(t, at("2026-03-11 10:30"), nth(t, p, "body", 4).Start, "three coats, then ten hours of rest")
	assert.Equal(t, Overnight, nth(t, p, "body", 4).Because.Cause)
}

func TestOnePairOfHands(t *testing.T) {
	curlew := instrumentOf("Curlew", "2027-01-01", pieceOf("curlew body", Step{Step: job.Step{Kind: Sand, Title: "Sand", HandsOnMin: 60}}))
	knot := instrumentOf("Knot", "2027-01-01", pieceOf("knot body", Step{Step: job.Step{Kind: Sand, Title: "Sand", HandsOnMin: 60}}))
	in := asked{Now: at("2026-03-10 10:00"), Instruments: []Instrument{curlew, knot}, Order: orderOf(knot, curlew)}
	p := plan(t, in)
	assert.Equal(t, at("2026-03-10 10:00"), nth(t, p, "knot body", 1).Start, "the order decides, not the list")
	second := nth(t, p, "curlew body", 1)
	assert.Equal(t, at("2026-03-10 11:00"), second.Start)
	assert.Equal(t, at("2026-03-10 10:00"), second.Open)
	assert.Equal(t, "Hands are busy with Knot knot body, “Sand”, until 11:00.", p.Sentence(second.Event))
}

func TestLaterWorkFillsTheGapsOfDrying(t *testing.T) {
	curlew := instrumentOf("Curlew", "2027-01-01", pieceOf("curlew body", coats("water-clear", 2)))
	knot := instrumentOf("Knot", "2027-01-01", pieceOf("knot body", Step{Step: job.Step{Kind: Sand, HandsOnMin: 90}}))
	p := plan(t, asked{Now: at("2026-03-10 10:00"), Instruments: []Instrument{curlew, knot}, Order: orderOf(curlew, knot)})
	assert.Equal(t, at("2026-03-10 10:30"), nth(t, p, "knot body", 1).Start)
	assert.Equal(t, at("2026-03-10 12:30"), nth(t, p, "curlew body", 2).Start)
}

func TestFactsReplaceThePlan(t *testing.T) {
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", coats("water-clear", 3)))
	first := in.Pieces[0].Steps[0].Events()[0]
	before := plan(t, asked{Now: at("2026-03-10 10:00"), Instruments: []Instrument{in}})
	after := plan(t, asked{Now: at("2026-03-10 12:00"), Instruments: []Instrument{in},
		Facts: map[Event]Fact{first: {End: at("2026-03-10 11:50"), Minutes: 20}}})
	assert.True(t, nth(t, after, "body", 1).Done)
	assert.Equal(t, at("2026-03-10 11:30"), nth(t, after, "body", 1).Start)
	assert.Equal(t, at("2026-03-10 13:50"), nth(t, after, "body", 2).Start)
	assert.True(t, nth(t, after, "body", 2).Startable)
	assert.False(t, nth(t, after, "body", 3).Startable)
	assert.Greater(t, before.Forecasts[0].Slack, after.Forecasts[0].Slack)
}

func TestAnEventLeftOpenIsStillToDo(t *testing.T) {
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", coats("water-clear", 4)))
	events := in.Pieces[0].Steps[0].Events()
	p := plan(t, asked{Now: at("2026-03-10 15:00"), Instruments: []Instrument{in}, Facts: map[Event]Fact{
		events[0]: {End: at("2026-03-10 09:30")}, events[2]: {End: at("2026-03-10 12:00")}}})
	open, next := nth(t, p, "body", 2), nth(t, p, "body", 4)
	assert.False(t, open.Done)
	assert.Equal(t, at("2026-03-10 15:00"), open.Start)
	assert.False(t, next.Start.Before(open.End), "what follows still follows what was left open")
}

func TestASkippedCoatLeavesNoFilm(t *testing.T) {
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", coats("water-clear", 1), Step{Step: job.Step{Kind: Scuff}}))
	event := in.Pieces[0].Steps[0].Events()[0]
	p := plan(t, asked{Now: at("2026-03-10 10:00"), Instruments: []Instrument{in},
		Facts: map[Event]Fact{event: {End: at("2026-03-10 10:00"), Skipped: true}}})
	assert.Equal(t, at("2026-03-10 10:00"), nth(t, p, "body", 2).Start)
}

func TestJointWaitsForBothPieces(t *testing.T) {
	body := pieceOf("body", Step{Step: job.Step{Kind: Sand, HandsOnMin: 60}})
	neck := pieceOf("neck", Step{Step: job.Step{Kind: Sand, HandsOnMin: 120}})
	whole := pieceOf("whole", Step{Step: job.Step{Kind: Gate, Title: "Bolt on", After: []uuid.UUID{body.Steps[0].ID, neck.Steps[0].ID}}})
	in := instrumentOf("Curlew", "2026-03-20", body, neck, whole)
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{in}, Order: orderOf(in)})
	joint := nth(t, p, "whole", 1)
	assert.Equal(t, nth(t, p, "neck", 1).End, joint.Start)
	assert.Equal(t, "Waits for the Curlew neck: “sand”, done by 12:00.", p.Sentence(joint.Event))
}

func TestRestAfterWetting(t *testing.T) {
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", Step{Step: job.Step{Kind: Sand, Title: "Wet the grain", RestMin: 120}}, Step{Step: job.Step{Kind: Sand}}))
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-10 11:30"), nth(t, p, "body", 2).Start)
	assert.Equal(t, "The piece rests after “Wet the grain” until 11:30.", p.Sentence(nth(t, p, "body", 2).Event))
}

func TestHandworkSpreadsOverEvenings(t *testing.T) {
	evenings := weekdays(calendar.Hours{Open: 19 * 60, Close: 21 * 60})
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", Step{Step: job.Step{Kind: Level, HandsOnMin: 5 * 60}}))
	p := plan(t, asked{Now: at("2026-03-10 12:00"), Calendar: evenings, Instruments: []Instrument{in}})
	level := nth(t, p, "body", 1)
	require.Len(t, level.Spans, 3)
	assert.Equal(t, at("2026-03-12 20:00"), level.End)
}

func TestWhatCannotBePlacedSaysWhy(t *testing.T) {
	evenings := weekdays(calendar.Hours{Open: 19 * 60, Close: 20 * 60})
	long := coats("water-clear", 1)
	long.HandsOnMin = 90
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", long, Step{Step: job.Step{Kind: Scuff}}))
	p := plan(t, asked{Now: at("2026-03-10 12:00"), Calendar: evenings, Instruments: []Instrument{in}})
	assert.Contains(t, p.Sentence(nth(t, p, "body", 1).Event), "takes 1 h 30 min in one go")
	assert.Contains(t, nth(t, p, "body", 2).Impossible, "comes after")
	assert.True(t, p.Forecasts[0].Late())

	waxed := instrumentOf("Knot", "2026-03-20", pieceOf("knot body", coats("paste-wax", 1), Step{Step: job.Step{Kind: Sand}}))
	p = plan(t, asked{Now: at("2026-03-10 12:00"), Instruments: []Instrument{waxed}})
	assert.Equal(t, "paste wax is never hard enough to sand", nth(t, p, "knot body", 2).Impossible)
}

func TestSlackAndLatestStart(t *testing.T) {
	in := instrumentOf("Curlew", "2026-03-12", pieceOf("body", coats("water-clear", 2)))
	p := plan(t, asked{Now: at("2026-03-10 10:00"), Instruments: []Instrument{in}})
	f := p.Forecasts[0]
	assert.Equal(t, at("2026-03-10 13:00"), f.Finish)
	assert.Equal(t, at("2026-03-13 00:00").Sub(f.Finish), f.Slack)
	// the second coat 17:30 to 18:00 on the 12th, the first two hours earlier
	assert.Equal(t, at("2026-03-12 15:00"), p.LatestStart(0).In(berlin))

	late := plan(t, asked{Now: at("2026-03-16 10:00"), Instruments: []Instrument{in}})
	assert.True(t, late.Forecasts[0].Late())
	assert.True(t, late.LatestStart(0).IsZero())
}

func TestLatestStartKeepsThePromise(t *testing.T) {
	in := instrumentOf("Curlew", "2026-05-29", bodyOf("body"))
	now := at("2026-03-10 10:00")
	latest := plan(t, asked{Now: now, Margin: 1.25, Instruments: []Instrument{in}}).LatestStart(0)
	require.False(t, latest.IsZero())
	kept := plan(t, asked{Now: latest, Margin: 1.25, Instruments: []Instrument{in}}).Forecasts[0]
	assert.False(t, kept.Late(), "started at %s it finishes %s", latest, kept.Finish)
}

func TestTooLittleOfTheDayIsLeft(t *testing.T) {
	in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}))
	p := plan(t, asked{Now: at("2026-03-10 17:30"), Instruments: []Instrument{in}})
	assert.Equal(t, "Ready now, but then too little of the opening is left; the next begins Wed 11 Mar 09:00.", p.Sentence(nth(t, p, "body", 1).Event))
}

func TestValidateNamesTheStep(t *testing.T) {
	for want, step := range map[string]Step{
		"a coat needs a material":           {Step: job.Step{Kind: Coat, Title: "odd", Coats: 2}},
		"only coats and rounds are counted": {Step: job.Step{Kind: Sand, Title: "odd", Coats: 2}},
		"waits for a step that is":          {Step: job.Step{Kind: Gate, Title: "odd", After: []uuid.UUID{id("nothing")}}},
		"minutes is not from 0":             {Step: job.Step{Kind: Sand, Title: "odd", HandsOnMin: 2000}},
	} {
		err := instrumentOf("Curlew", "2026-03-12", pieceOf("body", step)).Validate()
		assert.ErrorContains(t, err, want)
		assert.ErrorContains(t, err, `Curlew body, step "odd"`)
	}
	assert.NoError(t, instrumentOf("Curlew", "2026-03-12", bodyOf("body")).Validate())
}

func TestALatestStartIsPastWhenADoneCoatCuresTooLate(t *testing.T) {
	// The coat is on, and is cured a day after the promise: no start of what is left keeps it.
	clear := coats("water-clear", 1)
	body := pieceOf("body", clear, Step{Step: job.Step{Kind: Gate, Film: material.FullCure}})
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Instruments: []Instrument{instrumentOf("Curlew", "2026-03-20", body)},
		Facts: map[Event]Fact{{Step: body.Steps[0].ID, Coat: 1}: {End: at("2026-03-10 08:00"), Minutes: 30}}}
	p := plan(t, in)
	require.True(t, p.Forecasts[0].Late())
	assert.True(t, p.LatestStart(0).IsZero())
	assert.Contains(t, p.LatestStartWorking(0).Result, "is past")
}
