// Package search looks for what a plan does not say by itself: a better order of work, the chance of keeping
// a promise, what a change would do. It dates orders with the schedule package again and again and
// compares them by the aims of rules §9. Nothing is changed by asking; effort and seed are fixed, so the
// same input gives the same answer.
package search

import (
	"cmp"
	"math/rand/v2"
	"slices"
	"time"

	"umberfrost/internal/craft/schedule"
)

// Effort is how hard a proposal is looked for.
type Effort struct {
	Seed   uint64
	Events int // how many events may be placed in all; 0: the usual
}

// defaultEffort is how many events a search places: what fits into two seconds on
// one core in a shop of 200 instruments.
const defaultEffort = 170_000

// mostOrders is how many orders a search looks at, however small the shop.
const mostOrders = 2500

// Proposal is a better order of work than the accepted one.
type Proposal struct {
	Order  []schedule.Event
	Before Objective
	After  Objective
	Plan   *schedule.Plan
	Tried  int // orders looked at
}

// Better reports whether accepting it gains anything.
func (p Proposal) Better() bool { return p.After.Compare(p.Before) < 0 }

// Propose looks for an order of work that serves the aims better, starting from
// today's. It tries the usual rules first (the nearest promise, the least slack, the
// shortest, the latest start of each event), then moves runs and instruments about and
// keeps what is no worse. Effort and seed are fixed, so the same input gives the same
// proposal; nothing is changed by asking.
func Propose(in schedule.Input, effort Effort) (Proposal, error) {
	today, err := schedule.Retime(in)
	if err != nil {
		return Proposal{}, err
	}
	s := newSearch(in, today, effort)
	for _, rule := range s.rules() {
		if err := s.consider(rule); err != nil {
			return Proposal{}, err
		}
	}
	if err := s.improve(); err != nil {
		return Proposal{}, err
	}
	out := Proposal{Before: Measure(today), After: s.bestValue, Tried: s.tried, Plan: today, Order: in.Order}
	if out.Better() {
		out.Order = s.events(s.best)
		in.Order = out.Order
		if out.Plan, err = today.Retime(in); err != nil {
			return Proposal{}, err
		}
	}
	return out, nil
}

// search walks through orders of the runs that are left to do, each named by its place in today's order.
type search struct {
	in        schedule.Input
	today     *schedule.Plan
	runs      []schedule.Run // in today's order
	random    *rand.Rand
	left      int // events that may still be placed
	size      int // events of one order
	tried     int
	open      []int // the runs with work left
	best      []int
	bestValue Objective
}

func newSearch(in schedule.Input, today *schedule.Plan, effort Effort) *search {
	s := &search{in: in, today: today, runs: today.Runs(), random: rand.New(rand.NewPCG(effort.Seed, 0x756d626572)),
		left: cmp.Or(effort.Events, defaultEffort), bestValue: Measure(today)}
	for k, run := range s.runs {
		if !run.Fixed {
			s.open = append(s.open, k)
			s.size += len(run.Events)
		}
	}
	s.best = slices.Clone(s.open)
	return s
}

// events is an order of runs as an order of events: what is done keeps its place at the front.
func (s *search) events(order []int) []schedule.Event {
	events := make([]schedule.Event, 0, len(s.today.Events))
	for _, run := range s.runs {
		if run.Fixed {
			events = append(events, run.Events...)
		}
	}
	for _, k := range order {
		events = append(events, s.runs[k].Events...)
	}
	return events
}

// rules are orders that a sensible person would try.
func (s *search) rules() [][]int {
	by := func(key func(run schedule.Run) float64) []int {
		order := slices.Clone(s.open)
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(key(s.runs[a]), key(s.runs[b])) })
		return order
	}
	days := func(t time.Time) float64 { return t.Sub(s.today.Now).Hours() / 24 }
	count := len(s.in.Instruments)
	promise, slack, work, finish := make([]float64, count), make([]float64, count), make([]float64, count), make([]float64, count)
	for i, bound := range s.today.LowerBounds() {
		in := &s.in.Instruments[i]
		promise[i] = days(due(s.today, in.Promise))
		if !bound.IsZero() {
			slack[i], work[i] = (promise[i]-days(bound))/weight(in), days(bound)/weight(in)
		}
		for _, e := range s.today.EventsOf(i) {
			finish[i] = max(finish[i], days(e.End))
		}
	}
	return [][]int{
		by(func(run schedule.Run) float64 { return promise[run.Instrument] }),
		by(func(run schedule.Run) float64 { return slack[run.Instrument] }),
		by(func(run schedule.Run) float64 { return work[run.Instrument] }),
		// how late it may begin without breaking its promise, its tail of waits counted at today's lengths
		by(func(run schedule.Run) float64 {
			return promise[run.Instrument] - finish[run.Instrument] + days(run.Start)
		}),
		by(func(run schedule.Run) float64 { return days(run.Start) }),
	}
}

// consider dates an order and keeps it when it is no worse than the best.
func (s *search) consider(order []int) error {
	if s.left <= 0 || s.tried >= mostOrders {
		return nil
	}
	value, err := s.measure(order)
	if err == nil && value.Compare(s.bestValue) <= 0 {
		s.best, s.bestValue = order, value
	}
	return err
}

// measure dates an order and says how good it is.
func (s *search) measure(order []int) (Objective, error) {
	s.tried++
	s.left -= s.size
	in := s.in
	in.Order = s.events(order)
	plan, err := s.today.Retime(in)
	if err != nil {
		return Objective{}, err
	}
	return Measure(plan), nil
}

// improve moves instruments and runs about until the effort is spent.
func (s *search) improve() error {
	if len(s.open) < 2 {
		return nil
	}
	for s.left > 0 && s.tried < mostOrders {
		order := slices.Clone(s.best)
		for range 1 + s.random.IntN(2) {
			s.mutate(order)
		}
		if err := s.consider(order); err != nil {
			return err
		}
	}
	return nil
}

func (s *search) mutate(order []int) {
	n := len(order)
	switch s.random.IntN(4) {
	case 0: // one instrument's work comes as early as it can
		s.hoist(order, s.owner(order[s.random.IntN(n)]))
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
		a, b := s.owner(order[s.random.IntN(n)]), s.owner(order[s.random.IntN(n)])
		s.exchange(order, a, b)
	}
}

// owner is the instrument of a run.
func (s *search) owner(run int) int { return s.runs[run].Instrument }

// hoist brings the runs of one instrument to a place further forward.
func (s *search) hoist(order []int, owner int) {
	mine, others := make([]int, 0, len(order)), make([]int, 0, len(order))
	for _, u := range order {
		if s.owner(u) == owner {
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
func (s *search) exchange(order []int, a, b int) {
	var places []int
	var first, second []int
	for at, u := range order {
		switch s.owner(u) {
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

func firstOf(runs []int) int {
	if len(runs) == 0 {
		return -1
	}
	return runs[0]
}
