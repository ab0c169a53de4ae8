package schedule

import (
	"slices"
	"time"
)

// LatestStart is the last minute at which an instrument's next work may begin so that
// its promise is still kept, alone in the shop: planned from that minute on it keeps it,
// from no later one does it. It is zero when that minute is past, when nothing is left to
// do, and when the promise cannot be kept at all. Rules §9.
//
// Planning is not monotone (a later start may finish earlier), so the minute is not
// found by halving: a bound from the promise backward says where to begin, and from
// there every minute at which something can begin is planned forward, latest first.
func (p *Plan) LatestStart(i int) time.Time {
	at, known := p.latest[i]
	if !known {
		if p.latest == nil {
			p.latest = make(map[int]minute)
		}
		at = p.r.latestStart(i)
		p.latest[i] = at
	}
	if at < p.r.now || p.Forecasts[i].Finished {
		return time.Time{}
	}
	return p.r.local(at)
}

// keepLatest takes latest starts over from an earlier plan, of instruments of which
// nothing has changed but the present minute.
func (p *Plan) keepLatest(before *Plan) {
	if p.Now.Before(before.Now) || !sameOrder(before.r.in.Order, p.r.in.Order) {
		return
	}
	for i, at := range before.latest {
		if i >= len(p.r.in.Instruments) || p.r.in.Instruments[i].Promise != before.r.in.Instruments[i].Promise ||
			p.r.first[i] != before.r.first[i] || p.r.first[i+1] != before.r.first[i+1] {
			continue
		}
		if slices.Equal(p.r.nodes[p.r.first[i]:p.r.first[i+1]], before.r.nodes[p.r.first[i]:p.r.first[i+1]]) {
			if p.latest == nil {
				p.latest = make(map[int]minute)
			}
			p.latest[i] = at
		}
	}
}

// Of starts that are tried, so many are tried minute by minute, and beyond them, where
// a promise can hardly be kept, one in so many.
const (
	triedAll   = 4000
	triedEvery = 15
	noStart    = minute(-1)
)

func (r *retiming) latestStart(i int) minute {
	alone, err := r.onItsOwn(i)
	if err != nil {
		return noStart
	}
	due := r.due(r.in.Instruments[i].Promise)
	b := newBackward(alone, due)
	if !b.settle() {
		return noStart
	}
	tries, step := 0, minute(1)
	for at := b.before(slices.Min(b.latest)); at != noStart; at = b.before(at - step) {
		if alone.from(at).keeps(due) {
			return alone.lastOf(at, at+step, due)
		}
		if tries++; tries > triedAll {
			step = triedEvery
		}
	}
	return noStart
}

// lastOf is the last start before a minute that keeps a promise, where one at this minute does;
// the first work that it leads to counts as such a start, too.
func (r *retiming) lastOf(at, before, due minute) minute {
	for later := before - 1; later > at; later-- {
		if r.from(later).keeps(due) {
			at = later
			break
		}
	}
	if first := r.from(at).firstStart(); first > at && r.from(first).keeps(due) {
		return first
	}
	return at
}

// onItsOwn is an instrument planned as if it were alone in the shop.
func (r *dating) onItsOwn(i int) (*retiming, error) {
	in := *r.in
	in.Instruments, in.Order = r.in.Instruments[i:i+1], nil
	mine := make(map[Event]bool)
	for k := r.first[i]; k < r.first[i+1]; k++ {
		mine[r.nodes[k].event] = true
	}
	for _, e := range r.in.Order {
		if mine[e] {
			in.Order = append(in.Order, e)
		}
	}
	in.Pins = make(map[Event]time.Time)
	for e, at := range r.in.Pins {
		if mine[e] {
			in.Pins[e] = at
		}
	}
	plan, err := retime(in, nil)
	if err != nil {
		return nil, err
	}
	return plan.r, nil
}

// from dates the same events from another present on.
func (r *retiming) from(now minute) *retiming {
	return r.again(r.in, now, r.order)
}

// keeps reports whether everything is done by then.
func (r *dating) keeps(due minute) bool {
	for i := range r.dates {
		if r.dates[i].impossible != "" || r.dates[i].end > due {
			return false
		}
	}
	return true
}

// firstStart is when the first work that is left begins.
func (r *dating) firstStart() minute {
	first := never
	for i := range r.dates {
		if !r.nodes[i].fixed() {
			first = min(first, r.dates[i].start)
		}
	}
	return first
}
