package schedule

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/working"
)

// Cause is the kind of the single thing that held an event.
type Cause string

const (
	Nothing     Cause = ""           // it can be done now
	Cure        Cause = "cure"       // a film below is not ready
	Glued       Cause = "glue"       // a joint has not set
	Rest        Cause = "rest"       // wood rests
	Overnight   Cause = "overnight"  // the film wants a night after so many coats
	PerDayFull  Cause = "per-day"    // no more coats of this product today
	Follows     Cause = "follows"    // the step before it on the same piece
	Joint       Cause = "joint"      // another piece is not ready to be joined
	Arrives     Cause = "arrival"    // something on order is not there
	Closed      Cause = "closed"     // the shop or the place is closed
	Hands       Cause = "hands"      // hands are busy with something else
	Full        Cause = "full"       // the place is full
	Hooks       Cause = "hooks"      // there is no hook free to dry on
	Unfit       Cause = "unfit"      // the air is too cold, too warm or too damp
	Dust        Cause = "dust"       // dust and fresh coats do not share an air
	HeldBack    Cause = "held-back"  // it waits so that what follows keeps its window
	SharedMix   Cause = "shared-mix" // it follows another piece that takes the same product
	PinnedThere Cause = "pinned"     // somebody pinned it there
)

// Because is why an event is not earlier.
type Because struct {
	Cause   Cause
	Event   Event      // the coat that dries, the step it follows, what has the hands or would miss its window
	Until   time.Time  // when it stops holding
	Earlier time.Time  // of a cause outside its piece: when it would otherwise have been
	Blocked time.Time  // … and the last minute at which the hours would have allowed it
	Short   bool       // of Closed: the shop is open then, but not for long enough
	Place   string     // of a place that is closed, full or unfit
	Wait    *cure.Wait // of Cure
}

// because is a Because while dates are worked out.
type because struct {
	cause   Cause
	node    int32 // -1 for none
	place   int32
	until   minute
	earlier minute
	blocked minute
	short   bool
	wait    *cure.Wait
	hours   float64
}

func (r *retiming) because(b *because) Because {
	out := Because{Cause: b.cause, Short: b.short}
	if b.cause == Nothing {
		return out
	}
	out.Until = r.local(b.until)
	if b.node >= 0 {
		out.Event = r.nodes[b.node].event
	}
	if b.earlier != 0 {
		out.Earlier, out.Blocked = r.local(b.earlier), r.local(b.blocked)
	}
	switch b.cause {
	case Full, Hooks, Unfit, Dust:
		out.Place = r.shop.Places[b.place].Name
	}
	out.Wait = b.wait
	if b.wait != nil && b.hours > b.wait.Reference*b.wait.Margin {
		learned := *b.wait
		learned.Factor = b.hours / b.wait.Reference
		out.Wait = &learned
	}
	return out
}

// Sentence says in words why an event is when it is.
func (p *Plan) Sentence(event Event) string {
	i, found := p.index[event]
	if !found {
		return ""
	}
	e := &p.Events[i]
	switch {
	case e.Impossible != "":
		return "It cannot be placed: " + e.Impossible + "."
	case e.Skipped:
		return "Left out on purpose."
	case e.Done:
		return "Done " + p.Say(e.End) + "."
	}
	text := p.reasonOf(i, e.Because)
	if e.Held.Cause == Cure {
		text += p.slowed(e)
	}
	if e.ScuffFirst {
		text += fmt.Sprintf(" Scuff it first: the window to the coat below closes %s.", p.Clock(e.Window.Latest))
	}
	if e.Floats {
		text += " It was pinned to another time, which has become impossible."
	}
	return text
}

// reasonOf says what holds event i.
func (p *Plan) reasonOf(i int32, b Because) string {
	e := &p.Events[i]
	until := p.Clock(b.Until)
	switch b.Cause {
	case Cure:
		return fmt.Sprintf("%s is %s from %s.", p.name(b.Event, i), b.Wait.Milestone.Text(), until)
	case Glued:
		return fmt.Sprintf("The joint of %s has set by %s.", phrase.Quoted(p.title(b.Event)), until)
	case Rest:
		return fmt.Sprintf("The piece rests after %s until %s.", phrase.Quoted(p.title(b.Event)), until)
	case Overnight:
		return fmt.Sprintf("The film rests overnight after %s, until %s.", p.lower(b.Event), until)
	case PerDayFull:
		return fmt.Sprintf("No more coats of this product that day; the next day begins %s.", until)
	case Follows:
		return fmt.Sprintf("Right after %s, done by %s.", phrase.Quoted(p.title(b.Event)), until)
	case Joint:
		return fmt.Sprintf("Waits for the %s: %s, done by %s.", p.owner(b.Event), phrase.Quoted(p.title(b.Event)), until)
	case Arrives:
		return fmt.Sprintf("It waits for something on order, expected %s.", until)
	case Closed:
		if b.Short {
			return fmt.Sprintf("%s, but then too little of the opening is left; the next begins %s.", p.readyBy(b), until)
		}
		return fmt.Sprintf("%s, but the shop is closed until %s.", p.readyBy(b), until)
	case Hands:
		if b.Event == (Event{}) {
			return fmt.Sprintf("Hands are busy until %s.", until)
		}
		return fmt.Sprintf("Hands are busy with %s, %s, until %s.", p.owner(b.Event), phrase.Quoted(p.title(b.Event)), until)
	case Full:
		return fmt.Sprintf("%s, but %s is full until %s.", p.readyBy(b), b.Place, until)
	case Hooks:
		return fmt.Sprintf("%s, but no hook is free in %s until %s.", p.readyBy(b), b.Place, until)
	case Dust:
		if p.r.nodes[i].step.Kind.Handwork() {
			return fmt.Sprintf("%s, but a coat in the air of %s is open to dust until %s.", p.readyBy(b), b.Place, until)
		}
		return fmt.Sprintf("%s, but work in the air of %s makes dust until %s.", p.readyBy(b), b.Place, until)
	case Unfit:
		return fmt.Sprintf("%s, but %s: %s until %s.", p.readyBy(b), b.Place, p.unfit(p.index[b.Event], e.Open, b.Blocked), until)
	case HeldBack:
		return fmt.Sprintf("Held back so that %s keeps its window.", p.lower(b.Event))
	case SharedMix:
		return fmt.Sprintf("Shares the set-up of %s, %s, done by %s.", p.owner(b.Event), phrase.Quoted(p.title(b.Event)), until)
	case PinnedThere:
		return fmt.Sprintf("Pinned to %s.", until)
	}
	return "Nothing holds it: it can be done now."
}

