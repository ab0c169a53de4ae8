package shop

import (
	"context"
	"errors"

	"umberfrost/internal/store"
)

// Bench is what a device keeps to go on with when it cannot reach the shop: the rack, and the sheets of what is
// due on it.
type Bench struct {
	Rack   Rack    `json:"rack"`
	Sheets []Sheet `json:"sheets" doc:"of today's work and of what each piece on the rail waits for"`
}

// Bench is the rack with its sheets.
func (s *Service) Bench(ctx context.Context) (Bench, error) {
	rack, err := s.Rack(ctx)
	if err != nil {
		return Bench{}, err
	}
	bench := Bench{Rack: rack, Sheets: []Sheet{}}
	err = s.look(ctx, func(m *moment) error {
		seen := make(map[EventRef]bool)
		var events []EventRef
		for _, sitting := range rack.Next {
			events = append(events, sitting.Event)
		}
		for _, tag := range rack.Tags {
			events = append(events, tag.Event)
		}
		for _, e := range events {
			if seen[e] {
				continue
			}
			seen[e] = true
			sheet, err := m.sheet(e.StepID, e.Coat)
			if errors.Is(err, store.ErrNotFound) {
				continue // the rack was made a moment ago
			}
			if err != nil {
				return err
			}
			bench.Sheets = append(bench.Sheets, sheet)
		}
		return nil
	})
	return bench, err
}
