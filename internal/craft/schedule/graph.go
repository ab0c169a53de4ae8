package schedule

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
)

// DefaultMargin is the caution of a shop that has not chosen its own: waits
// take a quarter longer than the sheet says. Rules §2.
const DefaultMargin = 1.25

// node is one event with what it waits for. Nodes of an instrument stand in an
// order in which every node comes after all that it waits for.
type node struct {
	event      Event
	step       *Step
	instrument int
	piece      int
	rank       int // place in the order of work, smaller first
	links      []link
	same       []int // the coats of the same product last before this one on its zones
	fact       *Fact
}

// link is one thing an event waits for.
type link struct {
	from  int
	cause Cause
	wait  cure.Wait     // of a Cure link
	rest  time.Duration // of a Rest link
}

func (l link) duration() time.Duration {
	if l.cause == Cure {
		return l.wait.Duration()
	}
	return l.rest
}

// compile lays out the events of an instrument and what each waits for.
func compile(in Instrument, facts map[Event]Fact, margin float64) ([]node, error) {
	c := compiler{facts: facts, margin: margin, last: make(map[uuid.UUID]int), films: make(map[uuid.UUID][]int)}
	for p, piece := range in.Pieces {
		c.previous, c.pending = -1, -1
		for s := range piece.Steps {
			if err := c.step(p, &piece.Steps[s]); err != nil {
				return nil, fmt.Errorf("%s %s, step %q: %w", in.Name, piece.Name, piece.Steps[s].Title, err)
			}
		}
	}
	return c.nodes, nil
}

type compiler struct {
	facts    map[Event]Fact
	margin   float64
	nodes    []node
	last     map[uuid.UUID]int   // the last event of a step
	films    map[uuid.UUID][]int // by zone, the last coat of each product, oldest first
	previous int                 // the event before in the chain, -1 for none
	pending  int                 // the last event before in the chain that is not done
}

func (c *compiler) step(piece int, step *Step) error {
	for _, event := range step.Events() {
		n := node{event: event, step: step, piece: piece}
		if fact, done := c.facts[event]; done {
			n.fact = &fact
		}
		c.follow(&n)
		if event.Coat == 1 {
			for _, other := range step.After {
				from, known := c.last[other]
				if !known {
					return fmt.Errorf("it waits for a step that comes later")
				}
				n.links = append(n.links, c.after(from, Joint))
			}
		}
		c.waits(&n)
		c.add(n)
	}
	return nil
}

// follow ties a node to the one before it in its chain. Where an event was left
// open and later ones are done, what is still open is followed too.
func (c *compiler) follow(n *node) {
	if c.previous >= 0 {
		n.links = append(n.links, c.after(c.previous, Follows))
	}
	if c.pending >= 0 && c.pending != c.previous {
		n.links = append(n.links, c.after(c.pending, Follows))
	}
}

func (c *compiler) after(from int, cause Cause) link {
	if rest := c.nodes[from].step.Rest; rest > 0 {
		return link{from: from, cause: Rest, rest: rest}
	}
	return link{from: from, cause: cause}
}

// waits adds what the films below ask for: the wait table of rules §9. A coat
// or a tape looks at the last film of each zone; work that presses or wears
// looks at every film down to the wood.
func (c *compiler) waits(n *node) {
	asked := make(map[int]bool)
	for _, zone := range n.step.Zones {
		films := c.films[zone]
		for depth := len(films) - 1; depth >= 0; depth-- {
			below, top := films[depth], depth == len(films)-1
			if asked[below] || (!top && onlyLast(n.step.Kind)) {
				continue
			}
			asked[below] = true
			if l, waits := c.film(n.step, below, top); waits {
				n.links = append(n.links, l)
			}
		}
		if n.step.Kind == Coat {
			for _, below := range c.films[zone] {
				if c.nodes[below].step.Material.Key() == n.step.Material.Key() && !contains(n.same, below) {
					n.same = append(n.same, below)
				}
			}
		}
	}
}

func onlyLast(kind Kind) bool {
	switch kind {
	case Coat, Scuff, Sand, MaskOn, MaskOff, Inspect:
		return true
	}
	return false
}

// film is the wait that a step has on a coat below it, which is the top film of
// its zone or lies deeper; false where the step does not care.
func (c *compiler) film(step *Step, below int, top bool) (link, bool) {
	under := *c.nodes[below].step.Material
	var milestone material.Milestone
	switch step.Kind {
	case Coat:
		milestone = material.Topcoat
		if under.Key() == step.Material.Key() {
			milestone = material.Recoat
		}
	case Scuff, Sand:
		milestone = material.Sand
	case MaskOn:
		milestone = material.Topcoat
	case MaskOff, Inspect:
		milestone = material.TouchDry
	case Level, Buff, Gate:
		milestone = step.Film
	}
	if milestone == "" {
		return link{}, false
	}
	// Leaf, dye or filler under a clear is not touched itself when the clear is
	// levelled or buffed; it only has to be dry enough to lie under it.
	if limit, _ := under.Limit(milestone); limit == material.Never && !top {
		milestone = material.Topcoat
	}
	return link{from: below, cause: Cure, wait: cure.Earliest(under, milestone, c.margin)}, true
}

func (c *compiler) add(n node) {
	index := len(c.nodes)
	c.nodes = append(c.nodes, n)
	c.last[n.step.ID] = index
	c.previous = index
	if n.fact == nil {
		c.pending = index
	}
	if n.step.Kind != Coat || (n.fact != nil && n.fact.Skipped) {
		return
	}
	for _, zone := range n.step.Zones {
		films := c.films[zone][:0:0]
		for _, other := range c.films[zone] {
			if c.nodes[other].step.Material.Key() != n.step.Material.Key() {
				films = append(films, other)
			}
		}
		c.films[zone] = append(films, index)
	}
}

func contains(list []int, wanted int) bool {
	for _, x := range list {
		if x == wanted {
			return true
		}
	}
	return false
}
