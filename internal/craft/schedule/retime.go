package schedule

import (
	"maps"
	"slices"

	"github.com/google/uuid"
)

// Retime computes all dates. It serves runs of events in the accepted order,
// each at the earliest minute that its films, the air, the hours, hands and
// places allow; later ones fill the gaps that earlier ones leave. It is a pure
// function: the same input gives the same dates. It fails only on an instrument
// that Validate refuses.
func Retime(in Input) (*Plan, error) {
	in.learn()
	return retime(in, nil)
}

// Retime computes all dates of a new input, quicker than from nothing where
// little has changed since this plan: the answer is the same.
func (p *Plan) Retime(in Input) (*Plan, error) {
	in.learn()
	if p.r.shop != in.Shop || len(in.Pins)+len(p.r.in.Pins) > 0 || !maps.Equal(p.r.in.Factors, in.Factors) {
		return retime(in, nil)
	}
	next, err := retime(in, p)
	if err == nil {
		next.keepLatest(p)
	}
	return next, err
}

func retime(in Input, before *Plan) (*Plan, error) {
	r, err := run(in, before)
	if err != nil {
		return nil, err
	}
	return r.plan(), nil
}

// run works out the dates.
func run(in Input, before *Plan) (*retiming, error) {
	r := &retiming{dating: dating{graph: &graph{shop: in.Shop}, in: &in, now: minuteOf(in.Now)}}
	if before != nil {
		r.before, r.earlier = before.r, before.Events
	}
	r.shop.prepare(r.now)
	if err := r.compile(); err != nil {
		return nil, err
	}
	r.lay()
	r.settle()
	r.reserve()
	for _, u := range r.order {
		r.unit(u)
	}
	return r, nil
}

// bare is the same events with nothing placed but facts and pins, at a present.
func (r *retiming) bare(in *Input, now minute) *retiming {
	other := &retiming{dating: dating{graph: r.graph, in: in, now: now, order: r.order, dates: make([]eventState, len(r.nodes))},
		hangs: make([]hung, len(r.hangs)), stays: make([]hung, len(r.stays))}
	other.lay()
	other.settle()
	other.reserve()
	return other
}

// again dates the same events at another present or in another order of units.
func (r *retiming) again(in *Input, now minute, units []int32) *retiming {
	other := r.bare(in, now)
	other.order = other.topologicalSort(units)
	for _, u := range other.order {
		other.unit(u)
	}
	return other
}

// retiming is one run of Retime: dates, with what has been taken up by what is placed so far.
type retiming struct {
	dating
	hands   []*hands
	alone   [1]*hands // the hands that are asked alone
	working []load    // by place: pieces being worked on
	hooks   []load    // by place: pieces that hang to dry
	hangs   []hung    // by piece
	stays   []hung    // by piece: where its last coat flashes off
	wet     []load    // by air: coats that are open to dust
	dust    []load    // by air: work that makes dust
	shares  map[shareKey][]shared
	pinned  map[int32]*reserved
	cache   map[cacheKey][]cached // where there is no room
	reuse
}

// graph is the events with what each waits for, and the runs that they are placed in. It is laid out once
// and shared by all that date it.
type graph struct {
	shop   *Shop
	nodes  []*node
	first  []int32 // by instrument, its first node; one more at the end
	pieces []int32 // by instrument, the number of its first piece
	index  map[Event]int32
	units  []span32 // runs of nodes that are placed together
	unitOf []int32
}

// dating is the dates of a graph's events, and the clocks that run on them.
type dating struct {
	*graph
	in    *Input
	now   minute
	order []int32 // units in the order in which they are placed
	dates []eventState
	moves map[uuid.UUID][]Move
	tests map[Event][]Test
}

// reuse is what is taken from an earlier run.
type reuse struct {
	before  *retiming // an earlier run, to take from what has not changed
	earlier []Planned // what it came to
	freed   []span    // when something is free that was not in the run before
	filled  []span    // and the other way round
}

// eventState is an event's dates while they are worked out.
type eventState struct {
	start, end minute
	exact      float64 // the end in seconds, of what was done
	ready      minute
	soonest    minute // ready, before a scuff that a closed window makes necessary
	since      minute
	open       minute
	reach      minute // until when it takes up something: hands, air, a hook
	took       minute // until when its piece would have hung, or flashed off, had it not been taken up for this
	dry        minute // of a coat: when it is dry to touch
	latest     minute
	mends      minute // until when no scuff is needed
	window     WindowKind
	person     int16
	shares     int32 // whose set-up, -1 for none
	lead       minute
	saved      minute // minutes of set-up it is spared
	spans      []span
	because    because
	held       because // what held its own piece until it was ready
	copied     bool    // taken over from the run before
	done       bool
	skipped    bool
	startable  bool
	missed     bool
	heldBack   bool
	pinned     bool
	floats     bool
	impossible string
}

