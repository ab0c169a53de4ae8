package shop

import (
	"context"
	"errors"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// WhatIf plans changes beside today's plan; nothing is kept. It fails with
// *Invalid naming the change that cannot be, and why.
func (s Decider) WhatIf(ctx context.Context, in changes.Changes) (views.WhatIf, error) {
	var view views.WhatIf
	err := s.ask(ctx, func(m *snapshot.Snapshot) error {
		b, err := changes.NewSet(m, in.Changes, in.PersonID)
		if err != nil {
			return err
		}
		answer, err := b.Answer()
		if err != nil {
			return err
		}
		view = views.WhatIfOf(m, b.Summary, answer)
		views.AddCared(b, answer, &view)
		if in.Threads {
			view.Rows, view.Marks = views.Pairs(m, answer), views.Mondays(m)
		}
		return views.Show(b, answer, &view)
	})
	return view, err
}

// KeepChanges makes changes real: all of them, or none. The same id again changes
// nothing and is answered as before. It fails like WhatIf, and
// with *Taken where somebody has changed the same thing since.
func (s Decider) KeepChanges(ctx context.Context, in changes.Changes) (views.Kept, error) {
	kept := views.Kept{}
	caller, asked := access.CallerOf(ctx), in
	in.PersonID = access.Who(ctx, in.PersonID)
	if err := changes.CheckMoves(caller, in); err != nil {
		return kept, err
	}
	err := s.change(ctx, func(w *changes.Unit) error {
		if err := w.Once(ctx, "changes", in.ID, asked, s.clock()); err != nil && !errors.Is(err, changes.ErrKept) {
			return err
		}
		if said, err := w.KeptChanges(ctx, in.ID); err == nil {
			kept = views.Kept{Changes: said, Moved: []changes.MovedForecast{}} // as after a lost answer, or a double tap
			return changes.ErrKept
		} else if !errors.Is(err, store.ErrNotFound) {
			return err
		}
		if err := s.begin(ctx, w); err != nil {
			return err
		}
		if err := w.Before.IsOfShop("personId", in.PersonID); err != nil {
			return err
		}
		b, err := changes.NewSet(w.Before, in.Changes, in.PersonID)
		if err != nil {
			return err
		}
		if err := w.Decide(ctx, b); err != nil {
			return err
		}
		if err := w.NoteEdits(ctx, b, in.PersonID); err != nil {
			return err
		}
		kept = views.Kept{Changes: b.Summary, Moved: changes.Moved(w.Before, w.After)}
		if in.ID != uuid.Nil {
			if err := w.NoteKept(ctx, in.ID, b.Summary, s.clock()); err != nil {
				return err
			}
		}
		return w.RecordHistory(ctx, strings.Join(b.Summary, "; "), nil, b.Renamed()...)
	})
	if errors.Is(err, changes.ErrKept) {
		err = nil
	}
	return kept, err
}
