package schedule

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

var top, back = id("top"), id("back")

// on puts a step on some regions, in the order in which they are listed.
func on(step Step, regions ...uuid.UUID) Step {
	step.Regions = regions
	return step
}

func TestCoatsADayAreCountedInEveryRegion(t *testing.T) {
	// Three coats a day. The back has had three when the fourth comes, whichever region
	// the step names first and although another product lies between.
	clear := func(n int, regions ...uuid.UUID) Step { return on(coats("water-clear", n), regions...) }
	for name, last := range map[string][]uuid.UUID{"the full region last": {top, back}, "the full region first": {back, top}} {
		body := pieceOf("body", clear(1, top, back), clear(2, back), on(coats("airbrush-colour", 1), top), clear(1, last...))
		p := plan(t, asked{Now: at("2026-03-10 08:00"), Calendar: always(), Instruments: []Instrument{instrumentOf("Curlew", "2027-01-01", body)}})
		fourth := nth(t, p, "body", 5)
		assert.False(t, fourth.Start.Before(at("2026-03-11 04:00")), "%s: %s", name, fourth.Start)
	}
}

func TestTheOvernightRestIsCountedInEveryRegion(t *testing.T) {
	// Six coats of wiped varnish may go on in a day, but two want a night: of the top
	// one has been, of the back two.
	varnish := func(n int, regions ...uuid.UUID) Step { return on(coats("dewaxed-shellac", n), regions...) }
	f := of("dewaxed-shellac").Family
	body := pieceOf("body", varnish(1, top), varnish(f.RestAfter, back), varnish(1, top, back))
	p := plan(t, asked{Now: at("2026-03-10 08:00"), Calendar: always(), Instruments: []Instrument{instrumentOf("Curlew", "2027-01-01", body)}})
	before, after := nth(t, p, "body", 1+f.RestAfter), nth(t, p, "body", 2+f.RestAfter)
	assert.GreaterOrEqual(t, after.Start.Sub(before.End), 10*time.Hour)
	assert.NotEqual(t, before.Start.In(berlin).Day(), after.Start.In(berlin).Day())
}

func TestAFilmIsMetOnWhateverRegionItLiesOnTop(t *testing.T) {
	// The clear is scuffed on the top only: on the back its window still counts.
	f := of("urethane-2k")
	dull := on(Step{Step: job.Step{Kind: Scuff, HandsOnMin: 10}}, top)
	for name, regions := range map[string][]uuid.UUID{"the dull region first": {top, back}, "the dull region last": {back, top}} {
		body := pieceOf("body", on(coats("urethane-2k", 1), top, back), dull, on(coats("urethane-2k", 1), regions...))
		p := plan(t, asked{Now: at("2026-03-10 09:00"), Calendar: always(), Instruments: []Instrument{instrumentOf("Curlew", "2027-01-01", body)}})
		e := nth(t, p, "body", 3)
		assert.NotEqual(t, NoWindow, e.Window.Kind, name)
		hours, _ := f.Family.Limits[material.RecoatMax].Hours()
		assert.Equal(t, hours, e.Window.Latest.Sub(nth(t, p, "body", 1).End).Hours(), name)
	}
}

func TestTwoClosedWindowsWaitForTheLaterSanding(t *testing.T) {
	// Top and back were coated at different times; the second coat over both comes when
	// both windows have closed, and is scuffed when the later of the two may be sanded.
	coat := func(regions ...uuid.UUID) Step { return on(coats("urethane-2k", 1), regions...) }
	body := pieceOf("body", coat(top), coat(back), coat(back, top))
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Margin: 1.25, Instruments: []Instrument{instrumentOf("Curlew", "2027-01-01", body)}}
	events := orderOf(in.Instruments...)
	in.Facts = map[Event]Fact{events[0]: {End: at("2026-03-08 12:00")}, events[1]: {End: at("2026-03-09 10:00")}}
	e := nth(t, plan(t, in), "body", 3)
	assert.True(t, e.ScuffFirst, "24 h at most, a fifth taken off: both have closed")
	assert.Equal(t, at("2026-03-10 16:00"), e.Start, "the back may be sanded after 24 h and a quarter; the top long before")
}

