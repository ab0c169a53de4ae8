package schedule

import (
	"cmp"
	"math/rand/v2"
	"slices"
)

// Effort is how hard a proposal is looked for.
type Effort struct {
	Seed   uint64
	Events int // how many events may be placed in all; 0: the usual
}

// usualEffort is how many events a search places: what fits into two seconds on
// one core in a shop of 200 instruments.
const usualEffort = 170_000

// mostOrders is how many orders a search looks at, however small the shop.
const mostOrders = 2500

// Proposal is a better order of work than the accepted one.
type Proposal struct {
	Order  []Event
	Before Objective
	After  Objective
	Plan   *Plan
	Tried  int // orders looked at
}

// Better reports whether accepting it gains anything.
func (p Proposal) Better() bool { return p.After.Compare(p.Before) < 0 }

// Propose looks for an order of work that serves the aims better, starting from
// today's. It tries the usual rules first (the nearest promise, the least slack, the
// shortest, the latest start of each event), then moves runs and instruments about and
// keeps what is no worse. Effort and seed are fixed, so the same input gives the same
// proposal; nothing is changed by asking.
func Propose(in Input, effort Effort) (Proposal, error) {
	today, err := Retime(in)
	if err != nil {
		return Proposal{}, err
	}
	s := newSearch(in, today, effort)
	for _, rule := range s.rules() {
		s.consider(rule)
	}
	s.improve()
	out := Proposal{Before: today.Objective(), After: s.bestValue, Tried: s.tried, Plan: today, Order: in.Order}
	if out.Better() {
		out.Order = s.events(s.best)
		in.Order = out.Order
		if out.Plan, err = today.Retime(in); err != nil {
			return Proposal{}, err
		}
	}
	return out, nil
}

// search walks through orders of the units that are left to do.
type search struct {
	in        Input
	today     *Plan
	random    *rand.Rand
	left      int // events that may still be placed
	size      int // events of one order
	tried     int
	units     []int32 // those with work left, in today's order
	owner     []int32 // by unit, its instrument
	piece     []int32 // by unit, the number of its piece
	start     []minute
	best      []int32
	bestValue Objective
}

func newSearch(in Input, today *Plan, effort Effort) *search {
	s := &search{in: in, today: today, random: rand.New(rand.NewPCG(effort.Seed, 0x756d626572)), left: effort.Events, bestValue: today.Objective()}
	if s.left == 0 {
		s.left = usualEffort
	}
	r := today.r
	s.owner, s.piece, s.start = make([]int32, len(r.units)), make([]int32, len(r.units)), make([]minute, len(r.units))
	for _, u := range r.order {
		from := r.units[u].from
		n := r.nodes[from]
		s.owner[u], s.piece[u] = n.instrument, r.pieces[n.instrument]+n.piece
		for i := from; i < r.units[u].to; i++ {
			if !r.nodes[i].fixed() {
				s.units = append(s.units, u)
				s.size += int(r.units[u].to - i)
				s.start[u] = r.dates[i].start
				break
			}
		}
	}
	s.best = slices.Clone(s.units)
	return s
}

// events is an order of units as an order of events.
func (s *search) events(units []int32) []Event {
	r := s.today.r
	order := make([]Event, 0, len(r.nodes))
	named := make([]bool, len(r.units))
	for _, u := range units {
		named[u] = true
	}
	for _, u := range r.order { // what is done keeps its place at the front
		if !named[u] {
			order = r.appendUnit(order, u)
		}
	}
	for _, u := range units {
		order = r.appendUnit(order, u)
	}
	return order
}

func (r *retiming) appendUnit(order []Event, u int32) []Event {
	for i := r.units[u].from; i < r.units[u].to; i++ {
		order = append(order, r.nodes[i].event)
	}
	return order
}

