package schedule

import (
	"time"
)

// forecast is when an instrument will be ready, against its promise. The
// promise is the end of that local day.
func (r *retiming) forecast(i int, instrument Instrument, events []Planned) Forecast {
	f := Forecast{Instrument: instrument.ID, Finished: true}
	due := instrument.Promise.Next(1).At(0, r.calendar.zone)
	for at := r.first[i]; at < r.first[i+1]; at++ {
		e := &events[at]
		if e.Impossible != "" {
			f.Impossible = e.Impossible
		}
		f.Finished = f.Finished && e.Done
		f.Finish = later(f.Finish, e.End)
	}
	if f.Impossible != "" {
		f.Finish = time.Time{}
		return f
	}
	f.Slack = due.Sub(f.Finish)
	if !f.Finished {
		f.LatestStart, _ = r.latestStart(i, due)
	}
	return f
}

// latestStart is the latest minute at which the instrument's next work may
// begin so that its promise is still kept, alone in the shop: backward from the
// promise along its own chains with waits, calendar and its own hands. It is
// false when that minute is past.
func (r *retiming) latestStart(i int, due time.Time) (time.Time, bool) {
	first, end := r.first[i], r.first[i+1]
	r.opening.from(due)
	own := &hands{opening: r.opening}
	latestEnd := make([]time.Time, end-first) // by what follows
	starts := make([]Planned, end-first)
	for at := range latestEnd {
		latestEnd[at] = due
	}
	latest := due
	for at := end - 1; at >= first; at-- {
		n := &r.nodes[at]
		if n.fact != nil {
			continue
		}
		length := time.Duration(n.step.Minutes) * time.Minute
		by := r.breatheBefore(at, latestEnd[at-first], starts, first)
		start, fits := r.seatBefore(own, n, by, length)
		if !fits {
			return time.Time{}, false
		}
		starts[at-first] = Planned{Start: start, End: start.Add(length)}
		latest = earlier(latest, start)
		for _, l := range n.links {
			if r.nodes[l.from].fact == nil {
				latestEnd[l.from-first] = earlier(latestEnd[l.from-first], start.Add(-l.duration()))
			}
		}
	}
	if latest.Before(r.now) {
		return time.Time{}, false
	}
	return latest, true
}

func (r *retiming) seatBefore(own *hands, n *node, by time.Time, length time.Duration) (time.Time, bool) {
	if n.step.Kind.Handwork() && length > divisible {
		spans, fits := own.spreadBefore(by, length)
		if !fits {
			return time.Time{}, false
		}
		for _, span := range spans {
			own.take(span, 0)
		}
		return spans[len(spans)-1].Start, true
	}
	start, fits := own.freeBefore(by, length)
	if fits {
		own.take(Span{start, start.Add(length)}, 0)
	}
	return start, fits
}

// breatheBefore is the latest end of a coat that leaves the coats after it their
// coats per day and overnight rests, seen backward.
func (r *retiming) breatheBefore(coat int, by time.Time, starts []Planned, first int) time.Time {
	n := &r.nodes[coat]
	if n.step.Kind != Coat {
		return by
	}
	perDay, sinceRest, rested := 0, 0, false
	day := r.calendar.ShopDay(by.Add(-time.Minute))
	next := r.after(coat)
	for at := next; at >= 0; at = r.after(at) {
		later := starts[at-first]
		if r.calendar.ShopDay(later.Start) == day {
			perDay++
		}
		if !rested {
			sinceRest++
		}
		if further := r.after(at); further >= 0 && r.isRest(later.End, starts[further-first].Start) {
			rested = true
		}
	}
	if next < 0 {
		return by
	}
	following := starts[next-first].Start
	if r.isRest(by, following) {
		sinceRest = 0
	}
	if perDay >= n.step.Material.CoatsPerDay() {
		by = earlier(by, r.calendar.Turn(day))
	}
	if sinceRest >= n.step.Material.Family.RestAfter {
		by = earlier(by, earlier(following.Add(-overnight), r.calendar.Turn(r.calendar.ShopDay(following))))
	}
	return by
}

// after is the next coat of the same product that is still to come, -1 for none.
func (r *retiming) after(coat int) int {
	for at := coat + 1; at < r.first[r.nodes[coat].instrument+1]; at++ {
		if contains(r.nodes[at].same, coat) {
			return at
		}
	}
	return -1
}