func TestDustInTheAirWhereAPieceHangs(t *testing.T) {
	places := []Place{{ID: id("booth"), Name: "the booth", Kind: Booth, Air: "booth", HangsIn: id("bench")}, {ID: id("bench"), Name: "the bench", Kind: Bench, Air: "shop"}}
	clear := coats("water-clear", 1)
	clear.Method = material.Spray
	sprayed := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", clear))
	sanded := instrumentOf("Knot", "2026-06-01", pieceOf("knot", Step{Step: job.Step{Kind: Sand, HandsOnMin: 50}}))
	in := asked{Now: at("2026-03-10 09:00"), People: 2, Places: places, Instruments: []Instrument{sprayed, sanded}, Order: orderOf(sprayed, sanded)}
	p := plan(t, in)
	assert.Equal(t, at("2026-03-10 10:00"), nth(t, p, "knot", 1).Start, "sprayed in the booth, it hangs over the bench until it is dry to touch")
	in.Order = orderOf(sanded, sprayed)
	coat := nth(t, plan(t, in), "curlew", 1)
	assert.Equal(t, at("2026-03-10 09:50"), coat.Start)
	assert.Contains(t, plan(t, in).Sentence(coat.Event), "work in the air of the bench makes dust until")

	done := Event{Step: sprayed.Pieces[0].Steps[0].ID, Coat: 1}
	in.Order, in.Facts = nil, map[Event]Fact{done: {End: at("2026-03-10 08:50")}}
	assert.Equal(t, at("2026-03-10 09:20"), nth(t, plan(t, in), "knot", 1).Start, "one that is logged too")
	in.Places[0].HangsIn = uuid.Nil
	assert.Equal(t, at("2026-03-10 09:00"), nth(t, plan(t, in), "knot", 1).Start, "hanging in the booth, it is in nobody's way")
	in.Moves = []Move{{sprayed.Pieces[0].ID, id("bench"), at("2026-03-10 08:55")}}
	assert.Equal(t, at("2026-03-10 09:20"), nth(t, plan(t, in), "knot", 1).Start, "it was carried to the bench")
}

func TestATestSpeaksForItsFamily(t *testing.T) {
	// On lacquer a film may be handled after 48 h and coated with another family after
	// 72 h; on varnish after 72 h and 168 h. Passing the first says nothing of the second.
	for _, test := range []struct {
		family         string
		tested, asked  material.Milestone
		passed, builds bool
	}{
		{"nitro", material.Handle, material.Topcoat, true, false},
		{"brush-varnish", material.Handle, material.Topcoat, true, false},
		{"nitro", material.Topcoat, material.Handle, true, true},
		{"nitro", material.Handle, material.Handle, true, true},
		{"water-clear", material.Topcoat, material.Handle, true, true}, // both after 24 h
		{"water-clear", material.Handle, material.Topcoat, true, true},
		{"nitro", material.Topcoat, material.Handle, false, false}, // failed: handling is sooner, and may still be fine
	} {
		in := asked{Now: at("2026-03-10 12:00"), Calendar: always(), Instruments: one(coats(test.family, 1), Step{Step: job.Step{Kind: Gate, Film: test.asked}})}
		coat := in.Instruments[0].Pieces[0].Steps[0].Events()[0]
		in.Facts, in.Factors = map[Event]Fact{coat: {End: at("2026-03-09 12:00")}}, map[string]float64{test.family: 1}
		clock := nth(t, plan(t, in), "body", 2).Start
		in.Tests = []Test{{coat, test.tested, at("2026-03-10 11:00"), test.passed}}
		moved := !nth(t, plan(t, in), "body", 2).Start.Equal(clock)
		limit, _ := of(test.family).Limit(test.asked)
		hours, _ := limit.Hours()
		if test.passed && hours <= 24 {
			moved = test.builds // it was ready already
		}
		assert.Equal(t, test.builds, moved, "%+v", test)
	}
}

func TestAFailHoldsWhatIsLaterToo(t *testing.T) {
	in := asked{Now: at("2026-03-12 11:00"), Calendar: always(), Instruments: one(coats("nitro", 1), Step{Step: job.Step{Kind: Gate, Film: material.Topcoat}})}
	coat := in.Instruments[0].Pieces[0].Steps[0].Events()[0]
	in.Facts, in.Factors = map[Event]Fact{coat: {End: at("2026-03-09 12:00")}}, map[string]float64{"nitro": 1}
	in.Tests = []Test{{coat, material.Handle, at("2026-03-12 10:00"), false}}
	assert.Equal(t, at("2026-03-13 04:00"), nth(t, plan(t, in), "body", 2).Start, "soft after 70 h: a further quarter of its 72")
}

