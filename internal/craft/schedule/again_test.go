package schedule_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/proptest"
)

// TestFromAnEarlierPlanIsTheSame changes a shop step by step and plans it both
// from what was before and from nothing.
func TestFromAnEarlierPlanIsTheSame(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		drawn := RandomShop(t)
		drawn.Pins = nil
		in := drawn.Input()
		in.Begun = make(map[schedule.Event]time.Time)
		p := Must(schedule.Retime(in))
		for range rapid.IntRange(1, 4).Draw(t, "changes") {
			change(t, &in, p)
			next := Must(p.Retime(in))
			whole := Must(schedule.Retime(in))
			for i := range whole.Events {
				require.Equal(t, whole.Events[i], next.Events[i], "%s", explain.Sentence(whole, whole.Events[i].Event))
			}
			require.Equal(t, whole.Forecasts, next.Forecasts)
			p = next
		}
	})
}

// A coat that was struck from the log leaves the air to a sanding that has waited
// for it to be out of the dust.
func TestAStruckCoatGivesTheAirBack(t *testing.T) {
	body, neck := InstrumentOf("body", "2026-05-01", PieceOf("coated", Coats("water-clear", 1))),
		InstrumentOf("neck", "2026-05-01", PieceOf("sanded", schedule.Step{Step: job.Step{Kind: schedule.Sand}}))
	in := Asked{Now: At("2026-03-10 10:00"), Places: []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench}},
		Instruments: []schedule.Instrument{body, neck}, Order: append(OrderOf(neck), OrderOf(body)...)}.Input()
	coat := OrderOf(body)[0]
	in.Facts = map[schedule.Event]schedule.Fact{coat: {End: in.Now, Minutes: 30}}
	logged := Must(schedule.Retime(in))
	require.True(t, Nth(t, logged, "sanded", 1).Start.After(in.Now), "the coat is wet")

	in.Facts = nil
	struck := Must(logged.Retime(in))
	require.Equal(t, in.Now, Nth(t, struck, "sanded", 1).Start)
	require.Equal(t, Must(schedule.Retime(in)).Events, struck.Events)
}

// The coats of a day count together: a coat may be sooner because the first of
// them is on another day now, though the one right before it has not moved.
func TestTheFirstCoatOfTheDayMovesAndTheFourthIsSooner(t *testing.T) {
	other := InstrumentOf("other", "2026-05-01", PieceOf("busy", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 180}},
		schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 300}}))
	sealer := func(n int) schedule.Step {
		return schedule.Step{Material: Of("dewaxed-shellac"), Step: job.Step{Kind: schedule.Coat, Coats: n, HandsOnMin: 60}}
	}
	delivery := schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Tuners", Film: material.TouchDry,
		Terms: schedule.Terms{Arrival: &schedule.Arrival{Expected: Must(calendar.ParseDay("2026-03-11"))}}}}
	coated := InstrumentOf("coated", "2026-05-01", PieceOf("body", sealer(1), delivery, sealer(3)))
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Weekdays(calendar.Hours{Open: 9 * 60, Close: 12 * 60},
		calendar.Hours{Open: 13 * 60, Close: 18 * 60}),
		Instruments: []schedule.Instrument{other, coated}, Order: OrderOf(other, coated)}.Input()
	busy := Must(schedule.Retime(in))
	require.Equal(t, At("2026-03-11 09:00"), Nth(t, busy, "body", 1).Start)
	require.Equal(t, At("2026-03-12 09:00"), Nth(t, busy, "body", 5).Start, "three coats a day")

	in.Facts = make(map[schedule.Event]schedule.Fact)
	for _, sanding := range OrderOf(other) {
		in.Facts[sanding] = schedule.Fact{End: in.Now, Minutes: 60}
	}
	free := Must(busy.Retime(in))
	require.Equal(t, At("2026-03-10 09:00"), Nth(t, free, "body", 1).Start)
	require.Equal(t, Nth(t, busy, "body", 4).Start, Nth(t, free, "body", 4).Start)
	require.Equal(t, At("2026-03-11 15:00"), Nth(t, free, "body", 5).Start)
	require.Equal(t, Must(schedule.Retime(in)).Events, free.Events)
}

