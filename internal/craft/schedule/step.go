// Package schedule turns steps into dated events.
//
// A step of n coats is n events. Events of a piece form a chain; glue-ups and
// other joints tie chains together. The order of work is a decision that the
// shop stores; dates are derived from it, again and again, by Retime: from the
// order, the facts that were logged, the cure waits, the opening hours and the
// present minute. Nothing here reads a clock or draws a random number.
package schedule

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Kind is what a step does.
type Kind string

const (
	Sand    Kind = "sand"
	Coat    Kind = "coat"
	Scuff   Kind = "scuff"
	MaskOn  Kind = "mask-on"
	MaskOff Kind = "mask-off"
	Level   Kind = "level"
	Buff    Kind = "buff"
	Inspect Kind = "inspect"
	Gate    Kind = "gate"
)

// Kinds lists every kind of step.
var Kinds = []Kind{Sand, Coat, Scuff, MaskOn, MaskOff, Level, Buff, Inspect, Gate}

// Handwork reports whether the work may be put down and taken up again another
// day: sanding, scuffing, levelling and buffing may, a coat may not.
func (k Kind) Handwork() bool {
	switch k {
	case Sand, Scuff, Level, Buff:
		return true
	}
	return false
}

// Step is one line of a schedule.
type Step struct {
	ID       uuid.UUID
	Slot     string // the stable place in the recipe that made it
	Piece    uuid.UUID
	Zones    []uuid.UUID
	Kind     Kind
	Title    string
	Material *material.Material // of a coat; nil for all else
	Coats    int                // events of this step; 1 but for coats
	Minutes  unit.Minutes       // hands-on, of one event
	// Film is what every coat below must have reached before a level or a gate:
	// Sand for an interim levelling, Buff for the last, Handle or FullCure for gates.
	Film material.Milestone
	// Rest is how long nobody touches the piece afterwards for a reason that is
	// not a film's: wetted wood that dries, glue in clamps.
	Rest time.Duration
	// After names steps of other pieces that must be done first: the pieces a
	// joint brings together.
	After []uuid.UUID
}

// Event is one coat of a step, counted from 1; steps without coats have one event.
type Event struct {
	Step uuid.UUID
	Coat int
}

// Title names an event: "Coat 4 of 8, waterborne clear", or the step's own title.
func (s Step) EventTitle(coat int) string {
	switch {
	case s.Kind != Coat:
		return s.Title
	case s.Coats == 1:
		return "Coat of " + s.Material.Name
	default:
		return fmt.Sprintf("Coat %d of %d, %s", coat, s.Coats, s.Material.Name)
	}
}

// Events lists the step's events in order.
func (s Step) Events() []Event {
	events := make([]Event, s.Coats)
	for i := range events {
		events[i] = Event{s.ID, i + 1}
	}
	return events
}

// Piece is something finished on its own, with its steps in the order they are
// done.
type Piece struct {
	ID    uuid.UUID
	Name  string
	Steps []Step
}

// Instrument is one job with a promised day.
type Instrument struct {
	ID      uuid.UUID
	Name    string
	Promise Day
	Pieces  []Piece
}

// Validate reports the first thing that makes an instrument's steps impossible
// to plan, naming the step.
func (in Instrument) Validate() error {
	known := make(map[uuid.UUID]bool)
	for _, piece := range in.Pieces {
		for _, step := range piece.Steps {
			known[step.ID] = true
		}
	}
	for _, piece := range in.Pieces {
		for _, step := range piece.Steps {
			if err := step.validate(known); err != nil {
				return fmt.Errorf("%s %s, step %q: %w", in.Name, piece.Name, step.Title, err)
			}
		}
	}
	_, err := compile(in, nil, DefaultMargin)
	return err
}

func (s Step) validate(known map[uuid.UUID]bool) error {
	switch {
	case (s.Kind == Coat) != (s.Material != nil):
		return fmt.Errorf("a coat needs a material and nothing else has one")
	case s.Coats < 1 || s.Coats > 50:
		return fmt.Errorf("%d coats is not from 1 to 50", s.Coats)
	case s.Kind != Coat && s.Coats != 1:
		return fmt.Errorf("only coats are counted")
	case s.Minutes < 0 || s.Minutes > 24*60:
		return fmt.Errorf("%d hands-on minutes is not from 0 to a day", s.Minutes)
	case len(s.Zones) == 0:
		return fmt.Errorf("it is done to no zone")
	}
	for _, other := range s.After {
		if !known[other] {
			return fmt.Errorf("it waits for a step that is not in the schedule")
		}
	}
	return nil
}
