package schedule

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// steady is a room whose air never changes.
func steady(temperature, humidity float64) *climate.Room {
	return must(climate.NewRoom(berlin, climate.Constant(climate.Air{Temperature: celsius(temperature), Humidity: percent(humidity)}), nil))
}

func inRoom(room *climate.Room) []Place {
	return []Place{{ID: id("room"), Name: "the room", Kind: Bench, Room: room}}
}

func one(steps ...Step) []Instrument {
	return []Instrument{instrumentOf("Curlew", "2026-06-01", pieceOf("body", steps...))}
}

func TestAColdRoomIsSlowAndSaysSo(t *testing.T) {
	in := asked{Now: at("2026-03-10 10:00"), Calendar: always(), Places: inRoom(steady(18, 50)), Instruments: one(coats("urethane-2k", 1), Step{Step: job.Step{Kind: Gate, Film: material.Handle}})}
	warm, cold := in, in
	warm.Places = inRoom(steady(28, 50))
	p, q := plan(t, in), plan(t, warm)
	assert.True(t, nth(t, q, "body", 2).Start.Before(nth(t, p, "body", 2).Start))
	cold.Places = inRoom(steady(15, 50))
	r := plan(t, cold)
	assert.Contains(t, r.Sentence(nth(t, r, "body", 2).Event), "The room runs at 0.7 of normal speed.")
	shown, _ := r.Working(nth(t, r, "body", 2).Event)
	assert.Equal(t, "the room's profile", string(shown.Inputs[2].Source))
}

func TestACoatWaitsForFitAir(t *testing.T) {
	p := plan(t, asked{Now: at("2026-03-10 06:00"), Calendar: always(), Places: inRoom(heatedRoom(at("2025-01-01 00:00"))), Instruments: one(coats("epoxy-pour", 1))})
	pour := nth(t, p, "body", 1)
	assert.Equal(t, Unfit, pour.Because.Cause)
	assert.Contains(t, p.Sentence(pour.Event), "the room: 17 °C is colder than its 18 °C until")

	p = plan(t, asked{Now: at("2026-03-10 06:00"), Places: inRoom(steady(12, 50)), Instruments: one(coats("water-clear", 1))})
	assert.Contains(t, nth(t, p, "body", 1).Impossible, "not fit for waterborne clear in the next two years")
}

func TestReadingsMoveTheDates(t *testing.T) {
	done := map[Event]Fact{}
	in := asked{Now: at("2026-03-12 10:00"), Calendar: always(), Instruments: one(coats("hardwax-oil", 1), Step{Step: job.Step{Kind: Gate, Film: material.Buff}}), Facts: done}
	done[in.Instruments[0].Pieces[0].Steps[0].Events()[0]] = Fact{End: at("2026-03-06 10:00")}
	var cold []climate.Reading
	for h := range 72 {
		cold = append(cold, climate.Reading{At: at("2026-03-06 12:00").Add(time.Duration(h) * 2 * time.Hour), Air: climate.Air{Temperature: 9, Humidity: 60}})
	}
	in.Places = inRoom(steady(20, 50))
	before := nth(t, plan(t, in), "body", 2)
	in.Places = inRoom(must(climate.NewRoom(berlin, climate.Constant(climate.Reference), cold)))
	p := plan(t, in)
	after := nth(t, p, "body", 2)
	assert.Greater(t, after.Start.Sub(before.Start), 60*time.Hour, "a cold week cost more than two days")
	assert.Contains(t, p.Sentence(after.Event), "of normal speed")
}

