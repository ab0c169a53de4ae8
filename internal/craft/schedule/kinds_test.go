package schedule_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

func TestAColdRoomIsSlowAndSaysSo(t *testing.T) {
	in := Asked{Now: At("2026-03-10 10:00"), Calendar: Always(), Places: InRoom(Steady(18, 50)),
		Instruments: One(Coats("urethane-2k", 1), schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.Handle}})}
	warm, cold := in, in
	warm.Places = InRoom(Steady(28, 50))
	p, q := Plan(t, in), Plan(t, warm)
	assert.True(t, Nth(t, q, "body", 2).Start.Before(Nth(t, p, "body", 2).Start))
	cold.Places = InRoom(Steady(15, 50))
	r := Plan(t, cold)
	assert.Contains(t, explain.Sentence(r, Nth(t, r, "body", 2).Event), "The room runs at 0.7 of normal speed.")
	shown, _ := explain.Working(r, Nth(t, r, "body", 2).Event)
	assert.Equal(t, "the room's profile", string(shown.Inputs[2].Source))
}

func TestACoatWaitsForFitAir(t *testing.T) {
	p := Plan(t, Asked{Now: At("2026-03-10 06:00"), Calendar: Always(), Places: InRoom(HeatedRoom(At("2025-01-01 00:00"))),
		Instruments: One(Coats("epoxy-pour", 1))})
	pour := Nth(t, p, "body", 1)
	assert.Equal(t, schedule.Unfit, pour.Because.Cause)
	assert.Contains(t, unit.Unmarked(explain.Sentence(p, pour.Event)), "the room: 17 °C is colder than its 18 °C until")

	p = Plan(t, Asked{Now: At("2026-03-10 06:00"), Places: InRoom(Steady(12, 50)), Instruments: One(Coats("water-clear", 1))})
	assert.Contains(t, Nth(t, p, "body", 1).Impossible, "not fit for waterborne clear in the next two years")
}

func TestReadingsMoveTheDates(t *testing.T) {
	done := map[schedule.Event]schedule.Fact{}
	in := Asked{Now: At("2026-03-12 10:00"), Calendar: Always(),
		Instruments: One(Coats("hardwax-oil", 1), schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.Buff}}), Facts: done}
	done[in.Instruments[0].Pieces[0].Steps[0].Events()[0]] = schedule.Fact{End: At("2026-03-06 10:00")}
	var cold []climate.Reading
	for h := range 72 {
		cold = append(cold, climate.Reading{At: At("2026-03-06 12:00").Add(time.Duration(h) * 2 * time.Hour),
			Air: climate.Air{Temperature: 9, Humidity: 60}})
	}
	in.Places = InRoom(Steady(20, 50))
	before := Nth(t, Plan(t, in), "body", 2)
	in.Places = InRoom(Must(climate.NewRoom(Berlin, climate.Constant(climate.Reference), cold)))
	p := Plan(t, in)
	after := Nth(t, p, "body", 2)
	assert.Greater(t, after.Start.Sub(before.Start), 60*time.Hour, "a cold week cost more than two days")
	assert.Contains(t, explain.Sentence(p, after.Event), "of normal speed")
}

