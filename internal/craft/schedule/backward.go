package schedule

import (
	"slices"
)

// backward is one instrument that is alone in the shop, from its promise towards now.
// It says how late every event may begin at the latest, whatever the rest of its
// plan: with the earliest sides of waits, somebody's hours, the place's and the air, and
// without windows, scuffs and the other work of its hands. Nothing that starts later can
// keep the promise; what starts then need not.
type backward struct {
	r        *retiming
	due      minute
	latest   []minute // by event, the latest start; never for what is done
	ends     []minute // … the latest end that what follows allows
	earliest []minute // … the earliest start from now on
}

func newBackward(r *retiming, due minute) *backward {
	b := &backward{r: r, due: due, latest: make([]minute, len(r.nodes)), ends: make([]minute, len(r.nodes)),
		earliest: make([]minute, len(r.nodes))}
	for k := range b.ends {
		b.ends[k], b.latest[k] = due, never
	}
	return b
}

// settle works out the latest starts; false when there is none, so that no start
// keeps the promise.
func (b *backward) settle() bool {
	r := b.r
	alone := r.aside()
	if !alone.earliestDates(0) {
		return false
	}
	left := false
	for k := int32(len(r.nodes)) - 1; k >= 0; k-- {
		n := r.nodes[k]
		if n.fixed() {
			if r.dates[k].end > b.due {
				return false
			}
			continue
		}
		left = true
		b.earliest[k] = alone.dates[k].start
		start := b.seat(k)
		if start < r.now || start < b.earliest[k] {
			return false
		}
		b.latest[k] = start
		for l := range n.links {
			b.allow(&n.links[l], start)
		}
		b.limitCoats(n, start)
	}
	return left
}

// before is the latest minute at or before t at which something can begin that
// waits for nothing but what is done; the present minute where there is none after it,
// and noStart before that.
func (b *backward) before(t minute) minute {
	if t < b.r.now {
		return noStart
	}
	best := b.r.now
	for k := range b.r.nodes {
		if b.waits(int32(k)) {
			continue
		}
		if at := b.begins(int32(k), t); at >= b.earliest[k] {
			best = max(best, at)
		}
	}
	return best
}

// waits reports whether an event is done, or waits for one that is not.
func (b *backward) waits(k int32) bool {
	n := b.r.nodes[k]
	return n.fixed() || slices.ContainsFunc(n.links, func(l link) bool { return !b.r.nodes[l.from].fixed() })
}

// begins is the latest minute at or before t at which hours and air let an event begin.
func (b *backward) begins(k int32, t minute) minute {
	n := b.r.nodes[k]
	length := lengthOf(n.phases[:n.parts])
	if n.divides() {
		length = b.r.firstStretch(n)
	}
	return b.last(n, t+length, length)
}

// allow lets what a link comes from end no later than this start allows.
func (b *backward) allow(l *link, start minute) {
	if b.r.nodes[l.from].fixed() {
		return
	}
	by := start - l.rest
	switch {
	case l.wait == nil && l.clock == nil:
	case b.r.nodes[l.from].step.Box != nil:
		by = b.boxed(l, start)
	default:
		begun, _ := l.curve.Begun(start.seconds(), l.hours)
		by = floorMinute(begun)
	}
	b.ends[l.from] = min(b.ends[l.from], by)
}

// boxed is the latest end of a coat, dried in a climate of its own first, that is
// ready by then.
func (b *backward) boxed(l *link, start minute) minute {
	d := &b.r.dates[l.from]
	was := d.end
	low, high := start-3*366*24*60, start
	for low < high { // the later it ends, the later it is ready
		mid := (low + high + 1) / 2
		d.end = mid
		if until, reached := b.r.filmReady(l); reached && until <= start {
			low = mid
		} else {
			high = mid - 1
		}
	}
	d.end = was
	return low
}

// limitCoats leaves the coats before one that starts then their coats per day and their
// overnight rests.
func (b *backward) limitCoats(n *node, start minute) {
	if len(n.same) == 0 {
		return
	}
	most, restAfter := n.step.coatLimits()
	days := b.r.shop.days
	turn := days.turn(days.of(start))
	for _, last := range n.same {
		count := 1
		for p := last; p != nil && count <= max(most, restAfter); p, count = p.before, count+1 {
			if b.r.nodes[p.coat].fixed() {
				continue
			}
			if count == most { // so many lie between that it starts on an earlier day
				b.ends[p.coat] = min(b.ends[p.coat], turn-1+b.length(p.coat))
			}
			if count == restAfter {
				b.ends[p.coat] = min(b.ends[p.coat], start-overnight, turn-1)
			}
		}
	}
}

