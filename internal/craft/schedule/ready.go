package schedule

import (
	"fmt"
	"math"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
)

// overnight is the least that an overnight rest lasts. Rules §9.
const overnight minute = 10 * 60

// ready works out when an event's own piece allows it, and what holds it last.
func (r *dating) ready(i, from, to int32) {
	n, d := r.nodes[i], &r.dates[i]
	if n.refused != "" {
		d.impossible = n.refused
		return
	}
	low := d.ready
	for k := range n.links {
		l := &n.links[k]
		if l.from >= from && l.from < to {
			continue // in the same sitting
		}
		before := &r.dates[l.from]
		if before.impossible != "" {
			d.impossible = fmt.Sprintf("it comes after “%s”, which cannot be placed",
				r.nodes[l.from].step.EventTitle(r.nodes[l.from].event.Coat))
			return
		}
		until, reached := before.end+l.rest, true
		switch {
		case l.wait != nil && l.wait.Never:
			d.impossible = fmt.Sprintf("%s is never %s", l.wait.Material, l.wait.Milestone.Text())
			return
		case l.wait != nil:
			until, reached = r.filmReady(l)
		case l.clock != nil:
			until, reached = r.reached(l.from, l.curve, l.clock, l.hours, ceilMinute)
		}
		if !reached {
			d.impossible = fmt.Sprintf("%s needs warmth that its room does not have in the next three years",
				r.nodes[l.from].step.EventTitle(r.nodes[l.from].event.Coat))
			return
		}
		d.startable = d.startable && before.done
		if until > d.ready || (until == d.ready && d.because.cause == Follows) {
			d.ready, d.since = until, before.end
			d.because = because{cause: l.cause, node: l.from, until: until, wait: l.wait, hours: l.hours}
		}
		if l.by > 0 && !before.skipped {
			d.window, d.latest = Hard, before.end+l.by
		}
	}
	if n.step.Arrival != nil {
		r.arrive(n.step.Arrival, d)
	}
	r.limitCoats(n, d)
	if d.ready == low {
		d.because = because{node: -1}
	}
	d.soonest, d.held = d.ready, d.because
	r.windowOf(n, d)
}

// filmReady is when a film below is ready for what comes: by its clock, by a
// test that passed, and not before a test that failed has been made up for. A test
// speaks for its own milestone; a pass also for those that this family reaches no
// later, a fail for those that it reaches no sooner. Rules §2.
func (r *dating) filmReady(l *link) (minute, bool) {
	until, reached := r.reached(l.from, l.curve, &l.wait.Drying, l.hours, ceilMinute)
	if len(r.tests) == 0 {
		return until, reached
	}
	for _, t := range r.tests[r.nodes[l.from].event] {
		own := t.Milestone == l.wait.Milestone
		tested := r.shop.earliest(r.nodes[l.from].step.Material, t.Milestone)
		switch {
		case t.Passed && (own || (!tested.Never && l.wait.Reference <= tested.Reference)):
			until, reached = min(until, minuteOf(t.At)), true
		case !t.Passed && (own || (!tested.Never && l.wait.Reference >= tested.Reference)):
			so := r.elapsed(l.from, l.wait.Drying, float64(t.At.UnixNano())/1e9)
			again, does := r.reached(l.from, l.curve, &l.wait.Drying, so+l.hours/4, ceilMinute)
			until, reached = max(until, again), reached && does
		}
	}
	return until, reached
}

// arrive holds a gate until what it waits for should be there; overdue, it is
// taken to need its spread once more, but never longer than to its fallback.
func (r *dating) arrive(a *Arrival, d *eventState) {
	zone := r.shop.Calendar.Zone()
	expected := minuteOf(a.Expected.At(0, zone))
	if expected < r.now {
		expected = minuteOf(calendar.DayOf(r.now.time().In(zone)).AddDays(a.SpreadDays).At(0, zone))
	}
	if a.Fallback != nil {
		expected = min(expected, minuteOf(a.Fallback.At(0, zone)))
	}
	if expected > d.ready {
		d.ready, d.since = expected, r.now
		d.because = because{cause: Arrives, node: -1, until: expected}
	}
}

// windowOf notes the latest side of what an event waits for, and of what a scuff
// would mend.
func (r *dating) windowOf(n *node, d *eventState) {
	d.mends = never
	for k := range n.links {
		l := &n.links[k]
		if l.close == nil {
			continue
		}
		closes := r.closes(l)
		if d.window == NoWindow || closes < d.latest {
			d.window, d.latest = l.kind, closes
		}
		if l.kind == Repairable {
			d.mends = min(d.mends, closes)
		}
	}
}

// closes is when the window that a link opens closes.
func (r *dating) closes(l *link) minute {
	at, _ := r.reached(l.from, l.closing, &l.close.Drying, l.close.HoursAtMost(), floorMinute)
	return at
}

// scuffFirst places a coat again whose window below has closed: with a scuff at its
// beginning, once every film whose window has closed by then may be sanded.
func (r *retiming) scuffFirst(s *sitting, d *eventState) {
	n, closed := r.nodes[s.from], d.mends
	d.lead = minute(n.step.ScuffMin)
	if d.lead == 0 {
		d.lead = scuffMinutes
	}
	for waits := true; waits && d.impossible == ""; {
		waits = false
		for k := range n.links {
			l := &n.links[k]
			if l.kind == Repairable && l.close != nil && d.start+d.lead > r.closes(l) && r.sandsFrom(l, d) {
				waits = true
			}
		}
		*s = r.sitting(s.from, s.to, d.lead, 0)
		r.seat(s, d)
	}
	d.window, d.latest, d.missed = Repairable, closed, true
}

