package schedule

import (
	"container/heap"
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/unit"
)

// Fact is an event that was done (or left out on purpose): what is logged
// replaces what was planned.
type Fact struct {
	End     time.Time
	Minutes unit.Minutes
	Skipped bool
}

// Input is all that dates are derived from.
type Input struct {
	Now         time.Time
	Calendar    *Calendar
	Margin      float64 // the shop's caution, 1.0 or more
	Instruments []Instrument
	Order       []Event // the accepted order of work, first served first
	Facts       map[Event]Fact
}

// Planned is an event with its dates.
type Planned struct {
	Event
	Instrument uuid.UUID
	Piece      uuid.UUID
	Done       bool
	Skipped    bool
	Startable  bool      // all it waits for is done, but for drying
	Ready      time.Time // the earliest its own films, rests and joints allow
	Since      time.Time // when the thing it waits for began, for how far it has got
	Open       time.Time // the earliest after Ready that the shop is open long enough
	Start, End time.Time
	Spans      []Span // the stretches of handwork that is spread; nil when done in one go
	Because    Because
	Impossible string // why it cannot be placed at all; empty when it can
}

// Forecast is when an instrument will be ready.
type Forecast struct {
	Instrument  uuid.UUID
	Finish      time.Time     // the end of its last event; zero when impossible
	Slack       time.Duration // from the finish to the end of the promised day
	LatestStart time.Time     // of what comes next, alone in the shop; zero when it is past
	Finished    bool          // nothing is left to do
	Impossible  string
}

// Late reports whether the promise will not be kept.
func (f Forecast) Late() bool { return f.Impossible != "" || f.Slack < 0 }

// Plan is the dates of all events of a shop.
type Plan struct {
	Now       time.Time
	Zone      *time.Location
	Events    []Planned // by instrument, piece and chain
	Forecasts []Forecast
	steps     []*Step
	owners    []string // "Curlew body", by event
	index     map[Event]int
}

// Find returns an event of the plan.
func (p *Plan) Find(event Event) (Planned, bool) {
	i, found := p.index[event]
	if !found {
		return Planned{}, false
	}
	return p.Events[i], true
}

// Retime computes all dates. It serves events in the accepted order, each at the
// earliest minute that its films, the opening hours and one pair of hands allow;
// later ones fill the gaps that earlier ones leave. It is a pure function: the
// same input gives the same dates. It fails only on an instrument that Validate
// refuses.
func Retime(in Input) (*Plan, error) {
	r := retiming{
		now:      in.Now.Truncate(time.Minute),
		calendar: in.Calendar,
		opening:  newOpening(in.Calendar, in.Now),
		ranks:    make(map[Event]int, len(in.Order)),
	}
	if in.Now.After(r.now) {
		r.now = r.now.Add(time.Minute) // never earlier than now
	}
	r.hands = &hands{opening: r.opening}
	for rank, event := range in.Order {
		r.ranks[event] = rank
	}
	plan := &Plan{Now: r.now, Zone: in.Calendar.zone, index: make(map[Event]int)}
	for i, instrument := range in.Instruments {
		nodes, err := compile(instrument, in.Facts, in.Margin)
		if err != nil {
			return nil, err
		}
		r.add(i, nodes)
		for _, n := range nodes {
			piece := instrument.Pieces[n.piece]
			plan.Events = append(plan.Events, Planned{Event: n.event, Instrument: instrument.ID, Piece: piece.ID})
			plan.steps = append(plan.steps, n.step)
			plan.owners = append(plan.owners, instrument.Name+" "+piece.Name)
			plan.index[n.event] = len(plan.Events) - 1
		}
	}
	r.place(plan.Events)
	for i, instrument := range in.Instruments {
		plan.Forecasts = append(plan.Forecasts, r.forecast(i, instrument, plan.Events))
	}
	return plan, nil
}

type retiming struct {
	now      time.Time
	calendar *Calendar
	opening  *opening
	hands    *hands
	ranks    map[Event]int
	nodes    []node
	first    []int // by instrument, its first node; one more at the end
}

