package views

import (
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// TimerView is a timer that runs, or has rung and that nobody has stopped.
type TimerView struct {
	ID        uuid.UUID        `json:"id" doc:"of the entry that started it"`
	Event     changes.EventRef `json:"event"`
	Name      string           `json:"name" doc:"of the instrument"`
	Piece     job.PieceKind    `json:"piece"`
	Step      string           `json:"step" doc:"what it belongs to"`
	Timer     job.Timer        `json:"timer"`
	StartedAt time.Time        `json:"startedAt"`
	By        string           `json:"by"`
	SittingID uuid.UUID        `json:"sittingId,omitzero"`
}

// TimersAfter are the timers that are started when an event is done.
func TimersAfter(m *snapshot.Snapshot, event schedule.Event) []job.Timer {
	at, found := m.Find(event.Step)
	e, planned := m.Plan.Find(event)
	if !found || !planned {
		return nil
	}
	return slices.DeleteFunc(timersOf(m, at, e), func(t job.Timer) bool { return !timer.Follows(t.Kind) })
}
