package schedule

import (
	"slices"
)

// copied takes a run over from the run before where nothing it depends on has
// changed: not its piece, not when it is ready; nothing has been freed between then
// and what it reaches to, and nothing has been filled where it stands.
func (r *retiming) copied(from, to int32) bool {
	b := r.before
	if b == nil || int(to) > len(b.nodes) {
		return false
	}
	reach, start, low, since := minute(0), never, never, false
	for i := from; i < to; i++ {
		n, old := r.nodes[i], &b.dates[i]
		if n != b.nodes[i] || old.impossible != "" {
			return false
		}
		if n.fixed() {
			continue
		}
		soonest := min(old.ready, old.soonest) // ready, were it not for a scuff
		if r.now != b.now && (soonest <= max(r.now, b.now) || n.step.Arrival != nil) {
			// the present minute has a say in when it is ready
			if to-from > 1 || r.now < b.now || old.start < r.now || soonest > b.now || old.lead > 0 || len(n.same) > 0 ||
				n.step.Arrival != nil {
				return false
			}
			since = true
		}
		for _, l := range n.links {
			if l.from < from && !r.asBefore(l.from) {
				return false
			}
		}
		for _, last := range n.same {
			for p := last; p != nil; p = p.before { // coats a day and rests count all of them
				if p.coat < from && !r.asBefore(p.coat) {
					return false
				}
			}
		}
		if old.shares >= 0 && r.nodes[old.shares].fixed() {
			return false
		}
		reach, start, low = max(reach, old.reach), min(start, old.start), min(low, soonest)
	}
	if touches(r.freed, span{max(low, r.now), reach}) || touches(r.filled, span{start, reach}) {
		return false
	}
	again := since || touches(r.filled, span{low, start}) // something else may be in the way now
	if again && to-from > 1 {
		return false
	}
	for i := from; i < to; i++ {
		if r.nodes[i].fixed() {
			continue
		}
		d := &r.dates[i]
		if d.copied = !again; again {
			r.lift(i) // its own piece is in nobody's way
			r.tellAgain(i, d, since)
		}
		r.commit(i)
	}
	return true
}

// tellAgain says anew why an event is not earlier that has been taken over: where
// it is ready since before the present minute, or something else has come before it.
func (r *retiming) tellAgain(i int32, d *eventState, since bool) {
	s := r.sitting(i, i+1, d.lead, d.saved)
	if n := r.nodes[i]; n.divides() {
		s.phases = []phase{{r.firstStretch(n), false}}
		s.total = s.phases[0].length
	}
	if since {
		d.ready, d.soonest, d.because, d.held = r.now, r.now, because{node: -1}, because{node: -1}
		full := s
		if d.saved > 0 {
			full = r.sitting(i, i+1, d.lead, 0) // it looks for an opening before it finds whose set-up it shares
		}
		d.open, _ = r.openFor(&full, r.now)
	}
	switch {
	case d.shares >= 0:
		d.because = because{cause: SharedMix, node: d.shares, until: d.start}
	case d.start > d.ready:
		d.because = r.inTheWay(&s, d.ready, d.start)
	}
}

func (r *retiming) asBefore(i int32) bool {
	d, old := &r.dates[i], &r.before.dates[i]
	return d.start == old.start && d.end == old.end && d.exact == old.exact && d.done == old.done && d.impossible == old.impossible
}

// note remembers when an event's dates differ from the run before.
func (r *retiming) note(i int32) {
	b := r.before
	if b == nil {
		return
	}
	d := &r.dates[i]
	if int(i) >= len(b.dates) {
		r.filled = r.join(r.filled, span{d.start, d.reach})
		return
	}
	old := &b.dates[i]
	if d.start == old.start && d.end == old.end && d.reach == old.reach && d.person == old.person && d.saved == old.saved &&
		slices.Equal(d.spans, old.spans) &&
		d.impossible == old.impossible && old.done == d.done {
		return
	}
	r.moved(old, d)
}

// moved notes that an event takes up other time than it did. What its piece hung on, or
// flashed off at, until it was taken up for this is taken up longer or shorter with it.
func (r *retiming) moved(old, d *eventState) {
	was, is := span{old.start, max(old.reach, old.took)}, span{d.start, max(d.reach, d.took)}
	if old.took > 0 || d.took > 0 {
		was.start, is.start = min(old.start, d.start), min(old.start, d.start)
	}
	r.freed, r.filled = r.join(r.freed, was), r.join(r.filled, is)
}

// join adds a stretch to a list, joined with those that it touches. What is past
// does not count.
func (r *retiming) join(list []span, s span) []span {
	if s.end <= r.now || s.start > s.end {
		return list
	}
	kept := list[:0]
	for _, c := range list {
		if c.end < s.start || c.start > s.end {
			kept = append(kept, c)
			continue
		}
		s = span{min(s.start, c.start), max(s.end, c.end)}
	}
	return append(kept, s)
}

func touches(list []span, s span) bool {
	for _, c := range list {
		if c.start <= s.end && c.end >= s.start {
			return true
		}
	}
	return false
}
