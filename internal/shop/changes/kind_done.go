package changes

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
)

// doneKind is work that was done.
type doneKind struct{ nothingFollows }

func (doneKind) fields() []string {
	return []string{"stepId", "coat", "minutes", "caughtUp", "actual", "along", "correctsId"}
}

func (doneKind) check(c *entryCheck) { c.work(nil, "", "", nil) }

func (doneKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneWork(w, in, nil)
}

func (doneKind) record(ctx context.Context, w *Unit, r *recording) (err error) {
	r.done, err = w.happen(ctx, r.in, r.entry)
	return err
}

func (doneKind) title(m *snapshot.Snapshot, e *job.Entry) string { return workTitle(m, e, "") }

func (doneKind) line(_ *snapshot.Snapshot, _ *job.Entry, title string) string { return title }
