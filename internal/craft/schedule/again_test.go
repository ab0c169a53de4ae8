package schedule

import (
	"fmt"
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/proptest"
)

// TestFromAnEarlierPlanIsTheSame changes a shop step by step and plans it both
// from what was before and from nothing.
func TestFromAnEarlierPlanIsTheSame(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		drawn := randomShop(t)
		drawn.Pins = nil
		in := drawn.input()
		in.Begun = make(map[Event]time.Time)
		p := must(Retime(in))
		for range rapid.IntRange(1, 4).Draw(t, "changes") {
			change(t, &in, p)
			next := must(p.Retime(in))
			whole := must(Retime(in))
			for i := range whole.Events {
				require.Equal(t, whole.Events[i], next.Events[i], "%s", whole.Sentence(whole.Events[i].Event))
			}
			require.Equal(t, whole.Forecasts, next.Forecasts)
			p = next
		}
	})
}

// A coat that was struck from the log leaves the air to a sanding that has waited
// for it to be out of the dust.
func TestAStruckCoatGivesTheAirBack(t *testing.T) {
	body, neck := instrumentOf("body", "2026-05-01", pieceOf("coated", coats("water-clear", 1))), instrumentOf("neck", "2026-05-01", pieceOf("sanded", Step{Step: job.Step{Kind: Sand}}))
	in := asked{Now: at("2026-03-10 10:00"), Places: []Place{{ID: id("bench"), Name: "the bench", Kind: Bench}},
		Instruments: []Instrument{body, neck}, Order: append(orderOf(neck), orderOf(body)...)}.input()
	coat := orderOf(body)[0]
	in.Facts = map[Event]Fact{coat: {End: in.Now, Minutes: 30}}
	logged := must(Retime(in))
	require.True(t, nth(t, logged, "sanded", 1).Start.After(in.Now), "the coat is wet")

	in.Facts = nil
	struck := must(logged.Retime(in))
	require.Equal(t, in.Now, nth(t, struck, "sanded", 1).Start)
	require.Equal(t, must(Retime(in)).Events, struck.Events)
}

// The coats of a day count together: a coat may be sooner because the first of
// them is on another day now, though the one right before it has not moved.
func TestTheFirstCoatOfTheDayMovesAndTheFourthIsSooner(t *testing.T) {
	other := instrumentOf("other", "2026-05-01", pieceOf("busy", Step{Step: job.Step{Kind: Sand, HandsOnMin: 180}}, Step{Step: job.Step{Kind: Sand, HandsOnMin: 300}}))
	sealer := func(n int) Step {
		return Step{Material: of("dewaxed-shellac"), Step: job.Step{Kind: Coat, Coats: n, HandsOnMin: 60}}
	}
	delivery := Step{Step: job.Step{Kind: Gate, Title: "Tuners", Film: material.TouchDry, Terms: Terms{Arrival: &Arrival{Expected: must(calendar.ParseDay("2026-03-11"))}}}}
	coated := instrumentOf("coated", "2026-05-01", pieceOf("body", sealer(1), delivery, sealer(3)))
	in := asked{Now: at("2026-03-10 09:00"), Calendar: weekdays(calendar.Hours{Open: 9 * 60, Close: 12 * 60}, calendar.Hours{Open: 13 * 60, Close: 18 * 60}),
		Instruments: []Instrument{other, coated}, Order: orderOf(other, coated)}.input()
	busy := must(Retime(in))
	require.Equal(t, at("2026-03-11 09:00"), nth(t, busy, "body", 1).Start)
	require.Equal(t, at("2026-03-12 09:00"), nth(t, busy, "body", 5).Start, "three coats a day")

	in.Facts = make(map[Event]Fact)
	for _, sanding := range orderOf(other) {
		in.Facts[sanding] = Fact{End: in.Now, Minutes: 60}
	}
	free := must(busy.Retime(in))
	require.Equal(t, at("2026-03-10 09:00"), nth(t, free, "body", 1).Start)
	require.Equal(t, nth(t, busy, "body", 4).Start, nth(t, free, "body", 4).Start)
	require.Equal(t, at("2026-03-11 15:00"), nth(t, free, "body", 5).Start)
	require.Equal(t, must(Retime(in)).Events, free.Events)
}

