package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Archive lists the instruments that are put aside, the last one first.
func (s Reader) Archive(ctx context.Context) ([]views.ArchivedLine, error) {
	lines := []views.ArchivedLine{}
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		if m.Archived == nil {
			return nil
		}
		for i := range m.Archive.Instruments {
			in := &m.Archive.Instruments[i]
			line := views.ArchivedLine{ID: in.ID, Name: in.Name, Serial: in.Serial, Woods: views.WoodsOf(in), Own: views.OutlineOf(in.Own),
				Outline: in.Outline,
				Since:   m.Moment(*in.Archived)}
			line.Done, line.Total = views.Progress(m, in)
			lines = append(lines, line)
		}
		slices.SortStableFunc(lines, func(a, b views.ArchivedLine) int { return b.Since.At.Compare(a.Since.At) })
		return nil
	})
	return lines, err
}

// Delete takes an instrument out of the shop for good. It fails with *Invalid where the name is another, and with
// *Taken where something is logged of it: that is put aside instead.
func (s Decider) Delete(ctx context.Context, in views.Deletion) (views.Deleted, error) {
	gone := views.Deleted{Moved: []changes.MovedForecast{}}
	err := s.onShop(ctx, func(w *changes.Unit) error {
		kept := w.Before.FindArchived(in.InstrumentID)
		if at := slices.IndexFunc(w.Before.Workshop.Instruments,
			func(one recipe.Instrument) bool { return one.ID == in.InstrumentID }); at >= 0 {
			kept = &w.Before.Workshop.Instruments[at]
		}
		if kept == nil {
			return refuse.Missing("instrument", in.InstrumentID)
		}
		if gone.Name = kept.Name; strings.TrimSpace(in.Name) != kept.Name {
			return refuse.Field("name", fmt.Sprintf("type its name, %s, to delete it", kept.Name), in.Name)
		}
		b, err := changes.NewSet(w.Before, nil, uuid.Nil)
		if err != nil {
			return err
		}
		b.Delete(kept)
		w.Changes = b
		if err := w.Write(ctx); errors.Is(err, store.ErrConflict) {
			return &refuse.Taken{Message: "something is logged of " + kept.Name + ", and a log is never deleted; put it aside instead"}
		} else if err != nil {
			return err
		}
		gone.Moved = changes.Moved(w.Before, w.After)
		return w.RecordHistory(ctx, "deleted "+kept.Name, nil)
	})
	return gone, err
}