func TestARepairableWindowIsScuffed(t *testing.T) {
	in := asked{Now: at("2026-03-13 17:00"), Margin: 1.25, Instruments: one(coats("water-clear", 2))} // a Friday
	p := plan(t, in)
	second := nth(t, p, "body", 2)
	assert.Equal(t, at("2026-03-16 09:00"), second.Start)
	assert.True(t, second.ScuffFirst)
	assert.Equal(t, 40*time.Minute, second.End.Sub(second.Start), "ten minutes of scuffing before the coat")
	assert.Equal(t, Window{Repairable, at("2026-03-14 12:42"), true}, second.Window, "24 h ÷ 1.25 after 17:30")
	assert.Contains(t, p.Sentence(second.Event), "Scuff it first")

	melts := in
	melts.Instruments = one(coats("nitro", 2))
	assert.False(t, nth(t, plan(t, melts), "body", 2).ScuffFirst, "a film that melts into itself needs none")
	dulled := in
	dulled.Instruments = one(coats("water-clear", 1), Step{Step: job.Step{Kind: Scuff}}, coats("water-clear", 1))
	assert.False(t, nth(t, plan(t, dulled), "body", 3).ScuffFirst, "it was scuffed anyway")
	dulled.Instruments = one(coats("water-clear", 1), Step{Step: job.Step{Kind: Scuff}}, Step{Step: job.Step{Kind: Buff, Film: material.Sand}}, coats("water-clear", 1))
	assert.True(t, nth(t, plan(t, dulled), "body", 4).ScuffFirst, "buffing took the scratches away again")
}

func TestAHardWindowHoldsTheRunBack(t *testing.T) {
	in := asked{Now: at("2026-03-13 16:00"), Margin: 1.25, Instruments: one(coats("flake-clear", 2))} // a Friday; closes after 19.2 h
	assert.Equal(t, at("2026-03-13 16:00"), nth(t, plan(t, in), "body", 1).Start)
	in.Instruments = one(coats("flake-clear", 3))
	first, second := nth(t, plan(t, in), "body", 1), nth(t, plan(t, in), "body", 2)
	assert.Equal(t, at("2026-03-16 09:00"), first.Start, "three flake coats do not fit into what is left of Friday")
	assert.True(t, first.HeldBack)
	assert.Equal(t, HeldBack, first.Because.Cause)
	assert.Equal(t, first.End.Add(38*time.Minute), second.Start)
}

func TestAHardWindowThatCannotBeKeptSaysWhatWouldHelp(t *testing.T) {
	evenings := weekdays(calendar.Hours{Open: 19 * 60, Close: 20 * 60})
	long := coats("flake-clear", 2)
	long.HandsOnMin = 50
	var week [7][]calendar.Hours
	week[time.Monday] = []calendar.Hours{{Open: 19 * 60, Close: 20 * 60}}
	p := plan(t, asked{Now: at("2026-03-10 10:00"), Calendar: must(calendar.New(berlin, week, nil)), Instruments: one(long)})
	why := nth(t, p, "body", 1).Impossible
	assert.Contains(t, why, "must begin within 24 h")
	assert.Contains(t, why, "open longer on one day, split the run")
	assert.Contains(t, why, "a scuff would ruin that film")
	p = plan(t, asked{Now: at("2026-03-10 10:00"), Calendar: evenings, Instruments: one(long)})
	assert.Empty(t, nth(t, p, "body", 2).Impossible, "the next evening is within its window")

	gone := asked{Now: at("2026-03-12 10:00"), Instruments: one(coats("flake-clear", 2))}
	gone.Facts = map[Event]Fact{gone.Instruments[0].Pieces[0].Steps[0].Events()[0]: {End: at("2026-03-10 10:00")}}
	assert.Contains(t, nth(t, plan(t, gone), "body", 2).Impossible, "the window has closed")
}

func TestThePeelWindowIsAdvice(t *testing.T) {
	p := plan(t, asked{Now: at("2026-03-13 17:00"), Instruments: one(coats("water-clear", 1), Step{Step: job.Step{Kind: MaskOff}})})
	off := nth(t, p, "body", 2)
	assert.Equal(t, Window{Advisory, at("2026-03-13 21:30"), true}, off.Window)
	assert.Equal(t, at("2026-03-16 09:00"), off.Start)
}

