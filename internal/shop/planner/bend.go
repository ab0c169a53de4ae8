package planner

import (
	"maps"
	"slices"
	"time"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/snapshot"
)

// Adopt takes over the plan of a state that was worked out on this desk; nil where it was worked out from other facts.
func (d *Planner) Adopt(st *snapshot.State, now time.Time, plan *schedule.Plan) *snapshot.Snapshot {
	d.mu.Lock()
	defer d.mu.Unlock()
	input := plan.Input()
	if !maps.Equal(input.Facts, st.Facts) || !maps.Equal(input.Pins, st.Derived.Pins) || !slices.Equal(input.Order, st.Derived.Order) {
		return nil
	}
	d.ground, d.shop = st.Settings, input.Shop
	d.last = &snapshot.Snapshot{State: st, Now: now, Input: input, Plan: plan}
	made := *d.last
	return &made
}
