package shop

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/store"
)

// TimerView is a timer that runs, or has rung and that nobody has stopped.
type TimerView struct {
	ID        uuid.UUID     `json:"id" doc:"of the entry that started it"`
	Event     EventRef      `json:"event"`
	Name      string        `json:"name" doc:"of the instrument"`
	Piece     job.PieceKind `json:"piece"`
	Step      string        `json:"step" doc:"what it belongs to"`
	Timer     job.Timer     `json:"timer"`
	StartedAt time.Time     `json:"startedAt"`
	By        string        `json:"by"`
	SittingID uuid.UUID     `json:"sittingId,omitzero"`
}

// timersKept is how long a timer that nobody stops is shown.
const timersKept = 36 * time.Hour

// Timers lists the timers that run, the one that was started first before the others.
func (s *Service) Timers(ctx context.Context) ([]TimerView, error) {
	var rows []job.Entry
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		rows, err = tx.TimersSince(ctx, s.clock().Add(-timersKept))
		return err
	}); err != nil {
		return nil, err
	}
	list := []TimerView{}
	err := s.look(ctx, func(m *moment) error {
		list = list[:0]
		for _, e := range rows {
			at, found := m.find(*e.Step)
			if !found {
				continue // its step was taken out by hand meanwhile
			}
			if _, done := m.facts[e.Event()]; done && timer.Within(e.Timer.Kind) {
				continue
			}
			view := TimerView{ID: e.ID, Event: EventRef{*e.Step, *e.Coat}, Name: at.instrument().Name, Piece: at.piece().Kind,
				Step: at.planned().EventTitle(*e.Coat), Timer: *e.Timer, StartedAt: e.HappenedAt, By: m.personName(e.Person)}
			if e.Sitting != nil {
				view.SittingID = *e.Sitting
			}
			list = append(list, view)
		}
		return nil
	})
	return list, err
}

// timersAfter are the timers that are started when an event is done.
func (m *moment) timersAfter(event schedule.Event) []job.Timer {
	at, found := m.find(event.Step)
	e, planned := m.plan.Find(event)
	if !found || !planned {
		return nil
	}
	return slices.DeleteFunc(m.timersOf(at, e), func(t job.Timer) bool { return !timer.Follows(t.Kind) })
}