func TestAPassAfterAFailCounts(t *testing.T) {
	in := asked{Now: at("2026-03-10 20:00"), Calendar: always(), Instruments: one(coats("water-clear", 1), Step{Step: job.Step{Kind: Gate, Film: material.Handle}})}
	coat := in.Instruments[0].Pieces[0].Steps[0].Events()[0]
	in.Facts = map[Event]Fact{coat: {End: at("2026-03-10 08:00")}}
	in.Tests = []Test{{coat, material.Handle, at("2026-03-10 19:00"), true}, {coat, material.Handle, at("2026-03-10 12:00"), false}}
	assert.Equal(t, at("2026-03-10 20:00"), nth(t, plan(t, in), "body", 2).Start, "in whatever order they are told")
}

func TestPotLifeSplitsACoatIntoBatches(t *testing.T) {
	// A resin that sets in 24 minutes (polyester-2k), ninety minutes of work and twenty
	// of set-up: four mixes, each with its own set-up.
	resin := Step{Material: of("polyester-2k"), Step: job.Step{Kind: Coat, Method: material.Spray, HandsOnMin: 110, SetUpMin: 20}}
	in := asked{Now: at("2026-03-10 09:00"), Instruments: one(resin)}
	e := nth(t, plan(t, in), "body", 1)
	assert.Equal(t, 4, e.Batches)
	assert.Equal(t, 170*time.Minute, e.End.Sub(e.Start), "90 minutes in stretches of 24, 4 × 20 of mixing")

	in.Margin = 1.25
	assert.Equal(t, 5, nth(t, plan(t, in), "body", 1).Batches, "caution makes it 19 minutes")
	in.Margin, in.Places = 1, inRoom(steady(26, 50))
	assert.Equal(t, 6, nth(t, plan(t, in), "body", 1).Batches, "at 26 °C it sets in 15")
	in.Places, in.Instruments = nil, one(Step{Material: of("polyester-2k"), Step: job.Step{Kind: Coat, Method: material.Spray, HandsOnMin: 44, SetUpMin: 20}})
	assert.Equal(t, 1, nth(t, plan(t, in), "body", 1).Batches, "24 minutes just fit")
	in.Instruments = one(Step{Material: of("polyester-2k"), Step: job.Step{Kind: Coat, Method: material.Spray, HandsOnMin: 25}})
	e = nth(t, plan(t, in), "body", 1)
	assert.Equal(t, 30*time.Minute, e.End.Sub(e.Start), "a second mix takes five minutes where nothing is said")

	in.Instruments = one(Step{Material: of("polyester-2k"), Step: job.Step{Kind: Coat, Method: material.Spray, HandsOnMin: 24*12 + 1}})
	assert.Contains(t, nth(t, plan(t, in), "body", 1).Impossible, "that is 13 mixes for one coat")
	in.Margin, in.Instruments = 3, one(Step{Material: of("polyester-2k"), Step: job.Step{Kind: Coat, Method: material.Spray, HandsOnMin: 25}})
	in.Places = inRoom(steady(30, 50))
	assert.Contains(t, nth(t, plan(t, in), "body", 1).Impossible, "sets within 4 min")
	assert.Contains(t, plan(t, in).Forecasts[0].Impossible, "sets within 4 min")
}

func TestALoggedCoatKeepsItsPlaceUntilItHasFlashedOff(t *testing.T) {
	booth := []Place{{ID: id("booth"), Name: "the booth", Kind: Booth, Capacity: 1}, {ID: id("bench"), Name: "the bench", Kind: Bench}}
	clear := coats("water-clear", 1)
	clear.Method = material.Spray
	curlew, knot := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", clear)), instrumentOf("Knot", "2026-06-01", pieceOf("knot", clear))
	flash := time.Duration(of("water-clear").Family.Flash) * time.Minute
	in := asked{Now: at("2026-03-10 09:00"), Places: booth, Instruments: []Instrument{curlew, knot},
		Facts: map[Event]Fact{{Step: curlew.Pieces[0].Steps[0].ID, Coat: 1}: {End: at("2026-03-10 08:58")}}}
	e := nth(t, plan(t, in), "knot", 1)
	assert.Equal(t, at("2026-03-10 08:58").Add(flash), e.Start)
	assert.Equal(t, Full, e.Because.Cause)
}

