package schedule

// settle dates what is done or begun, and lets it take up the air and the hooks
// that it still does.
func (r *retiming) settle() {
	for i := range r.nodes {
		n := r.nodes[i]
		if !n.fixed() {
			continue
		}
		d := &r.dates[i]
		*d = eventState{shares: -1, person: -1, because: because{node: -1}, held: because{node: -1}}
		if n.fact != nil {
			d.done, d.skipped = true, n.fact.Skipped
			d.exact = float64(n.fact.End.UnixNano()) / 1e9
			d.end = minuteOf(n.fact.End)
			d.start = d.end - minute(n.fact.Minutes)
		} else {
			r.goOn(int32(i), n, d)
		}
		d.ready, d.open, d.reach = d.start, d.start, d.end
		if n.step.Kind == Coat && !d.skipped && d.end+60*24*60 > r.now {
			r.dry(int32(i), d)
		} else {
			r.hangUntil(int32(i), d.start)
		}
	}
	if r.before != nil {
		r.noteFacts()
	}
}

// goOn dates an event that somebody is at: it goes on until it has taken its
// time, and has a pair of hands until then.
func (r *retiming) goOn(i int32, n *node, d *eventState) {
	d.start, d.startable = n.begun, true
	d.end = max(n.begun+lengthOf(n.phases[:n.parts]), r.now)
	r.occupy(n, d, span{d.start, d.end})
	left := []phase{{d.end - r.now, false}}
	for who, h := range r.hands {
		if at, free := h.free(r.now, left, n.place); free && at == r.now {
			d.person = int16(who)
			h.take(r.now, left, int(i), n.place)
			return
		}
	}
}

// noteFacts remembers what became done, begun or undone since the run before,
// where it takes up something else now.
func (r *retiming) noteFacts() {
	for i := range r.nodes {
		d := &r.dates[i]
		was := i < len(r.before.nodes) && r.before.nodes[i].fixed()
		is := r.nodes[i].fixed()
		if !was && !is {
			continue
		}
		var old eventState
		if i < len(r.before.nodes) {
			old = r.before.dates[i]
		}
		if was == is && old.start == d.start && old.end == d.end && old.reach == d.reach && old.exact == d.exact && old.person == d.person {
			continue
		}
		if is && old.end == d.end && old.reach == d.reach && d.end <= r.now && r.before.nodes[i].place == r.nodes[i].place {
			continue // done as it was planned
		}
		if !is {
			d = &eventState{start: old.start, end: old.start, reach: old.start} // until it is placed it takes up nothing
		}
		r.moved(&old, d)
	}
}
