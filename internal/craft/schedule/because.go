package schedule

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/working"
)

// Cause is the kind of the single thing that held an event.
type Cause string

const (
	Nothing   Cause = ""          // it can be done now
	Cure      Cause = "cure"      // a film below is not ready
	Rest      Cause = "rest"      // wood or glue rests
	Overnight Cause = "overnight" // the film wants a night after so many coats
	PerDay    Cause = "per-day"   // no more coats of this product today
	Follows   Cause = "follows"   // the step before it on the same piece
	Joint     Cause = "joint"     // another piece is not ready to be joined
	Closed    Cause = "closed"    // the shop is closed
	Hands     Cause = "hands"     // hands are busy with something else
)

// Because is why an event is not earlier.
type Because struct {
	Cause   Cause
	Event   Event     // the coat that dries, the step it follows, or what has the hands
	Until   time.Time // when it stops holding
	Earlier time.Time // of Closed: when the piece itself would have been ready
	Short   bool      // of Closed: the shop is open then, but not for long enough
	Wait    cure.Wait // of Cure
}

// Sentence says in words why an event is when it is.
func (p *Plan) Sentence(event Event) string {
	i, found := p.index[event]
	if !found {
		return ""
	}
	e := p.Events[i]
	switch {
	case e.Impossible != "":
		return "It cannot be placed: " + e.Impossible + "."
	case e.Skipped:
		return "Left out on purpose."
	case e.Done:
		return "Done " + p.Say(e.End) + "."
	}
	b := e.Because
	switch b.Cause {
	case Cure:
		return fmt.Sprintf("%s is %s from %s.", p.name(b.Event, i), b.Wait.Milestone.Text(), p.Clock(b.Until))
	case Rest:
		return fmt.Sprintf("The piece rests after %s until %s.", quoted(p.title(b.Event)), p.Clock(b.Until))
	case Overnight:
		return fmt.Sprintf("The film rests overnight after %s, until %s.", p.lower(b.Event), p.Clock(b.Until))
	case PerDay:
		return fmt.Sprintf("No more coats of this product that day; the next day begins %s.", p.Clock(b.Until))
	case Follows:
		return fmt.Sprintf("Right after %s, done by %s.", quoted(p.title(b.Event)), p.Clock(b.Until))
	case Joint:
		return fmt.Sprintf("Waits for the %s: %s, done by %s.", p.owner(b.Event), quoted(p.title(b.Event)), p.Clock(b.Until))
	case Closed:
		ready := "Ready now"
		if b.Earlier.After(p.Now) {
			ready = "Ready " + p.Clock(b.Earlier)
		}
		if b.Short {
			return fmt.Sprintf("%s, but then too little of the opening is left; the next begins %s.", ready, p.Clock(b.Until))
		}
		return fmt.Sprintf("%s, but the shop is closed until %s.", ready, p.Clock(b.Until))
	case Hands:
		if b.Event == (Event{}) {
			return fmt.Sprintf("Hands are busy until %s.", p.Clock(b.Until))
		}
		return fmt.Sprintf("Hands are busy with %s, %s, until %s.", p.owner(b.Event), quoted(p.title(b.Event)), p.Clock(b.Until))
	}
	return "Nothing holds it: it can be done now."
}

// Working shows how the wait that held an event came about; false when no
// cure wait did.
func (p *Plan) Working(event Event) (working.Working, bool) {
	e, found := p.Find(event)
	if !found || e.Because.Cause != Cure {
		return working.Working{}, false
	}
	shown := e.Because.Wait.Working()
	shown.Inputs = append(shown.Inputs, working.Input{Name: "counted from", Value: p.Clock(e.Since), Source: working.Person})
	if before, _ := p.Find(e.Because.Event); !before.Done {
		shown.Inputs[len(shown.Inputs)-1].Source = working.Rule
	}
	shown.Result += ", until " + p.Clock(e.Because.Until)
	return shown, true
}

func (p *Plan) title(event Event) string { return p.steps[p.index[event]].EventTitle(event.Coat) }

func (p *Plan) owner(event Event) string { return p.owners[p.index[event]] }

// name names an event from the viewpoint of event i: its piece only where it is another.
func (p *Plan) name(event Event, i int) string {
	if p.owners[p.index[event]] == p.owners[i] {
		return p.title(event)
	}
	return p.title(event) + " on the " + p.owner(event)
}

func (p *Plan) lower(event Event) string {
	title := p.title(event)
	return string(title[0]|0x20) + title[1:]
}

func quoted(title string) string { return "“" + title + "”" }

// Say prints an instant as people say it, seen from the plan's present minute.
func (p *Plan) Say(t time.Time) string { return Say(t, p.Now, p.Zone) }

// Clock prints an instant as a day and a time: "19:40" today, else "Fri 13 Mar 09:00".
func (p *Plan) Clock(t time.Time) string {
	local, now := t.In(p.Zone), p.Now.In(p.Zone)
	if DayOf(local) == DayOf(now) {
		return local.Format("15:04")
	}
	return local.Format("Mon 2 Jan 15:04")
}

// Say prints an instant as people say it, seen from now: "now", "in 50 min",
// "at 14:20", "tonight 19:40", "tomorrow 09:00", "Sat 10:00", "Thu 14 May", and
// for the past "25 min ago", "yesterday 16:10", "Mon 9 Mar".
func Say(t, now time.Time, zone *time.Location) string {
	local, here := t.In(zone), now.In(zone)
	days := daysBetween(DayOf(here), DayOf(local))
	ahead := local.Sub(here)
	clock := local.Format("15:04")
	switch {
	case ahead > -time.Minute && ahead <= 0:
		return "now"
	case ahead > 0 && ahead < time.Hour:
		return fmt.Sprintf("in %d min", int(ahead.Minutes()))
	case ahead < 0 && ahead > -time.Hour:
		return fmt.Sprintf("%d min ago", int(-ahead.Minutes()))
	case days == 0 && local.Hour() >= 18 && ahead > 0:
		return "tonight " + clock
	case days == 0:
		return "at " + clock
	case days == 1:
		return "tomorrow " + clock
	case days == -1:
		return "yesterday " + clock
	case days > 1 && days < 7:
		return local.Format("Mon 15:04")
	case local.Year() != here.Year():
		return local.Format("2 Jan 2006")
	default:
		return local.Format("Mon 2 Jan")
	}
}

// daysBetween counts the calendar days from a to b.
func daysBetween(a, b Day) int {
	at := func(d Day) time.Time { return time.Date(d.Year, d.Month, d.Date, 12, 0, 0, 0, time.UTC) }
	return int(at(b).Sub(at(a)).Hours() / 24)
}