func TestACoatFlashesOffAlsoUnderWorkThatEndsBefore(t *testing.T) { // found by make test-long
	booth := []Place{{ID: id("booth"), Name: "the booth", Kind: Booth, Capacity: 1}, {ID: id("bench"), Name: "the bench", Kind: Bench}}
	sprayed := func(family string, minutes int, region string) Step {
		return Step{Material: of(family), Step: job.Step{Kind: Coat, Coats: 1, Method: material.Spray, HandsOnMin: minutesOf(minutes), Regions: []uuid.UUID{id(region)}}}
	}
	curlew := instrumentOf("Curlew", "2026-06-01", pieceOf("curlew", sprayed("urethane-2k", 10, "top"), sprayed("water-dye", 3, "back")))
	knot := instrumentOf("Knot", "2026-06-01", pieceOf("knot", sprayed("water-dye", 5, "knot")))
	p := plan(t, asked{Now: at("2026-03-10 09:00"), Places: booth, People: 2, Instruments: []Instrument{curlew, knot}})
	assert.Equal(t, at("2026-03-10 09:10"), nth(t, p, "curlew", 2).Start, "its own piece is not in its way")
	assert.Equal(t, at("2026-03-10 09:22"), nth(t, p, "knot", 1).Start, "the urethane flashes off for 12 minutes, the dye that came after it for 2")
}

func TestNoStretchOfHandworkIsTooShort(t *testing.T) {
	evenings := weekdays(calendar.Hours{Open: 19 * 60, Close: 20*60 + 40})
	lengths := func(minutes int, least int) []int {
		in := instrumentOf("Curlew", "2026-03-20", pieceOf("body", Step{Step: job.Step{Kind: Level, HandsOnMin: minutesOf(minutes), Terms: Terms{Divide: &Divide{LeastMin: minutesOf(least)}}}}))
		var list []int
		for _, s := range nth(t, plan(t, asked{Now: at("2026-03-10 12:00"), Calendar: evenings, Instruments: []Instrument{in}}), "body", 1).Spans {
			list = append(list, int(s.Length().Minutes()))
		}
		return list
	}
	assert.Equal(t, []int{80, 30}, lengths(110, 30), "not 100 and a rest of 10")
	assert.Equal(t, []int{100, 100, 50}, lengths(250, 30))
	assert.Equal(t, []int{90, 90}, lengths(180, 90), "the least is the most here")
	assert.Empty(t, lengths(100, 60), "in one go")
	assert.Empty(t, lengths(110, 90), "110 minutes are neither one evening nor two of 90")
	cut := cutting{least: 30, longest: 45}
	assert.EqualValues(t, 30, cut.shortest(100), "30, 35 and 35 are possible")
	assert.EqualValues(t, 40, cut.part(45, 100), "45 would leave 55, which is neither one stretch of 45 nor two of 30")
}

func TestWhatNeedsTheWheelGoesToTheWheel(t *testing.T) {
	places := []Place{{ID: id("wheel"), Name: "the wheel", Kind: Wheel}, {ID: id("bench"), Name: "the bench", Kind: Bench}}
	in := asked{Now: at("2026-03-10 09:00"), Places: places, Instruments: one(Step{Step: job.Step{Kind: Buff, Title: "Rub to satin"}}, Step{Step: job.Step{Kind: Buff, Tool: BuffingWheel}})}
	p := plan(t, in)
	assert.Equal(t, id("bench"), nth(t, p, "body", 1).Place, "handwork is done at the bench")
	assert.Equal(t, id("wheel"), nth(t, p, "body", 2).Place)
}

func TestASprayedCoatIsNotWipedOff(t *testing.T) {
	coat := func(by material.Method) Step {
		return Step{Material: of("hardwax-oil"), Step: job.Step{Kind: Coat, Method: by, HandsOnMin: 30}}
	}
	wiped, sprayed := coat(material.Wipe), coat(material.Spray)
	assert.True(t, wiped.WipesOff())
	assert.False(t, sprayed.WipesOff())
	e := nth(t, plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: one(sprayed)}), "body", 1)
	assert.Equal(t, 30*time.Minute, e.End.Sub(e.Start))
}

func TestAGlueStandsStillInTheCold(t *testing.T) {
	glue := Step{Step: job.Step{Kind: Gate, Title: "Glue the neck in", HandsOnMin: 20, Terms: Terms{Glue: &Glue{ClampMin: 60, HandleMin: 240, FullMin: 1440}}}}
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), Instruments: one(glue, Step{Step: job.Step{Kind: Sand}})}
	in.Places = inRoom(steady(5, 50))
	assert.Equal(t, at("2026-03-10 09:20").Add(time.Duration(4*60*2.8284271*float64(time.Minute))).Truncate(time.Minute).Add(time.Minute), nth(t, plan(t, in), "body", 2).Start)
	in.Places = inRoom(steady(4.9, 50))
	assert.Contains(t, nth(t, plan(t, in), "body", 2).Impossible, "needs warmth")
	in.Places, in.Margin = nil, 1.5
	assert.Equal(t, at("2026-03-10 15:20"), nth(t, plan(t, in), "body", 2).Start, "caution counts for glue too")
}
