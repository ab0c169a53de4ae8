package schedule

import (
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// Suspicion is the kind of a doubt.
type Suspicion string

const (
	OutOfOrder   Suspicion = "out-of-order"  // what comes before it on its piece is open, or what comes after it was first
	TooSoon      Suspicion = "too-soon"      // a film or a joint below was not ready then
	TooMany      Suspicion = "too-many"      // more coats in a day, or without a night, than the film breathes through
	WindowClosed Suspicion = "window-closed" // the window to the coat below had closed, and no scuff is logged
	StoodOn      Suspicion = "stood-on"      // a strike of what later entries stand on
)

// Doubt is a reason to ask before an entry is taken for what happened: what, in words
// that name a film or a fact of its own piece.
type Doubt struct {
	Kind Suspicion
	Text string
	Film *Event // of TooSoon: the coat that was not ready, or the one that comes too soon
}

// Happening is what somebody says has happened to an event.
type Happening struct {
	Event
	End     time.Time
	Minutes unit.Minutes // as logged; 0: nobody looked at the clock
	Skipped bool
}

// Doubts judges a happening at its own time, live or late: against the films, windows,
// coats a day and rests that the log has before and after it on its piece. Only facts
// count; what other jobs, hands or places would have allowed does not. An event that is
// not in the plan has none.
func (p *Plan) Doubts(h Happening) []Doubt {
	i, found := p.index[h.Event]
	if !found {
		return nil
	}
	j := &judging{p: p, r: p.r.with(i, h), i: i, h: h}
	j.order()
	if h.Skipped {
		return j.found
	}
	j.films()
	j.coatLimits()
	return j.found
}

// with is these dates with one more thing done.
func (r *dating) with(i int32, h Happening) *dating {
	other := r.aside()
	d := &other.dates[i]
	*d = eventState{done: true, skipped: h.Skipped, exact: float64(h.End.UnixNano()) / 1e9, end: minuteOf(h.End), shares: -1}
	d.start = d.end - minute(h.Minutes)
	return other
}

type judging struct {
	p     *Plan
	r     *dating // with what happened
	i     int32
	h     Happening
	found []Doubt
}

func (j *judging) add(kind Suspicion, film int32, format string, args ...any) {
	if slices.ContainsFunc(j.found, func(d Doubt) bool { return d.Kind == kind }) {
		return
	}
	d := Doubt{Kind: kind, Text: fmt.Sprintf(format, args...)}
	if film >= 0 {
		d.Film = &j.r.nodes[film].event
	}
	j.found = append(j.found, d)
}

func (j *judging) title(i int32) string {
	return j.p.TitleFrom(j.r.nodes[i].event, j.r.nodes[j.i].event)
}

// Before lists what comes before an event: on its piece, and on the pieces that it or
// something before it joins, in the order of the work.
func (p *Plan) Before(event Event) []Event {
	i, found := p.index[event]
	if !found {
		return nil
	}
	var list []Event
	for _, k := range p.r.chain(i) {
		list = append(list, p.r.nodes[k].event)
	}
	return list
}

// chain is Before, by nodes.
func (g *graph) chain(i int32) []int32 {
	var list []int32
	seen := map[int32]bool{i: true}
	for work := []int32{i}; len(work) > 0; {
		k := work[0]
		work = work[1:]
		for _, l := range g.nodes[k].links {
			if !seen[l.from] {
				seen[l.from] = true
				list, work = append(list, l.from), append(work, l.from)
			}
		}
	}
	slices.Sort(list)
	return list
}

// order looks for what should have come first and has not, and for what was first
// although it comes after.
func (j *judging) order() {
	var open, later []int32
	for _, k := range j.r.chain(j.i) {
		switch fact := j.r.nodes[k].fact; {
		case fact == nil:
			open = append(open, k)
		case !fact.Skipped && fact.End.After(j.h.End):
			later = append(later, k)
		}
	}
	me := phrase.Quoted(j.title(j.i))
	switch {
	case len(open) == 1:
		j.add(OutOfOrder, -1, "%s is not logged yet, and comes before %s.", phrase.Quoted(j.title(open[0])), me)
	case len(open) > 1:
		j.add(OutOfOrder, -1, "%s and %s are not logged yet, and come before %s.", phrase.Quoted(j.title(open[0])),
			phrase.Plural(len(open)-1, "more step"), me)
	case len(later) > 0:
		j.add(OutOfOrder, -1, "%s was done %s, and comes before %s.", phrase.Quoted(j.title(later[0])),
			j.p.Clock(j.r.nodes[later[0]].fact.End), me)
	}
	n := j.r.nodes[j.i]
	for k := j.i + 1; k < j.r.first[n.instrument+1]; k++ {
		after := j.r.nodes[k]
		if after.piece == n.piece && after.fact != nil && !after.fact.Skipped && after.fact.End.Before(j.h.End) {
			j.add(OutOfOrder, -1, "%s was done %s, before this, and comes after it.", j.title(k), j.p.Clock(after.fact.End))
			return
		}
	}
}

// films looks whether the films below were ready for it then, and whether this film was
// ready for what the log has on top of it.
func (j *judging) films() {
	n, begun := j.r.nodes[j.i], minuteOf(j.h.End)-minute(j.h.Minutes)
	for k := range n.links {
		l := &n.links[k]
		below := j.r.nodes[l.from]
		if below.fact == nil || below.fact.Skipped {
			continue
		}
		until, known := j.until(l)
		switch {
		case l.wait != nil && l.wait.Never:
			j.add(TooSoon, l.from, "%s is never %s.", phrase.Capital(l.wait.Material), l.wait.Milestone.Text())
		case known && begun < until && l.wait != nil:
			j.add(TooSoon, l.from, "%s was %s only from %s.", j.title(l.from), l.wait.Milestone.Text(), j.p.Clock(j.r.local(until)))
		case known && begun < until:
			j.add(TooSoon, l.from, "The piece rests after %s until %s.", phrase.Quoted(j.title(l.from)), j.p.Clock(j.r.local(until)))
		}
		if l.close != nil && l.kind >= Repairable && !(l.kind == Repairable && j.told()) {
			if closes := j.r.closes(l); begun > closes {
				j.add(WindowClosed, l.from, "The window to %s closed %s: the film wants a scuff first, and none is logged.",
					phrase.Lower(j.title(l.from)), j.p.Clock(j.r.local(closes)))
			}
		}
	}
	for k := j.i + 1; k < j.r.first[n.instrument+1]; k++ {
		after := j.r.nodes[k]
		if after.fact == nil || after.fact.Skipped || after.fact.End.Before(j.h.End) {
			continue
		}
		for m := range after.links {
			l := &after.links[m]
			if l.from != j.i || l.wait == nil {
				continue
			}
			if until, known := j.until(l); known && minuteOf(after.fact.End) < until {
				j.add(TooSoon, k, "%s was done %s, and this film was %s only from %s.", j.title(k), j.p.Clock(after.fact.End),
					l.wait.Milestone.Text(), j.p.Clock(j.r.local(until)))
			}
		}
	}
}

// told reports whether the plan has the scuff that mends a closed window at the
// beginning of the event, and the event happens as planned: then it was part of it.
func (j *judging) told() bool {
	const lately = time.Hour
	return j.p.Events[j.i].ScuffFirst && !j.h.End.Before(j.p.Now.Add(-lately))
}

// until is when what a link comes from was ready.
func (j *judging) until(l *link) (minute, bool) {
	switch {
	case l.wait != nil && l.wait.Never:
		return 0, false
	case l.wait != nil:
		return j.r.filmReady(l)
	case l.clock != nil:
		return j.r.reached(l.from, l.curve, l.clock, l.hours, ceilMinute)
	case l.rest > 0 && l.by == 0:
		return j.r.dates[l.from].end + l.rest, true
	}
	return 0, false
}

// coatLimits counts the coats of its product on each of its regions, before and after it.
func (j *judging) coatLimits() {
	n := j.r.nodes[j.i]
	if n.step.Kind != Coat {
		return
	}
	most, restAfter := n.step.coatLimits()
	days := j.r.shop.days
	for _, region := range n.step.Regions {
		coats := j.coatsOn(region)
		at := slices.Index(coats, j.i)
		day, today := days.of(j.r.dates[j.i].start), 0
		for _, k := range coats {
			if days.of(j.r.dates[k].start) == day {
				today++
			}
		}
		from, to := at, at
		for from > 0 && !j.r.isRest(j.r.dates[coats[from-1]].end, j.r.dates[coats[from]].start) {
			from--
		}
		for to+1 < len(coats) && !j.r.isRest(j.r.dates[coats[to]].end, j.r.dates[coats[to+1]].start) {
			to++
		}
		name := n.step.Material.Name
		switch {
		case today > most:
			j.add(TooMany, -1, "That is %s of %s in a day; the film breathes through %d.", phrase.Plural(today, "coat"), name, most)
		case to-from+1 > restAfter:
			j.add(TooMany, -1, "That is %s of %s without a night between; after %d the film wants one.", phrase.Plural(to-from+1, "coat"),
				name, restAfter)
		}
	}
}

// coatsOn lists the coats of the event's product that are on a region, this one too, in
// the order in which they were put on. What was put on in one sitting is one coat.
func (j *judging) coatsOn(region uuid.UUID) []int32 {
	n := j.r.nodes[j.i]
	var list []int32
	for k := j.r.first[n.instrument]; k < j.r.first[n.instrument+1]; k++ {
		other := j.r.nodes[k]
		there := k == j.i || (other.fact != nil && !other.fact.Skipped)
		if !there || other.step.Kind != Coat || other.step.Material.Key() != n.step.Material.Key() ||
			!slices.Contains(other.step.Regions, region) {
			continue
		}
		if last := len(list) - 1; other.within && k != j.i && last >= 0 && list[last] == k-1 {
			list = list[:last]
		}
		list = append(list, k)
	}
	slices.SortStableFunc(list, func(a, b int32) int { return int(j.r.dates[a].end - j.r.dates[b].end) })
	return list
}

// StandsOn lists what other entries stand on these events of one instrument: what is done
// after them on their pieces, or on what those were joined to. Striking them leaves it in the air.
func (p *Plan) StandsOn(events ...Event) (Doubt, bool) {
	var on []string
	stands := map[int32]bool{}
	var first int32
	var since time.Time
	for _, event := range events {
		i, found := p.index[event]
		if !found || p.r.nodes[i].fact == nil {
			continue
		}
		if len(stands) == 0 || i < first {
			first = i
		}
		if end := p.r.nodes[i].fact.End; len(stands) == 0 || end.Before(since) {
			since = end
		}
		stands[i] = true
	}
	if len(stands) == 0 {
		return Doubt{}, false
	}
	for k := first; k < p.r.first[p.r.nodes[first].instrument+1]; k++ {
		n := p.r.nodes[k]
		if stands[k] {
			continue
		}
		if stands[k] = slices.ContainsFunc(n.links, func(l link) bool { return stands[l.from] }); !stands[k] {
			continue
		}
		if n.fact != nil && !n.fact.Skipped && !n.fact.End.Before(since) {
			on = append(on, p.Title(n.event))
		}
	}
	if len(on) == 0 {
		return Doubt{}, false
	}
	text := on[0] + " came after it and stands on it."
	if more := len(on) - 1; more > 0 {
		text = fmt.Sprintf("%s and %s came after it and stand on it.", on[0], phrase.Plural(more, "more step"))
	}
	return Doubt{Kind: StoodOn, Text: text}, true
}
