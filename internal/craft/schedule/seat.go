package schedule

import (
	"fmt"
)

// sitting is events that are placed in one go, and the phases of their work.
type sitting struct {
	from, to int32
	lead     minute // of a scuff before the first
	phases   []phase
	total    minute
	offsets  []minute // of each event from the start of the whole, without the lead
}

func (g *graph) sitting(from, to int32, lead, saved minute) sitting {
	if n := g.nodes[from]; to-from == 1 && lead == 0 && saved == 0 {
		phases := n.phases[:n.parts]
		return sitting{from: from, to: to, phases: phases, offsets: atOnce, total: lengthOf(phases)}
	}
	s := sitting{from: from, to: to, lead: lead, offsets: []minute{lead}}
	s.phases = append(s.phases, g.nodes[from].phases[:g.nodes[from].parts]...)
	s.phases[0].length += lead - saved
	for i := from + 1; i < to; i++ {
		n := g.nodes[i]
		if wait := minute(n.step.Within.AfterMin); wait > 0 {
			s.phases = append(s.phases, phase{wait, wait >= freeing})
		}
		s.offsets = append(s.offsets, lengthOf(s.phases))
		s.phases = append(s.phases, n.phases[:n.parts]...)
	}
	s.total = lengthOf(s.phases)
	return s
}

// atOnce is the offsets of a sitting of one event.
var atOnce = []minute{0}

// at is where event k begins in the sitting, a scuff before it included.
func (s *sitting) at(k int) minute {
	if k == 0 {
		return 0
	}
	return s.offsets[k]
}

// lengthAt is how long event k of the sitting takes.
func (g *graph) lengthAt(s *sitting, k int) minute {
	if k+1 < len(s.offsets) {
		return s.offsets[k+1] - s.offsets[k] - minute(g.nodes[s.from+int32(k)+1].step.Within.AfterMin)
	}
	return s.total - s.offsets[k]
}

// seat finds the earliest start from the head's ready time on at which the whole
// sitting may be done: the shop and the places open, the air fit, nothing in the
// way of dust, room at the place, a hook to hang on, and hands free.
func (r *retiming) seat(s *sitting, head *eventState) {
	start := head.ready
	for k := 1; k < len(s.offsets); k++ {
		start = max(start, r.dates[s.from+int32(k)].ready-s.offsets[k])
	}
	open, fits := r.openFor(s, start)
	if !fits {
		head.impossible = fmt.Sprintf("it takes %s in one go, and the shop is never open that long at a stretch", text(s.total))
		return
	}
	head.open = open
	ready := start
	start = r.skip(s, start)
	for {
		at, move, possible := r.push(s, start)
		if !possible {
			head.impossible = move.why
			return
		}
		if at == start {
			head.person = move.person
			break
		}
		start = at
	}
	r.remember(s, ready, start)
	if start > ready {
		head.because = r.inTheWay(s, ready, start)
	}
	head.start, head.end = start, start+s.total
}

// inTheWay is what kept a sitting from starting earlier: what would have pushed it
// on from the last minute before at which the hours would have allowed it; the
// hours themselves where there is no such minute since it was ready.
func (r *retiming) inTheWay(s *sitting, ready, start minute) because {
	b := because{cause: Closed, node: -1, until: start, earlier: ready}
	t := start - 1
	if open, fits := r.openFor(s, t); !fits || open > t {
		t = r.lastOpen(s, t)
	}
	if t < ready {
		b.short = r.isOpen(s, ready)
		return b
	}
	if _, m, possible := r.push(s, t); possible && m.cause != Closed && m.cause != Nothing {
		b.cause, b.node, b.place, b.blocked = m.cause, m.node, m.place, t
	}
	return b
}