func TestARepairableWindowIsScuffed(t *testing.T) {
	in := Asked{Now: At("2026-03-13 17:00"), Margin: 1.25, Instruments: One(Coats("water-clear", 2))} // a Friday
	p := Plan(t, in)
	second := Nth(t, p, "body", 2)
	assert.Equal(t, At("2026-03-16 09:00"), second.Start)
	assert.True(t, second.ScuffFirst)
	assert.Equal(t, 40*time.Minute, second.End.Sub(second.Start), "ten minutes of scuffing before the coat")
	assert.Equal(t, schedule.Window{schedule.Repairable, At("2026-03-14 12:42"), true}, second.Window, "24 h ÷ 1.25 after 17:30")
	assert.Contains(t, explain.Sentence(p, second.Event), "Scuff it first")

	melts := in
	melts.Instruments = One(Coats("nitro", 2))
	assert.False(t, Nth(t, Plan(t, melts), "body", 2).ScuffFirst, "a film that melts into itself needs none")
	dulled := in
	dulled.Instruments = One(Coats("water-clear", 1), schedule.Step{Step: job.Step{Kind: schedule.Scuff}}, Coats("water-clear", 1))
	assert.False(t, Nth(t, Plan(t, dulled), "body", 3).ScuffFirst, "it was scuffed anyway")
	dulled.Instruments = One(Coats("water-clear", 1), schedule.Step{Step: job.Step{Kind: schedule.Scuff}},
		schedule.Step{Step: job.Step{Kind: schedule.Buff, Film: material.Sand}}, Coats("water-clear", 1))
	assert.True(t, Nth(t, Plan(t, dulled), "body", 4).ScuffFirst, "buffing took the scratches away again")
}

func TestAHardWindowHoldsTheRunBack(t *testing.T) {
	in := Asked{Now: At("2026-03-13 16:00"), Margin: 1.25, Instruments: One(Coats("flake-clear", 2))} // a Friday; closes after 19.2 h
	assert.Equal(t, At("2026-03-13 16:00"), Nth(t, Plan(t, in), "body", 1).Start)
	in.Instruments = One(Coats("flake-clear", 3))
	first, second := Nth(t, Plan(t, in), "body", 1), Nth(t, Plan(t, in), "body", 2)
	assert.Equal(t, At("2026-03-16 09:00"), first.Start, "three flake coats do not fit into what is left of Friday")
	assert.True(t, first.HeldBack)
	assert.Equal(t, schedule.HeldBack, first.Because.Cause)
	assert.Equal(t, first.End.Add(38*time.Minute), second.Start)
}

func TestAHardWindowThatCannotBeKeptSaysWhatWouldHelp(t *testing.T) {
	evenings := Weekdays(calendar.Hours{Open: 19 * 60, Close: 20 * 60})
	long := Coats("flake-clear", 2)
	long.HandsOnMin = 50
	var week [7][]calendar.Hours
	week[time.Monday] = []calendar.Hours{{Open: 19 * 60, Close: 20 * 60}}
	p := Plan(t, Asked{Now: At("2026-03-10 10:00"), Calendar: Must(calendar.New(Berlin, week, nil)), Instruments: One(long)})
	why := Nth(t, p, "body", 1).Impossible
	assert.Contains(t, why, "must begin within 24 h")
	assert.Contains(t, why, "open longer on one day, split the run")
	assert.Contains(t, why, "a scuff would ruin that film")
	p = Plan(t, Asked{Now: At("2026-03-10 10:00"), Calendar: evenings, Instruments: One(long)})
	assert.Empty(t, Nth(t, p, "body", 2).Impossible, "the next evening is within its window")

	gone := Asked{Now: At("2026-03-12 10:00"), Instruments: One(Coats("flake-clear", 2))}
	gone.Facts = map[schedule.Event]schedule.Fact{gone.Instruments[0].Pieces[0].Steps[0].Events()[0]: {End: At("2026-03-10 10:00")}}
	assert.Contains(t, Nth(t, Plan(t, gone), "body", 2).Impossible, "the window has closed")
}

func TestThePeelWindowIsAdvice(t *testing.T) {
	p := Plan(t, Asked{Now: At("2026-03-13 17:00"),
		Instruments: One(Coats("water-clear", 1), schedule.Step{Step: job.Step{Kind: schedule.MaskOff}})})
	off := Nth(t, p, "body", 2)
	assert.Equal(t, schedule.Window{schedule.Advisory, At("2026-03-13 21:30"), true}, off.Window)
	assert.Equal(t, At("2026-03-16 09:00"), off.Start)
}