func TestAWipedCoatFreesHandsWhileItSoaks(t *testing.T) {
	oil := coats("drying-oil", 1) // soaks 15 minutes
	oil.HandsOnMin, oil.SetUpMin = 20, 6
	curlew := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", oil))
	knot := instrumentOf("Knot", "2026-06-01", pieceOf("knot", Step{Step: job.Step{Kind: Inspect, HandsOnMin: 10}}))
	elsewhere := id("elsewhere")
	snipe := instrumentOf("Snipe", "2026-06-01", pieceOf("snipe", Step{Step: job.Step{Kind: Inspect, HandsOnMin: 10, Place: &elsewhere}}))
	places := []Place{{ID: id("bench"), Name: "the bench", Kind: Bench}, {ID: elsewhere, Name: "elsewhere", Kind: Wheel}}
	in := asked{Now: at("2026-03-10 09:00"), Places: places, Instruments: []Instrument{curlew, snipe, knot}}
	in.Order = orderOf(curlew, snipe, knot)
	p := plan(t, in)
	assert.Equal(t, at("2026-03-10 09:35"), nth(t, p, "curlew", 1).End, "13 to put on, 15 to soak, 7 to wipe")
	assert.Equal(t, at("2026-03-10 09:13"), nth(t, p, "knot", 1).Start, "at the same place, while it soaks")
	assert.Equal(t, at("2026-03-10 09:35"), nth(t, p, "snipe", 1).Start, "hands do not leave the place")
}

func TestLampAndSelfLevel(t *testing.T) {
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: one(coats("polyester-uv", 1))})
	assert.Equal(t, 39*time.Minute, nth(t, p, "body", 1).End.Sub(nth(t, p, "body", 1).Start), "30 to put on, 6 to level itself, 3 under the lamp")
}

func TestWithinASitting(t *testing.T) {
	sprinkle := coats("flake-clear", 1)
	sprinkle.Within = &Within{AfterMin: 1, BeforeMin: 4}
	p := plan(t, asked{Now: at("2026-03-10 17:20"), Instruments: one(coats("solid-base", 1), sprinkle)})
	first, second := nth(t, p, "body", 1), nth(t, p, "body", 2)
	assert.Equal(t, at("2026-03-11 09:00"), first.Start, "there is no time left for both today")
	assert.Equal(t, first.End.Add(time.Minute), second.Start)
}

func TestSeveralPeopleAndFullPlaces(t *testing.T) {
	job := func(name string) Instrument {
		return instrumentOf(name, "2026-06-01", pieceOf(name, Step{Step: job.Step{Kind: Gate, Title: "Fit", HandsOnMin: 60}}))
	}
	in := asked{Now: at("2026-03-10 09:00"), People: 3, Instruments: []Instrument{job("Curlew"), job("Knot"), job("Ruff")}}
	in.Places = []Place{{ID: id("bench"), Name: "the bench", Kind: Bench, Capacity: 2}}
	p := plan(t, in)
	assert.Equal(t, at("2026-03-10 09:00"), nth(t, p, "Knot", 1).Start)
	third := nth(t, p, "Ruff", 1)
	assert.Equal(t, at("2026-03-10 10:00"), third.Start)
	assert.Equal(t, "Ready now, but the bench is full until 10:00.", p.Sentence(third.Event))
}

func TestDustAndFreshCoatsDoNotShareAnAir(t *testing.T) {
	curlew := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", coats("water-clear", 1)))
	knot := instrumentOf("Knot", "2026-06-01", pieceOf("knot", Step{Step: job.Step{Kind: Sand, HandsOnMin: 30}}))
	in := asked{Now: at("2026-03-10 09:00"), People: 2, Instruments: []Instrument{curlew, knot}, Places: inRoom(nil)}
	p := plan(t, in)
	assert.Equal(t, at("2026-03-10 10:00"), nth(t, p, "knot", 1).Start, "half an hour after the coat it is dry to touch")
	assert.Contains(t, p.Sentence(nth(t, p, "knot", 1).Event), "is open to dust until 10:00")
	in.Order = orderOf(knot, curlew)
	p = plan(t, in)
	assert.Equal(t, at("2026-03-10 09:30"), nth(t, p, "curlew", 1).Start)
	assert.Equal(t, Dust, nth(t, p, "curlew", 1).Because.Cause)
}

