package changes

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// voidKind strikes another entry.
type voidKind struct{}

func (voidKind) fields() []string { return []string{"voids", "caughtUp"} }

func (voidKind) check(*entryCheck) {}

func (voidKind) gone(ctx context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	_, err := voidable(ctx, w.Tx, in.Voids)
	return goneEarlier(ctx, w, in, in.Voids, err)
}

// goneEarlier reports whether an earlier entry is gone that another is about, or judged to be over already.
func goneEarlier(ctx context.Context, w *Unit, in Entry, earlier uuid.UUID, judged error) (bool, uuid.UUID, error) {
	known, err := w.Entry(ctx, earlier)
	if errors.Is(err, store.ErrNotFound) {
		return goneFrom(w, in)
	}
	if err != nil {
		return false, uuid.Nil, err
	}
	over, err := isOver(judged)
	return over, known.Instrument, err
}

func (voidKind) record(ctx context.Context, w *Unit, r *recording) (err error) {
	r.voided, err = w.void(ctx, r.in, r.entry)
	return err
}

// follow takes back what a struck check had asked for.
func (voidKind) follow(w *Unit, r *recording) error {
	if r.voided.Kind == job.Failed {
		return w.forgetAsked(r.voided)
	}
	return nil
}

func (voidKind) title(*snapshot.Snapshot, *job.Entry) string { return "an entry struck" }

func (voidKind) line(*snapshot.Snapshot, *job.Entry, string) string { return "Struck an entry" }
