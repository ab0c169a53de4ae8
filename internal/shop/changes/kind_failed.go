package changes

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
)

// failedKind is a check that did not pass: it asks for work, which comes into the schedule before it.
type failedKind struct{}

func (failedKind) fields() []string { return []string{"stepId", "coat", "minutes", "actual"} }

func noCheck(at snapshot.Located) bool { return at.Step().Kind != job.Inspect }

func (failedKind) check(c *entryCheck) {
	c.work(noCheck, "kind", "only a check can fail to pass", c.in.Kind)
}

func (failedKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneWork(w, in, noCheck)
}

func (failedKind) record(ctx context.Context, w *Unit, r *recording) (err error) {
	r.done, err = w.happen(ctx, r.in, r.entry)
	return err
}

func (failedKind) follow(w *Unit, r *recording) (err error) {
	r.asked, err = w.askAgain(*r.entry)
	return err
}

func (failedKind) title(m *snapshot.Snapshot, e *job.Entry) string { return workTitle(m, e, "") }

func (failedKind) line(_ *snapshot.Snapshot, _ *job.Entry, title string) string {
	return "Not passed: " + title
}
