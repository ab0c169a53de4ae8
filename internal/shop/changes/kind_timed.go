package changes

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/shop/snapshot"
)

// timedKind is a timer that was started.
type timedKind struct{ nothingFollows }

func (timedKind) fields() []string { return []string{"stepId", "coat", "timer"} }

func (timedKind) check(c *entryCheck) {
	c.work(func(snapshot.Located) bool { return !startable(c.in.Timer) }, "timer",
		"must be one of the timers of its sheet, of 1 minute to 12 hours", c.in.Timer)
}

// startable reports whether a timer can be started.
func startable(t *job.Timer) bool {
	short := func(text string, most int) bool {
		return text != "" && len(text) <= most && !strings.ContainsRune(text, 0)
	}
	return t != nil && slices.Contains(timer.Kinds, t.Kind) && t.Minutes >= 1 && t.Minutes <= 12*60 && t.BeforeMin >= 0 &&
		t.BeforeMin <= 14*24*60 && short(t.Title, 200) && short(t.Then, 300)
}

func (timedKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneWork(w, in, nil)
}

func (timedKind) record(_ context.Context, w *Unit, r *recording) error {
	about(w.Before, r.entry, EventRef{r.in.StepID, r.in.Coat})
	r.entry.Timer = r.in.Timer
	return nil
}

func (timedKind) title(m *snapshot.Snapshot, e *job.Entry) string {
	return workTitle(m, e, "timer: "+e.Timer.Title+". ")
}

func (timedKind) line(_ *snapshot.Snapshot, e *job.Entry, _ string) string {
	return "Timer, " + e.Timer.Minutes.String() + ": " + e.Timer.Title
}
