// Package calendar knows days, hours and time zones: what day it is in a shop, when it is
// open, and when its day turns.
package calendar

import (
	"cmp"
	"fmt"
	"sort"
	"strconv"
	"strings"
	"time"
	_ "time/tzdata" // shops plan in their own zone on any machine

	"umberfrost/internal/craft/unit"
)

// Day is a calendar day in the shop's time zone.
type Day struct {
	Year  int
	Month time.Month
	Date  int
}

// DayOf is the calendar day of an instant, where it is read.
func DayOf(t time.Time) Day {
	y, m, d := t.Date()
	return Day{y, m, d}
}

// ParseDay reads a day written as 2026-03-12.
func ParseDay(text string) (Day, error) {
	t, err := time.Parse(time.DateOnly, text)
	if err != nil {
		return Day{}, fmt.Errorf("%q is not a day; write it like 2026-03-12", text)
	}
	return DayOf(t), nil
}

// String prints the day as 2026-03-12; the zero day, which is none, as nothing.
func (d Day) String() string {
	if d == (Day{}) {
		return ""
	}
	return fmt.Sprintf("%04d-%02d-%02d", d.Year, d.Month, d.Date)
}

// Compare is negative where the day comes before another, positive where it comes after it, and 0 where it is the same.
func (d Day) Compare(other Day) int {
	return cmp.Or(d.Year-other.Year, int(d.Month-other.Month), d.Date-other.Date)
}

// MarshalText writes the day as 2026-03-12.
func (d Day) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads what MarshalText writes.
func (d *Day) UnmarshalText(text []byte) (err error) {
	*d, err = ParseDay(string(text))
	return err
}

// AddDays is the day n days later; n may be negative.
func (d Day) AddDays(n int) Day {
	return DayOf(time.Date(d.Year, d.Month, d.Date+n, 12, 0, 0, 0, time.UTC))
}

// DaysBetween counts the days from one to another; it is negative where that comes before.
func DaysBetween(from, to Day) int {
	noon := func(d Day) time.Time { return time.Date(d.Year, d.Month, d.Date, 12, 0, 0, 0, time.UTC) }
	return int(noon(to).Sub(noon(from)).Hours() / 24)
}

// At is the instant of a local wall-clock time on this day, in minutes after
// midnight. A time that daylight saving skips is the instant the clocks
// jump over it; of a time that comes twice it is the first.
func (d Day) At(minutes int, zone *time.Location) time.Time {
	return time.Date(d.Year, d.Month, d.Date, minutes/60, minutes%60, 0, 0, zone)
}

// Weekday is the day of the week.
func (d Day) Weekday() time.Weekday {
	return time.Date(d.Year, d.Month, d.Date, 12, 0, 0, 0, time.UTC).Weekday()
}

// Span is a stretch of time, from Start until before End.
type Span struct {
	Start, End time.Time
}

// Length is how long the span is.
func (s Span) Length() time.Duration { return s.End.Sub(s.Start) }

// Hours is one opening of a shop's day in minutes after local midnight:
// 0 ≤ Open < Close ≤ 1440.
type Hours struct {
	Open  int `json:"open" minimum:"0" maximum:"1439" doc:"minutes after midnight"`
	Close int `json:"close" minimum:"1" maximum:"1440" doc:"minutes after midnight"`
}

// ParseHours reads the openings of a day as people write them: "9-12:30,
// 13:30-17:30", "9am-5pm", or "closed". One that runs backwards by twelve hours is asked about.
func ParseHours(text string) ([]Hours, error) {
	text = strings.TrimSpace(strings.ToLower(unit.Unmarked(text)))
	hours := []Hours{}
	if text == "" || text == "closed" {
		return hours, nil
	}
	for _, part := range strings.Split(text, ",") {
		open, close, found := strings.Cut(strings.NewReplacer("–", "-", "—", "-", " ", "", "\u00a0", "").Replace(part), "-")
		from, err := parseClock(open)
		to, err2 := parseClock(close)
		if !found || err != nil || err2 != nil {
			return nil, fmt.Errorf("%q is not an opening; write it like 09:00–12:30, 13:30–17:30, or closed", strings.TrimSpace(part))
		}
		if to <= from && to+12*60 > from && to <= 12*60 {
			meant := HoursText([]Hours{{from, to + 12*60}})
			return nil, fmt.Errorf("%s means %s? Write it so", strings.TrimSpace(part), meant)
		}
		hours = append(hours, Hours{from, to})
	}
	return sortHours(hours)
}

