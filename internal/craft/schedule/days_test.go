package schedule

import (
	"testing"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"

	"github.com/stretchr/testify/assert"
)

func TestWaitsAreRealHoursAcrossTheChange(t *testing.T) {
	in := instrumentOf("Curlew", "2026-04-20", pieceOf("body", coats("hardwax-oil", 2)))
	p := plan(t, asked{Now: at("2026-03-28 12:00"), Calendar: always(), Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-29 13:38"), nth(t, p, "body", 2).Start, "24 real hours after 12:38, the oil wiped off, is 13:38 by the new clock")
}

func TestClosedDays(t *testing.T) {
	closed := map[calendar.Day][]calendar.Hours{must(calendar.ParseDay("2026-03-11")): nil}
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = []calendar.Hours{{Open: 540, Close: 1080}}
	}
	c := must(calendar.New(berlin, week, closed))
	in := instrumentOf("Curlew", "2026-04-20", pieceOf("body", Step{Step: job.Step{Kind: Sand, HandsOnMin: 60}}))
	p := plan(t, asked{Now: at("2026-03-10 17:30"), Calendar: c, Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-12 09:00"), nth(t, p, "body", 1).Start)
}

func TestSay(t *testing.T) {
	now := at("2026-03-12 16:20")
	for want, when := range map[string]string{
		"now":             "2026-03-12 16:20",
		"in 50 min":       "2026-03-12 17:10",
		"at 17:40":        "2026-03-12 17:40",
		"tonight 21:30":   "2026-03-12 21:30",
		"tomorrow 09:00":  "2026-03-13 09:00",
		"Sat 10:00":       "2026-03-14 10:00",
		"Thu 14 May":      "2026-05-14 10:00",
		"14 Jan 2027":     "2027-01-14 10:00",
		"25 min ago":      "2026-03-12 15:55",
		"at 09:00":        "2026-03-12 09:00",
		"yesterday 16:10": "2026-03-11 16:10",
		"Mon 9 Mar":       "2026-03-09 10:00",
	} {
		assert.Equal(t, want, Say(at(when), now, berlin))
	}
}