func TestAWipedCoatFreesHandsWhileItSoaks(t *testing.T) {
	oil := Coats("drying-oil", 1) // soaks 15 minutes
	oil.HandsOnMin, oil.SetUpMin = 20, 6
	curlew := InstrumentOf("Curlew", "2026-06-01", PieceOf("curlew", oil))
	knot := InstrumentOf("Knot", "2026-06-01", PieceOf("knot", schedule.Step{Step: job.Step{Kind: schedule.Inspect, HandsOnMin: 10}}))
	elsewhere := ID("elsewhere")
	snipe := InstrumentOf("Snipe", "2026-06-01", PieceOf("snipe",
		schedule.Step{Step: job.Step{Kind: schedule.Inspect, HandsOnMin: 10, Place: &elsewhere}}))
	places := []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench},
		{ID: elsewhere, Name: "elsewhere", Kind: settings.Wheel}}
	in := Asked{Now: At("2026-03-10 09:00"), Places: places, Instruments: []schedule.Instrument{curlew, snipe, knot}}
	in.Order = OrderOf(curlew, snipe, knot)
	p := Plan(t, in)
	assert.Equal(t, At("2026-03-10 09:35"), Nth(t, p, "curlew", 1).End, "13 to put on, 15 to soak, 7 to wipe")
	assert.Equal(t, At("2026-03-10 09:13"), Nth(t, p, "knot", 1).Start, "at the same place, while it soaks")
	assert.Equal(t, At("2026-03-10 09:35"), Nth(t, p, "snipe", 1).Start, "hands do not leave the place")
}

func TestLampAndSelfLevel(t *testing.T) {
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: One(Coats("polyester-uv", 1))})
	assert.Equal(t, 39*time.Minute, Nth(t, p, "body", 1).End.Sub(Nth(t, p, "body", 1).Start),
		"30 to put on, 6 to level itself, 3 under the lamp")
}

func TestWithinASitting(t *testing.T) {
	sprinkle := Coats("flake-clear", 1)
	sprinkle.Within = &schedule.Within{AfterMin: 1, BeforeMin: 4}
	p := Plan(t, Asked{Now: At("2026-03-10 17:20"), Instruments: One(Coats("solid-base", 1), sprinkle)})
	first, second := Nth(t, p, "body", 1), Nth(t, p, "body", 2)
	assert.Equal(t, At("2026-03-11 09:00"), first.Start, "there is no time left for both today")
	assert.Equal(t, first.End.Add(time.Minute), second.Start)
}

func TestSeveralPeopleAndFullPlaces(t *testing.T) {
	job := func(name string) schedule.Instrument {
		return InstrumentOf(name, "2026-06-01", PieceOf(name,
			schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Fit", HandsOnMin: 60}}))
	}
	in := Asked{Now: At("2026-03-10 09:00"), People: 3, Instruments: []schedule.Instrument{job("Curlew"), job("Knot"), job("Ruff")}}
	in.Places = []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, Capacity: 2}}
	p := Plan(t, in)
	assert.Equal(t, At("2026-03-10 09:00"), Nth(t, p, "Knot", 1).Start)
	third := Nth(t, p, "Ruff", 1)
	assert.Equal(t, At("2026-03-10 10:00"), third.Start)
	assert.Equal(t, "Ready now, but the bench is full until 10:00.", unit.Unmarked(explain.Sentence(p, third.Event)))
}

func TestDustAndFreshCoatsDoNotShareAnAir(t *testing.T) {
	curlew := InstrumentOf("Curlew", "2026-06-01", PieceOf("curlew", Coats("water-clear", 1)))
	knot := InstrumentOf("Knot", "2026-06-01", PieceOf("knot", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 30}}))
	in := Asked{Now: At("2026-03-10 09:00"), People: 2, Instruments: []schedule.Instrument{curlew, knot}, Places: InRoom(nil)}
	p := Plan(t, in)
	assert.Equal(t, At("2026-03-10 10:00"), Nth(t, p, "knot", 1).Start, "half an hour after the coat it is dry to touch")
	assert.Contains(t, unit.Unmarked(explain.Sentence(p, Nth(t, p, "knot", 1).Event)), "is open to dust until 10:00")
	in.Order = OrderOf(knot, curlew)
	p = Plan(t, in)
	assert.Equal(t, At("2026-03-10 09:30"), Nth(t, p, "curlew", 1).Start)
	assert.Equal(t, schedule.Dust, Nth(t, p, "curlew", 1).Because.Cause)
}

