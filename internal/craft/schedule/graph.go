package schedule

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/strata"
)

// node is one event with what it waits for. Nodes of an instrument stand in an
// order in which every node comes after all that it waits for.
type node struct {
	event      Event
	step       *Step
	fact       *Fact
	begun      minute // when somebody began it; 0: nobody has
	instrument int32
	piece      int32 // of the instrument
	place      int32
	links      []link
	same       []*past // of a coat: the coats of its product before it, region by region; regions with the same past share it
	within     bool    // it belongs to the sitting of the node before it
	phases     [3]phase
	parts      uint8    // how many phases there are
	batches    uint8    // of a coat: how many mixes it takes, 1 where one lasts
	mixing     minute   // of a coat: the part of its time that the further mixes take
	refused    string   // why it cannot be done at all; empty when it can
	fit        *fitness // of a coat: when the air is fit for it; nil: always
	dry        *link    // of a coat: when it is out of the dust
	handle     *link    // of a coat: when it is off its hook
}

// past is the coats of one product on a region, the last one first. What is put on in
// one sitting is one coat.
type past struct {
	coat   int32
	before *past
}

// fixed reports whether an event is done or begun, and so not to be placed.
func (n *node) fixed() bool { return n.fact != nil || n.begun != 0 }

// link is one thing an event waits for, and the window it opens.
type link struct {
	from  int32
	cause Cause
	kind  WindowKind      // of the latest side
	wait  *cure.Wait      // of a film: the earliest side
	hours float64         // … on its clock
	rest  minute          // of all else: plain minutes, or on a glue's clock
	close *cure.Wait      // the latest side, nil when there is none
	sand  *cure.Wait      // of a repairable window: when a scuff becomes possible
	by    minute          // of a link within a sitting: the latest side in minutes
	clock *climate.Drying // of a glue-up
	// curves of the two sides, where the coat below hangs
	curve, closing *cure.Curve
}

// WindowKind is what it costs to miss the latest side of a window. Rules §9.
type WindowKind uint8

const (
	NoWindow   WindowKind = iota
	Advisory              // it goes less well
	Repairable            // a scuff mends it
	Hard                  // the work is spoilt
)

// Text names the kind.
func (k WindowKind) Text() string {
	return [...]string{"none", "advisory", "repairable", "hard"}[k]
}

// scuffMinutes is how long an inserted scuff takes where the step does not say.
const scuffMinutes = 10

// squeezeMinutes is how long squeeze-out takes to scrape off (default).
const squeezeMinutes = 5

// freeing is how long an attended wait must be to free the hands. Rules §9.
const freeing = 10

// compiler lays out the events of an instrument and what each waits for.
type compiler struct {
	instrument int32
	base       int32 // its first node
	shop       *Shop
	in         *Input
	nodes      []*node
	block      []node // room for the instrument's nodes, which stand together
	regions    []region
	glues      []int32 // glue-ups so far
	previous   int32   // the event before in the chain, -1 for none
	pending    int32   // the last event before in the chain that is not done
	tied       []link  // room for the links of a node while it is laid out
	kept       []link  // room for those of nodes that are
}

// region is what lies on a region.
type region struct {
	id uuid.UUID
	strata.Stack[*past]
}

// region finds what lies on a region; instruments have few.
func (c *compiler) region(id uuid.UUID) *region {
	for i := range c.regions {
		if c.regions[i].id == id {
			return &c.regions[i]
		}
	}
	c.regions = append(c.regions, region{id: id})
	return &c.regions[len(c.regions)-1]
}

// lastOf is the last event of a step that has been laid out.
func (c *compiler) lastOf(step uuid.UUID) (int32, bool) {
	for i := int32(len(c.nodes)) - 2; i >= c.base; i-- { // the newest is the one that asks
		if c.nodes[i].step.ID == step {
			return i, true
		}
	}
	return 0, false
}

// compile appends the events of an instrument to nodes.
func compile(shop *Shop, in *Input, index int, nodes []*node) ([]*node, error) {
	instrument := &in.Instruments[index]
	count := in.events(instrument)
	c := compiler{shop: shop, in: in, instrument: int32(index), nodes: nodes, base: int32(len(nodes)),
		block: make([]node, 0, count)}
	for p := range instrument.Pieces {
		piece := &instrument.Pieces[p]
		c.previous, c.pending = -1, -1
		for s := range piece.Steps {
			if err := c.step(int32(p), &piece.Steps[s]); err != nil {
				return nil, fmt.Errorf("%s %s, step %q: %w", instrument.Name, piece.Name, piece.Steps[s].Title, err)
			}
		}
	}
	return c.nodes, nil
}

