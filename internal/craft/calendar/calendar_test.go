package calendar

import (
	"cmp"
	"testing"
	"time"

	"umberfrost/internal/craft/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// berlin is a zone with daylight saving.
var berlin = must(time.LoadLocation("Europe/Berlin"))

func must[T any](value T, err error) T {
	if err != nil {
		panic(err)
	}
	return value
}

// at reads a local time in Berlin.
func at(text string) time.Time {
	return must(time.ParseInLocation("2006-01-02 15:04", text, berlin))
}

func TestDaylightSaving(t *testing.T) {
	var week [7][]Hours
	week[time.Sunday] = []Hours{{60, 240}} // 01:00 to 04:00, across the change
	c := must(New(berlin, week, nil))
	spring := c.OpenOn(must(ParseDay("2026-03-29")))
	autumn := c.OpenOn(must(ParseDay("2026-10-25")))
	assert.Equal(t, 2*time.Hour, spring[0].Length(), "an hour is skipped")
	assert.Equal(t, 4*time.Hour, autumn[0].Length(), "an hour comes twice")
}

func TestAnOpeningThatIsSkippedIsNone(t *testing.T) {
	var week [7][]Hours
	week[time.Sunday] = []Hours{{120, 180}} // 02:00 to 03:00
	c := must(New(berlin, week, nil))
	for _, span := range c.OpenOn(must(ParseDay("2026-03-29"))) {
		assert.Positive(t, span.Length())
	}
}

func TestNewRefuses(t *testing.T) {
	for want, hours := range map[string][]Hours{
		"overlap":                           {{540, 720}, {700, 900}},
		"not within one day":                {{540, 1500}},
		"15:00–09:00 is not within one day": {{900, 540}},
	} {
		_, err := New(berlin, [7][]Hours{time.Tuesday: hours}, nil)
		assert.Contains(t, unit.Unmarked(err.Error()), want)
		assert.ErrorContains(t, err, "Tuesday")
	}
	_, err := New(berlin, [7][]Hours{}, nil)
	assert.ErrorContains(t, err, "no day of the week")
}

func TestParseDay(t *testing.T) {
	for _, text := range []string{"", "12.3.2026", "2026-02-30", "soon"} {
		_, err := ParseDay(text)
		assert.ErrorContains(t, err, "2026-03-12", "the error shows how to write it")
	}
	day := must(ParseDay("2026-12-31"))
	assert.Equal(t, "2027-01-01", day.AddDays(1).String())
	assert.Equal(t, time.Thursday, day.Weekday())
}

func TestShopDay(t *testing.T) {
	c := must(New(berlin, [7][]Hours{time.Monday: {{540, 1080}}}, nil))
	assert.Equal(t, "2026-03-11", c.ShopDay(at("2026-03-12 03:59")).String())
	assert.Equal(t, "2026-03-12", c.ShopDay(at("2026-03-12 04:00")).String())
	require.Equal(t, 9*time.Hour, c.Longest())
}

func TestHoursAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string][]Hours{
		"":                              {},
		"closed":                        {},
		" Closed ":                      {},
		"9-17":                          {{540, 1020}},
		"9:30–12:05":                    {{570, 725}},
		"09:00 – 12:30, 13:30 - 17:30":  {{540, 750}, {810, 1050}},
		"13-14,8-9":                     {{480, 540}, {780, 840}},
		"22—24:00":                      {{1320, 1440}},
		"9am-5pm":                       {{540, 1020}},
		"8:30 a.m. – 12 pm, 1pm-5:45PM": {{510, 720}, {780, 1065}},
		"12am-1am":                      {{0, 60}},
	} {
		hours, err := ParseHours(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, append([]Hours{}, hours...), text)
	}
	for text, says := range map[string]string{
		"early": "write it like", "9": "write it like", "9-": "write it like", "9-25": "write it like", "9:70-10": "write it like",
		"-3-4": "write it like",
		"12-9": "12-9 means 12:00–21:00? Write it so", "9-5": "9-5 means 09:00–17:00?", "13am-14": "write it like",
		"0pm-3pm": "write it like",
		"15-2":    "15:00–02:00 is not within one day", "23-22": "not within one day", "9-9": "9-9 means 09:00–21:00?",
		"9-12, 11-13": "overlap", "9-12,": "write it like",
	} {
		_, err := ParseHours(text)
		assert.Contains(t, unit.Unmarked(err.Error()), says, text)
	}
	assert.Equal(t, "closed", HoursText(nil))
	assert.Equal(t, "08:05–12:00, 13:00–24:00", unit.Unmarked(HoursText([]Hours{{485, 720}, {780, 1440}})))
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

func FuzzParseDay(f *testing.F) {
	f.Add("2026-03-12")
	f.Add("0000-01-01")
	f.Fuzz(func(t *testing.T, text string) {
		day, err := ParseDay(text)
		if err == nil && day.String() != text {
			t.Fatalf("%q was read as %s", text, day)
		}
	})
}

func TestDaysCompareAndNoneIsEmpty(t *testing.T) {
	day := Day{2026, time.March, 12}
	for other, want := range map[Day]int{{2026, time.March, 12}: 0, {2026, time.March, 13}: -1, {2026, time.February, 28}: 1,
		{2025, time.December, 31}: 1, {2027, time.January, 1}: -1} {
		assert.Equal(t, want, cmp.Compare(day.Compare(other), 0), other)
		assert.Equal(t, -want, cmp.Compare(other.Compare(day), 0), other)
	}
	assert.Empty(t, Day{}.String())
}
