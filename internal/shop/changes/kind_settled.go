package changes

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
)

// settledKind is a step done in rounds that has come to its end; its coat says after how many.
type settledKind struct{ nothingFollows }

func (settledKind) fields() []string { return []string{"stepId", "coat", "minutes", "actual"} }

func noRounds(at snapshot.Located) bool { return at.Step().Repeat == nil }

func (settledKind) check(c *entryCheck) {
	c.work(noRounds, "kind", "only a step that is done in rounds is settled", c.in.Kind)
}

func (settledKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneWork(w, in, noRounds)
}

func (settledKind) record(_ context.Context, w *Unit, r *recording) error {
	about(w.Before, r.entry, EventRef{r.in.StepID, r.in.Coat})
	return nil
}

func (settledKind) title(m *snapshot.Snapshot, e *job.Entry) string {
	return workTitle(m, e, fmt.Sprintf("settled after %d: ", *e.Coat))
}

func (settledKind) line(_ *snapshot.Snapshot, e *job.Entry, title string) string {
	return fmt.Sprintf("Settled after %d: %s", *e.Coat, title)
}