// add takes in an instrument's nodes. An event that the order does not name
// comes after all that it names.
func (r *retiming) add(instrument int, nodes []node) {
	base := len(r.nodes)
	if len(r.first) == 0 {
		r.first = append(r.first, 0)
	}
	for _, n := range nodes {
		n.instrument = instrument
		rank, named := r.ranks[n.event]
		if !named {
			rank = len(r.ranks) + len(r.nodes)
		}
		n.rank = rank
		for i := range n.links {
			n.links[i].from += base
		}
		for i := range n.same {
			n.same[i] += base
		}
		r.nodes = append(r.nodes, n)
	}
	r.first = append(r.first, len(r.nodes))
}

// place dates every event: facts first, then what is left in the order of work,
// each as soon as all it waits for has a date.
func (r *retiming) place(events []Planned) {
	waiting := make([]int, len(r.nodes))
	followers := make([][]int, len(r.nodes))
	queue := &byRank{nodes: r.nodes}
	for i := range r.nodes {
		n := &r.nodes[i]
		if n.fact != nil {
			r.settle(n, &events[i])
			continue
		}
		for _, l := range n.links {
			if r.nodes[l.from].fact == nil {
				waiting[i]++
				followers[l.from] = append(followers[l.from], i)
			}
		}
		if waiting[i] == 0 {
			heap.Push(queue, i)
		}
	}
	for queue.Len() > 0 {
		i := heap.Pop(queue).(int)
		r.date(i, events)
		for _, f := range followers[i] {
			if waiting[f]--; waiting[f] == 0 {
				heap.Push(queue, f)
			}
		}
	}
}

func (r *retiming) settle(n *node, e *Planned) {
	e.Done, e.Skipped = true, n.fact.Skipped
	e.End = n.fact.End
	e.Start = e.End.Add(-time.Duration(n.fact.Minutes) * time.Minute)
	e.Ready, e.Open = e.Start, e.Start
}

// date gives event i its place: when its own piece allows it, then when the
// shop is open, then when hands are free. What moved it last is why.
func (r *retiming) date(i int, events []Planned) {
	n, e := &r.nodes[i], &events[i]
	e.Ready, e.Startable = r.now, true
	for _, l := range n.links {
		before := &events[l.from]
		switch {
		case before.Impossible != "":
			e.Impossible = fmt.Sprintf("it comes after %q, which cannot be placed", r.nodes[l.from].step.EventTitle(before.Coat))
			return
		case l.cause == Cure && l.wait.Never:
			e.Impossible = fmt.Sprintf("%s is never %s", l.wait.Material, l.wait.Milestone.Text())
			return
		}
		e.Startable = e.Startable && before.Done
		until := before.End.Add(l.duration())
		if until.After(e.Ready) || (until.Equal(e.Ready) && e.Because.Cause == Follows) {
			e.Ready, e.Since = until, before.End
			e.Because = Because{Cause: l.cause, Event: before.Event, Until: until, Wait: l.wait}
		}
	}
	r.breathe(n, e, events)
	r.seat(i, e, events)
}

// breathe holds a coat back for the coats per day and the overnight rest of its
// product on its zones.
func (r *retiming) breathe(n *node, e *Planned, events []Planned) {
	for _, last := range n.same {
		perDay, sinceRest := 0, 0
		day := r.calendar.ShopDay(e.Ready)
		rested := false
		for at := last; at >= 0; at = r.before(at) {
			coat := &events[at]
			if r.calendar.ShopDay(coat.Start) == day {
				perDay++
			}
			if !rested {
				sinceRest++
			}
			before := r.before(at)
			if before >= 0 && r.isRest(events[before].End, coat.Start) {
				rested = true
			}
			if rested && r.calendar.ShopDay(coat.Start) != day {
				break
			}
		}
		if r.isRest(events[last].End, e.Ready) {
			sinceRest = 0
		}
		m := n.step.Material
		if perDay >= m.CoatsPerDay() {
			r.hold(e, r.calendar.Turn(day.Next(1)), PerDay, events[last])
		}
		if sinceRest >= m.Family.RestAfter {
			rest := later(events[last].End.Add(overnight), r.calendar.Turn(r.calendar.ShopDay(events[last].End).Next(1)))
			r.hold(e, rest, Overnight, events[last])
		}
	}
}

