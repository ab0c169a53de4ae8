package schedule

import (
	"fmt"
	"maps"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/phrase"
)

// Starts is a stretch of moments at which an event may be begun by hand, or may not.
type Starts struct {
	calendar.Span
	Free    bool
	Why     string  // what is in the way, where it is not free
	Because Because // … or what its own piece waits for then, in place of Why
}

// startsEvery is how finely moments are told apart, in minutes.
const startsEvery minute = 15

// Starts says where an event can be pinned from now until a moment: stretches
// that follow each other without a gap. What is not pinned itself gives way, so only
// facts, pins, hours, the air and the event's own piece count; where that piece is not
// ready yet, the dates of this plan say when it is. Done work has no stretches.
func (p *Plan) Starts(event Event, until time.Time) []Starts {
	i, found := p.index[event]
	if !found || p.r.nodes[i].fixed() {
		return nil
	}
	l := &startList{p: p, i: i, until: minuteOf(until)}
	d := &p.r.dates[i]
	switch {
	case d.impossible != "":
		l.add(l.until, false, phrase.Capital(d.impossible)+".")
	case p.r.nodes[i].within:
		l.add(l.until, false, fmt.Sprintf("It is done in one go with %s; move that.", phrase.Quoted(p.Title(p.r.nodes[i-1].event))))
	default:
		l.scan(d)
	}
	return l.list
}

// startList gathers stretches.
type startList struct {
	p     *Plan
	i     int32
	until minute
	list  []Starts
}

// add goes on to a moment; what says the same is one stretch.
func (l *startList) add(to minute, free bool, why string) { l.put(to, Starts{Free: free, Why: why}) }

// wait goes on to a moment until which the piece itself waits.
func (l *startList) wait(to minute, b Because) { l.put(to, Starts{Because: b}) }

func (l *startList) put(to minute, s Starts) {
	to = min(to, l.until)
	from := l.p.r.now
	if n := len(l.list); n > 0 {
		from = minuteOf(l.list[n-1].End)
	}
	if to <= from {
		return
	}
	s.Span = calendar.Span{Start: l.p.r.local(from), End: l.p.r.local(to)}
	if n := len(l.list); n > 0 && l.list[n-1].Free == s.Free && l.list[n-1].Why == s.Why && l.list[n-1].Because == s.Because {
		l.list[n-1].End = s.End
		return
	}
	l.list = append(l.list, s)
}

func (l *startList) scan(d *eventState) {
	p := l.p
	r := p.r.onlyPinned(p.r.nodes[l.i].event)
	s := r.sitting(l.i, r.sittingEnd(l.i, r.first[r.nodes[l.i].instrument+1]), 0, 0)
	l.wait(min(d.ready, d.soonest), p.Events[l.i].Held)
	if d.heldBack {
		l.wait(d.soonest, p.Events[l.i].Because)
	}
	ready := max(d.soonest, r.now)
	for k := 1; k < len(s.offsets); k++ { // what is done in one go with it must be ready too
		if with := l.i + int32(k); p.r.dates[with].ready-s.offsets[k] > ready {
			ready = p.r.dates[with].ready - s.offsets[k]
			l.wait(ready, p.Events[with].Held)
		}
	}
	for t := ready; t < l.until; {
		if t > d.mends {
			l.add(l.until, false, fmt.Sprintf("The window to the coat below closes %s: after that it wants a scuff first.",
				p.Clock(r.local(d.mends))))
			return
		}
		at, m, possible := r.push(&s, t)
		switch {
		case !possible:
			l.add(l.until, false, phrase.Capital(m.why)+".")
			return
		case at > t:
			at = r.sameReason(&s, m, t, at)
			l.add(at, false, p.obstacle(r, &s, m, t))
			t = at
		default:
			t = (t/startsEvery + 1) * startsEvery
			l.add(t, true, "")
		}
	}
}

// sameReason is how long what pushed a start on is the same: a gap may begin with the
// end of an opening, and hold days on which only the place is closed.
func (g *graph) sameReason(s *sitting, m move, t, at minute) minute {
	if m.cause != Closed {
		return at
	}
	shop, place := g.shop.hours[0], g.shop.placeHours(int(g.nodes[s.from].place))
	switch {
	case g.isOpen(s, t):
		return min(at, shop.until(t), place.until(t))
	case shop.until(t) > t:
		return min(at, shop.until(t))
	}
	if opens, more := shop.at(shop.from(t)); more && opens.start > t {
		return min(at, opens.start)
	}
	return at
}

// onlyPinned is this shop with nothing placed in it but facts and the pins of
// other events.
func (r *retiming) onlyPinned(except Event) *retiming {
	in := *r.in
	in.Pins = maps.Clone(r.in.Pins)
	delete(in.Pins, except)
	return r.bare(&in, r.now)
}

// obstacle says what pushed a start on.
func (p *Plan) obstacle(r *retiming, s *sitting, m move, t minute) string {
	n := r.nodes[s.from]
	place := r.shop.Places[n.place].Name
	switch m.cause {
	case Closed:
		switch {
		case r.isOpen(s, t):
			return fmt.Sprintf("It takes %s in one go, and too little of the opening is left.", text(s.total))
		case r.shop.hours[0].until(t) > t:
			return phrase.Capital(place) + " is closed."
		}
		return "The shop is closed."
	case Unfit:
		return fmt.Sprintf("The air of %s is not fit for it: %s.", r.shop.Places[m.place].Name, p.Unfit(r.nodes[m.node].event, r.local(t)))
	case Full:
		return phrase.Capital(place) + " is full by then."
	case Dust:
		return fmt.Sprintf("Dust and a fresh coat would share the air of %s.", place)
	case Hooks:
		return fmt.Sprintf("No hook is free in %s.", r.shop.Places[m.place].Name)
	case Hands:
		if m.node >= 0 {
			return fmt.Sprintf("Hands are pinned to %s, %s.", p.Owner(r.nodes[m.node].event), phrase.Quoted(p.Title(r.nodes[m.node].event)))
		}
		return "Nobody's hands are there long enough."
	}
	return "Something else is there."
}