func (p *Plan) readyBy(b Because) string {
	if b.Earlier.After(p.Now) {
		return "Ready " + p.Clock(b.Earlier)
	}
	return "Ready now"
}

// unfit says what is wrong with the air of a place: when the shop is first open for
// it, or else at the last minute before. The coat needs the air to stay fit through its
// flash time, so the reason may lie a little later.
func (p *Plan) unfit(i int32, moments ...time.Time) string {
	n := p.r.nodes[i]
	room := p.r.shop.Places[n.place].Room
	limits := climate.LimitsOf(*n.step.Material)
	stays := time.Duration(n.phases[0].length+minute(n.step.Material.Family.Flash)) * time.Minute
	for _, at := range moments {
		for after := time.Duration(0); after <= stays; after += 5 * time.Minute {
			air, _ := room.At(at.Add(after))
			if fit := limits.Judge(air, room.Surface(at.Add(after))); fit.Verdict == climate.Wait {
				return fit.Reason
			}
		}
	}
	return "the air does not stay fit"
}

// slowed says how much slower or quicker than the sheet a wait runs, where it
// is worth saying.
func (p *Plan) slowed(e *Planned) string {
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
func (p *Plan) Working(event Event) (working.Working, bool) {
	i, found := p.index[event]
	if !found || p.Events[i].Held.Cause != Cure {
		return working.Working{}, false
	}
	e := &p.Events[i]
	below := p.index[e.Held.Event]
	shown := e.Held.Wait.Working(e.Since, e.Held.Until, p.speedSource(below, e.Since, e.Held.Until))
	shown.Inputs = append(shown.Inputs, working.Input{Name: "counted from", Value: p.Clock(e.Since), Source: working.Person})
	if !p.Events[below].Done {
		shown.Inputs[len(shown.Inputs)-1].Source = working.Rule
	}
	shown.Result += ", until " + p.Clock(e.Held.Until)
	return shown, true
}

// speedSource is what the speed of a clock rests on.
func (p *Plan) speedSource(node int32, from, to time.Time) working.Source {
	n := p.r.nodes[node]
	room := p.r.shop.Places[p.r.shop.places[n.place].hangs].Room
	switch {
	case room == nil:
		return working.Rule
	case to.After(p.Now) || room.Gaps(from, to):
		return working.Profile
	}
	return working.Reading
}

// Step is the step of an event of the plan; nil when it is not in it.
func (p *Plan) Step(event Event) *Step {
	i, found := p.index[event]
	if !found {
		return nil
	}
	return p.r.nodes[i].step
}

func (p *Plan) title(event Event) string {
	return p.r.nodes[p.index[event]].step.EventTitle(event.Coat)
}

func (p *Plan) owner(event Event) string {
	n := p.r.nodes[p.index[event]]
	in := &p.r.in.Instruments[n.instrument]
	return in.Name + " " + in.Pieces[n.piece].Name
}

// name names an event from the viewpoint of event i: its piece only where it is another.
func (p *Plan) name(event Event, i int32) string {
	a, b := p.r.nodes[p.index[event]], p.r.nodes[i]
	if a.instrument == b.instrument && a.piece == b.piece {
		return p.title(event)
	}
	return p.title(event) + " on the " + p.owner(event)
}

func (p *Plan) lower(event Event) string { return phrase.Lower(p.title(event)) }

// Say prints an instant as people say it, seen from the plan's present minute.
func (p *Plan) Say(t time.Time) string { return Say(t, p.Now, p.Zone) }

// Clock prints an instant as a day and a time: "19:40" today, else "Fri 13 Mar 09:00".
func (p *Plan) Clock(t time.Time) string {
	local, now := t.In(p.Zone), p.Now.In(p.Zone)
	if calendar.DayOf(local) == calendar.DayOf(now) {
		return local.Format("15:04")
	}
	return local.Format("Mon 2 Jan 15:04")
}
