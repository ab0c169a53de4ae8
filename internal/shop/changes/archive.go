package changes

import (
	"context"
	"errors"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/store"
)

// Unarchive brings instruments back that a log entry is about, in the same transaction: what comes in is kept, and work on
// them goes on. Where the entry is refused, they stay where they were.
func (w *Unit) Unarchive(ctx context.Context, in Entry) error {
	asleep, err := w.archivedIn(ctx, in)
	if err != nil || len(asleep) == 0 {
		return err
	}
	b, err := NewSet(w.Before, asleep, access.Who(ctx, in.PersonID))
	if err != nil {
		return err
	}
	if err := w.Decide(ctx, b); err != nil {
		return err
	}
	if err := w.RecordHistory(ctx, strings.Join(b.Summary, "; "), nil, b.Renamed()...); err != nil {
		return err
	}
	w.Before, w.After, w.Changes, w.plan = w.After, nil, nil, nil
	return nil
}

// archivedIn are the changes that bring back the instruments that are put aside and that an entry is about.
func (w *Unit) archivedIn(ctx context.Context, in Entry) ([]Change, error) {
	if w.Before.Archived == nil {
		return nil, nil
	}
	var about []uuid.UUID
	if _, found := w.Before.Find(in.StepID); in.Kind == job.Note || (in.Late && !found) {
		about = append(about, in.InstrumentID)
	}
	for _, e := range append([]EventRef{{StepID: in.StepID}}, in.Along...) {
		if at, found := w.Before.Archived.Steps[e.StepID]; found {
			about = append(about, at.Instrument().ID)
		}
	}
	for _, earlier := range []uuid.UUID{in.Voids, in.Stops, in.Corrects} {
		if earlier == uuid.Nil {
			continue
		}
		e, err := w.Entry(ctx, earlier)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, err
		}
		about = append(about, e.Instrument)
	}
	var back []Change
	for _, one := range w.Before.Archive.Instruments {
		if slices.Contains(about, one.ID) || slices.ContainsFunc(one.Pieces, func(p job.Piece) bool { return p.ID == in.PieceID }) {
			back = append(back, Change{Kind: "back", InstrumentID: one.ID})
		}
	}
	return back, nil
}
