package edit

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// Seats are the places of an instrument's events in the order of work, each behind another event, and its pins: where
// they stood before a change, so that taking it back puts them there again.
type Seats struct {
	Order []Seat    `json:"order"`
	Pins  []job.Pin `json:"pins,omitempty"`
}

// Seat is the place of one event.
type Seat struct {
	Event job.Event `json:"event"`
	After job.Event `json:"after,omitzero"` // of any instrument; none: it comes first
}

// BothSeats are the places before and after a change.
type BothSeats struct {
	Before Seats `json:"before"`
	After  Seats `json:"after"`
}

// SeatsOf are the places of an instrument's events in a shop's order of work.
func SeatsOf(in *recipe.Instrument, order []job.Event, pins []job.Pin) Seats {
	own := Steps(in)
	var s Seats
	last := job.Event{}
	for _, e := range order {
		if own[e.Step] {
			s.Order = append(s.Order, Seat{e, last})
		}
		last = e
	}
	for _, p := range pins {
		if own[p.Step] {
			s.Pins = append(s.Pins, p)
		}
	}
	return s
}

// Restore is an order of work, and the pins, with the events of an instrument where these seats have them, behind those
// they came after; events that have come since come last.
func (s Seats) Restore(in *recipe.Instrument, order []job.Event, pins []job.Pin) ([]job.Event, []job.Pin) {
	own, events := Steps(in), in.Events()
	order = slices.DeleteFunc(slices.Clone(order), func(e job.Event) bool { return own[e.Step] })
	place := -1
	for _, seat := range s.Order {
		at := slices.Index(events, seat.Event)
		if at < 0 {
			continue
		}
		events = slices.Delete(events, at, at+1)
		if seat.After == (job.Event{}) {
			place = -1
		} else if at := slices.Index(order, seat.After); at >= 0 {
			place = at
		}
		place++
		order = slices.Insert(order, place, seat.Event)
	}
	pins = slices.DeleteFunc(slices.Clone(pins), func(p job.Pin) bool { return own[p.Step] })
	for _, p := range s.Pins {
		if own[p.Step] {
			pins = append(pins, p)
		}
	}
	return append(order, events...), pins
}

// Steps are the steps of an instrument.
func Steps(in *recipe.Instrument) map[uuid.UUID]bool {
	own := make(map[uuid.UUID]bool)
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			own[s.ID] = true
		}
	}
	return own
}
