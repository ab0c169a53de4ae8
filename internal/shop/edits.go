package shop

import (
	"context"
	"strings"

	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// Undo takes back the change of an instrument's schedule that was made last; Redo makes it again. They fail
// with *Taken where another change has come since, and with *Invalid where what is logged since forbids it.
func (s Decider) Undo(ctx context.Context, in changes.TakenBack) (views.Kept, error) {
	return s.turn(ctx, in, false)
}

// Redo makes again what was taken back last: see Undo.
func (s Decider) Redo(ctx context.Context, in changes.TakenBack) (views.Kept, error) {
	return s.turn(ctx, in, true)
}

func (s Decider) turn(ctx context.Context, in changes.TakenBack, again bool) (views.Kept, error) {
	in.PersonID = access.Who(ctx, in.PersonID)
	kept := views.Kept{}
	err := s.onShop(ctx, func(w *changes.Unit) error {
		row, err := w.Turnable(ctx, in, again)
		if err != nil {
			return err
		}
		b, err := changes.NewSet(w.Before, nil, in.PersonID)
		if err != nil {
			return err
		}
		delta, to, word := row.Delta.Inverse(), row.Seats.Before, "taken back"
		if again {
			delta, to, word = row.Delta, row.Seats.After, "made again"
		}
		if err := b.Turn(in.InstrumentID, delta, to); err != nil {
			return err
		}
		if err := b.Say(false, "%s: %s", phrase.Capital(word), strings.Join(row.Said, "; ")); err != nil {
			return err
		}
		if err := w.Decide(ctx, b); err != nil {
			return err
		}
		if err := w.TurnScheduleEdit(ctx, row.ID, !again); err != nil {
			return err
		}
		kept = views.Kept{Changes: b.Summary, Moved: changes.Moved(w.Before, w.After)}
		return w.RecordHistory(ctx, b.Summary[0], nil)
	})
	return kept, err
}