func (c *compiler) step(piece int32, step *Step) error {
	first := node{step: step, instrument: c.instrument, piece: piece, place: int32(c.shop.placeOf(step))}
	first.layPhases()
	if step.Kind == Coat {
		first.mix(c.shop)
		first.fit = c.shop.fit(int(first.place), step.Material)
		first.dry, first.handle = c.own(&first, material.TouchDry), c.own(&first, material.Handle)
	}
	for coat := 1; coat <= c.in.rounds(step); coat++ {
		c.block = append(c.block, first)
		n := &c.block[len(c.block)-1]
		c.nodes = append(c.nodes, n)
		n.event = Event{Step: step.ID, Coat: coat}
		if fact, done := c.in.Facts[n.event]; done {
			n.fact = &fact
			c.asDone(n)
		} else if at, begun := c.in.Begun[n.event]; begun {
			n.begun = minuteOf(at)
		}
		n.links = c.tied[:0]
		n.within = step.Within != nil && coat == 1 && c.previous >= 0
		c.follow(n)
		if coat == 1 {
			for _, other := range step.After {
				if err := c.join(n, other); err != nil {
					return err
				}
			}
		}
		c.waits(n)
		c.keep(n)
		c.done(n)
	}
	return nil
}

// asDone lays an event out as it was done: with what was used, where it was done.
func (c *compiler) asDone(n *node) {
	if n.fact.Place == uuid.Nil && n.fact.Material == nil {
		return // as it was planned
	}
	if place, known := c.shop.byID[n.fact.Place]; known && n.fact.Place != uuid.Nil {
		n.place = int32(place)
	}
	if n.step.Kind != Coat {
		return
	}
	if used := n.fact.Material; used != nil {
		step := *n.step
		step.Material, n.step = used, &step
	}
	n.dry, n.handle = c.own(n, material.TouchDry), c.own(n, material.Handle)
}

// join ties a node to a step of another chain; where that is left out, to what it would have come after.
func (c *compiler) join(n *node, other uuid.UUID) error {
	if from, known := c.lastOf(other); known {
		c.after(n, from, Joint)
		return nil
	}
	instrument := &c.in.Instruments[c.instrument]
	for p := range instrument.Pieces {
		steps := instrument.Pieces[p].Steps
		at := slices.IndexFunc(steps, func(s Step) bool { return s.ID == other })
		if at < 0 || steps[at].Out == "" {
			continue
		}
		for _, before := range steps[at].After {
			if err := c.join(n, before); err != nil {
				return err
			}
		}
		if at > 0 {
			return c.join(n, steps[at-1].ID)
		}
		return nil
	}
	return fmt.Errorf("it waits for a step that comes later")
}

// own is when a coat itself reaches a milestone where it hangs.
func (c *compiler) own(n *node, m material.Milestone) *link {
	l := c.earliest(n.step.Material, m)
	l.curve = c.shop.curve(c.shop.places[n.place].hangs, l.wait.Drying)
	return &l
}

// earliest is the earliest side of a wait for a film: as the sheet says with the
// shop's caution, or as the shop has learned where that is longer.
func (c *compiler) earliest(m *material.Material, milestone material.Milestone) link {
	l := link{cause: Cure, wait: c.shop.earliest(m, milestone)}
	l.hours = c.in.hours(m, l.wait)
	return l
}

// hours is how long a clock runs for the earliest side of a wait.
func (in *Input) hours(m *material.Material, w *cure.Wait) float64 {
	return w.Reference * max(w.Margin, in.Factors[m.Key()])
}

// tie adds a link with the curves of its clocks.
func (c *compiler) tie(n *node, l link) {
	hangs := c.shop.places[c.nodes[l.from].place].hangs
	switch {
	case l.wait != nil:
		l.curve = c.shop.curve(hangs, l.wait.Drying)
	case l.clock != nil:
		l.curve = c.shop.curve(hangs, *l.clock)
	}
	if l.close != nil {
		l.closing = c.shop.curve(hangs, l.close.Drying)
	}
	n.links = append(n.links, l)
}

// linksAtATime is for how many links room is made at once.
const linksAtATime = 128

// keep moves the links of a node to where they stay, and takes their room for those of the next.
func (c *compiler) keep(n *node) {
	if len(c.kept)+len(n.links) > cap(c.kept) {
		c.kept = make([]link, 0, max(linksAtATime, len(n.links)))
	}
	at := len(c.kept)
	c.kept, c.tied = append(c.kept, n.links...), n.links[:0]
	n.links = c.kept[at:len(c.kept):len(c.kept)]
}