// lastOpen is the last start before t at which the hours leave room for the sitting.
func (g *graph) lastOpen(s *sitting, t minute) minute {
	hours := g.shop.placeHours(int(g.nodes[s.from].place))
	for i := hours.from(t); i >= 0; i-- {
		open := hours.spans[i]
		if last := min(t, open.end-s.total); last >= open.start {
			return last
		}
	}
	return -1
}

// openFor is the earliest start at which shop and places are open long enough.
func (g *graph) openFor(s *sitting, t minute) (minute, bool) {
	for {
		at, fits := g.shop.hours[0].next(t, s.total)
		for k := range s.offsets {
			if !fits {
				return 0, false
			}
			n := g.nodes[s.from+int32(k)]
			if g.shop.Places[n.place].Calendar == nil {
				continue
			}
			var place minute
			from, length := s.at(k), g.lengthAt(s, k)
			place, fits = g.shop.placeHours(int(n.place)).next(at+from, length+s.offsets[k]-from)
			at = max(at, place-from)
		}
		if !fits || at == t {
			return at, fits
		}
		t = at
	}
}

// move is what pushed a start on.
type move struct {
	cause  Cause
	node   int32
	place  int32
	person int16  // whose hands are free, when nothing is in the way
	why    string // when nothing helps
}

// push returns t when the sitting may start then, else the next start worth
// trying and what is in the way.
func (r *retiming) push(s *sitting, t minute) (minute, move, bool) {
	at, fits := r.openFor(s, t)
	if !fits {
		return 0, move{why: "the shop is not open for it in the coming years"}, false
	}
	if at > t {
		return at, move{cause: Closed, node: -1}, true
	}
	for k := range s.offsets {
		i := s.from + int32(k)
		at, m, possible := r.pushEvent(i, t+s.at(k), s.offsets[k]-s.at(k), r.lengthAt(s, k))
		if !possible || at > t+s.at(k) {
			return at - s.at(k), m, possible
		}
	}
	if s.lead > 0 {
		if at, m := r.pushDust(r.nodes[s.from], t, s.lead); at > t {
			return at, m, true
		}
	}
	return r.pushHands(s, t)
}

func (g *graph) isOpen(s *sitting, t minute) bool {
	place := int(g.nodes[s.from].place)
	return g.shop.hours[0].until(t) > t && g.shop.placeHours(place).until(t) > t
}

// pushEvent moves the start of one event of a sitting on, which has a scuff of
// so many minutes before it.
func (r *retiming) pushEvent(i int32, t, lead, length minute) (minute, move, bool) {
	n := r.nodes[i]
	p := &r.shop.places[n.place]
	stays := length
	if n.step.Kind == Coat {
		stays += minute(n.step.Material.Family.Flash)
		if at, fit := n.fit.next(t+lead, stays); !fit {
			return 0, move{why: fmt.Sprintf("the air of %s is not fit for %s in the next two years", p.Name, n.step.Material.Name)}, false
		} else if at > t+lead {
			return at - lead, move{cause: Unfit, node: i, place: n.place}, true
		}
	}
	if p.Capacity > 0 {
		if at := r.working[n.place].next(t, lead+stays, int32(p.Capacity)); at > t {
			return at, move{cause: Full, node: -1, place: n.place}, true
		}
	}
	if n.step.Kind == Coat {
		at, m := r.pushWet(i, t, lead, length)
		return at, m, true
	}
	if !n.step.dusty() {
		return t, move{}, true
	}
	at, m := r.pushDust(n, t, length)
	return at, m, true
}

// pushDust keeps dusty work away from coats that are still open to dust.
func (r *retiming) pushDust(n *node, t, length minute) (minute, move) {
	p := &r.shop.places[n.place]
	if p.air < 0 {
		return t, move{}
	}
	return r.wet[p.air].next(t, length, 1), move{cause: Dust, node: -1, place: n.place}
}