// rules are orders that a sensible person would try.
func (s *search) rules() [][]int32 {
	r := s.today.r
	by := func(key func(u int32) float64) []int32 {
		order := slices.Clone(s.units)
		slices.SortStableFunc(order, func(a, b int32) int { return cmp.Compare(key(a), key(b)) })
		return order
	}
	due, slack, work := make([]float64, len(r.in.Instruments)), make([]float64, len(r.in.Instruments)), make([]float64, len(r.in.Instruments))
	alone := r.aside()
	for i := range r.in.Instruments {
		in := &r.in.Instruments[i]
		due[i] = float64(r.due(in.Promise))
		bound, _ := alone.lowerBound(i)
		slack[i], work[i] = (due[i]-float64(bound))/weight(in), float64(bound)/weight(in)
	}
	latest := s.latestStarts()
	return [][]int32{
		by(func(u int32) float64 { return due[s.owner[u]] }),
		by(func(u int32) float64 { return slack[s.owner[u]] }),
		by(func(u int32) float64 { return work[s.owner[u]] }),
		by(func(u int32) float64 { return latest[u] }),
		by(func(u int32) float64 { return float64(s.start[u]) }),
	}
}

// latestStarts is, by unit, how late it may begin without breaking its
// instrument's promise, its tail of waits counted at today's lengths.
func (s *search) latestStarts() []float64 {
	r := s.today.r
	latest := make([]float64, len(r.units))
	for _, u := range s.units {
		i := s.owner[u]
		finish := minute(0)
		for k := r.first[i]; k < r.first[i+1]; k++ {
			finish = max(finish, r.dates[k].end)
		}
		latest[u] = float64(r.due(r.in.Instruments[i].Promise)) - float64(finish-s.start[u])
	}
	return latest
}

// consider dates an order and keeps it when it is no worse than the best.
func (s *search) consider(order []int32) bool {
	if s.left <= 0 || s.tried >= mostOrders {
		return false
	}
	value := s.measure(order)
	if value.Compare(s.bestValue) > 0 {
		return false
	}
	s.best, s.bestValue = order, value
	return true
}

// measure dates an order and says how good it is, without publishing a plan.
func (s *search) measure(order []int32) Objective {
	s.tried++
	s.left -= s.size
	r := s.today.r.reordered(order)
	return r.objective()
}

// reordered dates the same events in another order of units.
func (r *retiming) reordered(units []int32) *retiming {
	return r.again(r.in, r.now, units)
}

// improve moves instruments and runs about until the effort is spent.
func (s *search) improve() {
	if len(s.units) < 2 {
		return
	}
	for s.left > 0 && s.tried < mostOrders {
		order := slices.Clone(s.best)
		for range 1 + s.random.IntN(2) {
			s.mutate(order)
		}
		s.consider(order)
	}
}

func (s *search) mutate(order []int32) {
	n := len(order)
	switch s.random.IntN(4) {
	case 0: // one instrument's work comes as early as it can
		s.hoist(order, s.owner[order[s.random.IntN(n)]])
	case 1: // a run goes to another place
		from, to := s.random.IntN(n), s.random.IntN(n)
		u := order[from]
		copy(order[from:], order[from+1:])
		copy(order[to+1:], order[to:n-1])
		order[to] = u
	case 2: // two runs change places
		a, b := s.random.IntN(n), s.random.IntN(n)
		order[a], order[b] = order[b], order[a]
	case 3: // two instruments change places
		a, b := s.owner[order[s.random.IntN(n)]], s.owner[order[s.random.IntN(n)]]
		s.exchange(order, a, b)
	}
}

// hoist brings the units of one instrument to a place further forward.
func (s *search) hoist(order []int32, owner int32) {
	mine, others := make([]int32, 0, len(order)), make([]int32, 0, len(order))
	for _, u := range order {
		if s.owner[u] == owner {
			mine = append(mine, u)
		} else {
			others = append(others, u)
		}
	}
	at := s.random.IntN(len(others) + 1)
	copy(order, others[:at])
	copy(order[at:], mine)
	copy(order[at+len(mine):], others[at:])
}

// exchange lets two instruments have each other's turns.
func (s *search) exchange(order []int32, a, b int32) {
	var places []int
	var first, second []int32
	for at, u := range order {
		switch s.owner[u] {
		case a:
			places, first = append(places, at), append(first, u)
		case b:
			places, second = append(places, at), append(second, u)
		}
	}
	if order[places[0]] == firstOf(first) {
		first, second = second, first
	}
	for k, u := range append(first, second...) {
		order[places[k]] = u
	}
}

func firstOf(units []int32) int32 {
	if len(units) == 0 {
		return -1
	}
	return units[0]
}
