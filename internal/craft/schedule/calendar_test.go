package schedule

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestDaylightSaving(t *testing.T) {
	var week [7][]Hours
	week[time.Sunday] = []Hours{{60, 240}} // 01:00 to 04:00, across the change
	c := must(NewCalendar(berlin, week, nil))
	spring := c.OpenOn(must(ParseDay("2026-03-29")))
	autumn := c.OpenOn(must(ParseDay("2026-10-25")))
	assert.Equal(t, 2*time.Hour, spring[0].Length(), "an hour is skipped")
	assert.Equal(t, 4*time.Hour, autumn[0].Length(), "an hour comes twice")
}

func TestAnOpeningThatIsSkippedIsNone(t *testing.T) {
	var week [7][]Hours
	week[time.Sunday] = []Hours{{120, 180}} // 02:00 to 03:00
	c := must(NewCalendar(berlin, week, nil))
	for _, span := range c.OpenOn(must(ParseDay("2026-03-29"))) {
		assert.Positive(t, span.Length())
	}
}

func TestWaitsAreRealHoursAcrossTheChange(t *testing.T) {
	in := instrumentOf("Curlew", "2026-04-20", pieceOf("body", coats("hardwax-oil", 2)))
	p := plan(t, asked{Now: at("2026-03-28 12:00"), Calendar: always(), Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-29 13:38"), nth(t, p, "body", 2).Start, "24 real hours after 12:38, the oil wiped off, is 13:38 by the new clock")
}

func TestClosedDays(t *testing.T) {
	closed := map[Day][]Hours{must(ParseDay("2026-03-11")): nil}
	var week [7][]Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = []Hours{{540, 1080}}
	}
	c := must(NewCalendar(berlin, week, closed))
	in := instrumentOf("Curlew", "2026-04-20", pieceOf("body", Step{Kind: Sand, Minutes: 60}))
	p := plan(t, asked{Now: at("2026-03-10 17:30"), Calendar: c, Instruments: []Instrument{in}})
	assert.Equal(t, at("2026-03-12 09:00"), nth(t, p, "body", 1).Start)
}

func TestNewCalendarRefuses(t *testing.T) {
	for want, hours := range map[string][]Hours{
		"overlap":             {{540, 720}, {700, 900}},
		"not within one day":  {{540, 1500}},
		"from minute 900 to ": {{900, 540}},
	} {
		_, err := NewCalendar(berlin, [7][]Hours{time.Tuesday: hours}, nil)
		assert.ErrorContains(t, err, want)
		assert.ErrorContains(t, err, "Tuesday")
	}
	_, err := NewCalendar(berlin, [7][]Hours{}, nil)
	assert.ErrorContains(t, err, "no day of the week")
}

func TestParseDay(t *testing.T) {
	for _, text := range []string{"", "12.3.2026", "2026-02-30", "soon"} {
		_, err := ParseDay(text)
		assert.ErrorContains(t, err, "2026-03-12", "the error shows how to write it")
	}
	day := must(ParseDay("2026-12-31"))
	assert.Equal(t, "2027-01-01", day.Next(1).String())
	assert.Equal(t, time.Thursday, day.Weekday())
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

func TestShopDay(t *testing.T) {
	c := nineToSix()
	assert.Equal(t, "2026-03-11", c.ShopDay(at("2026-03-12 03:59")).String())
	assert.Equal(t, "2026-03-12", c.ShopDay(at("2026-03-12 04:00")).String())
	require.Equal(t, 9*time.Hour, c.Longest())
}

func TestHoursAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string][]Hours{
		"":                             {},
		"closed":                       {},
		" Closed ":                     {},
		"9-17":                         {{540, 1020}},
		"9:30–12:05":                   {{570, 725}},
		"09:00 – 12:30, 13:30 - 17:30": {{540, 750}, {810, 1050}},
		"13-14,8-9":                    {{480, 540}, {780, 840}},
		"22—24:00":                     {{1320, 1440}},
	} {
		hours, err := ParseHours(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, append([]Hours{}, hours...), text)
	}
	for text, says := range map[string]string{
		"early": "write it like", "9": "write it like", "9-": "write it like", "9-25": "write it like", "9:70-10": "write it like", "-3-4": "write it like",
		"12-9": "not within one day", "9-9": "not within one day", "9-12, 11-13": "overlap", "9-12,": "write it like",
	} {
		_, err := ParseHours(text)
		assert.ErrorContains(t, err, says, text)
	}
	assert.Equal(t, "closed", HoursText(nil))
	assert.Equal(t, "08:05–12:00, 13:00–24:00", HoursText([]Hours{{485, 720}, {780, 1440}}))
}

func FuzzParseHours(f *testing.F) {
	for _, text := range []string{"9-17", "09:00–12:30, 13:30–17:30", "closed", "24-24", "9:5-9:06"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		hours, err := ParseHours(text)
		if err != nil {
			return
		}
		again, err := ParseHours(HoursText(hours))
		require.NoError(t, err, "what is printed can be read: %q", HoursText(hours))
		assert.Equal(t, append([]Hours{}, hours...), append([]Hours{}, again...))
	})
}
