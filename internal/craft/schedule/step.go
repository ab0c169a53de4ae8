// Package schedule turns steps into dated events.
//
// A step of n coats is n events. Events of a piece form a chain; glue-ups and
// other joints tie chains together. The order of work is a decision that the
// shop stores; dates are derived from it, again and again, by Retime: from the
// order, the facts that were logged, the cure clocks, the hours, the hands and
// places, and the present minute. Proposing a better order is a separate act.
// Nothing here reads a clock or draws a random number it was not given.
package schedule

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// What the planner takes from the model as it is.
type (
	Kind    = job.Kind
	Terms   = job.Terms
	Divide  = job.Divide
	Within  = job.Within
	Repeat  = job.Repeat
	Arrival = job.Arrival
	Glue    = job.Glue
	PerDay  = job.PerDay
	Box     = job.Box
	Event   = job.Event
)

const (
	Sand    = job.Sand
	Coat    = job.Coat
	Scuff   = job.Scuff
	MaskOn  = job.MaskOn
	MaskOff = job.MaskOff
	Level   = job.Level
	Buff    = job.Buff
	Inspect = job.Inspect
	Gate    = job.Gate

	BuffingWheel = job.BuffingWheel
)

// Step is one line of a schedule, resolved for planning: it names its regions and counts at least
// one event. Of a step without Film every coat below must have reached what the table of rules §9
// says for its kind; without Place it is done at the shop's usual place for such work.
type Step struct {
	job.Step
	Piece    uuid.UUID
	Material *material.Material // of a coat; nil for all else
}

// EventTitle names an event: "Coat 4 of 8, waterborne clear", or the step's own title.
func (s Step) EventTitle(coat int) string {
	switch {
	case s.Kind != Coat && s.Coats > 1:
		return fmt.Sprintf("%s, round %d of %d", s.Title, coat, max(s.Coats, coat))
	case s.Kind != Coat:
		return s.Title
	case len(s.Material.Family.Methods) == 0:
		return s.Title // no coat that is put on: wood that is charred
	case s.Coats == 1 && coat == 1:
		return "Coat of " + s.Material.Name
	default:
		return fmt.Sprintf("Coat %d of %d, %s", coat, max(s.Coats, coat), s.Material.Name)
	}
}

// Events lists the step's expected events in order; none of a step that is left out.
func (s Step) Events() []Event {
	if s.Out != "" {
		return nil
	}
	events := make([]Event, s.Coats)
	for i := range events {
		events[i] = Event{Step: s.ID, Coat: i + 1}
	}
	return events
}

// coatLimits is how many coats the film takes in a day, and after how many it wants a
// night, as its product says or as was decided on purpose.
func (s *Step) coatLimits() (perDay, restAfter int) {
	perDay, restAfter = s.Material.CoatsPerDay(), s.Material.Family.RestAfter
	if s.PerDay != nil {
		perDay, restAfter = s.PerDay.Coats, max(restAfter, s.PerDay.Coats)
	}
	return perDay, restAfter
}

// WipesOff reports whether its coats are wiped off again: by hand, where the material
// asks for it. What is sprayed stays.
func (s *Step) WipesOff() bool {
	return s.Kind == Coat && s.Material.Family.WipeBefore > 0 && s.Method != material.Spray && s.Method != material.Aerosol
}

// dusty reports whether the step makes dust.
func (s *Step) dusty() bool { return s.Dusty || (s.Kind.Handwork() && !s.Clean) }

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
	Promise calendar.Day
	Show    *calendar.Day // an earlier day on which it must be fit to be shown
	Weight  float64       // of a day it is late; 0 counts as 1
	Pieces  []Piece
}