// sandsFrom holds an event until a film below may be sanded, and reports whether
// that is later than it was ready.
func (r *dating) sandsFrom(l *link, d *eventState) bool {
	hours := r.in.hours(r.nodes[l.from].step.Material, l.sand)
	sanded := link{from: l.from, wait: l.sand, hours: hours, curve: r.shop.curve(r.shop.places[r.nodes[l.from].place].hangs, l.sand.Drying)}
	until, reached := r.filmReady(&sanded)
	if !reached {
		d.impossible = fmt.Sprintf("%s never gets %s in its room", l.sand.Material, l.sand.Milestone.Text())
		return false
	}
	if until <= d.ready {
		return false
	}
	d.ready, d.since = until, r.dates[l.from].end
	d.because = because{cause: Cure, node: l.from, until: until, wait: l.sand, hours: hours}
	d.held = d.because
	return true
}

// limitCoats holds a coat back for the coats per day and the overnight rest of its
// product, in every region on its own.
func (r *dating) limitCoats(n *node, d *eventState) {
	for held := true; held; {
		held = false
		for _, last := range n.same {
			held = r.limitCoatsOver(n, d, last) || held
		}
	}
}

// limitCoatsOver is limitCoats over the coats that one region has had; it reports whether
// they hold the coat back.
func (r *dating) limitCoatsOver(n *node, d *eventState, last *past) bool {
	days, before := r.shop.days, d.ready
	most, restAfter := n.step.coatLimits()
	perDay, sinceRest, rested := 0, 0, false
	day := days.of(d.ready)
	for p := last; p != nil; p = p.before {
		coat := &r.dates[p.coat]
		if days.of(coat.start) == day {
			perDay++
		}
		if !rested {
			sinceRest++
		}
		if p.before != nil && r.isRest(r.dates[p.before.coat].end, coat.start) {
			rested = true
		}
		if rested && days.of(coat.start) != day {
			break
		}
	}
	end := r.dates[last.coat].end
	if r.isRest(end, d.ready) {
		sinceRest = 0
	}
	if perDay >= most {
		r.hold(d, days.turn(day+1), PerDayFull, last.coat)
	}
	if sinceRest >= restAfter {
		r.hold(d, max(end+overnight, days.turn(days.of(end)+1)), Overnight, last.coat)
	}
	return d.ready > before
}

// isRest reports whether the time between two coats was an overnight rest.
func (g *graph) isRest(end, start minute) bool {
	return start-end >= overnight && g.shop.days.of(start) != g.shop.days.of(end)
}

func (r *dating) hold(d *eventState, until minute, cause Cause, last int32) {
	if until > d.ready {
		d.ready, d.since = until, r.dates[last].end
		d.because = because{cause: cause, node: last, until: until}
	}
}

// reached is when a coat's clock has run so long, wherever its piece hangs.
func (r *dating) reached(i int32, curve *cure.Curve, drying *climate.Drying, hours float64, round func(float64) minute) (minute, bool) {
	n, d := r.nodes[i], &r.dates[i]
	start := d.end.seconds()
	if d.done {
		start = d.exact
	}
	var at float64
	var ok bool
	if n.step.Box == nil && (!d.done || len(r.moves) == 0) {
		at, ok = curve.Reached(start, hours)
	} else {
		at, ok = r.clock(n, d, start, *drying).Reached(hours)
	}
	if !ok || math.IsInf(at, 0) {
		return never, false
	}
	return round(at), true
}

func (r *dating) elapsed(i int32, drying climate.Drying, until float64) float64 {
	n, d := r.nodes[i], &r.dates[i]
	start := d.end.seconds()
	if d.done {
		start = d.exact
	}
	return r.clock(n, d, start, drying).Elapsed(until)
}

// clock is the cure clock of a coat: in a warm box first where its step has one,
// then where pieces hang, then wherever the piece was carried.
func (r *dating) clock(n *node, d *eventState, start float64, drying climate.Drying) cure.Clock {
	hangs := r.shop.curve(r.shop.places[n.place].hangs, drying)
	c := cure.Clock{Start: start, Legs: []cure.Leg{{From: start, Curve: hangs}}}
	if box := n.step.Box; box != nil {
		c.Legs = []cure.Leg{{From: start, Curve: r.shop.boxCurve(box.Air, drying)}, {From: start + float64(box.Minutes)*60, Curve: hangs}}
	}
	if !d.done {
		return c
	}
	piece := r.in.Instruments[n.instrument].Pieces[n.piece].ID
	for _, m := range r.moves[piece] {
		to, known := r.shop.byID[m.Place]
		if at := float64(m.At.UnixNano()) / 1e9; known && at > start {
			for len(c.Legs) > 1 && c.Legs[len(c.Legs)-1].From >= at {
				c.Legs = c.Legs[:len(c.Legs)-1]
			}
			c.Legs = append(c.Legs, cure.Leg{From: at, Curve: r.shop.curve(to, drying)})
		}
	}
	return c
}

// own is when a coat that ends then reaches a milestone itself, for what it takes up
// until then.
func (r *dating) own(i int32, l *link, end minute) minute {
	if l.wait.Never {
		return end
	}
	d, was := &r.dates[i], r.dates[i].end
	d.end = end
	film := *l // of the step: every coat of it has the same
	film.from = i
	at, reached := r.filmReady(&film)
	if d.end = was; !reached {
		return end + 3*366*24*60
	}
	return max(at, end)
}

func (s *Shop) boxCurve(air climate.Air, drying climate.Drying) *cure.Curve {
	room, err := climate.NewRoom(s.Calendar.Zone(), climate.Constant(air), nil)
	if err != nil {
		return nil // no readings, so nothing to refuse
	}
	return cure.NewCurve(room, drying)
}