func TestHooksRunOut(t *testing.T) {
	job := func(name string) Instrument {
		return instrumentOf(name, "2026-06-01", pieceOf(name, coats("water-clear", 1)))
	}
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Instruments: []Instrument{job("Curlew"), job("Knot")}}
	in.Places = []Place{{ID: id("bench"), Name: "the bench", Kind: Bench, HangsIn: id("rack")}, {ID: id("rack"), Name: "the rack", Kind: "drying", Hooks: 1}}
	p := plan(t, in)
	second := nth(t, p, "Knot", 1)
	assert.Equal(t, nth(t, p, "Curlew", 1).End.Add(24*time.Hour), second.Start, "until the first may be handled")
	assert.Contains(t, p.Sentence(second.Event), "no hook is free in the rack")
}

func TestPiecesShareASetUp(t *testing.T) {
	job := func(name string) Instrument {
		coat := coats("water-clear", 1)
		coat.HandsOnMin, coat.SetUpMin, coat.Method = 30, 20, material.Spray
		return instrumentOf(name, "2026-06-01", pieceOf(name, coat))
	}
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{job("Curlew"), job("Knot"), job("Ruff")}})
	for n, name := range []string{"Curlew", "Knot", "Ruff"} {
		assert.Equal(t, at("2026-03-10 09:30").Add(time.Duration(n*10)*time.Minute), nth(t, p, name, 1).End)
	}
	assert.Equal(t, 1, p.Objective().SetUps)
	assert.Contains(t, p.Sentence(nth(t, p, "Ruff", 1).Event), "Shares the set-up of Knot")
}

func TestAMixIsNotSharedPastItsPotLife(t *testing.T) {
	job := func(name string, minutes int) Instrument {
		coat := coats("polyester-2k", 1) // sets in the pot in 20 minutes
		coat.HandsOnMin, coat.SetUpMin = minutesOf(minutes), 10
		return instrumentOf(name, "2026-06-01", pieceOf(name, coat))
	}
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{job("Curlew", 20), job("Knot", 40)}})
	assert.Nil(t, nth(t, p, "Knot", 1).Shares)
}

func TestRoundsUntilACheck(t *testing.T) {
	fill := coats("water-filler", 3)
	fill.Repeat = &Repeat{Least: 2, Most: 5}
	in := asked{Now: at("2026-03-10 09:00"), Instruments: one(fill, Step{Step: job.Step{Kind: Inspect}})}
	require.Len(t, plan(t, in).Events, 4)
	step := in.Instruments[0].Pieces[0].Steps[0].ID
	in.Settled = map[uuid.UUID]int{step: 2}
	require.Len(t, plan(t, in).Events, 3, "the check was passed after two")
	in.Settled, in.Facts = nil, map[Event]Fact{{Step: step, Coat: 4}: {End: at("2026-03-10 08:00")}}
	require.Len(t, plan(t, in).Events, 5, "a fourth round was logged")
}

func TestArrivals(t *testing.T) {
	gate := Step{Step: job.Step{Kind: Gate, Title: "Tuners", Terms: Terms{Arrival: &Arrival{Expected: must(calendar.ParseDay("2026-03-16")), SpreadDays: 5}}}}
	in := asked{Now: at("2026-03-10 09:00"), Instruments: one(gate)}
	p := plan(t, in)
	assert.Equal(t, at("2026-03-16 09:00"), nth(t, p, "body", 1).Start)
	in.Now = at("2026-03-18 12:00")
	assert.Equal(t, at("2026-03-23 09:00"), nth(t, plan(t, in), "body", 1).Start, "overdue, it is given its spread once more")
	fallback := must(calendar.ParseDay("2026-03-20"))
	gate.Arrival.Fallback = &fallback
	assert.Equal(t, at("2026-03-20 09:00"), nth(t, plan(t, in), "body", 1).Start)
}