// parseClock reads 9, 9:30, 09:30 or 9:30am as minutes after midnight; 24:00 is the end
// of the day, 12am its beginning.
func parseClock(text string) (int, error) {
	clock, half := strings.ReplaceAll(text, ".", ""), ""
	for _, suffix := range []string{"am", "pm"} {
		if rest, has := strings.CutSuffix(clock, suffix); has {
			clock, half = rest, suffix
		}
	}
	hour, minutes, _ := strings.Cut(clock, ":")
	h, err := strconv.Atoi(hour)
	m := 0
	if err == nil && minutes != "" {
		m, err = strconv.Atoi(minutes)
	}
	if half != "" {
		if h < 1 || h > 12 {
			return 0, fmt.Errorf("%q is not a time of day", text)
		}
		if h %= 12; half == "pm" {
			h += 12
		}
	}
	if err != nil || h < 0 || m < 0 || m > 59 || h*60+m > 24*60 {
		return 0, fmt.Errorf("%q is not a time of day", text)
	}
	return h*60 + m, nil
}

// HoursText writes openings as ParseHours reads them.
func HoursText(hours []Hours) string {
	if len(hours) == 0 {
		return "closed"
	}
	parts := make([]string, len(hours))
	for i, h := range hours {
		parts[i] = unit.ClockText(h.Open/60, h.Open%60) + "–" + unit.ClockText(h.Close/60, h.Close%60)
	}
	return strings.Join(parts, ", ")
}

// Calendar is when a shop is open.
type Calendar struct {
	zone       *time.Location
	week       [7][]Hours // by time.Weekday
	exceptions map[Day][]Hours
}

// New builds a calendar from a week and the days that differ from it (a
// day with no hours is closed). It refuses hours that overlap or run backwards,
// and a week that is never open.
func New(zone *time.Location, week [7][]Hours, exceptions map[Day][]Hours) (*Calendar, error) {
	c := &Calendar{zone: zone, exceptions: make(map[Day][]Hours, len(exceptions))}
	open := false
	for weekday, hours := range week {
		sorted, err := sortHours(hours)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", time.Weekday(weekday), err)
		}
		c.week[weekday] = sorted
		open = open || len(sorted) > 0
	}
	if !open {
		return nil, fmt.Errorf("the shop is open on no day of the week")
	}
	for day, hours := range exceptions {
		sorted, err := sortHours(hours)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", day, err)
		}
		c.exceptions[day] = sorted
	}
	return c, nil
}

func sortHours(hours []Hours) ([]Hours, error) {
	sorted := append([]Hours(nil), hours...)
	sort.Slice(sorted, func(i, j int) bool { return sorted[i].Open < sorted[j].Open })
	for i, h := range sorted {
		if h.Open < 0 || h.Close > 24*60 || h.Open >= h.Close {
			return nil, fmt.Errorf("%s is not within one day: open from 00:00 on, and close later, by 24:00", HoursText([]Hours{h}))
		}
		if i > 0 && h.Open < sorted[i-1].Close {
			return nil, fmt.Errorf("%s and %s overlap", HoursText(sorted[i-1:i]), HoursText([]Hours{h}))
		}
	}
	return sorted, nil
}

// Zone is the shop's time zone.
func (c *Calendar) Zone() *time.Location { return c.zone }

// OpenOn returns the stretches in which the shop is open on a day.
func (c *Calendar) OpenOn(day Day) []Span {
	hours, special := c.exceptions[day]
	if !special {
		hours = c.week[day.Weekday()]
	}
	spans := make([]Span, 0, len(hours))
	for _, h := range hours {
		span := Span{day.At(h.Open, c.zone), day.At(h.Close, c.zone)}
		if span.Start.Before(span.End) { // an opening that daylight saving skips is none
			spans = append(spans, span)
		}
	}
	return spans
}

// Longest is the longest stretch of an ordinary week.
func (c *Calendar) Longest() time.Duration {
	longest := 0
	for _, hours := range c.week {
		for _, h := range hours {
			longest = max(longest, h.Close-h.Open)
		}
	}
	return time.Duration(longest) * time.Minute
}

// dayTurn is when the shop's day turns, so that work past midnight counts with the evening
// it belongs to. Rules §9.
const dayTurn = 4 * 60

// ShopDay is the day that an instant counts with.
func (c *Calendar) ShopDay(t time.Time) Day {
	local := t.In(c.zone)
	day := DayOf(local)
	if local.Before(day.At(dayTurn, c.zone)) {
		return day.AddDays(-1)
	}
	return day
}

// Turn is the instant at which a shop day begins.
func (c *Calendar) Turn(day Day) time.Time { return day.At(dayTurn, c.zone) }
