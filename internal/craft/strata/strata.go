// Package strata replays steps into what lies on a region, from the wood upwards. It is the one
// place that knows what a step leaves there: composing, what goes over what, lint and the waits of the
// planner all ask it. What a step that was left out would have done is not replayed.
package strata

import (
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// Stratum is what coats of one product leave that were put on one after another, with nothing else
// between them.
type Stratum[C any] struct {
	Family  string
	Product string // the key of its material: a product's id, or its family's
	Coats   int
	Last    C    // its last coat, as whoever replays knows it
	Dull    bool // abraded since that coat: what comes next holds on its scratches
}

// Stack is what lies on a region, the lowest first. The zero value is bare wood.
type Stack[C any] []Stratum[C]

// Do replays a step with all its coats.
func (l *Stack[C]) Do(s *job.Step, last C) {
	switch {
	case s.Kind == job.Coat:
		l.Coat(s.Family, s.MaterialKey(), max(s.Coats, 1), last)
	case s.Bares:
		*l = nil
	default:
		l.Work(s.Kind)
	}
}

// Coat replays coats of a material, given by its family and its key.
func (l *Stack[C]) Coat(family, product string, coats int, last C) {
	if n := len(*l); n > 0 && (*l)[n-1].Product == product {
		coats += (*l)[n-1].Coats
		*l = (*l)[:n-1]
	}
	*l = append(*l, Stratum[C]{Family: family, Product: product, Coats: coats, Last: last})
}

// Work replays a step that puts nothing on: abrasives dull what lies on top, buffing takes their
// scratches away again.
func (l Stack[C]) Work(kind job.Kind) {
	if len(l) == 0 {
		return
	}
	switch kind {
	case job.Sand, job.Scuff, job.Level:
		l[len(l)-1].Dull = true
	case job.Buff:
		l[len(l)-1].Dull = false
	}
}

// Top is the uppermost stratum; one without a family on bare wood.
func (l Stack[C]) Top() Stratum[C] {
	if len(l) == 0 {
		return Stratum[C]{}
	}
	return l[len(l)-1]
}

// LastOf is the last coat of a product, whatever lies over it; false where there is none.
func (l Stack[C]) LastOf(product string) (C, bool) {
	for i := len(l) - 1; i >= 0; i-- {
		if l[i].Product == product {
			return l[i].Last, true
		}
	}
	var none C
	return none, false
}

// Open reports whether colour lies there that nothing has shut in yet: it can still be corrected, and
// it lifts. Filler does not shut it in.
func (l Stack[C]) Open() bool {
	for i := len(l) - 1; i >= 0; i-- {
		switch group(l[i].Family) {
		case "colour":
			return true
		case "fill":
		default:
			return false
		}
	}
	return false
}

func group(family string) string {
	f, err := material.FindFamily(family)
	if err != nil {
		return ""
	}
	return f.Group
}