func TestGlueUp(t *testing.T) {
	glue := Step{Step: job.Step{Kind: Gate, Title: "Glue the neck in", HandsOnMin: 20, Terms: Terms{Glue: &Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240, FullMin: 1440}}}}
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Instruments: one(glue, Step{Step: job.Step{Kind: Sand}}, Step{Step: job.Step{Kind: Gate, Film: material.FullCure}})}
	p := plan(t, in)
	assert.Equal(t, at("2026-03-10 09:45"), nth(t, p, "body", 1).End, "20 to glue, 20 to wait, 5 to scrape")
	assert.Equal(t, at("2026-03-10 13:45"), nth(t, p, "body", 2).Start)
	assert.Equal(t, at("2026-03-11 09:45"), nth(t, p, "body", 3).Start, "strings wait for full strength")
	in.Places = inRoom(steady(10, 50))
	assert.Equal(t, at("2026-03-10 17:45"), nth(t, plan(t, in), "body", 2).Start, "in the cold it sets at half the speed")
}

func TestWhatFollowsTheShowing(t *testing.T) {
	show := must(calendar.ParseDay("2026-03-10"))
	in := one(Step{Step: job.Step{Kind: Sand, HandsOnMin: 60}}, Step{Step: job.Step{Kind: Gate, HandsOnMin: 600 - 60, Terms: Terms{Follows: true}}})
	in[0].Show = &show
	f := plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: in}).Forecasts[0]
	assert.Equal(t, at("2026-03-10 10:00"), f.Show)
	assert.Equal(t, 14*time.Hour, f.ShowSlack)
	assert.True(t, f.Finish.After(f.Show))
}

func TestMoreCoatsADayOnPurpose(t *testing.T) {
	clear := coats("water-clear", 5)
	clear.PerDay = &PerDay{Coats: 5, Reason: "thin mist coats"}
	p := plan(t, asked{Now: at("2026-03-10 08:00"), Calendar: weekdays(calendar.Hours{Open: 8 * 60, Close: 22 * 60}), Instruments: one(clear)})
	assert.Equal(t, at("2026-03-10 15:30"), nth(t, p, "body", 4).Start)
	clear.PerDay = nil
	p = plan(t, asked{Now: at("2026-03-10 08:00"), Calendar: weekdays(calendar.Hours{Open: 8 * 60, Close: 22 * 60}), Instruments: one(clear)})
	assert.Equal(t, at("2026-03-11 08:00"), nth(t, p, "body", 4).Start)
}

func TestABoxAndAMove(t *testing.T) {
	boxed := coats("urethane-2k", 1)
	boxed.Box = &Box{Air: climate.Air{Temperature: 30, Humidity: 50}, Minutes: 12 * 60}
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Instruments: one(boxed, Step{Step: job.Step{Kind: Sand}})}
	assert.Equal(t, at("2026-03-10 21:30"), nth(t, plan(t, in), "body", 2).Start, "twelve hours at twice the speed are the whole day")

	moved := asked{Now: at("2026-03-10 18:00"), Calendar: always(), Instruments: one(coats("urethane-2k", 1), Step{Step: job.Step{Kind: Sand}})}
	moved.Places = []Place{{ID: id("bench"), Name: "the bench", Kind: Bench, Room: steady(20, 50)}, {ID: id("stove"), Name: "by the stove", Kind: "drying", Room: steady(30, 50)}}
	moved.Facts = map[Event]Fact{moved.Instruments[0].Pieces[0].Steps[0].Events()[0]: {End: at("2026-03-10 09:00")}}
	moved.Moves = []Move{{id("body"), id("stove"), at("2026-03-10 17:00")}}
	assert.Equal(t, at("2026-03-11 01:00"), nth(t, plan(t, moved), "body", 2).Start, "8 h at the bench, 16 h in 8 by the stove")
}

