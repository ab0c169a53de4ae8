package schedule_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

func TestWaitsAreRealHoursAcrossTheChange(t *testing.T) {
	in := InstrumentOf("Curlew", "2026-04-20", PieceOf("body", Coats("hardwax-oil", 2)))
	p := Plan(t, Asked{Now: At("2026-03-28 12:00"), Calendar: Always(), Instruments: []schedule.Instrument{in}})
	assert.Equal(t, At("2026-03-29 13:38"), Nth(t, p, "body", 2).Start,
		"24 real hours after 12:38, the oil wiped off, is 13:38 by the new clock")
}

func TestClosedDays(t *testing.T) {
	closed := map[calendar.Day][]calendar.Hours{Must(calendar.ParseDay("2026-03-11")): nil}
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = []calendar.Hours{{Open: 540, Close: 1080}}
	}
	c := Must(calendar.New(Berlin, week, closed))
	in := InstrumentOf("Curlew", "2026-04-20", PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 60}}))
	p := Plan(t, Asked{Now: At("2026-03-10 17:30"), Calendar: c, Instruments: []schedule.Instrument{in}})
	assert.Equal(t, At("2026-03-12 09:00"), Nth(t, p, "body", 1).Start)
}