func TestHooksRunOut(t *testing.T) {
	job := func(name string) schedule.Instrument {
		return InstrumentOf(name, "2026-06-01", PieceOf(name, Coats("water-clear", 1)))
	}
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(), Instruments: []schedule.Instrument{job("Curlew"), job("Knot")}}
	in.Places = []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, HangsIn: ID("rack")},
		{ID: ID("rack"), Name: "the rack", Kind: "drying", Hooks: 1}}
	p := Plan(t, in)
	second := Nth(t, p, "Knot", 1)
	assert.Equal(t, Nth(t, p, "Curlew", 1).End.Add(24*time.Hour), second.Start, "until the first may be handled")
	assert.Contains(t, explain.Sentence(p, second.Event), "no hook is free in the rack")
}

func TestPiecesShareASetUp(t *testing.T) {
	job := func(name string) schedule.Instrument {
		coat := Coats("water-clear", 1)
		coat.HandsOnMin, coat.SetUpMin, coat.Method = 30, 20, material.Spray
		return InstrumentOf(name, "2026-06-01", PieceOf(name, coat))
	}
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{job("Curlew"), job("Knot"), job("Ruff")}})
	for n, name := range []string{"Curlew", "Knot", "Ruff"} {
		assert.Equal(t, At("2026-03-10 09:30").Add(time.Duration(n*10)*time.Minute), Nth(t, p, name, 1).End)
	}
	assert.Equal(t, 1, search.Measure(p).SetUps)
	assert.Contains(t, explain.Sentence(p, Nth(t, p, "Ruff", 1).Event), "Shares the set-up of Knot")
}

func TestAMixIsNotSharedPastItsPotLife(t *testing.T) {
	job := func(name string, minutes int) schedule.Instrument {
		coat := Coats("polyester-2k", 1) // sets in the pot in 20 minutes
		coat.HandsOnMin, coat.SetUpMin = MinutesOf(minutes), 10
		return InstrumentOf(name, "2026-06-01", PieceOf(name, coat))
	}
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{job("Curlew", 20), job("Knot", 40)}})
	assert.Nil(t, Nth(t, p, "Knot", 1).Shares)
}

func TestRoundsUntilACheck(t *testing.T) {
	fill := Coats("water-filler", 3)
	fill.Repeat = &schedule.Repeat{Least: 2, Most: 5}
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: One(fill, schedule.Step{Step: job.Step{Kind: schedule.Inspect}})}
	require.Len(t, Plan(t, in).Events, 4)
	step := in.Instruments[0].Pieces[0].Steps[0].ID
	in.Settled = map[uuid.UUID]int{step: 2}
	require.Len(t, Plan(t, in).Events, 3, "the check was passed after two")
	in.Settled, in.Facts = nil, map[schedule.Event]schedule.Fact{{Step: step, Coat: 4}: {End: At("2026-03-10 08:00")}}
	require.Len(t, Plan(t, in).Events, 5, "a fourth round was logged")
}

func TestArrivals(t *testing.T) {
	gate := schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Tuners",
		Terms: schedule.Terms{Arrival: &schedule.Arrival{Expected: Must(calendar.ParseDay("2026-03-16")), SpreadDays: 5}}}}
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: One(gate)}
	p := Plan(t, in)
	assert.Equal(t, At("2026-03-16 09:00"), Nth(t, p, "body", 1).Start)
	in.Now = At("2026-03-18 12:00")
	assert.Equal(t, At("2026-03-23 09:00"), Nth(t, Plan(t, in), "body", 1).Start, "overdue, it is given its spread once more")
	fallback := Must(calendar.ParseDay("2026-03-20"))
	gate.Arrival.Fallback = &fallback
	assert.Equal(t, At("2026-03-20 09:00"), Nth(t, Plan(t, in), "body", 1).Start)
}