func TestTestsConfirmAndRefute(t *testing.T) {
	in := asked{Now: at("2026-03-10 14:00"), Calendar: always(), Instruments: one(coats("water-clear", 1), Step{Step: job.Step{Kind: Sand}})}
	coat := in.Instruments[0].Pieces[0].Steps[0].Events()[0]
	in.Facts = map[Event]Fact{coat: {End: at("2026-03-10 12:00")}}
	assert.Equal(t, at("2026-03-10 16:00"), nth(t, plan(t, in), "body", 2).Start)
	in.Tests = []Test{{coat, material.Sand, at("2026-03-10 13:30"), true}}
	assert.Equal(t, at("2026-03-10 14:00"), nth(t, plan(t, in), "body", 2).Start, "a thumbnail says it is hard")
	in.Factors = map[string]float64{"water-clear": 1} // what the test teaches is another thing
	in.Now, in.Tests = at("2026-03-10 17:00"), []Test{{coat, material.Sand, at("2026-03-10 16:30"), false}}
	assert.Equal(t, at("2026-03-10 17:30"), nth(t, plan(t, in), "body", 2).Start, "a further quarter of four hours from the failed test")
}

func TestPins(t *testing.T) {
	curlew := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}))
	knot := instrumentOf("Knot", "2026-06-01", pieceOf("knot", Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}))
	in := asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{curlew, knot}, Order: orderOf(curlew, knot)}
	pin := knot.Pieces[0].Steps[0].Events()[0]
	in.Pins = map[Event]time.Time{pin: at("2026-03-10 09:30")}
	p := plan(t, in)
	assert.True(t, nth(t, p, "knot", 1).Pinned)
	assert.Equal(t, at("2026-03-10 10:30"), nth(t, p, "curlew", 1).Start, "what is earlier in the order goes round a pin")

	in.Pins[pin] = at("2026-03-10 20:00") // the shop is closed
	p = plan(t, in)
	assert.True(t, nth(t, p, "knot", 1).Floats)
	assert.Contains(t, p.Sentence(pin), "It was pinned to another time, which has become impossible.")

	in.Pins[pin] = at("2026-03-10 09:30")
	in.Facts = map[Event]Fact{pin: {End: at("2026-03-10 08:00")}}
	assert.True(t, nth(t, plan(t, in), "knot", 1).Done, "a fact beats a pin")
}

func TestWhatIsBegunGoesOn(t *testing.T) {
	in := asked{Now: at("2026-03-10 09:20"), Instruments: one(Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}, Step{Step: job.Step{Kind: Gate}})}
	input := in.input()
	input.Begun = map[Event]time.Time{in.Instruments[0].Pieces[0].Steps[0].Events()[0]: at("2026-03-10 09:00")}
	p := must(Retime(input))
	assert.Equal(t, at("2026-03-10 09:00"), nth(t, p, "body", 1).Start)
	assert.Equal(t, at("2026-03-10 10:00"), nth(t, p, "body", 2).Start)
}

func TestAShopClosedForThreeWeeksAndTheYearsEnd(t *testing.T) {
	closed := make(map[calendar.Day][]calendar.Hours)
	for day := must(calendar.ParseDay("2026-12-21")); day != must(calendar.ParseDay("2027-01-11")); day = day.AddDays(1) {
		closed[day] = nil
	}
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = []calendar.Hours{{Open: 540, Close: 1080}}
	}
	in := asked{Now: at("2026-12-18 17:00"), Calendar: must(calendar.New(berlin, week, closed)), Instruments: one(coats("water-clear", 2))}
	in.Instruments[0].Promise = must(calendar.ParseDay("2027-01-08"))
	p := plan(t, in)
	assert.Equal(t, at("2027-01-11 09:00"), nth(t, p, "body", 2).Start)
	assert.Equal(t, 3.0, p.Objective().DaysLate)
}
