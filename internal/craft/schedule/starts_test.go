package schedule

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

func TestWhereASittingMayBePutAndWhyNotElsewhere(t *testing.T) {
	booth := Place{ID: id("booth"), Name: "the booth", Kind: Booth, Capacity: 1, Calendar: must(calendar.New(berlin, [7][]calendar.Hours{time.Thursday: {{Open: 9 * 60, Close: 18 * 60}}}, nil))}
	clear := coats("water-clear", 2)
	clear.Method = material.Spray
	now := at("2026-03-10 09:00") // a Tuesday
	in := asked{Now: now, Places: []Place{booth, {ID: id("bench"), Name: "the bench", Kind: Bench}}, Instruments: []Instrument{
		instrumentOf("Curlew", "2026-04-01", pieceOf("body", clear)),
		instrumentOf("Dunlin", "2026-04-01", pieceOf("neck", clear))}}
	other := Event{Step: in.Instruments[1].Pieces[0].Steps[0].ID, Coat: 1}
	in.Pins = map[Event]time.Time{other: at("2026-03-12 11:00")}
	p := plan(t, in)
	coat := Event{Step: in.Instruments[0].Pieces[0].Steps[0].ID, Coat: 1}
	says := func(event Event, text string) Starts {
		for _, s := range p.Starts(event, at("2026-03-20 09:00")) {
			if moment := at(text); !moment.Before(s.Start) && moment.Before(s.End) {
				return s
			}
		}
		require.Fail(t, "nothing is said of "+text)
		return Starts{}
	}
	assert.Equal(t, "The booth is closed.", says(coat, "2026-03-10 12:00").Why)
	assert.Equal(t, "The shop is closed.", says(coat, "2026-03-11 03:00").Why)
	assert.True(t, says(coat, "2026-03-12 09:15").Free)
	assert.Contains(t, says(coat, "2026-03-12 11:05").Why, "The booth is full", "the other coat is pinned there")
	assert.Contains(t, says(coat, "2026-03-12 17:45").Why, "too little of the opening is left")
	second := Event{Step: coat.Step, Coat: 2}
	assert.Contains(t, says(second, "2026-03-11 12:00").Why, "is dry enough to recoat from", "its own piece is not ready")
	assert.Empty(t, p.Starts(Event{}, now.Add(time.Hour)), "there is no such event")

	in.Facts = map[Event]Fact{coat: {End: now, Minutes: 30}}
	p = plan(t, in)
	assert.Empty(t, p.Starts(coat, now.Add(time.Hour)), "done work stays where it was")
	window := says(second, "2026-03-19 10:00")
	assert.False(t, window.Free)
	assert.Contains(t, window.Why, "after that it wants a scuff first")
}

func TestAPinKeepsItsPlaceInTheBooth(t *testing.T) {
	// The booth takes one piece, and the first in the order would have it all morning.
	places := []Place{{ID: id("booth"), Name: "the booth", Kind: Booth, Capacity: 1}, {ID: id("bench"), Name: "the bench", Kind: Bench}}
	coat := func(minutes unit.Minutes) Step {
		step := coats("water-clear", 1)
		step.Method, step.HandsOnMin = material.Spray, minutes
		return step
	}
	in := asked{Now: at("2026-03-10 09:00"), People: 2, Places: places, Instruments: []Instrument{
		instrumentOf("Curlew", "2026-04-01", pieceOf("body", coat(180))), instrumentOf("Dunlin", "2026-04-01", pieceOf("neck", coat(30)))}}
	pinned := Event{Step: in.Instruments[1].Pieces[0].Steps[0].ID, Coat: 1}
	in.Pins = map[Event]time.Time{pinned: at("2026-03-10 10:00")}
	e, _ := plan(t, in).Find(pinned)
	assert.True(t, e.Pinned, "another pair of hands is free, and the booth is kept for it: %+v", e.Because)
	assert.True(t, e.Start.Equal(at("2026-03-10 10:00")))
}

func TestTheCriticalWait(t *testing.T) {
	clear := coats("water-clear", 3)
	in := asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{instrumentOf("Curlew", "2026-06-01",
		pieceOf("body", clear, Step{Step: job.Step{Kind: Level, Film: material.Buff}}, Step{Step: job.Step{Kind: Gate}}),
		pieceOf("neck", Step{Step: job.Step{Kind: Sand}}))}}
	p := plan(t, in)
	wait, waits := p.CriticalWait(0)
	require.True(t, waits)
	last, _ := p.Find(Event{Step: in.Instruments[0].Pieces[0].Steps[0].ID, Coat: 3})
	assert.Equal(t, in.Instruments[0].Pieces[0].Steps[1].ID, wait.Event.Step, "levelling waits longest, until the film may be buffed")
	assert.Equal(t, last.End, wait.From)
	assert.Contains(t, wait.Reason, "hard enough to level and buff")

	_, waits = plan(t, asked{Now: at("2026-03-10 09:00"), Instruments: one(Step{Step: job.Step{Kind: Sand}})}).CriticalWait(0)
	assert.False(t, waits, "nothing waits")
}

func TestWhatADayHolds(t *testing.T) {
	closed := must(calendar.New(berlin, [7][]calendar.Hours{time.Tuesday: {{Open: 12 * 60, Close: 20 * 60}}}, nil))
	clear := coats("water-clear", 1)
	clear.Method, clear.HandsOnMin = material.Spray, 40
	in := asked{Now: at("2026-03-10 09:00"), People: 2,
		Places:      []Place{{ID: id("bench"), Name: "the bench", Kind: Bench}, {ID: id("booth"), Name: "the booth", Kind: Booth, Capacity: 2, Calendar: closed}},
		Instruments: []Instrument{instrumentOf("Curlew", "2026-06-01", pieceOf("body", Step{Step: job.Step{Kind: Sand, HandsOnMin: 90}}, clear))}}
	days := plan(t, in).Utilizations(must(calendar.ParseDay("2026-03-10")), 5)
	require.Len(t, days, 5)
	assert.Equal(t, Taken{130, 2 * 9 * 60}, days[0].Hands, "two people from nine to six")
	assert.Equal(t, Taken{40, 2 * 6 * 60}, days[0].Places[0].Taken, "the booth takes two, from noon until the shop closes")
	assert.False(t, days[1].Places[0].Open)
	assert.True(t, days[1].Open)
	assert.False(t, days[4].Open, "Saturday")
	assert.Equal(t, Taken{0, 0}, days[4].Hands)
}