// Validate reports the first thing that makes an instrument's steps impossible
// to plan, naming the step.
func (in Instrument) Validate() error {
	known := make(map[uuid.UUID]bool)
	for _, piece := range in.Pieces {
		for _, step := range piece.Steps {
			if known[step.ID] {
				return fmt.Errorf("%s %s, step %q: its id comes twice", in.Name, piece.Name, step.Title)
			}
			known[step.ID] = true
		}
	}
	for _, piece := range in.Pieces {
		for i, step := range piece.Steps {
			if err := step.validate(known, i == 0); err != nil {
				return fmt.Errorf("%s %s, step %q: %w", in.Name, piece.Name, step.Title, err)
			}
		}
	}
	shop, err := NewShop(Setting{Calendar: alwaysOpen, Margin: DefaultMargin})
	if err != nil {
		return err
	}
	_, err = Retime(Input{Now: time.Unix(0, 0), Shop: shop, Instruments: []Instrument{in}})
	return err
}

func (s *Step) validate(known map[uuid.UUID]bool, first bool) error {
	switch {
	case (s.Kind == Coat) != (s.Material != nil):
		return fmt.Errorf("a coat needs a material and nothing else has one")
	case s.Coats < 1 || s.Coats > 50:
		return fmt.Errorf("%d coats is not from 1 to 50", s.Coats)
	case s.Kind != Coat && s.Coats != 1 && s.Repeat == nil:
		return fmt.Errorf("only coats and rounds are counted")
	case s.HandsOnMin < 0 || s.HandsOnMin > 24*60:
		return fmt.Errorf("%d hands-on minutes is not from 0 to a day", s.HandsOnMin)
	case s.SetUpMin < 0 || s.SetUpMin > s.HandsOnMin:
		return fmt.Errorf("%d minutes of set-up are not part of its %d minutes", s.SetUpMin, s.HandsOnMin)
	case len(s.Regions) == 0:
		return fmt.Errorf("it is done to no region")
	}
	for _, other := range s.After {
		if !known[other] {
			return fmt.Errorf("it waits for a step that is not in the schedule")
		}
	}
	return validateTerms(s.Terms, s, first)
}

func validateTerms(t Terms, s *Step, first bool) error {
	switch {
	case t.Divide != nil && (t.Divide.LeastMin < 5 || !s.Kind.Handwork()):
		return fmt.Errorf("only handwork is divided, into stretches of at least 5 minutes")
	case t.Within != nil && (first || t.Within.AfterMin < 0 || t.Within.BeforeMin < t.Within.AfterMin || t.Within.BeforeMin > 8*60):
		return fmt.Errorf("a step within a sitting follows another by a window of minutes from 0 to 480 that does not run backwards")
	case t.Repeat != nil && (t.Repeat.Least < 1 || s.Coats < t.Repeat.Least || t.Repeat.Most < s.Coats || t.Repeat.Most > 50):
		return fmt.Errorf("rounds run from a least of 1 over the expected %d to a most of at most 50", s.Coats)
	case t.Arrival != nil && (s.Kind != Gate || t.Arrival.SpreadDays < 0 || t.Arrival.SpreadDays > 366 ||
		t.Arrival.Expected == calendar.Day{}):
		return fmt.Errorf("an arrival is a gate with an expected day and a spread of 0 to 366 days")
	case t.Glue != nil && (s.Kind != Gate || !validGlue(*t.Glue)):
		return fmt.Errorf("a glue-up is a gate whose minutes run from squeeze-out over clamps and handling to full strength")
	case t.Strings && s.Kind != Gate:
		return fmt.Errorf("the first stringing is a gate")
	case t.PerDay != nil && (s.Kind != Coat || t.PerDay.Coats < 1 || t.PerDay.Coats > 50 || t.PerDay.Reason == ""):
		return fmt.Errorf("more coats a day need a number from 1 to 50 and a reason")
	case t.Box != nil && (t.Box.Minutes < 1 || t.Box.Minutes > 14*24*60):
		return fmt.Errorf("a warm box runs from a minute to 14 days")
	}
	if t.Box != nil {
		return t.Box.Check()
	}
	return nil
}

func validGlue(g Glue) bool {
	return g.ClampMin >= 1 && g.HandleMin >= g.ClampMin && g.FullMin >= g.HandleMin && g.FullMin <= 60*24*60 &&
		g.SqueezeAfterMin >= 0 && (g.SqueezeBeforeMin == 0 || g.SqueezeBeforeMin >= g.SqueezeAfterMin) && g.SqueezeBeforeMin <= g.ClampMin
}
