package schedule

import (
	"math"
	"sort"
	"time"

	"umberfrost/internal/craft/calendar"
)

// minute is a whole minute since 1970: inside the planner all dates are these.
type minute int64

func ceilMinute(seconds float64) minute  { return minute(math.Ceil(seconds/60 - 1e-6)) }
func floorMinute(seconds float64) minute { return minute(math.Floor(seconds/60 + 1e-6)) }

// minuteOf is the first whole minute at or after t.
func minuteOf(t time.Time) minute {
	m := minute(t.Unix() / 60)
	if t.After(m.time()) {
		m++
	}
	return m
}

func (m minute) time() time.Time { return time.Unix(int64(m)*60, 0).UTC() }

func (m minute) seconds() float64 { return float64(m) * 60 }

// span is a stretch of minutes, from start until before end.
type span struct{ start, end minute }

func (s span) length() minute { return s.end - s.start }

// horizon is how many days ahead work is placed. What does not fit in it is
// said to be impossible.
const horizon = 6 * 366

// days is the shop's days from a first one on, as far as they are asked for.
type days struct {
	calendar *calendar.Calendar
	first    calendar.Day
	turns    []minute // the instant at which day i begins, 04:00 local
}

func newDays(cal *calendar.Calendar, now minute) *days {
	return &days{calendar: cal, first: cal.ShopDay(now.time()).AddDays(-40)}
}

// covers reports whether planning from now on needs no earlier day, and does not
// carry along too many that are past.
func (d *days) covers(now minute) bool {
	ahead := calendar.DaysBetween(d.first, d.calendar.ShopDay(now.time()))
	return ahead >= 5 && ahead < 100
}

func (d *days) turn(i int) minute {
	for i >= len(d.turns) {
		d.turns = append(d.turns, minuteOf(d.calendar.Turn(d.first.AddDays(len(d.turns)))))
	}
	return d.turns[max(i, 0)]
}

// of is the number of the day that t counts with; times before the first day
// count with the one before it.
func (d *days) of(t minute) int {
	for len(d.turns) == 0 || d.turns[len(d.turns)-1] <= t {
		d.turn(len(d.turns) + 30)
	}
	return sort.Search(len(d.turns), func(i int) bool { return d.turns[i] > t }) - 1
}

// openings is when something is open, laid out day by day as far as it is asked for.
type openings struct {
	days      *days
	shop, own *calendar.Calendar // own: hours within the shop's, or nil
	laid      int
	spans     []span
	last      int // what from answered last
}

func newOpenings(days *days, shop, own *calendar.Calendar) *openings {
	return &openings{days: days, shop: shop, own: own}
}

// at returns opening i; false beyond the horizon. One more is laid out before it
// is given away, because the next day may carry it on.
func (o *openings) at(i int) (span, bool) {
	for i+1 >= len(o.spans) && o.laid <= horizon {
		o.lay(o.days.first.AddDays(o.laid))
		o.laid++
	}
	if i >= len(o.spans) {
		return span{}, false
	}
	return o.spans[i], true
}

func (o *openings) lay(day calendar.Day) {
	for _, s := range o.shop.OpenOn(day) {
		from, to := minuteOf(s.Start), minuteOf(s.End)
		if o.own == nil {
			o.add(from, to)
			continue
		}
		for _, own := range o.own.OpenOn(day) {
			o.add(max(from, minuteOf(own.Start)), min(to, minuteOf(own.End)))
		}
	}
}

// add appends an opening; one that begins as the last ends carries it on, so
// that a shop open round the clock is open round the clock.
func (o *openings) add(from, to minute) {
	if from >= to {
		return
	}
	if last := len(o.spans) - 1; last >= 0 && o.spans[last].end == from {
		o.spans[last].end = to
		return
	}
	o.spans = append(o.spans, span{from, to})
}

// from is the index of the first opening that ends after t. It is asked for the
// same minute again and again, so it looks at its last answer first.
func (o *openings) from(t minute) int {
	if i := o.last; i+1 < len(o.spans) && o.spans[i].end > t && (i == 0 || o.spans[i-1].end <= t) {
		return i
	}
	for last := len(o.spans) - 1; last < 1 || o.spans[last-1].end <= t; last = len(o.spans) - 1 {
		if _, more := o.at(len(o.spans)); !more {
			break
		}
	}
	low, high := 0, len(o.spans)
	for low < high {
		if mid := (low + high) / 2; o.spans[mid].end > t {
			high = mid
		} else {
			low = mid + 1
		}
	}
	o.last = low
	return low
}

// next is the earliest start at or after t of so many minutes in one opening.
func (o *openings) next(t, length minute) (minute, bool) {
	for i := o.from(t); ; i++ {
		s, more := o.at(i)
		if !more {
			return 0, false
		}
		if start := max(t, s.start); start+length <= s.end {
			return start, true
		}
	}
}

// until is when the opening that holds t ends; t itself when it is closed.
func (o *openings) until(t minute) minute {
	if s, more := o.at(o.from(t)); more && s.start <= t {
		return s.end
	}
	return t
}
