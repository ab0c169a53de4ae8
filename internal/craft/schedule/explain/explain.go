// Package explain says in words what a plan came to: why an event is when it is, how a wait, a slack and a latest start came about,
// and which wait would have to be shorter.
package explain

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/working"
)

// Sentence says in words why an event is when it is.
func Sentence(p *schedule.Plan, event schedule.Event) string {
	e, found := p.Find(event)
	if !found {
		return ""
	}
	switch {
	case e.Impossible != "":
		return "It cannot be placed: " + e.Impossible + "."
	case e.Skipped:
		return "Left out on purpose."
	case e.Done:
		return "Done " + p.Say(e.End) + "."
	}
	text := reasonOf(p, &e, e.Because)
	if e.Held.Cause == schedule.Cure {
		text += slowed(&e)
	}
	if e.ScuffFirst {
		text += fmt.Sprintf(" Scuff it first: the window to the coat below closes %s.", p.Clock(e.Window.Latest))
	}
	if e.Floats {
		text += " It was pinned to another time, which has become impossible."
	}
	return text
}

// Wait says what of its own an event waits for: a film, glue, a rest, another piece, what is on order. Empty where
// it may follow right after what comes before it, and where it is done.
func Wait(p *schedule.Plan, event schedule.Event) string {
	e, found := p.Find(event)
	if !found || e.Done || e.Impossible != "" {
		return ""
	}
	switch e.Held.Cause {
	case schedule.Cure:
		return reasonOf(p, &e, e.Held) + slowed(&e)
	case schedule.Glued, schedule.Rest, schedule.Overnight, schedule.PerDayFull, schedule.Joint, schedule.Arrives:
		return reasonOf(p, &e, e.Held)
	}
	return ""
}

// reasonOf says what holds an event.
func reasonOf(p *schedule.Plan, e *schedule.Planned, b schedule.Because) string {
	until := p.Clock(b.Until)
	switch b.Cause {
	case schedule.Cure:
		return fmt.Sprintf("%s is %s from %s.", p.TitleFrom(b.Event, e.Event), b.Wait.Milestone.Text(), until)
	case schedule.Glued:
		return fmt.Sprintf("The joint of %s has set by %s.", phrase.Quoted(p.Title(b.Event)), until)
	case schedule.Rest:
		return fmt.Sprintf("The piece rests after %s until %s.", phrase.Quoted(p.Title(b.Event)), until)
	case schedule.Overnight:
		return fmt.Sprintf("The film rests overnight after %s, until %s.", phrase.Lower(p.Title(b.Event)), until)
	case schedule.PerDayFull:
		return fmt.Sprintf("No more coats of this product that day; the next day begins %s.", until)
	case schedule.Follows:
		return fmt.Sprintf("Right after %s, done by %s.", phrase.Quoted(p.Title(b.Event)), until)
	case schedule.Joint:
		return fmt.Sprintf("Waits for the %s: %s, done by %s.", p.Owner(b.Event), phrase.Quoted(p.Title(b.Event)), until)
	case schedule.Arrives:
		return fmt.Sprintf("It waits for something on order, expected %s.", until)
	case schedule.Closed:
		if b.Short {
			return fmt.Sprintf("%s, but then too little of the opening is left; the next begins %s.", readyBy(p, b), until)
		}
		return fmt.Sprintf("%s, but the shop is closed until %s.", readyBy(p, b), until)
	case schedule.Hands:
		if b.Event == (schedule.Event{}) {
			return fmt.Sprintf("Hands are busy until %s.", until)
		}
		return fmt.Sprintf("Hands are busy with %s, %s, until %s.", p.Owner(b.Event), phrase.Quoted(p.Title(b.Event)), until)
	case schedule.Full:
		return fmt.Sprintf("%s, but %s is full until %s.", readyBy(p, b), b.Place, until)
	case schedule.Hooks:
		return fmt.Sprintf("%s, but no hook is free in %s until %s.", readyBy(p, b), b.Place, until)
	case schedule.Dust:
		if p.Step(e.Event).Kind.Handwork() {
			return fmt.Sprintf("%s, but a coat in the air of %s is open to dust until %s.", readyBy(p, b), b.Place, until)
		}
		return fmt.Sprintf("%s, but work in the air of %s makes dust until %s.", readyBy(p, b), b.Place, until)
	case schedule.Unfit:
		return fmt.Sprintf("%s, but %s: %s until %s.", readyBy(p, b), b.Place, p.Unfit(b.Event, e.Open, b.Blocked), until)
	case schedule.HeldBack:
		return fmt.Sprintf("Held back so that %s keeps its window.", phrase.Lower(p.Title(b.Event)))
	case schedule.SharedMix:
		return fmt.Sprintf("Shares the set-up of %s, %s, done by %s.", p.Owner(b.Event), phrase.Quoted(p.Title(b.Event)), until)
	case schedule.PinnedThere:
		return fmt.Sprintf("Pinned to %s.", until)
	}
	return "Nothing holds it: it can be done now."
}

func readyBy(p *schedule.Plan, b schedule.Because) string {
	if b.Earlier.After(p.Now) {
		return "Ready " + p.Clock(b.Earlier)
	}
	return "Ready now"
}

// slowed says how much slower or quicker than the sheet a wait runs, where it
// is worth saying.
func slowed(e *schedule.Planned) string {
	took := e.Held.Until.Sub(e.Since).Hours()
	hours := e.Held.Wait.Hours()
	if hours <= 0 || took <= 0 {
		return ""
	}
	switch speed := hours / took; {
	case speed < 0.9:
		return fmt.Sprintf(" The room runs at %.1f of normal speed.", speed)
	case speed > 1.1:
		return fmt.Sprintf(" The room runs at %.1f times normal speed.", speed)
	}
	return ""
}

// Working shows how the wait that held an event's own piece came about; false
// when no cure wait did.
func Working(p *schedule.Plan, event schedule.Event) (working.Working, bool) {
	e, found := p.Find(event)
	if !found || e.Held.Cause != schedule.Cure {
		return working.Working{}, false
	}
	below, _ := p.Find(e.Held.Event)
	shown := e.Held.Wait.Working(e.Since, e.Held.Until, speedSource(p, below.Event, e.Since, e.Held.Until))
	shown.Inputs = append(shown.Inputs, working.Input{Name: "counted from", Value: p.Clock(e.Since), Source: working.Person})
	if !below.Done {
		shown.Inputs[len(shown.Inputs)-1].Source = working.Rule
	}
	shown.Result += ", until " + p.Clock(e.Held.Until)
	return shown, true
}

// speedSource is what the speed of a clock rests on.
func speedSource(p *schedule.Plan, coat schedule.Event, from, to time.Time) working.Source {
	room := p.Input().Shop.HangsIn(p.Step(coat)).Room
	switch {
	case room == nil:
		return working.Rule
	case to.After(p.Now) || room.Gaps(from, to):
		return working.Profile
	}
	return working.Reading
}

// Starts says where an event can be begun by hand from now until a moment, and of all else why not.
func Starts(p *schedule.Plan, event schedule.Event, until time.Time) []schedule.Starts {
	e, _ := p.Find(event)
	list := p.Starts(event, until)
	for i := range list {
		if s := &list[i]; !s.Free && s.Why == "" {
			s.Why = reasonOf(p, &e, s.Because)
		}
	}
	return list
}
