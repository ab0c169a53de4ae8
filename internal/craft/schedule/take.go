package schedule

// commit takes up what a placed event needs.
func (r *retiming) commit(i int32) {
	n, d := r.nodes[i], &r.dates[i]
	d.reach, d.took = d.end, 0
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
	if n.step.Kind != Coat {
		r.stayUntil(i, d.end, d.end)
		return
	}
	r.dry(i, d)
	r.offer(i, n, d)
}

// takeHands takes the hands for an event, and for the wait before it within its sitting.
func (r *retiming) takeHands(i int32, n *node, d *eventState) {
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
func (r *retiming) occupy(n *node, d *eventState, s span) {
	p := &r.shop.places[n.place]
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

// dry lets a coat take up its place until it has flashed off, be open to dust until
// it is dry to touch, and hang until it may be handled or its piece is taken up again.
func (r *retiming) dry(i int32, d *eventState) {
	n := r.nodes[i]
	p := &r.shop.places[n.place]
	flashed := d.end + minute(n.step.Material.Family.Flash)
	d.reach = max(d.reach, flashed)
	r.hangUntil(i, d.start)
	r.stayUntil(i, d.end, flashed)
	if p.air >= 0 {
		if !d.copied {
			d.dry = r.touchDry(i, d.end)
		}
		r.open(i, d)
		d.reach = max(d.reach, d.dry)
	}
	if r.shop.Places[p.hangs].Hooks == 0 {
		return
	}
	*r.hang(i) = hangUp(&r.hooks[p.hangs], int32(p.hangs), span{d.start, r.handled(i, d.end)})
	d.reach = max(d.reach, r.hang(i).end)
}

// stayUntil lets a piece take up its place after its work until it has flashed off: also
// what an earlier coat has left of its flash time when the piece was taken up again.
func (r *retiming) stayUntil(i int32, end, flashed minute) {
	place := r.nodes[i].place
	if before := r.stay(i); before.place == place {
		flashed = max(flashed, before.end)
	}
	if r.shop.places[place].Capacity > 0 && flashed > max(end, r.now) {
		*r.stay(i) = hangUp(&r.working[place], place, span{end, flashed})
	}
}

// open lets a coat be open to dust in the airs that its piece is in until it is dry
// to touch: where it is put on, where it hangs, and wherever it was carried meanwhile.
func (r *retiming) open(i int32, d *eventState) {
	n := r.nodes[i]
	wet := span{d.start + d.lead, d.dry}
	for _, air := range r.airsOf(n) {
		r.wet[air].add(wet, 1)
	}
	if !d.done {
		return
	}
	for _, m := range r.moves[r.in.Instruments[n.instrument].Pieces[n.piece].ID] {
		to, known := r.shop.byID[m.Place]
		if at := minuteOf(m.At); known && at > d.end && r.shop.places[to].air >= 0 {
			r.wet[r.shop.places[to].air].add(span{at, d.dry}, 1)
		}
	}
}

// airsOf are the airs that a coat dries in: where it is put on, and where it hangs.
func (g *graph) airsOf(n *node) []int {
	here := &g.shop.places[n.place]
	there := g.shop.places[here.hangs].air
	switch {
	case here.air < 0:
		return nil
	case there < 0 || there == here.air:
		return g.shop.airOf[here.air : here.air+1]
	}
	return []int{here.air, there}
}

// hangUp takes up a stretch of a load for a piece until it is taken up again.
func hangUp(l *load, place int32, s span) hung {
	l.add(s, 1)
	return hung{span: s, load: l, place: place, on: true}
}

// lift takes a piece off its hook, and off the place where it flashes off, while its
// next work is placed: it needs none beside the one that it has.
func (r *retiming) lift(i int32) {
	r.hang(i).lift()
	r.stay(i).lift()
}

func (h *hung) lift() {
	if h.on {
		h.load.add(h.span, -1)
		h.on, h.lifted = false, true
	}
}

// hangUntil lets a piece hang and flash off until it is taken up again, and no longer.
func (r *retiming) hangUntil(i int32, t minute) {
	r.lift(i)
	d := &r.dates[i]
	d.took = max(d.took, r.hang(i).until(t))
	if r.stay(i).place != r.nodes[i].place {
		t = never // it is worked on elsewhere; the place is its own until then
	}
	d.took = max(d.took, r.stay(i).until(t))
}

// until hangs a piece up again that was lifted, no longer than until t, and gives the end
// that this takes from it; 0 for none.
func (h *hung) until(t minute) minute {
	if !h.lifted {
		return 0
	}
	h.load.add(span{h.start, min(h.end, t)}, 1)
	h.lifted = false
	if h.end <= t {
		return 0
	}
	return h.end
}

func (r *retiming) hang(i int32) *hung { return &r.hangs[r.pieceOf(i)] }

func (r *retiming) stay(i int32) *hung { return &r.stays[r.pieceOf(i)] }

// pieceOf is the number of an event's piece, counted over all instruments.
func (g *graph) pieceOf(i int32) int32 { return g.pieces[g.nodes[i].instrument] + g.nodes[i].piece }

// touchDry and handled are when a coat that ends then is out of the dust, and
// off its hook.
func (r *dating) touchDry(i int32, end minute) minute { return r.own(i, r.nodes[i].dry, end) }

func (r *dating) handled(i int32, end minute) minute { return r.own(i, r.nodes[i].handle, end) }

// offer lets later coats of the same product share this one's set-up.
func (r *retiming) offer(i int32, n *node, d *eventState) {
	if n.step.SetUpMin == 0 && d.shares < 0 {
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