// A coat that waits for a scuff, because hands were not free while its window was
// open (a weekend came between), takes the window when they are.
func TestHandsThatComeFreeInTheWindowSpareTheScuff(t *testing.T) {
	coated := instrumentOf("coated", "2026-05-01", pieceOf("body", coats("urethane-2k", 2)))
	other := instrumentOf("other", "2026-05-01", pieceOf("busy", Step{Step: job.Step{Kind: Sand, HandsOnMin: 510}}))
	first, second, sanding := orderOf(coated)[0], orderOf(coated)[1], orderOf(other)[0]
	in := asked{Now: at("2026-03-13 09:00"), Instruments: []Instrument{coated, other}, Order: []Event{first, sanding, second}}.input()
	busy := must(Retime(in))
	require.True(t, nth(t, busy, "body", 2).ScuffFirst)

	in.Facts = map[Event]Fact{sanding: {End: in.Now, Minutes: 60}}
	free := must(busy.Retime(in))
	require.False(t, nth(t, free, "body", 2).ScuffFirst)
	require.Equal(t, must(Retime(in)).Events, free.Events)
}

// Who is at a begun job is found out anew: when the first pair of hands comes free
// it is theirs, and the second pair's next work is not left with the first.
func TestABegunJobChangesHands(t *testing.T) {
	first, second, third := instrumentOf("a", "2026-05-01", pieceOf("a", Step{Step: job.Step{Kind: Sand, HandsOnMin: 40}})),
		instrumentOf("b", "2026-05-01", pieceOf("b", Step{Step: job.Step{Kind: Sand, HandsOnMin: 100}})), instrumentOf("c", "2026-05-01", pieceOf("c", Step{Step: job.Step{Kind: MaskOn, HandsOnMin: 10}}))
	in := asked{Now: at("2026-03-10 11:00"), People: 2, Instruments: []Instrument{first, second, third}, Order: orderOf(first, second, third)}.input()
	in.Begun = map[Event]time.Time{orderOf(first)[0]: in.Now, orderOf(second)[0]: in.Now}
	busy := must(Retime(in))
	require.Equal(t, 1, nth(t, busy, "b", 1).Person)

	in.Now = at("2026-03-10 11:40")
	in.Facts = map[Event]Fact{orderOf(first)[0]: {End: in.Now, Minutes: 40}}
	in.Begun = map[Event]time.Time{orderOf(second)[0]: at("2026-03-10 11:00")}
	require.Equal(t, must(Retime(in)).Events, must(busy.Retime(in)).Events)
}

func change(t *rapid.T, in *Input, p *Plan) {
	open := ahead(p)
	in.Facts, in.Begun = maps.Clone(in.Facts), maps.Clone(in.Begun)
	if in.Facts == nil {
		in.Facts = make(map[Event]Fact)
	}
	switch rapid.IntRange(0, 4).Draw(t, "change") {
	case 0: // time passes
		in.Now = in.Now.Add(time.Duration(rapid.IntRange(0, 500).Draw(t, "passes")) * time.Minute)
	case 1: // something is done, more or less as planned
		if len(open) > 0 {
			e := rapid.SampledFrom(open).Draw(t, "done")
			end := e.End.Add(time.Duration(rapid.IntRange(-20, 60).Draw(t, "late")) * time.Minute)
			if end.After(in.Now) {
				in.Now = end
			}
			delete(in.Begun, e.Event)
			in.Facts[e.Event] = Fact{End: end, Minutes: 25}
		}
	case 2: // an entry is struck
		for _, event := range orderOf(in.Instruments...) {
			if _, done := in.Facts[event]; done {
				delete(in.Facts, event)
				break
			}
		}
	case 3: // somebody begins something
		for _, e := range open {
			if e.Startable && !e.Start.After(in.Now) {
				in.Begun[e.Event] = in.Now
				break
			}
		}
	case 4: // a job comes in
		n := len(in.Instruments)
		job := instrumentOf(fmt.Sprintf("job %d", n), "2026-05-01", pieceOf(fmt.Sprintf("piece %d.0", n), randomStep(t, true), randomStep(t, false)))
		in.Instruments = append(slices.Clone(in.Instruments), job)
		in.Order = append(slices.Clone(in.Order), orderOf(job)...)
	}
}
