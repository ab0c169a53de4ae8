package schedule

import (
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Read puts what a standing entry of the log says is so into what dates are derived from. Its step
// takes the planned minutes where nobody looked at the clock; used is the product that it says was used
// instead of the planned one, nil where it names none.
func (in *Input) Read(e *job.Entry, planned unit.Minutes, used *material.Material) {
	switch e.Kind {
	case job.Done, job.Skipped:
		in.Facts[e.Event()] = FactOf(e, planned, used)
	case job.Moved:
		in.Moves = append(in.Moves, Move{Piece: *e.Piece, Place: *e.Place, At: e.HappenedAt})
	case job.Tested:
		in.Tests = append(in.Tests, Test{Event: e.Event(), Milestone: e.Milestone, At: e.HappenedAt, Passed: *e.Passed})
	case job.Settled:
		in.Settled[*e.Step] = *e.Coat
	}
}

// FactOf is what an entry makes of its event.
func FactOf(e *job.Entry, planned unit.Minutes, used *material.Material) Fact {
	fact := Fact{End: e.HappenedAt.UTC(), Minutes: planned, Skipped: e.Kind == job.Skipped}
	switch {
	case fact.Skipped:
		fact.Minutes = 0
	case e.Minutes != nil:
		fact.Minutes = unit.Minutes(*e.Minutes)
	}
	if e.Actual != nil && !fact.Skipped {
		fact.Material = used
		if e.Actual.Place != nil {
			fact.Place = *e.Actual.Place
		}
	}
	return fact
}
