package schedule

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// logged is a piece with some of its events done, in hours from a Monday noon.
func logged(t *testing.T, steps []Step, done map[int]float64) (asked, []Event) {
	in := asked{Now: at("2026-03-20 12:00"), Calendar: always(), Instruments: one(steps...), Facts: map[Event]Fact{}}
	events := orderOf(in.Instruments...)
	for k, hours := range done {
		in.Facts[events[k]] = Fact{End: noon(hours), Minutes: 20}
	}
	return in, events
}

func noon(hours float64) time.Time {
	return at("2026-03-09 12:00").Add(time.Duration(hours * float64(time.Hour)))
}

func TestDoubtsAreOfThisPieceAtThatTime(t *testing.T) {
	lacquer, twoPart := []Step{coats("nitro", 3)}, []Step{coats("urethane-2k", 9)}
	sanding := []Step{{Step: job.Step{Kind: Sand, Title: "Sand"}}, {Step: job.Step{Kind: MaskOn, Title: "Tape"}}, {Step: job.Step{Kind: Inspect, Title: "Look"}}, coats("nitro", 1), {Step: job.Step{Kind: Scuff, Title: "Scuff"}}}
	for name, test := range map[string]struct {
		steps   []Step
		done    map[int]float64
		event   int
		hours   float64
		skipped bool
		kinds   []Suspicion
		says    string
	}{
		"in order and dry":                   {lacquer, map[int]float64{0: 0}, 1, 3, false, nil, ""},
		"lacquer two minutes apart":          {lacquer, map[int]float64{0: 0}, 1, 2.0 / 60, false, []Suspicion{TooSoon}, "Coat 1 of 3, nitrocellulose lacquer was dry enough to recoat only from Mon 9 Mar 13:30."},
		"a coat under one that came at once": {lacquer, map[int]float64{0: 0, 2: 4}, 1, 3, false, []Suspicion{TooSoon}, "Coat 3 of 3, nitrocellulose lacquer was done Mon 9 Mar 16:00, and this film was dry enough to recoat only from Mon 9 Mar 16:30."},
		"the second before the first":        {lacquer, nil, 1, 3, false, []Suspicion{OutOfOrder}, "“Coat 1 of 3, nitrocellulose lacquer” is not logged yet, and comes before “Coat 2 of 3, nitrocellulose lacquer”."},
		"the first after the second":         {lacquer, map[int]float64{1: 0}, 0, 5, false, []Suspicion{OutOfOrder}, "Coat 2 of 3, nitrocellulose lacquer was done Mon 9 Mar 12:00, before this, and comes after it."},
		"before the one that is done":        {lacquer, map[int]float64{0: 5}, 1, 2, false, []Suspicion{OutOfOrder, TooSoon}, "” was done Mon 9 Mar 17:00, and comes before “"},
		"before two that are done":           {lacquer, map[int]float64{0: 5, 1: 8}, 2, 2, false, []Suspicion{OutOfOrder, TooSoon}, "“Coat 1 of 3, nitrocellulose lacquer” was done Mon 9 Mar 17:00, and comes before “"},
		"four coats in a day":                {twoPart, map[int]float64{0: 0, 1: 1, 2: 2, 3: 3}, 4, 4, false, []Suspicion{TooMany}, "coats of two-part urethane clear in a day; the film breathes through"},
		"a last step left out first":         {sanding, nil, 4, 0, true, []Suspicion{OutOfOrder}, "“Sand” and 3 more steps are not logged yet, and come before “Scuff”."},
		"scuffed before it was hard":         {sanding, map[int]float64{0: -3, 1: -2, 2: -1, 3: 0}, 4, 1, false, []Suspicion{TooSoon}, "hard enough to sand only from"},
		"taped where nothing has to be dry":  {sanding, map[int]float64{0: 0}, 1, 0.01, false, nil, ""},
		"looked at where nothing is wet":     {sanding, map[int]float64{0: 0, 1: 0.01}, 2, 0.02, false, nil, ""},
		"a window that had closed":           {twoPart, map[int]float64{0: 0}, 1, 30, false, []Suspicion{WindowClosed}, "the film wants a scuff first, and none is logged."},
	} {
		t.Run(name, func(t *testing.T) {
			in, events := logged(t, test.steps, test.done)
			doubts := plan(t, in).Doubts(Happening{Event: events[test.event], End: noon(test.hours), Skipped: test.skipped})
			var kinds []Suspicion
			text := ""
			for _, d := range doubts {
				kinds, text = append(kinds, d.Kind), text+d.Text
			}
			assert.Equal(t, test.kinds, kinds, text)
			assert.Contains(t, text, test.says)
		})
	}
}