// pushWet keeps a coat away from dust until it is dry to touch, in the air where it
// is put on and in the one where it hangs, and finds it a hook.
func (r *retiming) pushWet(i int32, t, lead, length minute) (minute, move) {
	n := r.nodes[i]
	p := &r.shop.places[n.place]
	end, dry := t+lead+length, minute(-1)
	for _, air := range r.airsOf(n) {
		if len(r.dust[air].at) == 0 {
			continue
		}
		if dry < 0 {
			dry = r.touchDry(i, end)
		}
		if at := r.dust[air].next(t+lead, dry-t-lead, 1); at > t+lead {
			where := n.place
			if air != p.air {
				where = int32(p.hangs)
			}
			return at - lead, move{cause: Dust, node: -1, place: where}
		}
	}
	if hooks := r.shop.Places[p.hangs].Hooks; hooks > 0 {
		if at := r.hooks[p.hangs].next(t, r.handled(i, end)-t, int32(hooks)); at > t {
			return at, move{cause: Hooks, node: -1, place: int32(p.hangs)}
		}
	}
	return t, move{}
}

func (r *retiming) pushHands(s *sitting, t minute) (minute, move, bool) {
	best, holder := never, int32(-1)
	place := r.nodes[s.from].place
	for i, h := range r.hands {
		if at, found := h.free(t, s.phases, place); found && at < best {
			if best = at; best == t {
				return t, move{person: int16(i)}, true
			}
		}
	}
	if best == never {
		return 0, move{why: "hands are taken, or never there that long, for years to come"}, false
	}
	for _, h := range r.hands { // those that come free first say why
		if busy, found := h.holder(t, s.total); found && (holder < 0 || busy.end == best) {
			if holder = busy.node; busy.end == best {
				break
			}
		}
	}
	return best, move{cause: Hands, node: holder}, true
}

// dateRest gives the later events of a sitting their dates.
func (r *dating) dateRest(s *sitting, head *eventState) {
	if len(s.offsets) == 1 {
		return
	}
	for k := 1; k < len(s.offsets); k++ {
		d := &r.dates[s.from+int32(k)]
		d.start = head.start + s.offsets[k]
		d.end, d.open, d.person = d.start+r.lengthAt(s, k), d.start, head.person
		d.because = because{cause: Follows, node: s.from + int32(k) - 1, until: d.start}
	}
	head.end = head.start + s.offsets[0] + r.lengthAt(s, 0)
}

// share lets a coat follow straight after another of the same product at the
// same place, without setting up again, where that is no later.
func (r *retiming) share(s *sitting, d *eventState) {
	n := r.nodes[s.from]
	if s.to-s.from > 1 || n.step.Kind != Coat || n.step.SetUpMin == 0 {
		return
	}
	saved := minute(n.step.SetUpMin)
	closes := d.mends
	if d.window == Hard {
		closes = min(closes, d.latest)
	}
	list := r.shares[shareKey{n.place, n.step.Material.Key()}]
	for k := len(list) - 1; k >= 0; k-- {
		other := &list[k]
		if other.end < d.ready || (s.lead == 0 && other.end > closes) || other.end+s.total-saved > d.end ||
			!r.stillGood(n, other.mixed, other.end+s.total-saved) {
			continue
		}
		joint := r.sitting(s.from, s.to, s.lead, saved)
		if at, _, possible := r.push(&joint, other.end); !possible || at != other.end {
			continue
		}
		if at, found := r.hands[other.person].free(other.end, joint.phases, n.place); !found || at != other.end {
			continue
		}
		if d.start > other.end || d.end > other.end+joint.total {
			d.start, d.end, d.person = other.end, other.end+joint.total, other.person
			d.shares, d.saved = other.node, saved
			d.because = because{cause: SharedMix, node: other.node, until: other.end}
			return
		}
	}
}

// stillGood reports whether a mix is within its pot life at the end of a coat.
func (g *graph) stillGood(n *node, mixed, end minute) bool {
	life, sets := g.shop.PotLife(n.step.Material, int(n.place))
	return !sets || end-mixed <= minute(life)
}
