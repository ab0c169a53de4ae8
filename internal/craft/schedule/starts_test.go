package schedule_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

func TestWhereASittingMayBePutAndWhyNotElsewhere(t *testing.T) {
	booth := schedule.Place{ID: ID("booth"), Name: "the booth", Kind: settings.Booth, Capacity: 1,
		Calendar: Must(calendar.New(Berlin, [7][]calendar.Hours{time.Thursday: {{Open: 9 * 60, Close: 18 * 60}}}, nil))}
	clear := Coats("water-clear", 2)
	clear.Method = material.Spray
	now := At("2026-03-10 09:00") // a Tuesday
	in := Asked{Now: now, Places: []schedule.Place{booth, {ID: ID("bench"), Name: "the bench", Kind: settings.Bench}},
		Instruments: []schedule.Instrument{
			InstrumentOf("Curlew", "2026-04-01", PieceOf("body", clear)),
			InstrumentOf("Dunlin", "2026-04-01", PieceOf("neck", clear))}}
	other := schedule.Event{Step: in.Instruments[1].Pieces[0].Steps[0].ID, Coat: 1}
	in.Pins = map[schedule.Event]time.Time{other: At("2026-03-12 11:00")}
	p := Plan(t, in)
	coat := schedule.Event{Step: in.Instruments[0].Pieces[0].Steps[0].ID, Coat: 1}
	says := func(event schedule.Event, text string) schedule.Starts {
		for _, s := range explain.Starts(p, event, At("2026-03-20 09:00")) {
			if moment := At(text); !moment.Before(s.Start) && moment.Before(s.End) {
				return s
			}
		}
		require.Fail(t, "nothing is said of "+text)
		return schedule.Starts{}
	}
	assert.Equal(t, "The booth is closed.", says(coat, "2026-03-10 12:00").Why)
	assert.Equal(t, "The shop is closed.", says(coat, "2026-03-11 03:00").Why)
	assert.True(t, says(coat, "2026-03-12 09:15").Free)
	assert.Contains(t, says(coat, "2026-03-12 11:05").Why, "The booth is full", "the other coat is pinned there")
	assert.Contains(t, says(coat, "2026-03-12 17:45").Why, "too little of the opening is left")
	second := schedule.Event{Step: coat.Step, Coat: 2}
	assert.Contains(t, says(second, "2026-03-11 12:00").Why, "is dry enough to recoat from", "its own piece is not ready")
	assert.Empty(t, explain.Starts(p, schedule.Event{}, now.Add(time.Hour)), "there is no such event")

	in.Facts = map[schedule.Event]schedule.Fact{coat: {End: now, Minutes: 30}}
	p = Plan(t, in)
	assert.Empty(t, explain.Starts(p, coat, now.Add(time.Hour)), "done work stays where it was")
	window := says(second, "2026-03-19 10:00")
	assert.False(t, window.Free)
	assert.Contains(t, window.Why, "after that it wants a scuff first")
}

func TestAPinKeepsItsPlaceInTheBooth(t *testing.T) {
	// The booth takes one piece, and the first in the order would have it all morning.
	places := []schedule.Place{{ID: ID("booth"), Name: "the booth", Kind: settings.Booth, Capacity: 1},
		{ID: ID("bench"), Name: "the bench", Kind: settings.Bench}}
	coat := func(minutes unit.Minutes) schedule.Step {
		step := Coats("water-clear", 1)
		step.Method, step.HandsOnMin = material.Spray, minutes
		return step
	}
	in := Asked{Now: At("2026-03-10 09:00"), People: 2, Places: places, Instruments: []schedule.Instrument{
		InstrumentOf("Curlew", "2026-04-01", PieceOf("body", coat(180))), InstrumentOf("Dunlin", "2026-04-01", PieceOf("neck", coat(30)))}}
	pinned := schedule.Event{Step: in.Instruments[1].Pieces[0].Steps[0].ID, Coat: 1}
	in.Pins = map[schedule.Event]time.Time{pinned: At("2026-03-10 10:00")}
	e, _ := Plan(t, in).Find(pinned)
	assert.True(t, e.Pinned, "another pair of hands is free, and the booth is kept for it: %+v", e.Because)
	assert.True(t, e.Start.Equal(At("2026-03-10 10:00")))
}

func TestTheCriticalWait(t *testing.T) {
	clear := Coats("water-clear", 3)
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-06-01",
		PieceOf("body", clear, schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Buff}},
			schedule.Step{Step: job.Step{Kind: schedule.Gate}}),
		PieceOf("neck", schedule.Step{Step: job.Step{Kind: schedule.Sand}}))}}
	p := Plan(t, in)
	wait, waits := explain.Critical(p, 0)
	require.True(t, waits)
	last, _ := p.Find(schedule.Event{Step: in.Instruments[0].Pieces[0].Steps[0].ID, Coat: 3})
	assert.Equal(t, in.Instruments[0].Pieces[0].Steps[1].ID, wait.Event.Step, "levelling waits longest, until the film may be buffed")
	assert.Equal(t, last.End, wait.From)
	assert.Contains(t, wait.Reason, "hard enough to level and buff")

	_, waits = explain.Critical(Plan(t, Asked{Now: At("2026-03-10 09:00"),
		Instruments: One(schedule.Step{Step: job.Step{Kind: schedule.Sand}})}), 0)
	assert.False(t, waits, "nothing waits")
}

func TestWhatADayHolds(t *testing.T) {
	closed := Must(calendar.New(Berlin, [7][]calendar.Hours{time.Tuesday: {{Open: 12 * 60, Close: 20 * 60}}}, nil))
	clear := Coats("water-clear", 1)
	clear.Method, clear.HandsOnMin = material.Spray, 40
	in := Asked{Now: At("2026-03-10 09:00"), People: 2,
		Places: []schedule.Place{{ID: ID("bench"), Name: "the bench", Kind: settings.Bench},
			{ID: ID("booth"), Name: "the booth", Kind: settings.Booth, Capacity: 2, Calendar: closed}},
		Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-06-01",
			PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 90}}, clear))}}
	days := Plan(t, in).Utilizations(Must(calendar.ParseDay("2026-03-10")), 5)
	require.Len(t, days, 5)
	assert.Equal(t, schedule.Taken{130, 2 * 9 * 60}, days[0].Hands, "two people from nine to six")
	assert.Equal(t, schedule.Taken{40, 2 * 6 * 60}, days[0].Places[0].Taken, "the booth takes two, from noon until the shop closes")
	assert.False(t, days[1].Places[0].Open)
	assert.True(t, days[1].Open)
	assert.False(t, days[4].Open, "Saturday")
	assert.Equal(t, schedule.Taken{0, 0}, days[4].Hands)
}
