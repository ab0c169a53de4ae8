package snapshot

import (
	"fmt"
	"maps"
	"slices"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/workshop"
)

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
