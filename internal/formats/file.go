// Package formats reads and writes the open formats.
//
// The schedule file is a shop, or one instrument of it, as JSON: settings,
// people, places with their air, products, instruments with their steps, the
// order of work, pins and the log. Its schema is published in docs/formats. The
// application exports and imports it without loss, and the plan command reads it: a
// file says all that dates are derived from.
package formats

import (
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/workshop"
)

// Name and Version stand at the head of every schedule file.
const (
	Name    = "umberfrost-schedule"
	Version = 4
)

// File is a schedule file.
type File struct {
	Format  string     `json:"format"`
	Version int        `json:"version"`
	Now     *time.Time `json:"now,omitempty"` // the present it was written in
	workshop.Workshop
	Sittings  []job.Sitting        `json:"sittings,omitempty"` // that were begun
	Log       []job.Entry          `json:"log,omitempty"`
	Factors   map[string]float64   `json:"factors,omitempty"`   // by product id or family: reality against the sheet
	Snapshots []job.ForecastChange `json:"snapshots,omitempty"` // how forecasts moved
}

// Input is what dates are derived from, as the file stands at a moment. It fails
// with *Invalid where the rules of the job refuse something.
func (f *File) Input(now time.Time) (schedule.Input, error) {
	in, err := f.Workshop.Input(now)
	if err != nil {
		return in, invalidOf(err)
	}
	catalogue, err := f.CatalogueAt(now)
	if err != nil {
		return in, invalidOf(err)
	}
	in.Factors = f.Factors
	f.Fold(&in, f.Log, catalogue)
	return in, nil
}

// invalidOf is what the rules of the job refuse, as what is wrong with a file.
func invalidOf(err error) error {
	if wrong := new(workshop.Fault); errors.As(err, &wrong) {
		return invalid(wrong.Path, "%v", wrong.Err)
	}
	return err
}

// Only leaves one instrument in the file, with its log and its part of the order;
// false when it is not there.
func (f *File) Only(id uuid.UUID) bool {
	at := slices.IndexFunc(f.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return false
	}
	f.Instruments = []recipe.Instrument{f.Instruments[at]}
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
	f.Order = slices.DeleteFunc(f.Order, func(e job.Event) bool { return !steps[e.Step] })
	f.Pins = slices.DeleteFunc(f.Pins, func(p job.Pin) bool { return !steps[p.Step] })
	f.Begun = slices.DeleteFunc(f.Begun, func(b job.Begun) bool { return !steps[b.Step] })
	f.Log = slices.DeleteFunc(f.Log, func(e job.Entry) bool { return e.Instrument != id })
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
		f.Sittings[i].Events = slices.DeleteFunc(f.Sittings[i].Events, func(e job.Event) bool { return !steps[e.Step] })
	}
	f.Snapshots = slices.DeleteFunc(f.Snapshots, func(s job.ForecastChange) bool { return s.Instrument != id })
	f.Products = slices.DeleteFunc(f.Products, func(p material.Product) bool { return !products[p.ID] })
	f.Recipes = slices.DeleteFunc(f.Recipes, func(r recipe.Own) bool { return !f.Instruments[0].Uses(r.ID) })
	return true
}
