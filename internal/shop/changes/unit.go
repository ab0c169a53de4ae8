package changes

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/planner"
	"umberfrost/internal/shop/refuse"
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

// Once lets what a device sends under an id of its own be kept once. Sent again, as after a lost answer, it changes
// nothing (errKept); something else under the same id is refused (*Taken), for one of the two would be lost. What comes
// from inside without an id is kept each time.
func (w *Unit) Once(ctx context.Context, operation string, id uuid.UUID, asked any, now time.Time) error {
	if id == uuid.Nil {
		return nil
	}
	again, err := w.Tx.Once(ctx, operation, id, asked, now)
	switch {
	case errors.Is(err, store.ErrOther):
		return &refuse.Taken{Message: "something else was kept under this id before; what is new needs an id of its own"}
	case err == nil && again:
		return ErrKept
	}
	return err
}

// Named says which name of a file is taken in this shop by something else.
func Named(err error, list, name string) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, store.ErrConflict):
		return &refuse.Taken{Message: fmt.Sprintf("%s: %q, or its id, belongs to something else in this shop; rename it in the file or "+
			"here", list, name)}
	}
	return fmt.Errorf("importing %s, %q: %w", list, name, err)
}

// NotKept says what somebody else has taken or changed in the meantime.
func NotKept(err error) error {
	wrong := new(store.Unkept)
	if !errors.As(err, &wrong) || !errors.Is(err, store.ErrConflict) {
		return err
	}
	if wrong.List == "instruments" {
		return &refuse.Taken{Message: fmt.Sprintf("somebody else has changed %s in the meantime", wrong.Name)}
	}
	return Named(err, wrong.List, wrong.Name)
}

// Decide plans what is decided otherwise, and keeps it.
func (w *Unit) Decide(ctx context.Context, b *Set) error {
	b.succeed()
	answer, err := b.Answer()
	if err != nil {
		return err
	}
	w.Changes = b
	if !answer.Kept { // else its dates are today's, in a shop that is another
		w.plan = answer.After
	}
	return w.Finish(ctx)
}

// Finish writes what differs from the shop as it was, and works out the shop as it is after this change. It fails with
// *Taken where somebody else has taken or changed the same.
func (w *Unit) Finish(ctx context.Context) error { return NotKept(w.Write(ctx)) }

// Write is Finish with the errors of the store as they are.
func (w *Unit) Write(ctx context.Context) error {
	same := *w.Before.State
	same.Revision = w.Revision
	next, exact := &same, true
	if b := w.Changes; b != nil {
		b.succeed()
		var err error
		if exact, err = w.Tx.Keep(ctx, next.Workshop.With(next.Archive), b.Workshop.With(b.archive)); err != nil {
			return err
		}
		if next, err = next.Changed(w.Revision, b.Workshop, b.archive, w.Before.Now); err != nil {
			return refused(err)
		}
	}
	if w.log != nil {
		if err := w.keepStanding(ctx); err != nil {
			return err
		}
		next = next.Logged(w.Revision, w.log, w.touched)
	}
	if !exact {
		return w.Reread(ctx)
	}
	if w.plan != nil && w.log == nil {
		if w.After = w.Planner.Adopt(next, w.Before.Now, w.plan); w.After != nil {
			return nil
		}
	}
	return w.Dated(next)
}

// keepStanding writes which entries complete their events now.
func (w *Unit) keepStanding(ctx context.Context) error {
	seen := make(map[job.Event]bool)
	var complete []job.Entry
	for _, event := range w.touched {
		was, is := w.Before.Log.Standing(event), w.log.Standing(event)
		if seen[event] || was == is || (was != nil && is != nil && was.ID == is.ID) {
			continue
		}
		seen[event] = true
		if was != nil {
			if err := w.Uncomplete(ctx, was.ID); err != nil {
				return err
			}
		}
		if is != nil {
			complete = append(complete, *is)
		}
	}
	return w.Complete(ctx, complete...)
}
