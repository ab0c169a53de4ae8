package schedule

// reserved is what a pin has set aside.
type reserved struct {
	start  minute
	person int16
	free   bool // hours, hands and place allow it
}

// tryPin places a sitting where it was pinned. It fails where its piece, the
// hours or a fact do not allow that: the sitting then floats to the earliest that
// they do.
func (r *retiming) tryPin(from, to int32, pin reserved) bool {
	if !pin.free {
		return false
	}
	s, head := r.sitting(from, to, 0, 0), &r.dates[from]
	if pin.start > head.mends {
		return false // it would need a scuff first, which takes time of its own
	}
	r.hands[pin.person].release(pin.start, int(from))
	clear(r.found)
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

// reserve sets aside what pins ask for, before anything else is placed.
func (r *retiming) reserve() {
	if len(r.in.Pins) == 0 {
		return
	}
	r.pinned = make(map[int32]reserved)
	for i := range r.nodes {
		at, pinned := r.in.Pins[r.nodes[i].event]
		if !pinned || r.nodes[i].fixed() || r.nodes[i].within {
			continue
		}
		from := int32(i)
		s, start := r.sitting(from, r.sittingEnd(from, r.first[r.nodes[i].instrument+1]), 0, 0), minuteOf(at)
		free, move, possible := r.push(&s, start)
		pin := reserved{start: start, free: start >= r.now && possible && free == start}
		if pin.free {
			pin.person = move.person
			r.hands[pin.person].take(start, s.phases, i, r.nodes[i].place)
		}
		r.pinned[from] = pin
	}
}