// events is how many events an instrument has.
func (in *Input) events(instrument *Instrument) int {
	count := 0
	for p := range instrument.Pieces {
		for s := range instrument.Pieces[p].Steps {
			count += in.rounds(&instrument.Pieces[p].Steps[s])
		}
	}
	return count
}

// rounds is how many events a step has: as expected, or as the log has settled
// or gone beyond; of a step that is left out, what had been done by then.
func (in *Input) rounds(step *Step) int {
	if step.Out != "" {
		n := 0
		for _, done := in.Facts[Event{Step: step.ID, Coat: 1}]; done; _, done = in.Facts[Event{Step: step.ID, Coat: n + 1}] {
			n++
		}
		return n
	}
	if n, settled := in.Settled[step.ID]; settled {
		return n
	}
	n := step.Coats
	if step.Repeat == nil {
		return n
	}
	for n < step.Repeat.Most {
		if _, done := in.Facts[Event{Step: step.ID, Coat: n + 1}]; !done {
			break
		}
		n++
	}
	return n
}

// layPhases lays out an event's hands-on time: putting on, the wait for the
// product to soak, level or squeeze out, and wiping off, curing under the lamp or
// scraping.
func (n *node) layPhases() {
	work := minute(n.step.HandsOnMin)
	var wait, finish minute
	switch {
	case n.step.Kind == Coat && n.step.Material.Family.Lamp > 0:
		wait, finish = minute(n.step.Material.Family.SelfLevel), minute(n.step.Material.Family.Lamp)
	case n.step.WipesOff():
		wait = minute(n.step.Material.Family.WipeAfter)
		finish = (work - minute(n.step.SetUpMin)) / 2
		work -= finish
	case n.step.Glue != nil && n.step.Glue.SqueezeBeforeMin > 0:
		wait, finish = minute(n.step.Glue.SqueezeAfterMin), squeezeMinutes
	}
	n.parts = 1
	switch {
	case wait == 0 && finish == 0:
		n.phases[0] = phase{work, false}
	case wait < freeing:
		n.phases[0] = phase{work + wait + finish, false}
	default:
		n.phases = [3]phase{{work, false}, {wait, true}, {finish, false}}
		n.parts = 3
	}
}

// follow ties a node to the one before it in its chain. Where an event was left
// open and later ones are done, what is still open is followed too.
func (c *compiler) follow(n *node) {
	if c.previous >= 0 {
		if n.within {
			w := n.step.Within
			c.tie(n, link{from: c.previous, cause: Follows, rest: minute(w.AfterMin), by: minute(w.BeforeMin), kind: Hard})
		} else {
			c.after(n, c.previous, Follows)
		}
	}
	if c.pending >= 0 && c.pending != c.previous {
		c.after(n, c.pending, Follows)
	}
}

var glueDrying = climate.Drying{Kinetics: material.Reactive, Stage: climate.Early, Stops: true, Below: 5}

func (c *compiler) after(n *node, from int32, cause Cause) {
	step := c.nodes[from].step
	l := link{from: from, cause: cause}
	switch {
	case step.Glue != nil:
		l.cause, l.clock, l.hours = Glued, &glueDrying, float64(step.Glue.HandleMin)/60*c.shop.Margin
	case step.RestMin > 0:
		l.cause, l.rest = Rest, minute(step.RestMin)
	}
	c.tie(n, l)
}

// done makes a node what later ones follow and lie upon.
func (c *compiler) done(n *node) {
	index := int32(len(c.nodes)) - 1
	if n.step.Glue != nil {
		c.glues = append(c.glues, index)
	}
	if n.fact == nil || !n.fact.Skipped {
		c.lay(n, index)
	}
	c.previous = index
	if n.fact == nil {
		c.pending = index
	}
}

// lay leaves on its regions what an event does to them.
func (c *compiler) lay(n *node, index int32) {
	var made []*past
	for _, id := range n.step.Regions {
		region := c.region(id)
		if n.step.Kind != Coat {
			region.Work(n.step.Kind)
			continue
		}
		last := c.pastOf(n, region)
		at := slices.IndexFunc(made, func(p *past) bool { return p.before == last })
		if at < 0 {
			at, made = len(made), append(made, &past{index, last})
		}
		region.Coat(n.step.Material.Family.ID, n.step.Material.Key(), 1, made[at])
	}
}

// pastOf is the coats of a coat's product on a region before it, without what belongs to its own
// sitting; nil when there are none.
func (c *compiler) pastOf(n *node, region *region) *past {
	last, _ := region.LastOf(n.step.Material.Key())
	if last != nil && c.oneSitting(n, last.coat) {
		return last.before
	}
	return last
}
