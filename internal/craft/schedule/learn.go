package schedule

import (
	"maps"
	"math"

	"github.com/google/uuid"

	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
)

// Learned is what a shop's own tests and logged minutes have taught it; what it
// does not name is as good as its prior. Rules §9.
type Learned struct {
	Factors    map[string]cure.Factor                        // by material key: reality against the sheet, all its milestones together
	Milestones map[string]map[material.Milestone]cure.Factor // … and each by itself
	Pace       map[Kind]Pace                                 // by kind of work: minutes taken against minutes planned
}

// Observations is how many tests and logged times stand behind it.
func (l Learned) Observations() int {
	sum := 0
	for _, f := range l.Factors {
		sum += f.Observations
	}
	for _, pace := range l.Pace {
		sum += pace.Observations
	}
	return sum
}

// Pace is how long a kind of work takes against its plan: a log-normal.
type Pace struct {
	Median       float64
	Sigma        float64
	Observations int
}

// DefaultPace is a shop that has logged no minutes (default).
var DefaultPace = Pace{1, 0.2, 0}

// priorPace is how many observations the usual pace counts for (default), and
// leastPace the spread that a day's mood makes however much was logged.
const (
	priorPace = 3
	leastPace = 0.1
)

// LearnPace is the pace that logged minutes show, each divided by what was planned.
func LearnPace(ratios []float64) Pace {
	sum, square, n := 0.0, 0.0, 0
	for _, ratio := range ratios {
		if ratio > 0.05 && ratio < 20 {
			x := math.Log(ratio)
			sum, square, n = sum+x, square+x*x, n+1
		}
	}
	return PaceOf(sum, square, n)
}

// PaceOf is the pace of n such ratios, from the sums of their natural logarithms and of the squares of these.
func PaceOf(sum, square float64, times int) Pace {
	if times == 0 {
		return DefaultPace
	}
	n := float64(times)
	mean := sum / (n + priorPace)
	spread := square - 2*mean*sum + n*mean*mean + priorPace*(mean*mean+DefaultPace.Sigma*DefaultPace.Sigma)
	return Pace{math.Exp(mean), max(leastPace, math.Sqrt(spread/(n+priorPace))), times}
}

// Learned is what the tests and the logged minutes of this plan's facts teach. A
// test is read on the clock of its coat, in the air that there was.
func (p *Plan) Learned() Learned {
	learned := Learned{Factors: make(map[string]cure.Factor), Milestones: make(map[string]map[material.Milestone]cure.Factor),
		Pace: p.r.paces()}
	for key, byMilestone := range p.r.in.seen() {
		var all []cure.Test
		learned.Milestones[key] = make(map[material.Milestone]cure.Factor)
		for _, milestone := range material.Milestones { // in order, so that sums come out the same
			if list := byMilestone[milestone]; len(list) > 0 {
				learned.Milestones[key][milestone] = cure.Learn(list)
				all = append(all, list...)
			}
		}
		learned.Factors[key] = cure.Learn(all)
	}
	return learned
}

// learn adds to the factors what the tests teach of products that nothing was said of,
// so that dates and chances rest on the same.
func (in *Input) learn() {
	if len(in.Tests) == 0 {
		return
	}
	factors := maps.Clone(in.Factors)
	if factors == nil {
		factors = make(map[string]float64)
	}
	for key, byMilestone := range in.seen() {
		if _, said := factors[key]; said {
			continue
		}
		var all []cure.Test
		for _, milestone := range material.Milestones {
			all = append(all, byMilestone[milestone]...)
		}
		factors[key] = cure.Learn(all).Median
	}
	in.Factors = factors
}

// seen are the tests of coats that are done, by product and milestone.
func (in *Input) seen() map[string]map[material.Milestone][]cure.Test {
	r := &dating{graph: &graph{shop: in.Shop}, in: in}
	r.layMoves()
	steps := make(map[uuid.UUID]*node)
	for i := range in.Instruments {
		for p := range in.Instruments[i].Pieces {
			for s := range in.Instruments[i].Pieces[p].Steps {
				step := &in.Instruments[i].Pieces[p].Steps[s]
				steps[step.ID] = &node{step: step, instrument: int32(i), piece: int32(p), place: int32(in.Shop.placeOf(step))}
			}
		}
	}
	tests := make(map[string]map[material.Milestone][]cure.Test)
	for _, t := range in.Tests {
		n, known := steps[t.Event.Step]
		fact, done := in.Facts[t.Event]
		if !known || !done || n.step.Material == nil {
			continue
		}
		m := n.step.Material
		if fact.Material != nil {
			m = fact.Material
		}
		if place, at := in.Shop.byID[fact.Place]; at && fact.Place != uuid.Nil {
			n.place = int32(place)
		}
		w := in.Shop.earliest(m, t.Milestone)
		d := eventState{done: true}
		elapsed := r.clock(n, &d, float64(fact.End.UnixNano())/1e9, w.Drying).Elapsed(float64(t.At.UnixNano()) / 1e9)
		if tests[m.Key()] == nil {
			tests[m.Key()] = make(map[material.Milestone][]cure.Test)
		}
		tests[m.Key()][t.Milestone] = append(tests[m.Key()][t.Milestone],
			cure.Test{Elapsed: elapsed, Reference: w.Reference, Passed: t.Passed})
	}
	return tests
}

// paces are the paces of the kinds of work whose minutes were logged.
func (g *graph) paces() map[Kind]Pace {
	ratios := make(map[Kind][]float64)
	for i := range g.nodes {
		n := g.nodes[i]
		if n.fact == nil || n.fact.Skipped || n.step.HandsOnMin == 0 || n.fact.Minutes == n.step.HandsOnMin {
			continue // nobody looked at the clock
		}
		ratios[n.step.Kind] = append(ratios[n.step.Kind], float64(n.fact.Minutes)/float64(n.step.HandsOnMin))
	}
	paces := make(map[Kind]Pace, len(ratios))
	for kind, list := range ratios {
		paces[kind] = LearnPace(list)
	}
	return paces
}
