package schedule

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/calendar"
)

// What the tests of this package look at beyond what callers see.

// Stretches are the times at which hands are at an event; attended waits that
// free them are left out.
func (p *Plan) Stretches(e Planned) []calendar.Span {
	if e.Spans != nil {
		return e.Spans
	}
	n := p.r.nodes[p.index[e.Event]]
	if n.parts == 1 {
		return []calendar.Span{{Start: e.Start, End: e.End}}
	}
	wait, finish := time.Duration(n.phases[1].length)*time.Minute, time.Duration(n.phases[2].length)*time.Minute
	return []calendar.Span{{Start: e.Start, End: e.End.Add(-wait - finish)}, {Start: e.End.Add(-finish), End: e.End}}
}

// Hanging is from when to when a coat's piece is on its hook: until it may be
// handled, or is taken up again.
func (p *Plan) Hanging(e Planned) calendar.Span {
	end := p.r.handled(p.index[e.Event], minuteOf(e.End)).time()
	for _, other := range p.Events {
		if other.Piece == e.Piece && !other.Done && other.Impossible == "" && !other.Start.Before(e.End) && other.Start.Before(end) {
			end = other.Start
		}
	}
	return calendar.Span{Start: e.Start, End: end}
}

// Lead is how much of a coat's time is a scuff before it.
func (p *Plan) Lead(e Planned) time.Duration {
	return time.Duration(p.r.dates[p.index[e.Event]].lead) * time.Minute
}

// DustsOn reports whether an event makes dust in the air where a coat is put on or hangs.
func (p *Plan) DustsOn(e, coat Planned) bool {
	places, a, b := p.r.shop.places, p.r.nodes[p.index[e.Event]], p.r.nodes[p.index[coat.Event]]
	air := places[a.place].air
	return a.step.dusty() && (air == places[b.place].air || air == places[places[b.place].hangs].air)
}

// HangsFrom is the index of the place where a step's piece hangs.
func (s *Shop) HangsFrom(step *Step) int { return int(s.places[s.placeOf(step)].hangs) }

// TakenOver counts the events that were taken over from the plan before.
func (p *Plan) TakenOver() int {
	n := 0
	for i := range p.r.dates {
		if p.r.dates[i].copied {
			n++
		}
	}
	return n
}

// LastOf is lastOf, of the plan's first instrument.
func (p *Plan) LastOf(from, before, due time.Time) time.Time {
	alone, err := p.r.onItsOwn(0)
	if err != nil {
		panic(err)
	}
	return p.r.local(alone.lastOf(minuteOf(from), minuteOf(before), minuteOf(due)))
}

// CheckOrder fails where a run has no place of its own, or comes before something it waits for.
func (p *Plan) CheckOrder() error {
	place := make(map[int32]int)
	for at, u := range p.r.order {
		place[u] = at
	}
	if len(place) != len(p.r.units) || len(p.r.order) != len(p.r.units) {
		return fmt.Errorf("%d runs have %d places, %d of them different", len(p.r.units), len(p.r.order), len(place))
	}
	for i, n := range p.r.nodes {
		for _, l := range n.links {
			if place[p.r.unitOf[l.from]] > place[p.r.unitOf[i]] {
				return fmt.Errorf("%v comes before %v, which it waits for", n.event, p.r.nodes[l.from].event)
			}
		}
	}
	return nil
}