// hung is what a piece takes up between two works.
type hung struct {
	span
	load   *load
	place  int32
	on     bool
	lifted bool // off its hook while its next work is placed
}

type shareKey struct {
	place   int32
	product string
}

// shared is a coat whose set-up others may share: until when, and with whose hands.
type shared struct {
	end    minute
	mixed  minute // when its mix was made
	node   int32
	person int16
}

func (r *retiming) compile() error {
	pieces, events := 0, 0
	for i := range r.in.Instruments {
		r.pieces, r.first = append(r.pieces, int32(pieces)), append(r.first, int32(events))
		pieces += len(r.in.Instruments[i].Pieces)
		events += r.in.events(&r.in.Instruments[i])
	}
	r.first = append(r.first, int32(events))
	r.hangs, r.stays = make([]hung, pieces), make([]hung, pieces)
	r.begin(events)
	for i := range r.in.Instruments {
		if r.unchanged(i) {
			continue
		}
		if _, err := compile(r.shop, r.in, i, r.nodes[:r.first[i]]); err != nil {
			return err
		}
	}
	r.layOrder()
	if !r.continues() {
		r.before = nil
	}
	return nil
}

// begin makes room for the events; where a run before had the same ones at the
// same places, what it knew of them is taken over whole.
func (r *retiming) begin(events int) {
	r.nodes, r.dates = make([]*node, events), make([]eventState, events)
	if r.before == nil {
		return
	}
	same := min(len(r.first), len(r.before.first))
	for i := range same {
		if r.first[i] != r.before.first[i] {
			same = i
			break
		}
	}
	if same == 0 {
		return
	}
	known := r.before.first[same-1]
	copy(r.nodes, r.before.nodes[:known])
	copy(r.dates, r.before.dates[:known])
}

// unchanged reports whether an instrument and its facts are what they were in
// the run before, at the same place among the nodes.
func (r *retiming) unchanged(i int) bool {
	b := r.before
	if b == nil || i >= len(b.in.Instruments) || b.first[i] != r.first[i] || b.first[i+1] != r.first[i+1] {
		return false
	}
	now, then := &r.in.Instruments[i], &b.in.Instruments[i]
	if now.ID != then.ID || len(now.Pieces) != len(then.Pieces) || len(now.Pieces) == 0 || &now.Pieces[0] != &then.Pieces[0] {
		return false
	}
	for k := b.first[i]; k < b.first[i+1]; k++ {
		n := b.nodes[k]
		fact, done := r.in.Facts[n.event]
		if done != (n.fact != nil) || (done && fact != *n.fact) || !r.in.Begun[n.event].Equal(b.in.Begun[n.event]) {
			return false
		}
	}
	return sameRounds(r.in, b.in, now) && slices.Equal(r.in.Moves, b.in.Moves) && slices.Equal(r.in.Tests, b.in.Tests)
}

// lay makes the shop's resources ready.
func (r *retiming) lay() {
	for i := range r.shop.People {
		r.hands = append(r.hands, newHands(r.shop.personHours(i), r.now))
	}
	r.working, r.hooks = make([]load, len(r.shop.places)), make([]load, len(r.shop.places))
	r.wet, r.dust = make([]load, r.shop.airs), make([]load, r.shop.airs)
	r.shares, r.cache = make(map[shareKey][]shared), make(map[cacheKey][]cached)
	r.layMoves()
	r.tests = make(map[Event][]Test)
	for _, t := range r.in.Tests {
		r.tests[t.Event] = append(r.tests[t.Event], t)
	}
	for _, list := range r.tests {
		slices.SortStableFunc(list, func(a, b Test) int { return a.At.Compare(b.At) })
	}
}

// layMoves sorts what was carried about by piece.
func (r *dating) layMoves() {
	r.moves = make(map[uuid.UUID][]Move)
	for _, m := range r.in.Moves {
		r.moves[m.Piece] = append(r.moves[m.Piece], m)
	}
	for _, list := range r.moves {
		slices.SortStableFunc(list, func(a, b Move) int { return a.At.Compare(b.At) })
	}
}

// plan turns the dates into what callers read.
func (r *retiming) plan() *Plan {
	p := &Plan{Now: r.local(r.now), Zone: r.shop.Calendar.Zone(), r: r, index: r.index, Events: make([]Planned, len(r.nodes))}
	if r.before != nil {
		copy(p.Events, r.earlier)
	}
	for i := range r.nodes {
		if !r.dates[i].copied {
			r.publish(int32(i), &p.Events[i])
		}
	}
	for i := range r.in.Instruments {
		p.Forecasts = append(p.Forecasts, r.forecast(i))
	}
	r.before, r.earlier, r.cache = nil, nil, nil
	return p
}

func sameRounds(a, b *Input, in *Instrument) bool {
	if len(a.Settled) == 0 && len(b.Settled) == 0 {
		return true
	}
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			step := &in.Pieces[p].Steps[s]
			if a.rounds(step) != b.rounds(step) {
				return false
			}
		}
	}
	return true
}
