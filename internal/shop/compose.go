package shop

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// Keep saves a new instrument at the end of the order of work. Keeping the same
// once more returns what was kept the first time; something else under its id is *Taken.
func (s Decider) Keep(ctx context.Context, in changes.NewInstrument) (views.InstrumentView, error) {
	err := s.onShop(ctx, func(w *changes.Unit) error {
		if err := w.Once(ctx, "instrument", in.ID, in, s.clock()); err != nil {
			if taken := new(refuse.Taken); errors.As(err, &taken) {
				taken.Message = "it was kept already, as it was before you changed it: open it under Instruments, and change it there"
			}
			return err
		}
		for _, other := range w.Before.Workshop.Instruments {
			if other.ID == in.ID {
				return changes.ErrKept
			}
		}
		stored, _, err := changes.Compose(w.Before, in, changes.Keeping)
		if err != nil {
			return err
		}
		stored, after, err := views.Promised(w.Before, stored, in.Promise == "")
		if err != nil {
			return err
		}
		if in.Promise == "" && after.Last().Impossible != "" {
			return refuse.Field("promise", "name a day: it cannot be said when it can be ready, because "+after.Last().Impossible,
				in.Promise)
		}
		stored.CreatedAt = s.clock()
		b, err := changes.NewSet(w.Before, nil, uuid.Nil)
		if err != nil {
			return err
		}
		b.Add(stored)
		w.Changes = b
		if err := w.Finish(ctx); err != nil {
			return err
		}
		return w.RecordHistory(ctx, "planned "+stored.Name, nil)
	})
	if err != nil && !errors.Is(err, changes.ErrKept) {
		return views.InstrumentView{}, err
	}
	return Reader(s).Instrument(ctx, in.ID)
}
