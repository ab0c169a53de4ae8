package changes

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
)

// stoppedKind is a timer that was stopped: it had rung, or was not needed.
type stoppedKind struct{ nothingFollows }

func (stoppedKind) fields() []string { return []string{"stopsId"} }

func (stoppedKind) check(*entryCheck) {}

func (stoppedKind) gone(ctx context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneEarlier(ctx, w, in, in.Stops, w.stop(ctx, &job.Entry{HappenedAt: w.Before.Now}, in.Stops))
}

func (stoppedKind) record(ctx context.Context, w *Unit, r *recording) error {
	return w.stop(ctx, r.entry, r.in.Stops)
}

func (stoppedKind) title(*snapshot.Snapshot, *job.Entry) string { return "a timer stopped" }

func (stoppedKind) line(_ *snapshot.Snapshot, _ *job.Entry, title string) string {
	return "Timer stopped: " + title
}
