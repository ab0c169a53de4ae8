package changes

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
)

// skippedKind is work that was left out on purpose, with a reason.
type skippedKind struct{ nothingFollows }

func (skippedKind) fields() []string { return []string{"stepId", "coat"} }

func (skippedKind) check(c *entryCheck) {
	c.reason()
	c.work(nil, "", "", nil)
}

func (skippedKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneWork(w, in, nil)
}

func (skippedKind) record(ctx context.Context, w *Unit, r *recording) (err error) {
	r.done, err = w.happen(ctx, r.in, r.entry)
	return err
}

func (skippedKind) title(m *snapshot.Snapshot, e *job.Entry) string { return workTitle(m, e, "") }

func (skippedKind) line(_ *snapshot.Snapshot, _ *job.Entry, title string) string {
	return "Left out: " + title
}
