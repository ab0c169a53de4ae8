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
	End     time.Time
	Minutes unit.Minutes
	Skipped bool
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

// local is a minute as callers read it, in the shop's zone.
func (r *retiming) local(m minute) time.Time { return m.time().In(r.shop.Calendar.Zone()) }

func (r *retiming) publish(i int32, e *Planned) {
	n, d := r.nodes[i], &r.dates[i]
	instrument := &r.in.Instruments[n.instrument]
	*e = Planned{Event: n.event, Instrument: instrument.ID, Piece: instrument.Pieces[n.piece].ID, Place: r.shop.Places[n.place].ID,
		Person: int(d.person), Done: d.done, Skipped: d.skipped, Startable: d.startable, HeldBack: d.heldBack, Pinned: d.pinned, Floats: d.floats,
		Batches: int(n.batches), ScuffFirst: d.lead > 0, Impossible: d.impossible, Ready: r.local(d.ready), Open: r.local(d.open), Soonest: r.local(d.soonest)}
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
