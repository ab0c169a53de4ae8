// Package settings is what a shop has decided about itself and measured of itself: its hours and caution, its people, its
// places and their air. Everything that is decided holds from a moment on, so that what was planned and done before
// stays as it was. The schedule file, the database's rows and the API's views embed these types; JSON names are those
// of the schedule file, db names those of the database's columns; what has "-" there is kept as JSON.
package settings

import (
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/unit"
)

// Shop is all of it.
type Shop struct {
	Settings []Setting `json:"settings"` // the oldest first
	People   []Person  `json:"people"`
	Places   []Place   `json:"places,omitempty"`
	Readings []Reading `json:"readings,omitempty"`
}

// At is the index of the setting that holds at a moment.
func (s *Shop) At(now time.Time) int {
	return calendar.InForce(s.Settings, now, func(s Setting) time.Time { return s.ValidFrom })
}

// ChangesBetween reports whether a setting or a place that was decided ahead of time comes into force between two moments.
func (s *Shop) ChangesBetween(from, to time.Time) bool {
	within := func(t time.Time) bool { return t.After(from) && !t.After(to) }
	for _, one := range s.Settings {
		if within(one.ValidFrom) {
			return true
		}
	}
	for _, p := range s.Places {
		for _, v := range p.Versions {
			if within(v.ValidFrom) {
				return true
			}
		}
	}
	return false
}

// Setting is the shop's hours and caution from a moment on.
type Setting struct {
	ValidFrom  time.Time         `json:"validFrom,omitzero" db:"valid_from"`
	Name       string            `json:"name" db:"name"`
	TimeZone   string            `json:"timeZone" db:"time_zone"`  // IANA
	Margin     float64           `json:"margin" db:"margin"`       // how many times longer waits take than the sheet says; 1 to 3
	Notation   unit.Notation     `json:"notation,omitzero" db:"-"` // how figures are written for its people
	Ways       map[string]string `json:"ways,omitempty" db:"-"`    // the school that is followed where nobody chooses, by topic
	Week       Week              `json:"week" db:"-"`
	Exceptions Exceptions        `json:"exceptions,omitempty" db:"-"` // days with other hours
}

// Week is the hours of each day, Sunday first.
type Week [7][]calendar.Hours

// Whole is a week in which a closed day is an empty list, not none.
func (w Week) Whole() Week {
	for day, hours := range w {
		if hours == nil {
			w[day] = []calendar.Hours{}
		}
	}
	return w
}

// Exceptions are days with other hours than their week has, by day (2026-03-12); no hours is a closed day.
type Exceptions map[string][]calendar.Hours

// Person is one pair of hands.
type Person struct {
	ID   uuid.UUID `json:"id" db:"id"`
	Name string    `json:"name" db:"name"`
	Week *Week     `json:"week,omitempty" db:"-"`        // hours of their own; nil: the shop's
	Left bool      `json:"left,omitempty" db:"has_left"` // they work here no more
}

// Place is somewhere in the shop, as it was from each moment on.
type Place struct {
	ID       uuid.UUID      `json:"id"`
	Versions []PlaceVersion `json:"versions"` // the oldest first
}

// At is the index of the version of a place that holds at a moment.
func (p *Place) At(now time.Time) int {
	return calendar.InForce(p.Versions, now, func(v PlaceVersion) time.Time { return v.ValidFrom })
}

// PlaceKind is what a place is for.
type PlaceKind string

const (
	Bench  PlaceKind = "bench"
	Booth  PlaceKind = "booth"  // where coats are sprayed
	Wheel  PlaceKind = "wheel"  // where films are buffed
	Drying PlaceKind = "drying" // where pieces only hang
)

// PlaceKinds lists them.
var PlaceKinds = []PlaceKind{Bench, Booth, Wheel, Drying}

// PlaceVersion is what a place was like from a moment on.
type PlaceVersion struct {
	ValidFrom  time.Time  `json:"validFrom,omitzero" db:"valid_from"`
	Name       string     `json:"name" db:"name"`
	Kind       PlaceKind  `json:"kind" db:"kind"`
	Capacity   int        `json:"capacity,omitempty" db:"capacity"` // pieces at a time; 0: no limit
	Week       *Week      `json:"week,omitempty" db:"-"`            // hours of its own within the shop's; nil: the shop's
	Exceptions Exceptions `json:"exceptions,omitempty" db:"-"`      // days of its own
	Air        string     `json:"air,omitempty" db:"air"`           // places with the same air share its dust; empty: air of its own
	HangsIn    *uuid.UUID `json:"hangsIn,omitempty" db:"hangs_in"`  // where its pieces hang to dry; nil: there
	Hooks      int        `json:"hooks,omitempty" db:"hooks"`       // pieces that can hang there to dry; 0: no limit
	Profile    *Profile   `json:"profile,omitempty" db:"-"`         // its usual air; nil where nobody has said
}

// Profile is a place's usual air: some hours of the local week, and how each
// month differs.
type Profile struct {
	Knots  []climate.Knot     `json:"knots"`
	Months *[12]climate.Shift `json:"months,omitempty"`
}

// Reading is the air of a place at a moment: measured, or forecast.
type Reading struct {
	ID         uuid.UUID  `json:"id,omitzero" db:"uid"`
	Place      uuid.UUID  `json:"place" db:"place_id"`
	At         time.Time  `json:"at" db:"at"`
	RecordedAt time.Time  `json:"recordedAt,omitzero" db:"recorded_at"`
	Person     *uuid.UUID `json:"person,omitempty" db:"person_id"` // who typed it; nil: a device
	Entered    string     `json:"entered,omitempty" db:"entered"`  // as it was typed
	climate.Air
	Surface  *unit.Celsius `json:"surfaceC,omitempty" db:"surface_c"` // of a piece there
	StruckAt *time.Time    `json:"struckAt,omitempty" db:"struck_at"` // since when it counts no more
	StruckBy *uuid.UUID    `json:"struckBy,omitempty" db:"struck_by"`
}
