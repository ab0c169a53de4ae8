package schedule

import (
	"slices"
	"sort"
	"time"
)

// horizon is how far ahead work is placed. What does not fit in it is said to
// be impossible.
const horizon = 3 * 366

// Handwork longer than divisible goes into whatever free time comes first, in
// stretches of at least leastStretch: an hour here, two there.
const (
	divisible    = time.Hour
	leastStretch = 30 * time.Minute
)

// opening is when a shop is open, laid out day by day as far as it is asked for.
type opening struct {
	calendar *Calendar
	day      Day // the next day to lay out
	laid     int
	spans    []Span
}

func newOpening(calendar *Calendar, from time.Time) *opening {
	return &opening{calendar: calendar, day: DayOf(from.In(calendar.zone)).Next(-1)}
}

// at returns opening i; false beyond the horizon.
func (o *opening) at(i int) (Span, bool) {
	for i >= len(o.spans) {
		if o.laid > horizon {
			return Span{}, false
		}
		o.spans = append(o.spans, o.calendar.OpenOn(o.day)...)
		o.day, o.laid = o.day.Next(1), o.laid+1
	}
	return o.spans[i], true
}

// from returns the index of the first opening that ends after t.
func (o *opening) from(t time.Time) int {
	for last := len(o.spans) - 1; last < 0 || !o.spans[last].End.After(t); last = len(o.spans) - 1 {
		if _, more := o.at(len(o.spans)); !more {
			break
		}
	}
	return sort.Search(len(o.spans), func(i int) bool { return o.spans[i].End.After(t) })
}

// hands is the time of one pair of hands: what of the openings is taken.
type hands struct {
	*opening
	taken [][]busy // by opening, in order, never overlapping
}

type busy struct {
	Span
	node int
}

// busyIn lists what is taken of opening i.
func (h *hands) busyIn(i int) []busy {
	if i < len(h.taken) {
		return h.taken[i]
	}
	return nil
}

// open is the earliest start at or after t of work of this length with the shop
// open throughout, whether or not hands are free.
func (h *hands) open(t time.Time, length time.Duration) (time.Time, bool) {
	for i := h.from(t); ; i++ {
		s, more := h.at(i)
		if !more {
			return time.Time{}, false
		}
		if start := later(t, s.Start); !start.Add(length).After(s.End) {
			return start, true
		}
	}
}

// free is the earliest start at or after t of work of this length with the shop
// open and hands free throughout.
func (h *hands) free(t time.Time, length time.Duration) (time.Time, bool) {
	for i := h.from(t); ; i++ {
		s, more := h.at(i)
		if !more {
			return time.Time{}, false
		}
		start := later(t, s.Start)
		for _, b := range h.busyIn(i) {
			if !b.End.After(start) {
				continue
			}
			if !start.Add(length).After(b.Start) {
				break
			}
			start = later(start, b.End)
		}
		if !start.Add(length).After(s.End) {
			return start, true
		}
	}
}

// spread collects free time at or after t until it adds up to this length, in
// pieces of at least leastStretch.
func (h *hands) spread(t time.Time, length time.Duration) ([]Span, bool) {
	var spans []Span
	for i := h.from(t); ; i++ {
		s, more := h.at(i)
		if !more {
			return nil, false
		}
		start := later(t, s.Start)
		for _, b := range append(slices.Clip(h.busyIn(i)), busy{Span: Span{s.End, s.End}}) {
			if gap := b.Start.Sub(start); gap >= min(leastStretch, length) && gap > 0 {
				span := Span{start, start.Add(min(gap, length))}
				spans, length = append(spans, span), length-span.Length()
				if length == 0 {
					return spans, true
				}
			}
			start = later(start, b.End)
		}
	}
}

// take marks a span as busy. It must lie within one stretch and be free.
func (h *hands) take(span Span, node int) {
	if span.Length() == 0 {
		return
	}
	i := h.from(span.Start)
	for i >= len(h.taken) {
		h.taken = append(h.taken, nil)
	}
	at := sort.Search(len(h.taken[i]), func(k int) bool { return h.taken[i][k].Start.After(span.Start) })
	h.taken[i] = slices.Insert(h.taken[i], at, busy{span, node})
}

// holder returns what has the hands at or soonest after t within its opening.
func (h *hands) holder(t time.Time) (node int, found bool) {
	for _, b := range h.busyIn(h.from(t)) {
		if b.End.After(t) {
			return b.node, true
		}
	}
	return 0, false
}

// freeBefore is the latest start of work of this length that ends by t with the
// shop open and hands free throughout; false when there is none since the
// openings begin.
func (h *hands) freeBefore(t time.Time, length time.Duration) (time.Time, bool) {
	for i := min(h.from(t), len(h.spans)-1); i >= 0; i-- {
		s := h.spans[i]
		end := earlier(t, s.End)
		for _, b := range slices.Backward(h.busyIn(i)) {
			if !b.Start.Before(end) {
				continue
			}
			if !end.Add(-length).Before(b.End) {
				break
			}
			end = earlier(end, b.Start)
		}
		if !end.Add(-length).Before(s.Start) {
			return end.Add(-length), true
		}
	}
	return time.Time{}, false
}

// spreadBefore is spread, backward from t. The spans come latest first.
func (h *hands) spreadBefore(t time.Time, length time.Duration) ([]Span, bool) {
	var spans []Span
	for i := min(h.from(t), len(h.spans)-1); i >= 0; i-- {
		s := h.spans[i]
		end := earlier(t, s.End)
		for _, b := range slices.Backward(append([]busy{{Span: Span{s.Start, s.Start}}}, h.busyIn(i)...)) {
			if gap := end.Sub(b.End); gap >= min(leastStretch, length) && gap > 0 {
				span := Span{end.Add(-min(gap, length)), end}
				spans, length = append(spans, span), length-span.Length()
				if length == 0 {
					return spans, true
				}
			}
			end = earlier(end, b.Start)
		}
	}
	return nil, false
}

func earlier(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}

func later(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}
