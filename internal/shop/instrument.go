package shop

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Instrument shows one job.
func (s Reader) Instrument(ctx context.Context, id uuid.UUID) (views.InstrumentView, error) {
	var rows []store.LogLine
	var more bool
	var snapshots []job.ForecastChange
	var edits []store.ScheduleEdit
	err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		if rows, more, err = tx.LogOf(ctx, id); err != nil {
			return err
		}
		if snapshots, err = tx.ForecastChangesOf(ctx, id); err != nil {
			return err
		}
		edits, err = tx.ScheduleEdits(ctx, id, s.clock().Add(-changes.EditsKept))
		return err
	})
	if err != nil {
		return views.InstrumentView{}, err
	}
	var view views.InstrumentView
	show := func(m *snapshot.Snapshot) error {
		i := slices.IndexFunc(m.Workshop.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
		if i < 0 && m.FindArchived(id) != nil {
			return views.ErrAside
		}
		if i < 0 {
			return refuse.Missing("instrument", id)
		}
		view = views.Page(m, i)
		view.MoreLog = more
		for _, row := range rows {
			view.Log = append(view.Log, views.LogLineOf(m, row))
		}
		view.History = views.History(m, snapshots)
		view.Undo, view.Redo = views.EditViews(m, edits)
		return nil
	}
	if err = s.look(ctx, show); !errors.Is(err, views.ErrAside) {
		return view, err
	}
	err = s.ask(ctx, func(m *snapshot.Snapshot) error {
		aside := m.FindArchived(id)
		back, err := views.BroughtBack(m, id)
		if back == nil {
			return cmp.Or(err, refuse.Missing("instrument", id))
		}
		since := m.Moment(*aside.Archived)
		err = show(back)
		view.Archived, view.Undo, view.Redo, view.Next = &since, nil, nil, nil
		return err
	})
	return view, err
}
