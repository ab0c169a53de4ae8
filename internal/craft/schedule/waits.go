package schedule

import (
	"slices"

	"umberfrost/internal/craft/material"
)

// waits adds what the films below ask for: the wait table of rules §9. What is put
// on within a sitting counts as one coat with what it is put on. A coat
// or a tape looks at the last film of each region; work that presses or wears
// looks at every film down to the wood.
func (c *compiler) waits(n *node) {
	var room [8]below
	films := room[:0]
	for _, id := range n.step.Regions {
		region := c.region(id)
		for depth := len(region.Stack) - 1; depth >= 0; depth-- {
			stratum := region.Stack[depth]
			b := below{coat: stratum.Last.coat, top: depth == len(region.Stack)-1, dulled: stratum.Dull}
			if b.top || !onlyLast(n.step.Kind) {
				films = addBelow(films, b)
			}
		}
		if n.step.Kind == Coat {
			c.before(n, region)
		}
	}
	for _, b := range films {
		if !c.oneSitting(n, b.coat) {
			c.film(n, b)
		}
	}
	if n.step.Strings || (n.step.Kind == Gate && n.step.Film == material.FullCure) {
		for _, glue := range c.glues {
			full := float64(c.nodes[glue].step.Glue.FullMin) / 60 * c.shop.Margin
			c.tie(n, link{from: glue, cause: Glued, clock: &glueDrying, hours: full})
		}
	}
}

// below is a film that an event meets on some of its regions: lying on top on any of
// them, and there dulled on all.
type below struct {
	coat        int32
	top, dulled bool
}

// addBelow adds what one region says of a film to what others have said.
func addBelow(films []below, b below) []below {
	i := slices.IndexFunc(films, func(other below) bool { return other.coat == b.coat })
	switch {
	case i < 0:
		return append(films, b)
	case b.top && films[i].top:
		films[i].dulled = films[i].dulled && b.dulled
	case b.top:
		films[i] = b
	}
	return films
}

// before notes the coats of the same product on a region, which the film breathes
// through first.
func (c *compiler) before(n *node, region *region) {
	if last := c.pastOf(n, region); last != nil && !slices.Contains(n.same, last) {
		n.same = append(n.same, last)
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

// film adds the window that a node has on a film below it.
func (c *compiler) film(n *node, b below) {
	under := c.nodes[b.coat].step.Material
	for k, milestone := range n.step.milestones(under) {
		// Leaf, dye or filler under a clear is not touched itself when the clear is
		// levelled or buffed; it only has to be dry enough to lie under it.
		if limit, _ := under.Limit(milestone); limit == material.Never && !b.top {
			milestone = material.Topcoat
		}
		l := c.earliest(under, milestone)
		if l.from = b.coat; k == 0 {
			c.closing(&l, n.step, under, b.dulled)
		}
		c.tie(n, l)
	}
}

// milestones are what a film below must have reached before a step: the wait table
// of rules §9, unless the step names a milestone itself, because it was decided to
// wait longer or because the film is pressed.
func (s *Step) milestones(under *material.Material) []material.Milestone {
	if s.Strings {
		if limit, _ := under.Limit(material.Buff); limit == material.Never {
			return []material.Milestone{material.Handle} // it is never buffed
		}
		return []material.Milestone{material.Buff, material.Handle}
	}
	milestone := s.Film
	if milestone == "" {
		switch s.Kind {
		case Coat:
			milestone = material.Topcoat
			if under.Key() == s.Material.Key() {
				milestone = material.Recoat
			}
		case Scuff, Sand:
			milestone = material.Sand
		case MaskOn:
			milestone = material.Topcoat
		case MaskOff, Inspect:
			milestone = material.TouchDry
		case Level, Buff:
			milestone = material.Buff
		case Gate:
			milestone = material.Handle
		}
	}
	return []material.Milestone{milestone}
}

// closing sets the latest side of the window on a film below. A coat over its own
// kind must come before the film has to be scuffed, unless it melts into it; a film
// that a scuff would ruin must not be missed. Tape is best off before the film is hard.
func (c *compiler) closing(l *link, step *Step, under *material.Material, dulled bool) {
	switch {
	case step.Kind == MaskOff:
		if closes := c.shop.latest(under, material.Sand); !closes.Open {
			l.close, l.kind = closes, Advisory
		}
		return
	case step.Kind != Coat || dulled || under.Family.ID != step.Material.Family.ID:
		return
	}
	closes := c.shop.latest(under, material.RecoatMax)
	if closes.Open || under.Family.MeltsIntoSelf {
		return
	}
	l.close, l.kind = closes, Hard
	if sand := c.shop.earliest(under, material.Sand); !under.Family.ScuffRuins && !sand.Never {
		l.kind, l.sand = Repairable, sand
	}
}
