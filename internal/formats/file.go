// Package formats reads and writes the open formats.
//
// The schedule file is a shop, or one instrument of it, as JSON: settings,
// people, places with their air, products, instruments with their steps, the
// order of work, pins and the log. Its schema is published in docs/formats. The
// application exports and imports it without loss, and the plan command reads it: a
// file says all that dates are derived from.
package formats

import (
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// Name and Version stand at the head of every schedule file.
const (
	Name    = "umberfrost-schedule"
	Version = 4
)

// File is a schedule file.
type File struct {
	Format      string             `json:"format"`
	Version     int                `json:"version"`
	Now         *time.Time         `json:"now,omitempty"` // the present it was written in
	Shop        Shop               `json:"shop"`
	Products    []Product          `json:"products,omitempty"`
	Recipes     []recipe.Own       `json:"recipes,omitempty"` // of the shop's own
	Instruments []Instrument       `json:"instruments"`
	Order       []Event            `json:"order,omitempty"`
	Pins        []Pin              `json:"pins,omitempty"`
	Begun       []Begun            `json:"begun,omitempty"`
	Sittings    []job.Sitting      `json:"sittings,omitempty"` // that were begun
	Log         []Entry            `json:"log,omitempty"`
	Factors     map[string]float64 `json:"factors,omitempty"` // by product id or family: reality against the sheet
	Snapshots   []Snapshot         `json:"snapshots,omitempty"`
}

// Shop is what a shop has decided about itself.
type Shop struct {
	Settings []Setting `json:"settings"` // each from its day on
	People   []Person  `json:"people"`
	Places   []Place   `json:"places,omitempty"`
	Readings []Reading `json:"readings,omitempty"`
}

// Setting is the shop's hours and caution from a moment on.
type Setting struct {
	ValidFrom  time.Time                   `json:"validFrom,omitzero"`
	Name       string                      `json:"name"`
	TimeZone   string                      `json:"timeZone"` // IANA
	Margin     float64                     `json:"margin"`
	Notation   unit.Notation               `json:"notation,omitzero"` // how figures are written for its people
	Ways       map[string]string           `json:"ways,omitempty"`    // the school that is followed where nobody chooses, by topic
	Week       Week                        `json:"week"`
	Exceptions map[string][]calendar.Hours `json:"exceptions,omitempty"` // by day; no hours is a closed day
}

// Week is the hours of each day, Sunday first.
type Week [7][]calendar.Hours

// Person is one pair of hands.
type Person struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
	Week *Week     `json:"week,omitempty"` // hours of their own
	Left bool      `json:"left,omitempty"` // they work here no more
}

// Place is somewhere in the shop, as it was from each moment on.
type Place struct {
	ID       uuid.UUID      `json:"id"`
	Versions []PlaceVersion `json:"versions"`
}

// PlaceVersion is what a place was like from a moment on.
type PlaceVersion struct {
	ValidFrom  time.Time                   `json:"validFrom,omitzero"`
	Name       string                      `json:"name"`
	Kind       schedule.PlaceKind          `json:"kind"`
	Capacity   int                         `json:"capacity,omitempty"` // pieces at a time; 0: no limit
	Week       *Week                       `json:"week,omitempty"`
	Exceptions map[string][]calendar.Hours `json:"exceptions,omitempty"`
	Air        string                      `json:"air,omitempty"`
	HangsIn    *uuid.UUID                  `json:"hangsIn,omitempty"`
	Hooks      int                         `json:"hooks,omitempty"`
	Profile    *Profile                    `json:"profile,omitempty"`
}

// Profile is a place's usual air: some hours of the local week, and how each
// month differs.
type Profile struct {
	Knots  []climate.Knot     `json:"knots"`
	Months *[12]climate.Shift `json:"months,omitempty"`
}

// Reading is the air of a place at a moment: measured, or forecast.
type Reading struct {
	ID         uuid.UUID  `json:"id,omitzero"`
	Place      uuid.UUID  `json:"place"`
	At         time.Time  `json:"at"`
	RecordedAt time.Time  `json:"recordedAt,omitzero"`
	Person     *uuid.UUID `json:"person,omitempty"` // who typed it; absent: a device
	Entered    string     `json:"entered,omitempty"`
	climate.Air
	Surface  *unit.Celsius `json:"surfaceC,omitempty"`
	StruckAt *time.Time    `json:"struckAt,omitempty"` // since when it counts no more
	StruckBy *uuid.UUID    `json:"struckBy,omitempty"`
}

// Product is a named material with its data sheets.
type Product struct {
	ID       uuid.UUID `json:"id"`
	Name     string    `json:"name"`
	Family   string    `json:"family"`
	Versions []Sheet   `json:"versions"`
}

// Sheet is a data sheet from a moment on.
type Sheet struct {
	ValidFrom time.Time       `json:"validFrom,omitzero"`
	Sheet     json.RawMessage `json:"sheet"`
}

// An instrument with its parts and its log are those of the model.
type (
	Instrument = recipe.Instrument
	Piece      = job.Piece
	Size       = job.Size
	Region     = job.Region
	Step       = job.Step
	Event      = job.Event
	Entry      = job.Entry
)