func TestGlueUp(t *testing.T) {
	glue := schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Glue the neck in", HandsOnMin: 20,
		Terms: schedule.Terms{Glue: &schedule.Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240,
			FullMin: 1440}}}}
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(),
		Instruments: One(glue, schedule.Step{Step: job.Step{Kind: schedule.Sand}},
			schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.FullCure}})}
	p := Plan(t, in)
	assert.Equal(t, At("2026-03-10 09:45"), Nth(t, p, "body", 1).End, "20 to glue, 20 to wait, 5 to scrape")
	assert.Equal(t, At("2026-03-10 13:45"), Nth(t, p, "body", 2).Start)
	assert.Equal(t, At("2026-03-11 09:45"), Nth(t, p, "body", 3).Start, "strings wait for full strength")
	in.Places = InRoom(Steady(10, 50))
	assert.Equal(t, At("2026-03-10 17:45"), Nth(t, Plan(t, in), "body", 2).Start, "in the cold it sets at half the speed")
}

func TestWhatFollowsTheShowing(t *testing.T) {
	show := Must(calendar.ParseDay("2026-03-10"))
	in := One(schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 60}},
		schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 600 - 60, Terms: schedule.Terms{Follows: true}}})
	in[0].Show = &show
	f := Plan(t, Asked{Now: At("2026-03-10 09:00"), Instruments: in}).Forecasts[0]
	assert.Equal(t, At("2026-03-10 10:00"), f.Show)
	assert.Equal(t, 14*time.Hour, f.ShowSlack)
	assert.True(t, f.Finish.After(f.Show))
}

func TestMoreCoatsADayOnPurpose(t *testing.T) {
	clear := Coats("water-clear", 5)
	clear.PerDay = &schedule.PerDay{Coats: 5, Reason: "thin mist coats"}
	p := Plan(t, Asked{Now: At("2026-03-10 08:00"), Calendar: Weekdays(calendar.Hours{Open: 8 * 60, Close: 22 * 60}),
		Instruments: One(clear)})
	assert.Equal(t, At("2026-03-10 15:30"), Nth(t, p, "body", 4).Start)
	clear.PerDay = nil
	p = Plan(t, Asked{Now: At("2026-03-10 08:00"), Calendar: Weekdays(calendar.Hours{Open: 8 * 60, Close: 22 * 60}),
		Instruments: One(clear)})
	assert.Equal(t, At("2026-03-11 08:00"), Nth(t, p, "body", 4).Start)
}

func TestABoxAndAMove(t *testing.T) {
	boxed := Coats("urethane-2k", 1)
	boxed.Box = &schedule.Box{Air: climate.Air{Temperature: 30, Humidity: 50}, Minutes: 12 * 60}
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(),
		Instruments: One(boxed, schedule.Step{Step: job.Step{Kind: schedule.Sand}})}
	assert.Equal(t, At("2026-03-10 21:30"), Nth(t, Plan(t, in), "body", 2).Start, "twelve hours at twice the speed are the whole day")

	moved := Asked{Now: At("2026-03-10 18:00"), Calendar: Always(),
		Instruments: One(Coats("urethane-2k", 1), schedule.Step{Step: job.Step{Kind: schedule.Sand}})}
	moved.Places = []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, Room: Steady(20, 50)},
		{ID: ID("stove"), Name: "by the stove", Kind: "drying", Room: Steady(30, 50)}}
	moved.Facts = map[schedule.Event]schedule.Fact{moved.Instruments[0].Pieces[0].Steps[0].Events()[0]: {End: At("2026-03-10 09:00")}}
	moved.Moves = []schedule.Move{{ID("body"), ID("stove"), At("2026-03-10 17:00")}}
	assert.Equal(t, At("2026-03-11 01:00"), Nth(t, Plan(t, moved), "body", 2).Start, "8 h at the bench, 16 h in 8 by the stove")
}

