package snapshot

import (
	"fmt"
	"maps"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/shop/refuse"
)

func StepIn(in *recipe.Instrument, id uuid.UUID) *job.Step {
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			if in.Pieces[p].Steps[s].ID == id {
				return &in.Pieces[p].Steps[s]
			}
		}
	}
	return nil
}

func RegionNames(in *recipe.Instrument, ids []uuid.UUID) (names []string) {
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			if slices.Contains(ids, z.ID) {
				names = append(names, z.Name)
			}
		}
	}
	return names
}

// FindArchived is an instrument that is put aside; nil where none of this id is.
func (st *State) FindArchived(id uuid.UUID) *recipe.Instrument {
	at := slices.IndexFunc(st.Archive.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return nil
	}
	return &st.Archive.Instruments[at]
}

func (st *State) Product(id uuid.UUID) (material.Material, bool) {
	if made := st.Catalogue.Product(&id); made != nil {
		return *made, true
	}
	return material.Material{}, false
}

// Regions are those that a step is done to, piece by piece in the order in which they stand there.
func (l Located) Regions() []uuid.UUID {
	list, wanted := []uuid.UUID{}, l.Piece().RegionsOf(l.Step())
	for _, p := range l.Instrument().Pieces {
		for _, z := range p.Regions {
			if slices.Contains(wanted, z.ID) {
				list = append(list, z.ID)
			}
		}
	}
	return list
}

// WishOf is what is wanted of an instrument; an empty wish where that is not known.
func WishOf(in *recipe.Instrument) recipe.Wish {
	if in.Wish == nil {
		return recipe.Wish{}
	}
	return *in.Wish
}

func StepOf(in *recipe.Instrument, slot string) uuid.UUID {
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			if s.Slot == slot {
				return s.ID
			}
		}
	}
	return uuid.Nil
}

// DraftOf is an instrument's schedule as the rules of recipes read it.
func (m *Snapshot) DraftOf(in *recipe.Instrument) recipe.Draft { return in.Draft(m.LoggedOf(in)) }

// LoggedOf is what has happened to an instrument so far.
func (m *Snapshot) LoggedOf(in *recipe.Instrument) recipe.Logged {
	l := recipe.Logged{Done: make(map[uuid.UUID]int), Skipped: make(map[uuid.UUID]bool), Spoken: m.Log.Spoken()}
	for _, p := range in.Pieces {
		for i := range p.Steps {
			s := &p.Steps[i]
			most := max(s.Coats, 1)
			if s.Repeat != nil {
				most = max(most, s.Repeat.Most)
			}
			for coat := 1; coat <= most; coat++ {
				if fact, done := m.Facts[job.Event{Step: s.ID, Coat: coat}]; done {
					l.Done[s.ID] = coat
					l.Skipped[s.ID] = l.Skipped[s.ID] || (coat == 1 && fact.Skipped)
				}
			}
		}
	}
	return l
}

func (st *State) Own(id uuid.UUID) (recipe.Own, bool) {
	i := slices.IndexFunc(st.Workshop.Recipes, func(r recipe.Own) bool { return r.ID == id })
	if i < 0 {
		return recipe.Own{}, false
	}
	return st.Workshop.Recipes[i], true
}

// WorksHere refuses who is nobody of this shop.
func (m *Snapshot) WorksHere(person uuid.UUID) error {
	if !slices.ContainsFunc(m.People, func(p settings.Person) bool { return p.ID == person && !p.Left }) {
		return refuse.Field("personId", "must be one of the people who work in this shop", nil)
	}
	return nil
}

// IsOfShop says, of who is named under a field, that it is nobody of this shop; nil where it is somebody, also one who has
// left.
func (st *State) IsOfShop(field string, person uuid.UUID) *refuse.Invalid {
	if slices.ContainsFunc(st.People, func(p settings.Person) bool { return p.ID == person }) {
		return nil
	}
	return refuse.Field(field, "must be one of the people of this shop", person)
}

// Last is the forecast of the instrument at the end of the order.
func (m *Snapshot) Last() schedule.Forecast { return m.Plan.Forecasts[len(m.Plan.Forecasts)-1] }

// With is the same shop with one more instrument at the end of the order.
func (m *Snapshot) With(stored recipe.Instrument) (*Snapshot, error) {
	next := *m.State
	planned, err := workshop.Planned(len(m.Workshop.Instruments), &stored, next.Catalogue)
	if err != nil {
		return nil, err
	}
	if err := planned.Validate(); err != nil {
		return nil, err
	}
	file := *m.Workshop
	file.Instruments = append(slices.Clone(m.Workshop.Instruments), stored)
	next.Workshop = &file
	next.Instruments = append(slices.Clone(m.Instruments), planned)
	next.Steps = maps.Clone(m.Steps)
	next.Place(len(m.Workshop.Instruments))
	input := m.Input
	input.Instruments = next.Instruments
	plan, err := m.Plan.Retime(input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	return &Snapshot{State: &next, Now: m.Now, Input: input, Plan: plan}, nil
}
