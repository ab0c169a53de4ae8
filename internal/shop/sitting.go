package shop

import (
	"context"
	"errors"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/sitting"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Sittings lists the sittings that are under way, and those that could be started today.
func (s Reader) Sittings(ctx context.Context) (views.SittingsNow, error) {
	var now views.SittingsNow
	open, err := s.openSittings(ctx)
	if err != nil {
		return now, err
	}
	err = s.look(ctx, func(m *snapshot.Snapshot) error {
		now = views.Sittings(m, open)
		return nil
	})
	return now, err
}

func (s Reader) openSittings(ctx context.Context) ([]job.Sitting, error) {
	var open []job.Sitting
	err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		open, err = tx.OpenSittings(ctx, s.clock().Add(-views.SittingsKept))
		return err
	})
	return open, err
}

// Sitting shows one that was begun.
func (s Reader) Sitting(ctx context.Context, id uuid.UUID) (views.SittingView, error) {
	var one job.Sitting
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		one, err = tx.Sitting(ctx, id)
		return err
	}); errors.Is(err, store.ErrNotFound) {
		return views.SittingView{}, refuse.Missing("sitting", id)
	} else if err != nil {
		return views.SittingView{}, err
	}
	return s.sittingView(ctx, one)
}

// PlannedSitting shows the sitting that an event is planned in, as it could be begun.
func (s Reader) PlannedSitting(ctx context.Context, event changes.EventRef) (views.SittingView, error) {
	var view views.SittingView
	err := s.look(ctx, func(m *snapshot.Snapshot) (err error) {
		var events []schedule.Planned
		for _, e := range views.Ahead(m) {
			events = append(events, *e)
		}
		for _, one := range sitting.Gather(events) {
			if slices.ContainsFunc(one.Events, func(e schedule.Planned) bool { return changes.Ref(e.Event) == event }) {
				view, err = views.SittingOf(m, views.PlannedSitting(one))
				return err
			}
		}
		return refuse.Missing("work ahead of step", event.StepID)
	})
	return view, err
}

func (s Reader) sittingView(ctx context.Context, one job.Sitting) (views.SittingView, error) {
	var view views.SittingView
	err := s.look(ctx, func(m *snapshot.Snapshot) (err error) {
		view, err = views.SittingOf(m, one)
		return err
	})
	return view, err
}

// BeginSitting keeps a sitting that somebody begins now. It fails with *Invalid on what is not planned, and
// with *Taken where the id is that of another.
func (s Recorder) BeginSitting(ctx context.Context, in views.SittingBegun) (views.SittingView, error) {
	asked := in
	in.PersonID = access.Who(ctx, in.PersonID)
	one := job.Sitting{ID: in.ID, Person: in.PersonID, StartedAt: s.clock()}
	for _, e := range in.Events {
		one.Events = append(one.Events, schedule.Event{Step: e.StepID, Coat: e.Coat})
	}
	err := s.onShop(ctx, func(w *changes.Unit) error {
		if err := w.Once(ctx, "sitting", in.ID, asked, s.clock()); err != nil && !errors.Is(err, changes.ErrKept) {
			return err
		}
		known, err := w.Sitting(ctx, in.ID)
		switch {
		case err == nil && slices.Equal(known.Events, one.Events):
			one = known
			return changes.ErrKept
		case err == nil:
			return &refuse.Taken{Message: "another sitting has this id already"}
		case !errors.Is(err, store.ErrNotFound):
			return err
		}
		if err := views.CheckSitting(w.Before, in, &one); err != nil {
			return err
		}
		if err := views.See(&one, in.Seen); err != nil {
			return err
		}
		if err := w.AddSitting(ctx, one); err != nil {
			return err
		}
		return w.Finish(ctx)
	})
	if err != nil && !errors.Is(err, changes.ErrKept) {
		return views.SittingView{}, err
	}
	return Reader(s).sittingView(ctx, one)
}

// ChangeSitting acknowledges cautions of a sitting, ends it, or lets it go on after all.
func (s Recorder) ChangeSitting(ctx context.Context, in views.SittingChanged) (views.SittingView, error) {
	var one job.Sitting
	err := s.onShop(ctx, func(w *changes.Unit) (err error) {
		if one, err = w.Sitting(ctx, in.ID); errors.Is(err, store.ErrNotFound) {
			return refuse.Missing("sitting", in.ID)
		} else if err != nil {
			return err
		}
		if err := views.See(&one, in.Seen); err != nil {
			return err
		}
		switch {
		case in.Ended != nil && !*in.Ended:
			one.EndedAt = nil
		case in.Ended != nil && one.EndedAt == nil:
			now := s.clock()
			one.EndedAt = &now
		}
		if err := w.ChangeSitting(ctx, one); err != nil {
			return err
		}
		return w.Finish(ctx)
	})
	if err != nil {
		return views.SittingView{}, err
	}
	return Reader(s).sittingView(ctx, one)
}