// A coat that waits for a scuff, because hands were not free while its window was
// open (a weekend came between), takes the window when they are.
func TestHandsThatComeFreeInTheWindowSpareTheScuff(t *testing.T) {
	coated := InstrumentOf("coated", "2026-05-01", PieceOf("body", Coats("urethane-2k", 2)))
	other := InstrumentOf("other", "2026-05-01", PieceOf("busy", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 510}}))
	first, second, sanding := OrderOf(coated)[0], OrderOf(coated)[1], OrderOf(other)[0]
	in := Asked{Now: At("2026-03-13 09:00"), Instruments: []schedule.Instrument{coated, other},
		Order: []schedule.Event{first, sanding, second}}.Input()
	busy := Must(schedule.Retime(in))
	require.True(t, Nth(t, busy, "body", 2).ScuffFirst)

	in.Facts = map[schedule.Event]schedule.Fact{sanding: {End: in.Now, Minutes: 60}}
	free := Must(busy.Retime(in))
	require.False(t, Nth(t, free, "body", 2).ScuffFirst)
	require.Equal(t, Must(schedule.Retime(in)).Events, free.Events)
}

// Who is at a begun job is found out anew: when the first pair of hands comes free
// it is theirs, and the second pair's next work is not left with the first.
func TestABegunJobChangesHands(t *testing.T) {
	first, second, third := InstrumentOf("a", "2026-05-01",
		PieceOf("a", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 40}})),
		InstrumentOf("b", "2026-05-01", PieceOf("b", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 100}})),
		InstrumentOf("c", "2026-05-01", PieceOf("c", schedule.Step{Step: job.Step{Kind: schedule.MaskOn, HandsOnMin: 10}}))
	in := Asked{Now: At("2026-03-10 11:00"), People: 2, Instruments: []schedule.Instrument{first, second, third},
		Order: OrderOf(first, second, third)}.Input()
	in.Begun = map[schedule.Event]time.Time{OrderOf(first)[0]: in.Now, OrderOf(second)[0]: in.Now}
	busy := Must(schedule.Retime(in))
	require.Equal(t, 1, Nth(t, busy, "b", 1).Person)

	in.Now = At("2026-03-10 11:40")
	in.Facts = map[schedule.Event]schedule.Fact{OrderOf(first)[0]: {End: in.Now, Minutes: 40}}
	in.Begun = map[schedule.Event]time.Time{OrderOf(second)[0]: At("2026-03-10 11:00")}
	require.Equal(t, Must(schedule.Retime(in)).Events, Must(busy.Retime(in)).Events)
}

func change(t *rapid.T, in *schedule.Input, p *schedule.Plan) {
	open := ahead(p)
	in.Facts, in.Begun = maps.Clone(in.Facts), maps.Clone(in.Begun)
	if in.Facts == nil {
		in.Facts = make(map[schedule.Event]schedule.Fact)
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
			in.Facts[e.Event] = RandomFact(t, end, in.Shop.Places)
		}
	case 2: // an entry is struck
		for _, event := range OrderOf(in.Instruments...) {
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
		job := InstrumentOf(fmt.Sprintf("job %d", n), "2026-05-01",
			PieceOf(fmt.Sprintf("piece %d.0", n), RandomStep(t, true), RandomStep(t, false)))
		in.Instruments = append(slices.Clone(in.Instruments), job)
		in.Order = append(slices.Clone(in.Order), OrderOf(job)...)
	}
}

// onOneHook is a shop with one hook in its drying room.
var onOneHook = []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, HangsIn: ID("rack")},
	{ID: ID("rack"), Name: "the rack", Kind: "drying", Hooks: 1}}

