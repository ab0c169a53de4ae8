package formats

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/wood"
)

func newChecker() checker {
	return checker{ids: make(map[uuid.UUID]string), steps: make(map[uuid.UUID]*job.Step), instruments: make(map[uuid.UUID]bool)}
}

func (c *checker) all(f *File) {
	for i, p := range f.Shop.People {
		c.id(fmt.Sprintf("/shop/people/%d/id", i), p.ID)
	}
	for i, p := range f.Shop.Places {
		c.id(fmt.Sprintf("/shop/places/%d/id", i), p.ID)
	}
	for i, p := range f.Products {
		path := fmt.Sprintf("/products/%d", i)
		c.id(path+"/id", p.ID)
		if _, err := material.FindFamily(p.Family); err != nil {
			c.fault(path+"/family", "%v", err)
		}
	}
	for i, r := range f.Recipes {
		path := fmt.Sprintf("/recipes/%d", i)
		c.id(path+"/id", r.ID)
		for _, wrong := range r.Check() {
			c.fault(path+"/"+wrong.Path, "%s", wrong.Message)
		}
	}
	for i := range f.Instruments {
		c.instrument(fmt.Sprintf("/instruments/%d", i), &f.Instruments[i])
	}
	for i, r := range f.Shop.Readings {
		path := fmt.Sprintf("/shop/readings/%d", i)
		c.known(path+"/place", &r.Place)
		c.known(path+"/struckBy", r.StruckBy)
		if err := r.Check(); err != nil {
			c.fault(path, "%v", err)
		}
	}
	c.events(f)
	for i, one := range f.Sittings {
		path := fmt.Sprintf("/sittings/%d", i)
		c.id(path+"/id", one.ID)
		c.known(path+"/place", one.Place)
		c.known(path+"/person", &one.Person)
	}
	for i := range f.Log {
		c.entry(fmt.Sprintf("/log/%d", i), &f.Log[i])
	}
}

// plannable reports whether every instrument can be planned.
func (f *File) plannable() error {
	at := time.Unix(0, 0)
	if f.Now != nil {
		at = *f.Now
	}
	in, err := f.Input(at)
	if err != nil {
		return err
	}
	for i, instrument := range in.Instruments {
		if err := instrument.Validate(); err != nil {
			return invalid(fmt.Sprintf("/instruments/%d", i), "%v", err)
		}
	}
	return nil
}

// checker looks at what a schema cannot: that ids name something, that woods and families are known.
type checker struct {
	faults      []Fault
	ids         map[uuid.UUID]string // where each was first seen
	steps       map[uuid.UUID]*job.Step
	instruments map[uuid.UUID]bool
}

func (c *checker) fault(path, format string, args ...any) {
	if len(c.faults) < mostFaults {
		c.faults = append(c.faults, Fault{path, fmt.Sprintf(format, args...)})
	}
}

func (c *checker) id(path string, id uuid.UUID) {
	if first, twice := c.ids[id]; twice {
		c.fault(path, "the id %s is used already, at %s", id, first)
		return
	}
	c.ids[id] = path
}

func (c *checker) known(path string, id *uuid.UUID) {
	if id != nil && c.ids[*id] == "" {
		c.fault(path, "there is nothing with the id %s in this file", *id)
	}
}

func (c *checker) instrument(path string, in *recipe.Instrument) {
	c.id(path+"/id", in.ID)
	c.instruments[in.ID] = true
	for p := range in.Pieces {
		piece, at := &in.Pieces[p], fmt.Sprintf("%s/pieces/%d", path, p)
		c.id(at+"/id", piece.ID)
		for z, region := range piece.Regions {
			c.id(fmt.Sprintf("%s/regions/%d/id", at, z), region.ID)
			if _, err := wood.Find(region.Wood); region.Wood != "" && err != nil {
				c.fault(fmt.Sprintf("%s/regions/%d/wood", at, z), "%v", err)
			}
		}
		for s := range piece.Steps {
			step := &piece.Steps[s]
			c.id(fmt.Sprintf("%s/steps/%d/id", at, s), step.ID)
			c.steps[step.ID] = step
		}
	}
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			c.step(fmt.Sprintf("%s/pieces/%d/steps/%d", path, p, s), &in.Pieces[p].Steps[s])
		}
	}
}

func (c *checker) step(path string, step *job.Step) {
	if _, err := material.FindFamily(step.Family); step.Family != "" && err != nil {
		c.fault(path+"/family", "%v", err)
	}
	c.known(path+"/product", step.Product)
	c.known(path+"/place", step.Place)
	for i := range step.Regions {
		c.known(fmt.Sprintf("%s/regions/%d", path, i), &step.Regions[i])
	}
	for i := range step.After {
		c.known(fmt.Sprintf("%s/after/%d", path, i), &step.After[i])
	}
}

func (c *checker) events(f *File) {
	for i, e := range f.Order {
		c.event(fmt.Sprintf("/order/%d", i), e)
	}
	for i, p := range f.Pins {
		c.event(fmt.Sprintf("/pins/%d", i), p.Event)
	}
	for i, b := range f.Begun {
		c.event(fmt.Sprintf("/begun/%d", i), b.Event)
	}
}

func (c *checker) event(path string, e job.Event) {
	if c.steps[e.Step] == nil {
		c.fault(path+"/step", "there is no step with the id %s in this file", e.Step)
	}
}

func (c *checker) entry(path string, e *job.Entry) {
	c.id(path+"/id", e.ID)
	if !c.instruments[e.Instrument] {
		c.fault(path+"/instrument", "there is no instrument with the id %s in this file", e.Instrument)
	}
	if e.Person != uuid.Nil {
		c.known(path+"/person", &e.Person)
	}
	c.known(path+"/sitting", e.Sitting)
	if a := e.Actual; a != nil {
		for _, id := range a.With {
			c.known(path+"/actual/with", &id)
		}
		c.known(path+"/actual/place", a.Place)
		c.known(path+"/actual/product", a.Product)
	}
	for _, field := range e.Lacks() {
		c.fault(path+"/"+field, "an entry of this kind needs it")
	}
	if e.Kind == job.Moved {
		c.known(path+"/piece", e.Piece)
		c.known(path+"/place", e.Place)
	}
	if e.Step != nil && e.Kind != job.Void && e.Kind != job.Stopped && e.Kind != job.Note {
		c.event(path, job.Event{Step: *e.Step})
	}
}
