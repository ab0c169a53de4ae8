package schedule

import (
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Fact is an event that was done (or left out on purpose): what is logged
// replaces what was planned.
type Fact struct {
	End      time.Time
	Minutes  unit.Minutes
	Skipped  bool
	Material *material.Material // what a coat was made of; nil: what its step says
	Place    uuid.UUID          // where it was done; zero: where its step says
}

// Move says that a piece was carried to another place, where its clocks run on.
type Move struct {
	Piece uuid.UUID
	Place uuid.UUID
	At    time.Time
}

// Test says that somebody looked whether a coat had reached a milestone: by
// tack, smell, thumbnail or weight. A pass counts from then on, whatever the
// clock says; a fail makes the clock run a further quarter of the reference time.
type Test struct {
	Event     Event // the coat
	Milestone material.Milestone
	At        time.Time
	Passed    bool
}

// Input is all that dates are derived from.
type Input struct {
	Now         time.Time
	Shop        *Shop
	Instruments []Instrument
	Order       []Event // the accepted order of work, first served first
	Pins        map[Event]time.Time
	Facts       map[Event]Fact
	Begun       map[Event]time.Time // events that somebody is at, since when
	Settled     map[uuid.UUID]int   // of steps done in rounds: how many it took
	Moves       []Move              // in any order
	Tests       []Test
	Factors     map[string]float64 // by material key: reality against the sheet; of what is not named, as its tests teach
}

// Planned is an event with its dates.
type Planned struct {
	Event
	Instrument uuid.UUID
	Piece      uuid.UUID
	Place      uuid.UUID
	Person     int // whose hands, counted from 0; -1 when done
	Done       bool
	Skipped    bool
	Begun      bool      // somebody is at it
	Startable  bool      // all it waits for is done, but for drying
	Ready      time.Time // the earliest its own films, rests and joints allow
	Soonest    time.Time // Ready, before a scuff that a closed window makes necessary
	Since      time.Time // when the thing it waits for began, for how far it has got
	Open       time.Time // the earliest after Ready that the shop is open long enough
	Start, End time.Time
	Spans      []calendar.Span // the stretches of handwork that is spread; nil when done in one go
	Because    Because
	Held       Because // what held its own piece until Ready, whatever came on top
	Window     Window
	Batches    int    // of a coat: how many mixes it takes, each within its pot life; 1 where one lasts
	ScuffFirst bool   // the window to the coat below has closed: scuff it before this coat
	Shares     *Event // whose set-up it shares
	HeldBack   bool   // it could be earlier, but then what follows would miss its window
	Pinned     bool   // it is where it was pinned
	Floats     bool   // it was pinned, and cannot be there
	Impossible string // why it cannot be placed at all; empty when it can
}

// Window is the latest side of what an event waits for; the zero Window has none.
type Window struct {
	Kind   WindowKind
	Latest time.Time
	Missed bool // the event begins after it
}

// Plan is the dates of all events of a shop.
type Plan struct {
	Now       time.Time
	Zone      *time.Location
	Events    []Planned // by instrument, piece and chain
	Forecasts []Forecast
	r         *retiming
	index     map[Event]int32
	latest    map[int]minute // latest starts that have been asked for
}

// Find returns an event of the plan.
func (p *Plan) Find(event Event) (Planned, bool) {
	i, found := p.index[event]
	if !found {
		return Planned{}, false
	}
	return p.Events[i], true
}

// EventsOf lists the events of an instrument, by piece and chain.
func (p *Plan) EventsOf(i int) []Planned { return p.Events[p.r.first[i]:p.r.first[i+1]] }

// Input is what the plan was made from.
func (p *Plan) Input() Input { return *p.r.in }

// Step is the step of an event of the plan; nil when it is not in it.
func (p *Plan) Step(event Event) *Step {
	i, found := p.index[event]
	if !found {
		return nil
	}
	return p.r.nodes[i].step
}

// Title names an event of the plan.
func (p *Plan) Title(event Event) string { return p.Step(event).EventTitle(event.Coat) }

// Owner names the instrument and the piece of an event of the plan.
func (p *Plan) Owner(event Event) string {
	n := p.r.nodes[p.index[event]]
	in := &p.r.in.Instruments[n.instrument]
	return in.Name + " " + in.Pieces[n.piece].Name
}

// TitleFrom names an event from the viewpoint of another: its piece only where that is not the same.
func (p *Plan) TitleFrom(event, other Event) string {
	a, b := p.r.nodes[p.index[event]], p.r.nodes[p.index[other]]
	if a.instrument == b.instrument && a.piece == b.piece {
		return p.Title(event)
	}
	return p.Title(event) + " on the " + p.Owner(event)
}

// Run is events of a piece that hard windows tie together: they are placed together or not at all.
type Run struct {
	Instrument int
	Events     []Event
	Start      time.Time
	Fixed      bool // all of it is done or begun
}

// Runs lists the runs of the plan in the order of work.
func (p *Plan) Runs() []Run {
	runs := make([]Run, len(p.r.order))
	events := make([]Event, 0, len(p.r.nodes))
	for k, u := range p.r.order {
		s := p.r.units[u]
		run := Run{Instrument: int(p.r.nodes[s.from].instrument), Start: p.r.local(p.r.dates[s.from].start), Fixed: true}
		for i := s.from; i < s.to; i++ {
			events = append(events, p.r.nodes[i].event)
			if run.Fixed && !p.r.nodes[i].fixed() {
				run.Fixed, run.Start = false, p.r.local(p.r.dates[i].start)
			}
		}
		run.Events = events[len(events)-int(s.to-s.from):]
		runs[k] = run
	}
	return runs
}

// Say prints an instant as people say it, seen from the plan's present minute.
func (p *Plan) Say(t time.Time) string { return calendar.Say(t, p.Now, p.Zone) }

// Clock prints an instant as a day and a time, seen from the plan's present minute.
func (p *Plan) Clock(t time.Time) string { return calendar.Clock(t, p.Now, p.Zone) }

// local is a minute as callers read it, in the shop's zone.
func (g *graph) local(m minute) time.Time { return m.time().In(g.shop.Calendar.Zone()) }

func (r *dating) publish(i int32, e *Planned) {
	n, d := r.nodes[i], &r.dates[i]
	instrument := &r.in.Instruments[n.instrument]
	*e = Planned{Event: n.event, Instrument: instrument.ID, Piece: instrument.Pieces[n.piece].ID, Place: r.shop.Places[n.place].ID,
		Person: int(d.person), Done: d.done, Skipped: d.skipped, Begun: n.begun != 0, Startable: d.startable, HeldBack: d.heldBack,
		Pinned: d.pinned, Floats: d.floats,
		Batches: int(n.batches), ScuffFirst: d.lead > 0, Impossible: d.impossible, Ready: r.local(d.ready), Open: r.local(d.open),
		Soonest: r.local(d.soonest)}
	if d.impossible != "" {
		return
	}
	e.Start, e.End = r.local(d.start), r.local(d.end)
	if d.done {
		e.End = n.fact.End
		e.Start = e.End.Add(-time.Duration(n.fact.Minutes) * time.Minute)
		e.Ready, e.Open = e.Start, e.Start
	}
	if d.since != 0 {
		e.Since = r.local(d.since)
	}
	for _, s := range d.spans {
		e.Spans = append(e.Spans, calendar.Span{Start: r.local(s.start), End: r.local(s.end)})
	}
	if d.shares >= 0 {
		e.Shares = &r.nodes[d.shares].event
	}
	if d.window != NoWindow {
		e.Window = Window{d.window, r.local(d.latest), d.missed}
	}
	e.Because, e.Held = r.because(&d.because), r.because(&d.held)
}
