package schedule_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/unit"
)

// logged is a piece with some of its events done, in hours from a Monday noon.
func logged(t *testing.T, steps []schedule.Step, done map[int]float64) (Asked, []schedule.Event) {
	in := Asked{Now: At("2026-03-20 12:00"), Calendar: Always(), Instruments: One(steps...), Facts: map[schedule.Event]schedule.Fact{}}
	events := OrderOf(in.Instruments...)
	for k, hours := range done {
		in.Facts[events[k]] = schedule.Fact{End: noon(hours), Minutes: 20}
	}
	return in, events
}

func noon(hours float64) time.Time {
	return At("2026-03-09 12:00").Add(time.Duration(hours * float64(time.Hour)))
}

func TestDoubtsAreOfThisPieceAtThatTime(t *testing.T) {
	lacquer, twoPart := []schedule.Step{Coats("nitro", 3)}, []schedule.Step{Coats("urethane-2k", 9)}
	sanding := []schedule.Step{{Step: job.Step{Kind: schedule.Sand, Title: "Sand"}}, {Step: job.Step{Kind: schedule.MaskOn, Title: "Tape"}},
		{Step: job.Step{Kind: schedule.Inspect, Title: "Look"}}, Coats("nitro", 1), {Step: job.Step{Kind: schedule.Scuff, Title: "Scuff"}}}
	for name, test := range map[string]struct {
		steps   []schedule.Step
		done    map[int]float64
		event   int
		hours   float64
		skipped bool
		kinds   []schedule.Suspicion
		says    string
	}{
		"in order and dry": {lacquer, map[int]float64{0: 0}, 1, 3, false, nil, ""},
		"lacquer two minutes apart": {lacquer, map[int]float64{0: 0}, 1, 2.0 / 60, false, []schedule.Suspicion{schedule.TooSoon},
			"Coat 1 of 3, nitrocellulose lacquer was dry enough to recoat only from Mon 9 Mar 13:30."},
		"a coat under one that came at once": {lacquer, map[int]float64{0: 0, 2: 4}, 1, 3, false, []schedule.Suspicion{schedule.TooSoon},
			"Coat 3 of 3, nitrocellulose lacquer was done Mon 9 Mar 16:00, and this film was dry enough to recoat only from Mon 9 Mar " +
				"16:30."},
		"the second before the first": {lacquer, nil, 1, 3, false, []schedule.Suspicion{schedule.OutOfOrder},
			"“Coat 1 of 3, nitrocellulose lacquer” is not logged yet, and comes before “Coat 2 of 3, nitrocellulose lacquer”."},
		"the first after the second": {lacquer, map[int]float64{1: 0}, 0, 5, false, []schedule.Suspicion{schedule.OutOfOrder},
			"Coat 2 of 3, nitrocellulose lacquer was done Mon 9 Mar 12:00, before this, and comes after it."},
		"before the one that is done": {lacquer, map[int]float64{0: 5}, 1, 2, false,
			[]schedule.Suspicion{schedule.OutOfOrder, schedule.TooSoon}, "” was done Mon 9 Mar 17:00, and comes before “"},
		"before two that are done": {lacquer, map[int]float64{0: 5, 1: 8}, 2, 2, false,
			[]schedule.Suspicion{schedule.OutOfOrder, schedule.TooSoon},
			"“Coat 1 of 3, nitrocellulose lacquer” was done Mon 9 Mar 17:00, and comes before “"},
		"four coats in a day": {twoPart, map[int]float64{0: 0, 1: 1, 2: 2, 3: 3}, 4, 4, false,
			[]schedule.Suspicion{schedule.TooMany}, "coats of two-part urethane clear in a day; the film breathes through"},
		"a last step left out first": {sanding, nil, 4, 0, true, []schedule.Suspicion{schedule.OutOfOrder},
			"“Sand” and 3 more steps are not logged yet, and come before “Scuff”."},
		"scuffed before it was hard": {sanding, map[int]float64{0: -3, 1: -2, 2: -1, 3: 0}, 4, 1, false,
			[]schedule.Suspicion{schedule.TooSoon}, "hard enough to sand only from"},
		"taped where nothing has to be dry": {sanding, map[int]float64{0: 0}, 1, 0.01, false, nil, ""},
		"looked at where nothing is wet":    {sanding, map[int]float64{0: 0, 1: 0.01}, 2, 0.02, false, nil, ""},
		"a window that had closed": {twoPart, map[int]float64{0: 0}, 1, 30, false, []schedule.Suspicion{schedule.WindowClosed},
			"the film wants a scuff first, and none is logged."},
	} {
		t.Run(name, func(t *testing.T) {
			in, events := logged(t, test.steps, test.done)
			doubts := Plan(t, in).Doubts(schedule.Happening{Event: events[test.event], End: noon(test.hours), Skipped: test.skipped})
			var kinds []schedule.Suspicion
			text := ""
			for _, d := range doubts {
				kinds, text = append(kinds, d.Kind), text+d.Text
			}
			assert.Equal(t, test.kinds, kinds, text)
			assert.Contains(t, unit.Unmarked(text), test.says)
		})
	}
}

