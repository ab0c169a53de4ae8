package changes

import (
	"context"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/planner"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// Unit is a change under way.
type Unit struct {
	*store.Tx
	Planner *planner.Planner
	Before  *snapshot.Snapshot // the shop as it was
	After   *snapshot.Snapshot // as it is when this is kept; nil where nobody has worked that out
	log     *job.Fold          // what the log comes to with what was entered; nil where nothing was
	touched []job.Event        // for which another entry, or none, may stand by it
	Changes *Set               // what is decided otherwise; nil where nothing is
	plan    *schedule.Plan     // of the shop with the changes, where it was worked out to answer
}

// Dated works out the shop as it is after this change.
func (w *Unit) Dated(st *snapshot.State) error {
	var err error
	w.After, err = w.Planner.Date(st, w.Before.Now)
	return err
}

// Reread is the shop after a change that is in the database but not in memory.
func (w *Unit) Reread(ctx context.Context) error {
	st, err := snapshot.Load(ctx, w.Tx, w.Before.Now, w.Before.State)
	if err != nil {
		return err
	}
	return w.Dated(st)
}