func TestNineCoatsInTwoDaysAreDoubted(t *testing.T) {
	in, events := logged(t, []Step{coats("urethane-2k", 9)}, nil)
	doubted := 0
	for k, event := range events {
		hours := float64(k) * 5
		for _, d := range plan(t, in).Doubts(Happening{Event: event, End: noon(hours)}) {
			if d.Kind == TooMany {
				doubted++
			}
		}
		in.Facts[event] = Fact{End: noon(hours), Minutes: 20}
	}
	assert.Positive(t, doubted)
	f := of("urethane-2k").Family
	assert.Equal(t, 9-min(f.RestAfter, f.CoatsPerDay), doubted, "every coat after those that may follow without a night")
}

func TestADoubtCountsRegionByRegion(t *testing.T) {
	clear := func(n int, regions ...uuid.UUID) Step { return on(coats("water-clear", n), regions...) }
	in, events := logged(t, []Step{clear(1, top, back), clear(2, back), clear(1, top), clear(1, back, top)}, map[int]float64{0: 0, 1: 3, 2: 6, 3: 6.5})
	doubts := plan(t, in).Doubts(Happening{Event: events[4], End: noon(9)})
	assert.Len(t, doubts, 1)
	assert.Equal(t, TooMany, doubts[0].Kind, "the back has had three")
}

func TestAnotherJobsHandsAreNoDoubt(t *testing.T) {
	busy := instrumentOf("Knot", "2027-01-01", pieceOf("knot", Step{Step: job.Step{Kind: Gate, HandsOnMin: 500}}))
	mine := instrumentOf("Curlew", "2027-01-01", pieceOf("curlew", Step{Step: job.Step{Kind: Scuff, HandsOnMin: 10}}))
	in := asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{busy, mine}}
	assert.Empty(t, plan(t, in).Doubts(Happening{Event: orderOf(mine)[0], End: at("2026-03-10 09:00")}))
	assert.Empty(t, plan(t, in).Doubts(Happening{Event: Event{Step: id("nothing"), Coat: 1}}))
}

func TestWhatStandsOnAnEntry(t *testing.T) {
	body, neck := pieceOf("body", coats("nitro", 3)), pieceOf("neck", Step{Step: job.Step{Kind: Sand}})
	whole := pieceOf("whole", Step{Step: job.Step{Kind: Gate, Title: "Bolt on", Film: material.TouchDry, After: []uuid.UUID{body.Steps[0].ID}}})
	in := asked{Now: at("2026-03-20 12:00"), Instruments: []Instrument{instrumentOf("Curlew", "2027-01-01", body, neck, whole)}, Facts: map[Event]Fact{}}
	events := orderOf(in.Instruments...)
	_, stands := plan(t, in).StandsOn(events[0])
	assert.False(t, stands)
	in.Facts[events[0]] = Fact{End: noon(0)}
	in.Facts[events[1]] = Fact{End: noon(3)}
	in.Facts[events[3]] = Fact{End: noon(4)} // the neck stands on nothing of the body
	d, stands := plan(t, in).StandsOn(events[0])
	assert.True(t, stands)
	assert.Equal(t, Doubt{Kind: StoodOn, Text: "Coat 2 of 3, nitrocellulose lacquer came after it and stands on it."}, d)
	in.Facts[events[2]], in.Facts[events[4]] = Fact{End: noon(8)}, Fact{End: noon(50)}
	d, _ = plan(t, in).StandsOn(events[0])
	assert.Equal(t, "Coat 2 of 3, nitrocellulose lacquer and 2 more steps came after it and stand on it.", d.Text)
	_, stands = plan(t, in).StandsOn(events[4])
	assert.False(t, stands, "nothing comes after it")
}