// length is the shortest that an event can take: without its set-up where another coat of
// the instrument may have made it.
func (b *backward) length(k int32) minute {
	n := b.r.nodes[k]
	length := lengthOf(n.phases[:n.parts])
	if n.step.Kind != Coat || n.step.SetUpMin == 0 {
		return length
	}
	for _, other := range b.r.nodes {
		if other.event != n.event && other.place == n.place && other.step.Kind == Coat &&
			other.step.Material.Key() == n.step.Material.Key() {
			return length - minute(n.step.SetUpMin)
		}
	}
	return length
}

// seat is the latest start of an event.
func (b *backward) seat(k int32) minute {
	n, by := b.r.nodes[k], b.ends[k]
	if n.divides() {
		return b.spread(n, by)
	}
	start := b.last(n, by, b.length(k))
	if end := b.r.sittingEnd(k, int32(len(b.r.nodes))); !n.within && end-k > 1 && b.latest[end-1] != never {
		s := b.r.sitting(k, end, 0, 0) // all of it in one opening; the air only for each by itself
		start = min(start, b.r.shop.hours[0].prev(b.latest[end-1]-s.offsets[len(s.offsets)-1], s.total))
	}
	return start
}

// last is the latest start of so many minutes that end by then, in the hours of
// somebody and of the place, and in fit air; noStart when there is none from now on.
func (b *backward) last(n *node, by, length minute) minute {
	best := noStart
	for who := range b.r.shop.People {
		t := by - length
		for moved := true; moved && t >= b.r.now; {
			was := t
			t = b.r.shop.personHours(who).prev(t, length)
			t = b.r.shop.placeHours(int(n.place)).prev(t, length)
			if n.step.Kind == Coat {
				t = n.fit.prev(t, length+minute(n.step.Material.Family.Flash), b.r.now)
			}
			moved = t != was
		}
		if t >= b.r.now {
			best = max(best, t)
		}
	}
	return best
}

// spread is the latest start of divided handwork that ends by then: what one
// person's hours at the place add up to.
func (b *backward) spread(n *node, by minute) minute {
	best := noStart
	for who := range b.r.shop.People {
		left := lengthOf(n.phases[:n.parts])
		hours, place := b.r.shop.personHours(who), b.r.shop.placeHours(int(n.place))
		for t := by; left > 0 && t > b.r.now; {
			open := hours.before(t)
			both := place.before(open.end)
			both = span{max(open.start, both.start), min(open.end, both.end)}
			switch {
			case open.start >= open.end:
				t = b.r.now
			case both.start >= both.end:
				t = open.start
			case both.length() >= left:
				best, left = max(best, both.end-left), 0
			default:
				left -= both.length()
				t = both.start
			}
		}
	}
	return best
}

// prev is the latest start at or before t of so many minutes in one opening.
func (o *openings) prev(t, length minute) minute {
	i := o.from(t)
	for i = min(i, len(o.spans)-1); i >= 0; i-- {
		if start := min(t, o.spans[i].end-length); start >= o.spans[i].start {
			return start
		}
	}
	return noStart
}

// before is what is open before t of the last opening that begins before it; an empty
// span when there is none.
func (o *openings) before(t minute) span {
	i := o.from(t)
	for i = min(i, len(o.spans)-1); i >= 0; i-- {
		if o.spans[i].start < t {
			return span{o.spans[i].start, min(t, o.spans[i].end)}
		}
	}
	return span{}
}

// prev is the last minute at or before t from which the air stays fit for so long,
// looked for back to the present.
func (f *fitness) prev(t, long, now minute) minute {
	if f == nil || t < now {
		return t
	}
	run := span{never, never}
	for n := int64(t+long) / minutesPerWeek; n >= int64(now)/minutesPerWeek; n-- {
		week := f.week(n)
		for i := len(week) - 1; i >= 0; i-- {
			if s := week[i]; s.end == run.start {
				run.start = s.start
			} else {
				run = s
			}
			if start := min(t, run.end-long); start >= run.start {
				return start
			}
		}
	}
	return noStart
}