// Pin fixes an event to a time.
type Pin struct {
	Event
	At     time.Time  `json:"at"`
	Person *uuid.UUID `json:"person,omitempty"`
	MadeAt time.Time  `json:"madeAt,omitzero"`
}

// Begun is an event that somebody is at.
type Begun struct {
	Event
	At time.Time `json:"at"`
}

// Snapshot is what a change did to a forecast.
type Snapshot struct {
	Revision     int64      `json:"revision"`
	At           time.Time  `json:"at"`
	Cause        string     `json:"cause"`
	Entry        *uuid.UUID `json:"entry,omitempty"`
	Instrument   uuid.UUID  `json:"instrument"`
	FinishBefore *time.Time `json:"finishBefore,omitempty"`
	FinishAfter  *time.Time `json:"finishAfter,omitempty"`
	PlannedStart *time.Time `json:"plannedStart,omitempty"`
	Told         bool       `json:"told,omitempty"` // it stands in the history of the date, also where that did not move
}

// Clone is a copy whose decisions (settings, people, places, steps, order, pins)
// can be changed without changing this file; readings, products and the log are shared.
func (f *File) Clone() *File {
	c := *f
	c.Shop.Settings, c.Shop.People = slices.Clone(f.Shop.Settings), slices.Clone(f.Shop.People)
	c.Shop.Places = slices.Clone(f.Shop.Places)
	for i := range c.Shop.Places {
		c.Shop.Places[i].Versions = slices.Clone(c.Shop.Places[i].Versions)
	}
	c.Instruments = slices.Clone(f.Instruments)
	for i := range c.Instruments {
		pieces := slices.Clone(c.Instruments[i].Pieces)
		for p := range pieces {
			pieces[p].Steps = slices.Clone(pieces[p].Steps)
		}
		c.Instruments[i].Pieces = pieces
	}
	c.Order, c.Pins = slices.Clone(f.Order), slices.Clone(f.Pins)
	return &c
}

// PutAside takes the instruments that are archived out of the file, with their part of the order of work, and
// returns them.
func (f *File) PutAside() []Instrument {
	var aside, active []Instrument
	steps := make(map[uuid.UUID]bool)
	for _, in := range f.Instruments {
		if in.Archived == nil {
			active = append(active, in)
			continue
		}
		aside = append(aside, in)
		for _, piece := range in.Pieces {
			for _, step := range piece.Steps {
				steps[step.ID] = true
			}
		}
	}
	if len(aside) == 0 {
		return nil
	}
	f.Instruments = append([]Instrument{}, active...)
	f.Order = slices.DeleteFunc(slices.Clone(f.Order), func(e Event) bool { return steps[e.Step] })
	f.Pins = slices.DeleteFunc(slices.Clone(f.Pins), func(p Pin) bool { return steps[p.Step] })
	f.Begun = slices.DeleteFunc(slices.Clone(f.Begun), func(b Begun) bool { return steps[b.Step] })
	return aside
}

// Only leaves one instrument in the file, with its log and its part of the order;
// false when it is not there.
func (f *File) Only(id uuid.UUID) bool {
	at := slices.IndexFunc(f.Instruments, func(in Instrument) bool { return in.ID == id })
	if at < 0 {
		return false
	}
	f.Instruments = []Instrument{f.Instruments[at]}
	steps := make(map[uuid.UUID]bool)
	products := make(map[uuid.UUID]bool)
	for _, piece := range f.Instruments[0].Pieces {
		for _, step := range piece.Steps {
			steps[step.ID] = true
			if step.Product != nil {
				products[*step.Product] = true
			}
		}
	}
	f.Order = slices.DeleteFunc(f.Order, func(e Event) bool { return !steps[e.Step] })
	f.Pins = slices.DeleteFunc(f.Pins, func(p Pin) bool { return !steps[p.Step] })
	f.Begun = slices.DeleteFunc(f.Begun, func(b Begun) bool { return !steps[b.Step] })
	f.Log = slices.DeleteFunc(f.Log, func(e Entry) bool { return e.Instrument != id })
	sittings := make(map[uuid.UUID]bool)
	for _, e := range f.Log {
		if e.Sitting != nil {
			sittings[*e.Sitting] = true
		}
		if e.Actual != nil && e.Actual.Product != nil {
			products[*e.Actual.Product] = true
		}
	}
	f.Sittings = slices.DeleteFunc(f.Sittings, func(one job.Sitting) bool { return !sittings[one.ID] })
	for i := range f.Sittings { // what was done to other instruments in it is theirs
		f.Sittings[i].Events = slices.DeleteFunc(f.Sittings[i].Events, func(e Event) bool { return !steps[e.Step] })
	}
	f.Snapshots = slices.DeleteFunc(f.Snapshots, func(s Snapshot) bool { return s.Instrument != id })
	f.Products = slices.DeleteFunc(f.Products, func(p Product) bool { return !products[p.ID] })
	f.Recipes = slices.DeleteFunc(f.Recipes, func(r recipe.Own) bool { return !f.Instruments[0].Uses(r.ID) })
	return true
}
