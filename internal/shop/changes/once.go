package changes

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/store"
)

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