func TestNineCoatsInTwoDaysAreDoubted(t *testing.T) {
	in, events := logged(t, []schedule.Step{Coats("urethane-2k", 9)}, nil)
	doubted := 0
	for k, event := range events {
		hours := float64(k) * 5
		for _, d := range Plan(t, in).Doubts(schedule.Happening{Event: event, End: noon(hours)}) {
			if d.Kind == schedule.TooMany {
				doubted++
			}
		}
		in.Facts[event] = schedule.Fact{End: noon(hours), Minutes: 20}
	}
	assert.Positive(t, doubted)
	f := Of("urethane-2k").Family
	assert.Equal(t, 9-min(f.RestAfter, f.CoatsPerDay), doubted, "every coat after those that may follow without a night")
}

func TestADoubtCountsRegionByRegion(t *testing.T) {
	clear := func(n int, regions ...uuid.UUID) schedule.Step { return on(Coats("water-clear", n), regions...) }
	in, events := logged(t, []schedule.Step{clear(1, top, back), clear(2, back), clear(1, top), clear(1, back, top)},
		map[int]float64{0: 0, 1: 3, 2: 6, 3: 6.5})
	doubts := Plan(t, in).Doubts(schedule.Happening{Event: events[4], End: noon(9)})
	assert.Len(t, doubts, 1)
	assert.Equal(t, schedule.TooMany, doubts[0].Kind, "the back has had three")
}

func TestAnotherJobsHandsAreNoDoubt(t *testing.T) {
	busy := InstrumentOf("Knot", "2027-01-01", PieceOf("knot", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 500}}))
	mine := InstrumentOf("Curlew", "2027-01-01", PieceOf("curlew", schedule.Step{Step: job.Step{Kind: schedule.Scuff, HandsOnMin: 10}}))
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{busy, mine}}
	assert.Empty(t, Plan(t, in).Doubts(schedule.Happening{Event: OrderOf(mine)[0], End: At("2026-03-10 09:00")}))
	assert.Empty(t, Plan(t, in).Doubts(schedule.Happening{Event: schedule.Event{Step: ID("nothing"), Coat: 1}}))
}

func TestWhatStandsOnAnEntry(t *testing.T) {
	body, neck := PieceOf("body", Coats("nitro", 3)), PieceOf("neck", schedule.Step{Step: job.Step{Kind: schedule.Sand}})
	whole := PieceOf("whole", schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "Bolt on", Film: material.TouchDry,
		After: []uuid.UUID{body.Steps[0].ID}}})
	in := Asked{Now: At("2026-03-20 12:00"), Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2027-01-01", body, neck, whole)},
		Facts: map[schedule.Event]schedule.Fact{}}
	events := OrderOf(in.Instruments...)
	_, stands := Plan(t, in).StandsOn(events[0])
	assert.False(t, stands)
	in.Facts[events[0]] = schedule.Fact{End: noon(0)}
	in.Facts[events[1]] = schedule.Fact{End: noon(3)}
	in.Facts[events[3]] = schedule.Fact{End: noon(4)} // the neck stands on nothing of the body
	d, stands := Plan(t, in).StandsOn(events[0])
	assert.True(t, stands)
	assert.Equal(t, schedule.Doubt{Kind: schedule.StoodOn, Text: "Coat 2 of 3, nitrocellulose lacquer came after it and stands on it."}, d)
	in.Facts[events[2]], in.Facts[events[4]] = schedule.Fact{End: noon(8)}, schedule.Fact{End: noon(50)}
	d, _ = Plan(t, in).StandsOn(events[0])
	assert.Equal(t, "Coat 2 of 3, nitrocellulose lacquer and 2 more steps came after it and stand on it.", d.Text)
	_, stands = Plan(t, in).StandsOn(events[4])
	assert.False(t, stands, "nothing comes after it")
}
