package schedule

import (
	"cmp"
	"container/heap"
	"slices"
)

// continues reports whether the run before served the same events in the same
// order as this one, so that it may be taken from; new ones may have come at the
// end of the list.
func (r *retiming) continues() bool {
	b := r.before
	if b == nil || len(b.nodes) > len(r.nodes) || len(b.units) > len(r.units) || !r.sameEvents(b) {
		return false
	}
	for u := range b.units {
		if r.units[u] != b.units[u] {
			return false
		}
	}
	k := 0
	for _, u := range r.order {
		if int(u) < len(b.units) {
			if b.order[k] != u {
				return false
			}
			k++
		}
	}
	return true
}

// sameMaterials reports whether coats are of what they were in the run before: what was used decides which
// windows are hard, and so which events are placed together.
func (r *retiming) sameMaterials(b *retiming) bool {
	for i, n := range r.nodes {
		if n != b.nodes[i] && n.step.Material != b.nodes[i].step.Material {
			return false
		}
	}
	return true
}

// layOrder gathers the runs and puts them into the order of work. Where the
// stored order has a run before something it waits for, it comes as soon after
// that as its rank allows.
func (r *retiming) layOrder() {
	if b := r.before; b != nil && len(b.nodes) == len(r.nodes) && sameOrder(b.in.Order, r.in.Order) && slices.Equal(b.first, r.first) &&
		r.sameEvents(b) && r.sameMaterials(b) {
		r.index, r.units, r.unitOf, r.order = b.index, b.units, b.unitOf, b.order
		return
	}
	r.index = make(map[Event]int32, len(r.nodes))
	for i := range r.nodes {
		r.index[r.nodes[i].event] = int32(i)
	}
	rank := make([]int32, len(r.nodes))
	for i := range rank {
		rank[i] = int32(len(r.in.Order) + i) // what the order does not name comes after all that it names
	}
	for place, event := range r.in.Order {
		if i, known := r.index[event]; known {
			rank[i] = int32(place)
		}
	}
	unitOf := r.gatherUnits()
	r.order = r.topological(unitOf, rank)
}

// sameEvents reports whether the events of a run before are the first of this one.
func (g *graph) sameEvents(b *retiming) bool {
	for i, n := range b.nodes {
		if g.nodes[i] != n && g.nodes[i].event != n.event {
			return false
		}
	}
	return true
}

// gatherUnits ties together the events of a piece that hard windows join: they
// are placed together or not at all. It returns the unit of each node.
func (g *graph) gatherUnits() []int32 {
	unitOf := make([]int32, len(g.nodes))
	var reversed []span32
	last := int32(len(g.nodes)) - 1
	low := last
	for i := last; i >= 0; i-- {
		low = min(low, i)
		n := g.nodes[i]
		for _, l := range n.links {
			if l.kind == Hard && g.nodes[l.from].piece == n.piece && g.nodes[l.from].instrument == n.instrument {
				low = min(low, l.from)
			}
		}
		if i == low {
			reversed = append(reversed, span32{i, last + 1})
			last, low = i-1, i-1
		}
	}
	slices.Reverse(reversed)
	g.units = reversed
	for u, s := range g.units {
		for i := s.from; i < s.to; i++ {
			unitOf[i] = int32(u)
		}
	}
	return unitOf
}

func (g *graph) topological(unitOf, rank []int32) []int32 {
	order := make([]int32, len(g.units))
	for i := range order {
		order[i] = int32(i)
	}
	slices.SortStableFunc(order, func(a, b int32) int { return cmp.Compare(rank[g.units[a].from], rank[g.units[b].from]) })
	g.unitOf = unitOf
	return g.topologicalSort(order)
}

// topologicalSort puts units into an order in which none comes before what it waits
// for, otherwise as given. Units that are not given are done and come first.
func (g *graph) topologicalSort(given []int32) []int32 {
	order := given
	if len(given) < len(g.units) {
		named := make([]bool, len(g.units))
		for _, u := range given {
			named[u] = true
		}
		order = make([]int32, 0, len(g.units))
		for u := range g.units {
			if !named[u] {
				order = append(order, int32(u))
			}
		}
		order = append(order, given...)
	}
	place := make([]int32, len(order))
	for at, u := range order {
		place[u] = int32(at)
	}
	if g.inOrder(place) {
		return order
	}
	waiting, followers := make([]int32, len(g.units)), make([][]int32, len(g.units))
	for i := range g.nodes {
		for _, l := range g.nodes[i].links {
			if from, to := g.unitOf[l.from], g.unitOf[i]; from != to {
				waiting[to]++
				followers[from] = append(followers[from], to)
			}
		}
	}
	queue := &byPlace{place: place}
	for u := range g.units {
		if waiting[u] == 0 {
			queue.list = append(queue.list, int32(u))
		}
	}
	heap.Init(queue)
	sorted := make([]int32, 0, len(g.units))
	for queue.Len() > 0 {
		u := heap.Pop(queue).(int32)
		sorted = append(sorted, u)
		for _, f := range followers[u] {
			if waiting[f]--; waiting[f] == 0 {
				heap.Push(queue, f)
			}
		}
	}
	return sorted
}

// inOrder reports whether every unit comes after all that it waits for.
func (g *graph) inOrder(place []int32) bool {
	for i := range g.nodes {
		for _, l := range g.nodes[i].links {
			if from, to := g.unitOf[l.from], g.unitOf[i]; from != to && place[from] > place[to] {
				return false
			}
		}
	}
	return true
}

// byPlace is the units that may come next, first served first.
type byPlace struct {
	place []int32
	list  []int32
}

func (q *byPlace) Len() int { return len(q.list) }

func (q *byPlace) Less(i, j int) bool { return q.place[q.list[i]] < q.place[q.list[j]] }

func (q *byPlace) Swap(i, j int) { q.list[i], q.list[j] = q.list[j], q.list[i] }

func (q *byPlace) Push(x any) { q.list = append(q.list, x.(int32)) }

func (q *byPlace) Pop() any {
	last := q.list[len(q.list)-1]
	q.list = q.list[:len(q.list)-1]
	return last
}

func sameOrder(a, b []Event) bool {
	return len(a) == len(b) && (len(a) == 0 || &a[0] == &b[0] || slices.Equal(a, b))
}

type span32 struct{ from, to int32 }
