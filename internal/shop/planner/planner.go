package planner

import (
	"fmt"
	"maps"
	"slices"
	"sync"
	"time"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/snapshot"
)

// Planner is what one plan at a time is worked out on: a schedule.Shop keeps what it has
// learned of hours and clocks, which makes the next plan quick, and serves one goroutine at a time.
type Planner struct {
	mu       sync.Mutex
	settings *snapshot.Settings // that the Shop is laid out for
	shop     *schedule.Shop
	last     *snapshot.Snapshot
}

// Date works out the dates of a state at a minute: from what changed since the last plan
// on this planner, where that is on the same settings.
func (d *Planner) Date(st *snapshot.State, now time.Time) (*snapshot.Snapshot, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.last != nil && d.last.State == st && d.last.Now.Equal(now) {
		again := *d.last
		return &again, nil
	}
	if d.settings != st.Settings {
		d.settings, d.shop, d.last = st.Settings, st.Shop.Twin(), nil
	}
	input := st.Derived
	input.Now, input.Shop = now, d.shop
	retime := schedule.Retime
	if d.last != nil {
		retime = d.last.Plan.Retime
	}
	plan, err := retime(input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	d.last = &snapshot.Snapshot{State: st, Now: now, Input: input, Plan: plan}
	made := *d.last
	return &made, nil
}

// knows is the revision that was last dated here.
func (d *Planner) knows() int64 {
	if d.last == nil {
		return 0
	}
	return d.last.Revision
}

// Adopt takes over the plan of a state that was worked out on this planner; nil where it was worked out from other facts.
func (d *Planner) Adopt(st *snapshot.State, now time.Time, plan *schedule.Plan) *snapshot.Snapshot {
	d.mu.Lock()
	defer d.mu.Unlock()
	input := plan.Input()
	if !maps.Equal(input.Facts, st.Facts) || !maps.Equal(input.Pins, st.Derived.Pins) || !slices.Equal(input.Order, st.Derived.Order) {
		return nil
	}
	d.settings, d.shop = st.Settings, input.Shop
	d.last = &snapshot.Snapshot{State: st, Now: now, Input: input, Plan: plan}
	made := *d.last
	return &made
}
