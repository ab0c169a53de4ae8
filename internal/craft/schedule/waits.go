package schedule

import (
	"slices"

	"umberfrost/internal/craft/material"
)

// waits adds what the films below ask for: the wait table of rules §9. What is put
// on within a sitting counts as one coat with what it is put on. A coat
// or a tape looks at the last film of each zone; work that presses or wears
// looks at every film down to the wood.
func (c *compiler) waits(n *node) {
	var asked [8]int32
	seen := asked[:0]
	for _, id := range n.step.Zones {
		zone := c.zone(id)
		films := zone.films
		for depth := len(films) - 1; depth >= 0; depth-- {
			below, top := films[depth], depth == len(films)-1
			if slices.Contains(seen, below) || (!top && onlyLast(n.step.Kind)) {
				continue
			}
			seen = append(seen, below)
			if !c.oneSitting(n, below) {
				c.film(n, below, top, zone.dulled)
			}
		}
		if n.step.Kind == Coat {
			for _, below := range films {
				if c.nodes[below].step.Material.Key() == n.step.Material.Key() && !slices.Contains(n.same, below) && !c.oneSitting(n, below) {
					n.same = append(n.same, below)
				}
			}
		}
	}
	if n.within && n.step.Kind == Coat {
		if on := c.nodes[c.previous]; on.step.Kind == Coat && on.step.Material.Key() == n.step.Material.Key() {
			n.same = slices.Clone(on.same)
		}
	}
	if n.step.Kind == Gate && n.step.Film == material.FullCure {
		for _, glue := range c.glues {
			full := float64(c.nodes[glue].step.Glue.FullMin) / 60 * c.shop.Margin
			c.tie(n, link{from: glue, cause: Glued, clock: &glueDrying, hours: full})
		}
	}
}

// oneSitting reports whether an event before this one in its piece belongs to the
// same sitting, where the steps' own minutes count and not the film's clocks.
func (c *compiler) oneSitting(n *node, before int32) bool {
	if !n.within {
		return false
	}
	head := c.previous
	for c.nodes[head].within {
		head--
	}
	return before >= head
}

func onlyLast(kind Kind) bool {
	switch kind {
	case Coat, Scuff, Sand, MaskOn, MaskOff, Inspect:
		return true
	}
	return false
}

// film adds the window that a node has on a coat below it, which is the top film
// of its zone or lies deeper.
func (c *compiler) film(n *node, below int32, top, dulled bool) {
	step, under := n.step, c.nodes[below].step.Material
	l := link{from: below, cause: Cure}
	var milestone material.Milestone
	switch step.Kind {
	case Coat:
		same, kin := under.Key() == step.Material.Key(), under.Family.ID == step.Material.Family.ID
		milestone = material.Topcoat
		if same {
			milestone = material.Recoat
		}
		if kin && !dulled {
			c.closing(&l, under)
		}
	case Scuff, Sand:
		milestone = material.Sand
	case MaskOn:
		milestone = material.Topcoat
	case MaskOff:
		milestone = material.TouchDry
		if closes := c.shop.latest(under, material.Sand); !closes.Open {
			l.close, l.kind = closes, Advisory
		}
	case Inspect:
		milestone = material.TouchDry
	case Level, Buff, Gate:
		milestone = step.Film
	}
	if step.Film != "" {
		milestone = step.Film // it was decided to wait longer, or for a film that is pressed
	}
	if milestone == "" {
		return
	}
	// Leaf, dye or filler under a clear is not touched itself when the clear is
	// levelled or buffed; it only has to be dry enough to lie under it.
	if limit, _ := under.Limit(milestone); limit == material.Never && !top {
		milestone = material.Topcoat
	}
	l.wait = c.shop.earliest(under, milestone)
	l.hours = l.wait.Reference * max(l.wait.Margin, c.in.Factors[under.Key()])
	c.tie(n, l)
}

// closing sets the latest side of a coat over its own kind: after it the film
// must be scuffed, unless it melts into itself; a film that a scuff would ruin
// must not be missed.
func (c *compiler) closing(l *link, under *material.Material) {
	closes := c.shop.latest(under, material.RecoatMax)
	if closes.Open || under.Family.MeltsIntoSelf {
		return
	}
	l.close, l.kind = closes, Hard
	if sand := c.shop.earliest(under, material.Sand); !under.Family.ScuffRuins && !sand.Never {
		l.kind, l.sand = Repairable, sand
	}
}