func TestTestsConfirmAndRefute(t *testing.T) {
	in := Asked{Now: At("2026-03-10 14:00"), Calendar: Always(),
		Instruments: One(Coats("water-clear", 1), schedule.Step{Step: job.Step{Kind: schedule.Sand}})}
	coat := in.Instruments[0].Pieces[0].Steps[0].Events()[0]
	in.Facts = map[schedule.Event]schedule.Fact{coat: {End: At("2026-03-10 12:00")}}
	assert.Equal(t, At("2026-03-10 16:00"), Nth(t, Plan(t, in), "body", 2).Start)
	in.Tests = []schedule.Test{{coat, material.Sand, At("2026-03-10 13:30"), true}}
	assert.Equal(t, At("2026-03-10 14:00"), Nth(t, Plan(t, in), "body", 2).Start, "a thumbnail says it is hard")
	in.Factors = map[string]float64{"water-clear": 1} // what the test teaches is another thing
	in.Now, in.Tests = At("2026-03-10 17:00"), []schedule.Test{{coat, material.Sand, At("2026-03-10 16:30"), false}}
	assert.Equal(t, At("2026-03-10 17:30"), Nth(t, Plan(t, in), "body", 2).Start, "a further quarter of four hours from the failed test")
}

func TestPins(t *testing.T) {
	curlew := InstrumentOf("Curlew", "2026-06-01", PieceOf("curlew", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))
	knot := InstrumentOf("Knot", "2026-06-01", PieceOf("knot", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{curlew, knot}, Order: OrderOf(curlew, knot)}
	pin := knot.Pieces[0].Steps[0].Events()[0]
	in.Pins = map[schedule.Event]time.Time{pin: At("2026-03-10 09:30")}
	p := Plan(t, in)
	assert.True(t, Nth(t, p, "knot", 1).Pinned)
	assert.Equal(t, At("2026-03-10 10:30"), Nth(t, p, "curlew", 1).Start, "what is earlier in the order goes round a pin")

	in.Pins[pin] = At("2026-03-10 20:00") // the shop is closed
	p = Plan(t, in)
	assert.True(t, Nth(t, p, "knot", 1).Floats)
	assert.Contains(t, explain.Sentence(p, pin), "It was pinned to another time, which has become impossible.")

	in.Pins[pin] = At("2026-03-10 09:30")
	in.Facts = map[schedule.Event]schedule.Fact{pin: {End: At("2026-03-10 08:00")}}
	assert.True(t, Nth(t, Plan(t, in), "knot", 1).Done, "a fact beats a pin")
}

func TestWhatIsBegunGoesOn(t *testing.T) {
	in := Asked{Now: At("2026-03-10 09:20"), Instruments: One(schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}},
		schedule.Step{Step: job.Step{Kind: schedule.Gate}})}
	input := in.Input()
	input.Begun = map[schedule.Event]time.Time{in.Instruments[0].Pieces[0].Steps[0].Events()[0]: At("2026-03-10 09:00")}
	p := Must(schedule.Retime(input))
	assert.Equal(t, At("2026-03-10 09:00"), Nth(t, p, "body", 1).Start)
	assert.Equal(t, At("2026-03-10 10:00"), Nth(t, p, "body", 2).Start)
}

func TestAShopClosedForThreeWeeksAndTheYearsEnd(t *testing.T) {
	closed := make(map[calendar.Day][]calendar.Hours)
	for day := Must(calendar.ParseDay("2026-12-21")); day != Must(calendar.ParseDay("2027-01-11")); day = day.AddDays(1) {
		closed[day] = nil
	}
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = []calendar.Hours{{Open: 540, Close: 1080}}
	}
	in := Asked{Now: At("2026-12-18 17:00"), Calendar: Must(calendar.New(Berlin, week, closed)), Instruments: One(Coats("water-clear", 2))}
	in.Instruments[0].Promise = Must(calendar.ParseDay("2027-01-08"))
	p := Plan(t, in)
	assert.Equal(t, At("2027-01-11 09:00"), Nth(t, p, "body", 2).Start)
	assert.Equal(t, 3.0, search.Measure(p).DaysLate)
}
