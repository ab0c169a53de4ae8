package shop

import (
	"cmp"
	"context"
	"errors"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Log records an entry. It fails with *Invalid when it is malformed, *Doubtful
// when a live entry looks wrong and was not confirmed, and *Taken when another
// entry was first; nothing is kept then.
func (s Recorder) Log(ctx context.Context, in changes.Entry) (changes.Logged, error) {
	var logged changes.Logged
	err := s.onShop(ctx, func(w *changes.Unit) error {
		known := w.Once(ctx, "entry", in.ID, in.Content(), s.clock())
		if other := new(refuse.Taken); known != nil && !errors.Is(known, changes.ErrKept) && !errors.As(known, &other) {
			return known
		}
		kept, err := w.Entry(ctx, in.ID)
		switch {
		case err == nil:
			if logged, err = changes.Again(w.Before, in, kept); err == nil {
				err = cmp.Or(known, changes.ErrKept)
			}
			return err
		case !errors.Is(err, store.ErrNotFound):
			return err
		case known != nil:
			return known
		}
		if err := w.Unarchive(ctx, in); err != nil {
			return err
		}
		if logged, err = w.Record(ctx, in, s.clock()); err == nil && in.Kind == job.Done && !in.Late {
			logged.Timers = views.TimersAfter(w.After, schedule.Event{Step: in.StepID, Coat: in.Coat})
		}
		return err
	})
	if errors.Is(err, store.ErrConflict) {
		err = &refuse.Taken{Message: "this device has already sent another entry with the same number; reload the page"}
	}
	if err != nil && !errors.Is(err, changes.ErrKept) {
		return changes.Logged{}, err
	}
	return logged, nil
}
