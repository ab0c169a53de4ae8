package schedule

import (
	"fmt"
	"slices"
	"time"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
)

// never is a minute that does not come.
const never minute = 1 << 50

// tries is how often a run is moved on to keep its windows before it is said to
// be impossible.
const tries = 4000

// unit places one run: a single event, or several that hard windows join. Each
// is placed as early as it can be; where one then misses its window, the one
// that opened the window is held back just so far that it is not missed.
func (r *retiming) unit(u int32) {
	from, to := r.units[u].from, r.units[u].to
	alone := to-from == 1
	for from < to && r.nodes[from].fixed() {
		from++
	}
	if from == to || r.copied(from, to) {
		return
	}
	r.lift(from)
	if alone {
		r.try(from, to, r.now)
	} else {
		r.run(from, to)
	}
	for i := from; i < to; i++ {
		if !r.nodes[i].fixed() {
			r.commit(i)
			r.note(i)
		}
	}
}

func (r *retiming) run(from, to int32) {
	lows := make([]minute, to-from)
	for i := range lows {
		lows[i] = r.now
	}
	for i, n := from, 0; i < to; n++ {
		if r.nodes[i].fixed() {
			i++
			continue
		}
		end := r.sittingEnd(i, to)
		r.try(i, end, lows[i-from])
		if why := r.dates[i].impossible; why != "" {
			r.giveUp(from, to, why) // what opens a window is not begun when nothing can follow in it
			return
		}
		opener, start, missed := r.missedHard(i, end)
		switch {
		case !missed:
			i = end
		case n > tries || opener < from || r.nodes[opener].fixed() || start > r.now+2*366*24*60:
			r.giveUp(from, to, r.whatWouldHelp(i, opener))
			return
		default:
			for r.nodes[opener].within && opener > from {
				start -= r.dates[opener].start - r.dates[opener-1].start
				opener--
			}
			lows[opener-from] = max(start, lows[opener-from]+1)
			i = opener
		}
	}
	for i := from; i < to; i++ {
		if !r.nodes[i].fixed() && lows[i-from] > r.now && r.dates[i].impossible == "" {
			r.tellHeld(i, r.sittingEnd(i, to), to)
		}
	}
}

// tellHeld looks whether a sitting that was held back really is later than it
// would be by itself, and says for what.
func (r *retiming) tellHeld(from, end, to int32) {
	held := slices.Clone(r.dates[from:end])
	r.try(from, end, r.now)
	if alone := r.dates[from]; alone.start != held[0].start {
		copy(r.dates[from:end], held)
		d := &r.dates[from]
		d.ready, d.since, d.open, d.held = alone.ready, alone.since, alone.open, alone.held
		d.heldBack, d.because = true, because{cause: HeldBack, node: r.waitsFor(from, end, to), until: d.start}
	}
}

// waitsFor is the event that would miss its window: the first that a window of
// the sitting closes for.
func (g *graph) waitsFor(from, end, to int32) int32 {
	for i := end; i < to; i++ {
		for _, l := range g.nodes[i].links {
			if l.kind == Hard && l.close != nil && l.from >= from && l.from < end {
				return i
			}
		}
	}
	return end - 1
}

// sittingEnd is where the sitting that begins with an event ends.
func (g *graph) sittingEnd(i, to int32) int32 {
	end := i + 1
	for end < to && g.nodes[end].within && !g.nodes[end].fixed() {
		end++
	}
	return end
}

// missedHard looks whether an event begins after the hard window that an earlier
// one opened has closed, and says how late that one would have to begin.
func (r *dating) missedHard(i, end int32) (opener int32, start minute, missed bool) {
	for k := i; k < end; k++ {
		for _, l := range r.nodes[k].links {
			if l.kind != Hard || l.close == nil || (l.from >= i && l.from < end) {
				continue
			}
			d := &r.dates[k]
			if closes, _ := r.reached(l.from, l.closing, &l.close.Drying, l.close.HoursAtMost(), floorMinute); d.start+d.lead <= closes {
				continue
			}
			before := &r.dates[l.from]
			begun, _ := l.closing.Begun((d.start + d.lead).seconds(), l.close.HoursAtMost())
			return l.from, before.start + max(1, ceilMinute(begun)-before.end), true
		}
	}
	return 0, 0, false
}

func (r *dating) giveUp(from, to int32, why string) {
	for i := from; i < to; i++ {
		if !r.nodes[i].fixed() {
			r.dates[i] = eventState{impossible: why, shares: -1, person: -1, because: because{node: -1}}
		}
	}
}

// whatWouldHelp says why a run cannot keep a hard window, and what would make it
// possible.
func (g *graph) whatWouldHelp(i, opener int32) string {
	n, under := g.nodes[i], g.nodes[opener]
	var l *link
	for k := range n.links {
		if n.links[k].from == opener && n.links[k].kind == Hard && n.links[k].close != nil {
			l = &n.links[k]
		}
	}
	if l == nil {
		return "what it follows cannot be reached in time"
	}
	within := text(minute(l.close.HoursAtMost() * 60))
	what := fmt.Sprintf("it must begin within %s of “%s” (at %s, margin taken off), and a scuff would ruin that film", within,
		under.step.EventTitle(under.event.Coat), climate.Reference.Temperature.String())
	switch {
	case under.fixed():
		return what + "; the window has closed: strip it back, or take the maker's advice and log what you do"
	case l.wait != nil && l.hours > l.close.HoursAtMost():
		return what + fmt.Sprintf("; but it is not %s for %s: a smaller margin or a product with a longer window would make it possible",
			l.wait.Milestone.Text(), text(minute(l.hours*60)))
	}
	return what +
		"; the hours never allow that: open longer on one day, split the run, choose another day, or take a product with a longer window"
}

func text(m minute) string { return cure.DurationText(time.Duration(m) * time.Minute) }

// try places the events from…to, one sitting, as early as they can be from low
// on, without taking anything up yet.
func (r *retiming) try(from, to int32, low minute) {
	for i := from; i < to; i++ {
		r.dates[i] = eventState{shares: -1, startable: true, ready: low, because: because{node: -1}}
		if r.ready(i, from, to); r.dates[i].impossible != "" {
			r.giveUp(from, to, r.dates[i].impossible)
			return
		}
	}
	head := &r.dates[from]
	if pin, pinned := r.pinned[from]; pinned {
		if r.tryPin(from, to, pin) {
			return
		}
		head.floats = true
	}
	if to-from == 1 && r.nodes[from].divides() {
		r.spread(from)
		return
	}
	s := r.sitting(from, to, 0, 0)
	r.seat(&s, head)
	if head.impossible == "" && head.start > head.mends {
		r.scuffFirst(&s, head)
	}
	if head.impossible != "" {
		r.giveUp(from, to, head.impossible)
		return
	}
	r.share(&s, head)
	r.dateRest(&s, head)
}
