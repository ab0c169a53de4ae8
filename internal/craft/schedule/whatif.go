package schedule

import (
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
)

// Change is one thing that could be otherwise.
type Change func(*Input) error

// Difference is what a change does to one instrument.
type Difference struct {
	Instrument    uuid.UUID
	Name          string
	Before, After Forecast
	Days          int // whole local days later; negative is earlier
	Moved         int // events that would be at another time
}

// Answer is a what-if beside today's plan; nothing has been changed.
type Answer struct {
	Before, After *Plan
	Differences   []Difference // of every instrument that differs
	Kept          bool         // today's dates stand: the changed shop's own would have been worse, and today's remain possible
}

// WhatIf plans the input with changes beside today's plan. Changes that only
// widen what is allowed (wider says so: another pair of hands, a wider booth, a longer
// window) are never worse: where the order of work, served greedily, would come out
// worse in the wider shop, today's dates, which it still allows, are the answer.
func WhatIf(in Input, wider bool, changes ...Change) (Answer, error) {
	before, err := Retime(in)
	if err != nil {
		return Answer{}, err
	}
	in.Instruments = slices.Clone(in.Instruments)
	for _, change := range changes {
		if err := change(&in); err != nil {
			return Answer{}, err
		}
	}
	after, err := Retime(in)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Before: before, After: after}
	if wider && after.Aims().Compare(before.Aims()) > 0 {
		a.After, a.Kept = before, true
	}
	a.Differences = Differences(before, a.After)
	return a, nil
}

// Differences is what another plan does to each instrument that differs.
func Differences(before, after *Plan) []Difference {
	moved := make(map[uuid.UUID]int)
	for _, e := range after.Events {
		if old, there := before.Find(e.Event); !there || !old.Start.Equal(e.Start) || !old.End.Equal(e.End) {
			moved[e.Instrument]++
		}
	}
	was := make(map[uuid.UUID]Forecast)
	for _, f := range before.Forecasts {
		was[f.Instrument] = f
	}
	var list []Difference
	for i, f := range after.Forecasts {
		old := was[f.Instrument]
		if moved[f.Instrument] == 0 && old.Finish.Equal(f.Finish) {
			continue
		}
		d := Difference{Instrument: f.Instrument, Name: after.r.in.Instruments[i].Name, Before: old, After: f, Moved: moved[f.Instrument]}
		if !old.Finish.IsZero() && !f.Finish.IsZero() {
			d.Days = daysBetween(DayOf(old.Finish.In(after.Zone)), DayOf(f.Finish.In(after.Zone)))
		}
		list = append(list, d)
	}
	return list
}

// InShop changes what the shop has decided about itself.
func InShop(change func(*Setting)) Change {
	return func(in *Input) error {
		setting := in.Shop.Setting
		setting.People, setting.Places = slices.Clone(setting.People), slices.Clone(setting.Places)
		change(&setting)
		shop, err := NewShop(setting)
		if err == nil {
			in.Shop = shop
		}
		return err
	}
}

// OneMorePerson adds a pair of hands with the shop's hours.
func OneMorePerson() Change {
	return InShop(func(s *Setting) { s.People = append(s.People, Person{Name: "one more"}) })
}

// AtStep changes one step.
func AtStep(id uuid.UUID, change func(*Step)) Change {
	return func(in *Input) error {
		for i := range in.Instruments {
			for p := range in.Instruments[i].Pieces {
				steps := in.Instruments[i].Pieces[p].Steps
				at := slices.IndexFunc(steps, func(s Step) bool { return s.ID == id })
				if at < 0 {
					continue
				}
				steps = slices.Clone(steps)
				change(&steps[at])
				in.Instruments[i].Pieces = slices.Clone(in.Instruments[i].Pieces)
				in.Instruments[i].Pieces[p].Steps = steps
				return in.Instruments[i].Validate()
			}
		}
		return fmt.Errorf("there is no step %s", id)
	}
}

// MoreCoats adds coats to a step; fewer when n is negative.
func MoreCoats(id uuid.UUID, n int) Change {
	return AtStep(id, func(s *Step) { s.Coats += n })
}

// AnotherMaterial puts a step on with another material.
func AnotherMaterial(id uuid.UUID, m *material.Material) Change {
	return AtStep(id, func(s *Step) { s.Material = m })
}

// NotBefore lets an instrument's next work wait until a moment.
func NotBefore(instrument uuid.UUID, at time.Time) Change {
	return func(in *Input) error {
		for i := range in.Instruments {
			if in.Instruments[i].ID != instrument {
				continue
			}
			pieces := slices.Clone(in.Instruments[i].Pieces)
			for p := range pieces {
				if err := pieces[p].hold(in, at); err != nil {
					return err
				}
			}
			in.Instruments[i].Pieces = pieces
			return nil
		}
		return fmt.Errorf("there is no instrument %s", instrument)
	}
}

// hold puts a gate before the first step of a piece that is not begun, which
// opens on a day.
func (p *Piece) hold(in *Input, at time.Time) error {
	for s, step := range p.Steps {
		if _, begun := in.Facts[Event{step.ID, 1}]; begun {
			continue
		}
		gate := Step{ID: uuid.NewSHA1(step.ID, []byte("not before")), Slot: "not-before", Piece: p.ID, Zones: step.Zones, Kind: Gate,
			Title: "Not begun before then", Coats: 1}
		gate.Arrival = &Arrival{Expected: DayOf(at.In(in.Shop.Calendar.zone))}
		p.Steps = slices.Insert(slices.Clone(p.Steps), s, gate)
		return nil
	}
	return nil
}

// Redo lets a coat that is done be done again.
func Redo(event Event) Change {
	return func(in *Input) error {
		if _, done := in.Facts[event]; !done {
			return fmt.Errorf("only what is done can be done again")
		}
		return AtStep(event.Step, func(s *Step) { s.Coats++ })(in)
	}
}
