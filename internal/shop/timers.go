package shop

import (
	"context"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Timers lists the timers that run, the one that was started first before the others.
func (s Reader) Timers(ctx context.Context) ([]views.TimerView, error) {
	var rows []job.Entry
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		rows, err = tx.TimersSince(ctx, s.clock().Add(-changes.TimersKept))
		return err
	}); err != nil {
		return nil, err
	}
	list := []views.TimerView{}
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		list = list[:0]
		for _, e := range rows {
			at, found := m.Find(*e.Step)
			if !found {
				continue // its step was taken out by hand meanwhile
			}
			if _, done := m.Facts[e.Event()]; done && timer.Within(e.Timer.Kind) {
				continue
			}
			view := views.TimerView{ID: e.ID, Event: changes.EventRef{StepID: *e.Step, Coat: *e.Coat}, Name: at.Instrument().Name,
				Piece: at.Piece().Kind,
				Step:  at.Planned().EventTitle(*e.Coat), Timer: *e.Timer, StartedAt: e.HappenedAt, By: m.PersonName(e.Person)}
			if e.Sitting != nil {
				view.SittingID = *e.Sitting
			}
			list = append(list, view)
		}
		return nil
	})
	return list, err
}
