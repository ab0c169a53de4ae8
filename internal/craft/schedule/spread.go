package schedule

// Handwork longer than divisible goes into whatever free time comes first, in
// stretches of at least leastStretch: an hour here, two there.
const (
	divisible    minute = 60
	leastStretch minute = 30
)

// divides reports whether an event is handwork that may be spread.
func (r *retiming) divides(n *node) bool {
	return n.step.Kind.Handwork() && n.parts == 1 && (n.step.Divide != nil || n.phases[0].length > divisible)
}

// least is the smallest useful stretch of handwork.
func (r *retiming) least(n *node) minute {
	if n.step.Divide != nil {
		return minute(n.step.Divide.LeastMin)
	}
	return leastStretch
}

// spread collects free time for long handwork.
func (r *retiming) spread(i int32) {
	n, d := r.nodes[i], &r.dates[i]
	total, least := n.phases[0].length, r.least(n)
	best, bestEnd := []span(nil), never
	anyone := *d // nobody can begin before the first who can
	s := sitting{from: i, to: i + 1, phases: []phase{{min(least, total), false}}, total: min(least, total), offsets: atOnce}
	if r.seat(&s, &anyone); anyone.impossible != "" {
		d.impossible = anyone.impossible
		return
	}
	for who, h := range r.hands {
		trial := *d
		spans := r.stretches(i, &trial, h, anyone.start, bestEnd, total, least)
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

// stretches is the earliest free time of one person that adds up to total, in
// stretches of at least least.
// It gives up where it would begin after by.
func (r *retiming) stretches(i int32, d *dated, h *hands, from, by, total, least minute) []span {
	n := r.nodes[i]
	var spans []span
	all := r.hands
	r.alone[0] = h
	r.hands = r.alone[:]
	for t, left := from, total; left > 0; {
		stretch := dated{ready: t}
		s := sitting{from: i, to: i + 1, phases: []phase{{min(least, left), false}}, total: min(least, left), offsets: atOnce}
		r.seat(&s, &stretch)
		if stretch.impossible != "" || stretch.start >= by {
			d.impossible, spans = stretch.impossible, nil
			break
		}
		end := min(stretch.start+left, r.freeUntil(n, h, stretch.start))
		end = max(end, stretch.start+s.total)
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
