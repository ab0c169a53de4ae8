package schedule

// Handwork longer than divisible goes into whatever free time comes first, in
// stretches of at least leastStretch: an hour here, two there.
const (
	divisible    minute = 60
	leastStretch minute = 30
)

// divides reports whether an event is handwork that may be spread.
func (n *node) divides() bool {
	return n.step.Kind.Handwork() && n.parts == 1 && (n.step.Divide != nil || n.phases[0].length > divisible)
}

// least is the smallest useful stretch of handwork.
func (n *node) least() minute {
	if n.step.Divide != nil {
		return minute(n.step.Divide.LeastMin)
	}
	return leastStretch
}

// longest is the longest that one person can be at a place at a stretch, in the weeks
// from now on.
func (r *retiming) longest(n *node, h *hands) minute {
	if h.longest == nil {
		h.longest = make([]minute, len(r.shop.places))
	}
	if known := h.longest[n.place]; known > 0 {
		return known
	}
	longest := minute(0)
	place := r.shop.placeHours(int(n.place))
	for i := h.openings.from(r.now); i < h.first+looked; i++ {
		open, more := h.openings.at(i)
		if !more {
			break
		}
		for k := place.from(open.start); ; k++ {
			there, more := place.at(k)
			if !more || there.start >= open.end {
				break
			}
			longest = max(longest, min(open.end, there.end)-max(open.start, there.start))
		}
	}
	h.longest[n.place] = longest
	return longest
}

// looked is at how many openings longest looks: some weeks of evenings, or days that
// are divided by noon.
const looked = 40

// cutting is how handwork is cut into stretches: none shorter than least, none
// longer than longest.
type cutting struct{ least, longest minute }

// remainder is the least work at or above left that can still be cut.
func (c cutting) remainder(left minute) minute {
	if left <= 0 || c.longest <= 0 {
		return left
	}
	return max(left, (left+c.longest-1)/c.longest*c.least)
}

// shortest is the shortest stretch that leaves the rest of left so that it can be cut;
// all of left where it cannot be divided.
func (c cutting) shortest(left minute) minute {
	rest := left - c.least
	if rest <= 0 || c.longest <= 0 {
		return left
	}
	if c.remainder(rest) > rest {
		rest = ((rest+c.longest-1)/c.longest - 1) * c.longest
	}
	return left - rest
}

// part is how much of left is done in a free stretch, which is at least the shortest.
func (c cutting) part(free, left minute) minute {
	if free >= left {
		return left
	}
	return left - c.remainder(left-free)
}

// firstStretch is the shortest stretch that somebody may begin divided work with.
func (r *retiming) firstStretch(n *node) minute {
	total := n.phases[0].length
	first := total
	for _, h := range r.hands {
		first = min(first, cutting{n.least(), r.longest(n, h)}.shortest(total))
	}
	return first
}

// spread collects free time for long handwork.
func (r *retiming) spread(i int32) {
	n, d := r.nodes[i], &r.dates[i]
	best, bestEnd := []span(nil), never
	anyone := *d // nobody can begin before the first who can
	first := r.firstStretch(n)
	s := sitting{from: i, to: i + 1, phases: []phase{{first, false}}, total: first, offsets: atOnce}
	if r.seat(&s, &anyone); anyone.impossible != "" {
		d.impossible = anyone.impossible
		return
	}
	for who, h := range r.hands {
		trial := *d
		spans := r.stretches(i, &trial, h, anyone.start, bestEnd)
		if spans == nil {
			d.impossible = trial.impossible
			continue
		}
		if end := spans[len(spans)-1].end; end < bestEnd {
			best, bestEnd = spans, end
			d.person = int16(who)
		}
	}
	if best == nil {
		return
	}
	d.impossible = ""
	d.start, d.end, d.spans, d.open = best[0].start, bestEnd, best, anyone.open
	if d.because = anyone.because; d.start > anyone.start {
		d.because = r.inTheWay(&s, d.ready, d.start)
	}
}

// stretches is the earliest free time of one person that adds up to an event's work,
// in useful stretches, the last one too. It gives up where it would begin after by.
func (r *retiming) stretches(i int32, d *eventState, h *hands, from, by minute) []span {
	n := r.nodes[i]
	var spans []span
	all := r.hands
	r.alone[0] = h
	r.hands = r.alone[:]
	cut := cutting{n.least(), r.longest(n, h)}
	for t, left := from, n.phases[0].length; left > 0; {
		stretch := eventState{ready: t}
		short := cut.shortest(left)
		s := sitting{from: i, to: i + 1, phases: []phase{{short, false}}, total: short, offsets: atOnce}
		r.seat(&s, &stretch)
		if stretch.impossible != "" || stretch.start >= by {
			d.impossible, spans = stretch.impossible, nil
			break
		}
		free := max(short, min(left, r.freeUntil(n, h, stretch.start)-stretch.start))
		end := stretch.start + cut.part(free, left)
		if last := len(spans) - 1; last >= 0 && spans[last].end == stretch.start && h.from(spans[last].start) == h.from(stretch.start) {
			spans[last].end = end
		} else {
			spans = append(spans, span{stretch.start, end})
		}
		left -= end - stretch.start
		t = end
	}
	r.hands = all
	return spans
}

// freeUntil is how long handwork that has begun may go on.
func (r *retiming) freeUntil(n *node, h *hands, t minute) minute {
	p := &r.shop.places[n.place]
	end := min(h.until(t), r.shop.placeHours(int(n.place)).until(t))
	if p.Capacity > 0 {
		end = min(end, r.working[n.place].until(t, int32(p.Capacity)))
	}
	if p.air >= 0 && n.step.dusty() {
		end = min(end, r.wet[p.air].until(t, 1))
	}
	return end
}
