package schedule

// reserved is what a pin has set aside.
type reserved struct {
	start  minute
	person int16
	free   bool // hours, hands, place, air and hooks allow it
	taken  []takenUp
}

// takenUp is a stretch of a load that a pin has set aside.
type takenUp struct {
	load *load
	span span
}

// reserve sets aside what pins ask for, before anything else is placed.
func (r *retiming) reserve() {
	if len(r.in.Pins) == 0 {
		return
	}
	r.pinned = make(map[int32]*reserved)
	for i := range r.nodes {
		at, pinned := r.in.Pins[r.nodes[i].event]
		if !pinned || r.nodes[i].fixed() || r.nodes[i].within {
			continue
		}
		from := int32(i)
		s, start := r.sitting(from, r.sittingEnd(from, r.first[r.nodes[i].instrument+1]), 0, 0), minuteOf(at)
		free, move, possible := r.push(&s, start)
		pin := &reserved{start: start, free: start >= r.now && possible && free == start}
		if pin.free {
			pin.person = move.person
			r.hands[pin.person].take(start, s.phases, i, r.nodes[i].place)
			pin.setAside(r, &s)
		}
		r.pinned[from] = pin
	}
}

// setAside takes up room at the places, and keeps dust and fresh coats apart.
func (p *reserved) setAside(r *retiming, s *sitting) {
	take := func(l *load, from, to minute) {
		l.add(span{from, to}, 1)
		p.taken = append(p.taken, takenUp{l, span{from, to}})
	}
	for k := range s.offsets {
		i := s.from + int32(k)
		n := r.nodes[i]
		place := &r.shop.places[n.place]
		start := p.start + s.offsets[k]
		end, stays := start+r.lengthAt(s, k), minute(0)
		if n.step.Kind == Coat {
			stays = minute(n.step.Material.Family.Flash)
		}
		if place.Capacity > 0 {
			take(&r.working[n.place], start, end+stays)
		}
		if place.air >= 0 && n.step.dusty() {
			take(&r.dust[place.air], start, end+stays)
		}
		if n.step.Kind != Coat {
			continue
		}
		for _, air := range r.airsOf(n) {
			take(&r.wet[air], start, r.touchDry(i, end))
		}
		if r.shop.Places[place.hangs].Hooks > 0 {
			take(&r.hooks[place.hangs], start, r.handled(i, end))
		}
	}
}

// giveBack lets go of what was set aside.
func (p *reserved) giveBack(r *retiming, node int32) {
	if !p.free {
		return
	}
	r.hands[p.person].release(p.start, int(node))
	for _, t := range p.taken {
		t.load.add(t.span, -1)
	}
	p.taken = nil
}

// tryPin places a sitting where it was pinned. It fails where its piece, the
// hours or a fact do not allow that: the sitting then floats to the earliest that
// they do.
func (r *retiming) tryPin(from, to int32, pin *reserved) bool {
	if pin.giveBack(r, from); !pin.free {
		return false
	}
	s, head := r.sitting(from, to, 0, 0), &r.dates[from]
	if pin.start > head.mends {
		return false // it would need a scuff first, which takes time of its own
	}
	clear(r.cache)
	trial := *head
	if trial.ready = max(trial.ready, pin.start); trial.ready > pin.start {
		return false
	}
	if r.seat(&s, &trial); trial.impossible != "" || trial.start != pin.start {
		return false
	}
	trial.ready, trial.pinned = head.ready, true
	trial.held = head.held
	trial.because = because{cause: PinnedThere, node: -1, until: pin.start}
	*head = trial
	r.dateRest(&s, head)
	return true
}
