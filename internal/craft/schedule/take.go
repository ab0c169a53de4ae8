package schedule

// commit takes up what a placed event needs.
func (r *retiming) commit(i int32) {
	n, d := r.nodes[i], &r.dates[i]
	d.reach = d.end
	if d.impossible != "" {
		r.hangUntil(i, never)
		return
	}
	r.hangUntil(i, d.start)
	d.missed = d.missed || (d.window != NoWindow && d.start+d.lead > d.latest)
	spans := d.spans
	if spans == nil {
		spans = []span{{d.start, d.end}}
	}
	for _, s := range spans {
		if d.spans != nil {
			r.hands[d.person].take(s.start, []phase{{s.length(), false}}, int(i), n.place)
		}
		r.occupy(n, d, s)
	}
	if d.spans == nil {
		r.takeHands(i, n, d)
	}
	if len(d.spans) == 1 {
		d.spans = nil
	}
	if n.step.Kind == Coat {
		r.dry(i, d)
		r.offer(i, n, d)
	}
}

// takeHands takes the hands for an event, and for the wait before it within its sitting.
func (r *retiming) takeHands(i int32, n *node, d *dated) {
	h := r.hands[d.person]
	if n.within && !r.nodes[i-1].fixed() {
		if wait := d.start - r.dates[i-1].end; wait > 0 {
			h.take(r.dates[i-1].end, []phase{{wait, wait >= freeing}}, int(i), n.place)
		}
	}
	s := r.sitting(i, i+1, d.lead, d.saved)
	h.take(d.start, s.phases, int(i), n.place)
}

// occupy counts the event at its place, and its dust in the air.
func (r *retiming) occupy(n *node, d *dated, s span) {
	p := &r.shop.places[n.place]
	if n.step.Kind == Coat {
		s.end += minute(n.step.Material.Family.Flash)
	}
	if p.Capacity > 0 {
		r.working[n.place].add(s, 1)
	}
	if p.air < 0 {
		return
	}
	if n.step.dusty() {
		r.dust[p.air].add(s, 1)
	}
	if d.lead > 0 {
		r.dust[p.air].add(span{d.start, d.start + d.lead}, 1)
	}
}

// dry lets a coat be open to dust until it is dry to touch, and hang until it
// may be handled or its piece is taken up again.
func (r *retiming) dry(i int32, d *dated) {
	n := r.nodes[i]
	p := &r.shop.places[n.place]
	d.reach = max(d.reach, d.end+minute(n.step.Material.Family.Flash))
	if p.air >= 0 {
		if !d.copied {
			d.dry = r.touchDry(i, d.end)
		}
		r.wet[p.air].add(span{d.start + d.lead, d.dry}, 1)
		d.reach = max(d.reach, d.dry)
	}
	if r.shop.Places[p.hangs].Hooks == 0 {
		return
	}
	r.hangUntil(i, d.start)
	hang := r.hang(i)
	*hang = hung{span: span{d.start, r.handled(i, d.end)}, place: int32(p.hangs), on: true}
	r.hooks[p.hangs].add(hang.span, 1)
	d.reach = max(d.reach, hang.end)
}

// lift takes a piece off its hook while its next work is placed, which needs
// none beside the one it hangs on.
func (r *retiming) lift(i int32) {
	if hang := r.hang(i); hang.on {
		r.hooks[hang.place].add(hang.span, -1)
		hang.on, hang.lifted = false, true
	}
}

// hangUntil lets a piece hang until it is taken up again, and no longer.
func (r *retiming) hangUntil(i int32, t minute) {
	hang := r.hang(i)
	if r.lift(i); hang.lifted {
		r.hooks[hang.place].add(span{hang.start, min(hang.end, t)}, 1)
		hang.lifted = false
	}
}

func (r *retiming) hang(i int32) *hung {
	return &r.hangs[r.pieces[r.nodes[i].instrument]+r.nodes[i].piece]
}

// touchDry and handled are when a coat that ends then is out of the dust, and
// off its hook.
func (r *retiming) touchDry(i int32, end minute) minute {
	return r.nodes[i].dry.from(end)
}

func (r *retiming) handled(i int32, end minute) minute {
	return r.nodes[i].handle.from(end)
}

// offer lets later coats of the same product share this one's set-up.
func (r *retiming) offer(i int32, n *node, d *dated) {
	if n.step.SetUp == 0 && d.shares < 0 {
		return
	}
	mixed := d.start + d.lead
	key := shareKey{n.place, n.step.Material.Key()}
	list := r.shares[key]
	for _, other := range list {
		if other.node == d.shares {
			mixed = other.mixed
		}
	}
	r.shares[key] = append(list, shared{d.end, mixed, i, d.person})
}