// byHand is work that makes no dust.
func byHand(name string, minutes int) schedule.Instrument {
	return InstrumentOf(name, "2026-05-01", PieceOf(name, schedule.Step{Step: job.Step{Kind: schedule.MaskOn,
		HandsOnMin: MinutesOf(minutes)}}))
}

// A piece that hangs is not in its own way when it is asked anew why its next coat is
// not earlier.
func TestAPieceIsNotInItsOwnWay(t *testing.T) {
	coated, struck, begun, long := InstrumentOf("coated", "2026-05-01", PieceOf("body", Coats("water-clear", 2))),
		byHand("struck", 20), byHand("begun", 120), byHand("long", 60)
	in := Asked{Now: At("2026-03-10 10:00"), Places: onOneHook, Instruments: []schedule.Instrument{struck, begun, long, coated},
		Calendar: Weekdays(calendar.Hours{Open: 9 * 60, Close: 11*60 + 25}, calendar.Hours{Open: 13 * 60, Close: 18 * 60}),
		Order:    OrderOf(struck, begun, long, coated)}.Input()
	in.Begun = map[schedule.Event]time.Time{OrderOf(begun)[0]: At("2026-03-10 09:00")}
	coat, done := schedule.Fact{End: At("2026-03-10 09:00"), Minutes: 30}, schedule.Fact{End: At("2026-03-10 08:00"), Minutes: 20}
	in.Facts = map[schedule.Event]schedule.Fact{OrderOf(coated)[0]: coat, OrderOf(struck)[0]: done}
	logged := Must(schedule.Retime(in))
	require.Equal(t, At("2026-03-10 14:00"), Nth(t, logged, "body", 2).Start)

	in.Facts = map[schedule.Event]schedule.Fact{OrderOf(coated)[0]: coat}
	again := Must(logged.Retime(in))
	require.Equal(t, At("2026-03-10 11:00"), Nth(t, again, "struck", 1).Start, "done between")
	require.Equal(t, schedule.Hands, Nth(t, again, "body", 2).Because.Cause)
	require.Equal(t, Must(schedule.Retime(in)).Events, again.Events)
}

// What a piece waits for is struck, and it hangs on: a hook that was free is not.
func TestAPieceHangsUntilItIsTakenUpWheneverThatIs(t *testing.T) {
	delivery := schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Tuners", Film: material.TouchDry,
		Terms: schedule.Terms{Arrival: &schedule.Arrival{Expected: Must(calendar.ParseDay("2026-03-13"))}}}}
	masked := schedule.Step{Step: job.Step{Kind: schedule.MaskOn, HandsOnMin: 3 * 60}}
	first := InstrumentOf("first", "2026-05-01", PieceOf("slow", Coats("flake-clear", 1), delivery))
	other := InstrumentOf("other", "2026-05-01", PieceOf("quick", masked, Coats("polyester-uv", 1)))
	in := Asked{Now: At("2026-03-11 20:00"), Calendar: Always(), Places: onOneHook, Instruments: []schedule.Instrument{first, other},
		Order: OrderOf(first, other)}.Input()
	coat := schedule.Fact{End: At("2026-03-11 19:00"), Minutes: 30}
	in.Facts = map[schedule.Event]schedule.Fact{OrderOf(first)[0]: coat, OrderOf(first)[1]: {End: in.Now, Minutes: 10}}
	logged := Must(schedule.Retime(in))
	require.Equal(t, At("2026-03-11 23:00"), Nth(t, logged, "quick", 2).Start)

	in.Facts = map[schedule.Event]schedule.Fact{OrderOf(first)[0]: coat}
	struck := Must(logged.Retime(in))
	require.Equal(t, At("2026-03-12 11:00"), Nth(t, struck, "quick", 2).Start, "sixteen hours until the first may be handled")
	require.Equal(t, Must(schedule.Retime(in)).Events, struck.Events)
}