// before is the coat of the same product before this one, -1 for none.
func (r *retiming) before(coat int) int {
	if same := r.nodes[coat].same; len(same) > 0 {
		return same[0]
	}
	return -1
}

// isRest reports whether the time between two coats was an overnight rest.
func (r *retiming) isRest(end, start time.Time) bool {
	return start.Sub(end) >= overnight && r.calendar.ShopDay(start) != r.calendar.ShopDay(end)
}

func (r *retiming) hold(e *Planned, until time.Time, cause Cause, last Planned) {
	if until.After(e.Ready) {
		e.Ready, e.Since = until, last.End
		e.Because = Because{Cause: cause, Event: last.Event, Until: until}
	}
}

// seat finds the opening and the hands.
func (r *retiming) seat(i int, e *Planned, events []Planned) {
	n := &r.nodes[i]
	length := time.Duration(n.step.Minutes) * time.Minute
	if n.step.Kind.Handwork() && length > divisible {
		r.seatSpread(i, e, length, events)
		return
	}
	open, fits := r.hands.open(e.Ready, length)
	if !fits {
		e.Impossible = fmt.Sprintf("it takes %s in one go, and the shop is never open that long at a stretch", cure.DurationText(length))
		return
	}
	start, _ := r.hands.free(open, length)
	if start.IsZero() {
		e.Impossible = "hands are taken for the next three years"
		return
	}
	e.Start, e.End = start, start.Add(length)
	r.blame(e, open, events)
	r.hands.take(Span{e.Start, e.End}, i)
}

// blame says what moved an event last: busy hands after the shop was open, or
// the shop's hours after its piece was ready.
func (r *retiming) blame(e *Planned, open time.Time, events []Planned) {
	e.Open = open
	switch {
	case e.Start.After(open):
		e.Because = Because{Cause: Hands, Until: e.Start}
		if holder, found := r.hands.holder(open); found {
			e.Because.Event = events[holder].Event
		}
	case open.After(e.Ready):
		e.Because = r.closed(e.Ready, open)
	}
}

// closed says that the shop's hours held an event that was ready earlier.
func (r *retiming) closed(ready, until time.Time) Because {
	span, found := r.opening.at(r.opening.from(ready))
	return Because{Cause: Closed, Until: until, Earlier: ready, Short: found && !ready.Before(span.Start)}
}

func (r *retiming) seatSpread(i int, e *Planned, length time.Duration, events []Planned) {
	spans, fits := r.hands.spread(e.Ready, length)
	if !fits {
		e.Impossible = "hands are taken for the next three years"
		return
	}
	e.Start, e.End, e.Spans = spans[0].Start, spans[len(spans)-1].End, spans
	open, _ := r.hands.open(e.Ready, min(leastStretch, length))
	r.blame(e, open, events)
	for _, span := range spans {
		r.hands.take(span, i)
	}
	if len(spans) == 1 {
		e.Spans = nil
	}
}

// byRank is the events that may be placed next, first served first.
type byRank struct {
	nodes []node
	list  []int
}

func (q *byRank) Len() int           { return len(q.list) }
func (q *byRank) Less(i, j int) bool { return q.nodes[q.list[i]].rank < q.nodes[q.list[j]].rank }
func (q *byRank) Swap(i, j int)      { q.list[i], q.list[j] = q.list[j], q.list[i] }
func (q *byRank) Push(x any)         { q.list = append(q.list, x.(int)) }
func (q *byRank) Pop() any {
	last := q.list[len(q.list)-1]
	q.list = q.list[:len(q.list)-1]
	return last
}
