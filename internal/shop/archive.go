package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/store"
)

// ArchivedLine is an instrument that is put aside.
type ArchivedLine struct {
	ID      uuid.UUID   `json:"id"`
	Name    string      `json:"name"`
	Serial  string      `json:"serial"`
	Woods   []string    `json:"woods"`
	Own     *OwnOutline `json:"own,omitempty" doc:"an outline of its own"`
	Outline string      `json:"outline"`
	Since   Moment      `json:"since"`
	Done    int         `json:"done" doc:"events done"`
	Total   int         `json:"total" doc:"events in all"`
}

// Archive lists the instruments that are put aside, the last one first.
func (s *Service) Archive(ctx context.Context) ([]ArchivedLine, error) {
	lines := []ArchivedLine{}
	err := s.look(ctx, func(m *moment) error {
		if m.aside == nil {
			return nil
		}
		for i := range m.archive.Instruments {
			in := &m.archive.Instruments[i]
			line := ArchivedLine{ID: in.ID, Name: in.Name, Serial: in.Serial, Woods: woodsOf(in), Own: ownOutline(in.Own), Outline: in.Outline,
				Since: m.moment(*in.Archived)}
			line.Done, line.Total = m.progress(in)
			lines = append(lines, line)
		}
		slices.SortStableFunc(lines, func(a, b ArchivedLine) int { return b.Since.At.Compare(a.Since.At) })
		return nil
	})
	return lines, err
}

// progress counts the events of an instrument that are done, and all of them.
func (m *moment) progress(in *recipe.Instrument) (done, total int) {
	for _, piece := range in.Pieces {
		for _, step := range piece.Steps {
			total += step.Due()
			for coat := 1; coat <= step.Due(); coat++ {
				if _, is := m.facts[job.Event{Step: step.ID, Coat: coat}]; is {
					done++
				}
			}
		}
	}
	return done, total
}

// woodsOf names the woods of an instrument, each once.
func woodsOf(in *recipe.Instrument) []string {
	names := []string{}
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			if timber, err := wood.Find(z.Wood); err == nil && !slices.Contains(names, timber.Name) {
				names = append(names, timber.Name)
			}
		}
	}
	return names
}

// broughtBack is the shop as it would be with an instrument out of the archive; nil where it is not there.
func (m *moment) broughtBack(id uuid.UUID) (*moment, error) {
	if m.archived(id) == nil {
		return nil, nil
	}
	b, err := m.bend([]Change{{Kind: "back", InstrumentID: id}}, uuid.Nil)
	if err != nil {
		return nil, err
	}
	answer, err := b.answer()
	if err != nil {
		return nil, err
	}
	return b.after(answer)
}

// wake brings instruments back that a log entry is about, in the same transaction: what comes in is kept, and work on
// them goes on. Where the entry is refused, they stay where they were.
func (w *unitOfWork) wake(ctx context.Context, in Entry) error {
	asleep, err := w.asleep(ctx, in)
	if err != nil || len(asleep) == 0 {
		return err
	}
	b, err := w.before.bend(asleep, who(ctx, in.PersonID))
	if err != nil {
		return err
	}
	if err := w.decide(ctx, b); err != nil {
		return err
	}
	if err := w.recordHistory(ctx, strings.Join(b.summary, "; "), nil, b.renamed()...); err != nil {
		return err
	}
	w.before, w.after, w.changes, w.plan = w.after, nil, nil, nil
	return nil
}

// asleep are the changes that bring back the instruments that are put aside and that an entry is about.
func (w *unitOfWork) asleep(ctx context.Context, in Entry) ([]Change, error) {
	if w.before.aside == nil {
		return nil, nil
	}
	var about []uuid.UUID
	if _, found := w.before.find(in.StepID); in.Kind == job.Note || (in.Late && !found) {
		about = append(about, in.InstrumentID)
	}
	for _, e := range append([]EventRef{{StepID: in.StepID}}, in.Along...) {
		if at, found := w.before.aside.steps[e.StepID]; found {
			about = append(about, at.instrument().ID)
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
	for _, one := range w.before.archive.Instruments {
		if slices.Contains(about, one.ID) || slices.ContainsFunc(one.Pieces, func(p job.Piece) bool { return p.ID == in.PieceID }) {
			back = append(back, Change{Kind: "back", InstrumentID: one.ID})
		}
	}
	return back, nil
}

// Deletion asks to delete an instrument of which nothing is logged, by its name.
type Deletion struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name" doc:"its name, typed: it cannot be undone"`
}

// Deleted is what was deleted.
type Deleted struct {
	Name  string          `json:"name"`
	Moved []MovedForecast `json:"moved" doc:"instruments whose finish that moved"`
}

// Delete takes an instrument out of the shop for good. It fails with *Invalid where the name is another, and with
// *Taken where something is logged of it: that is put aside instead.
func (s *Service) Delete(ctx context.Context, in Deletion) (Deleted, error) {
	gone := Deleted{Moved: []MovedForecast{}}
	err := s.onShop(ctx, func(w *unitOfWork) error {
		kept := w.before.archived(in.InstrumentID)
		if at := slices.IndexFunc(w.before.file.Instruments, func(one recipe.Instrument) bool { return one.ID == in.InstrumentID }); at >= 0 {
			kept = &w.before.file.Instruments[at]
		}
		if kept == nil {
			return missing("instrument", in.InstrumentID)
		}
		if gone.Name = kept.Name; strings.TrimSpace(in.Name) != kept.Name {
			return invalid("name", fmt.Sprintf("type its name, %s, to delete it", kept.Name), in.Name)
		}
		b, err := w.before.bend(nil, uuid.Nil)
		if err != nil {
			return err
		}
		b.delete(kept)
		w.changes = b
		if err := w.write(ctx); errors.Is(err, store.ErrConflict) {
			return &Taken{Message: "something is logged of " + kept.Name + ", and a log is never deleted; put it aside instead"}
		} else if err != nil {
			return err
		}
		gone.Moved = moved(w.before, w.after)
		return w.recordHistory(ctx, "deleted "+kept.Name, nil)
	})
	return gone, err
}
