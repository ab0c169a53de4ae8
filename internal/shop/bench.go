package shop

import (
	"context"
	"errors"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Bench is what a device keeps to go on with when it cannot reach the shop: the rack, and the sheets of what is
// due on it, the timers that run and the sittings that are under way.
type Bench struct {
	Rack     views.Rack          `json:"rack"`
	Sheets   []views.Sheet       `json:"sheets" doc:"of today's work and of what each piece on the rail waits for"`
	Timers   []views.TimerView   `json:"timers"`
	Sittings []views.SittingView `json:"sittings" doc:"that are under way"`
}

// Bench is the rack with its sheets.
func (s Reader) Bench(ctx context.Context) (Bench, error) {
	rack, err := s.Rack(ctx)
	if err != nil {
		return Bench{}, err
	}
	timers, err := s.Timers(ctx)
	if err != nil {
		return Bench{}, err
	}
	open, err := s.openSittings(ctx)
	if err != nil {
		return Bench{}, err
	}
	bench := Bench{Rack: rack, Sheets: []views.Sheet{}, Timers: timers, Sittings: []views.SittingView{}}
	err = s.look(ctx, func(m *snapshot.Snapshot) error {
		for _, one := range open {
			view, err := views.SittingOf(m, one)
			if err != nil {
				return err
			}
			bench.Sittings = append(bench.Sittings, view)
		}
		seen := make(map[changes.EventRef]bool)
		var events []changes.EventRef
		for _, due := range rack.Next {
			events = append(events, due.Event)
		}
		for _, tag := range rack.Tags {
			events = append(events, tag.Event)
		}
		for _, e := range events {
			if seen[e] {
				continue
			}
			seen[e] = true
			sheet, err := views.SheetOf(m, e.StepID, e.Coat)
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
