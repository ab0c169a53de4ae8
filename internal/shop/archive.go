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
		for i := range m.aside.file.Instruments {
			in := &m.aside.file.Instruments[i]
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

// wake brings an instrument back that a log entry is about: what comes in is kept, and work on it goes on.
func (s *Service) wake(ctx context.Context, in Entry) error {
	var aside *state
	if err := s.look(ctx, func(m *moment) error { aside = m.aside; return nil }); err != nil || aside == nil {
		return err
	}
	asleep, err := s.asleep(ctx, aside, in)
	if err != nil || asleep == uuid.Nil {
		return err
	}
	_, err = s.KeepChanges(ctx, Changes{Changes: []Change{{Kind: "back", InstrumentID: asleep}}, PersonID: who(ctx, in.PersonID)})
	var other *Invalid
	if errors.As(err, &other) {
		return nil // somebody was quicker, or the entry is malformed, which it is told next
	}
	return err
}

// asleep is the instrument that is put aside and that an entry is about; nil where it is about none.
func (s *Service) asleep(ctx context.Context, aside *state, in Entry) (uuid.UUID, error) {
	about := in.InstrumentID
	if at, found := aside.steps[in.StepID]; found {
		about = at.instrument().ID
	}
	for _, earlier := range []uuid.UUID{in.Voids, in.Stops, in.Corrects} {
		if earlier == uuid.Nil {
			continue
		}
		err := s.store.Read(ctx, func(tx *store.Tx) error {
			e, err := tx.Entry(ctx, earlier)
			about = e.Instrument
			return err
		})
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return uuid.Nil, err
		}
	}
	for _, one := range aside.file.Instruments {
		if one.ID == about || slices.ContainsFunc(one.Pieces, func(p job.Piece) bool { return p.ID == in.PieceID }) {
			return one.ID, nil
		}
	}
	return uuid.Nil, nil
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
	err := s.onShop(ctx, func(w *writing) error {
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
		if err := w.DropInstrument(ctx, in.InstrumentID); errors.Is(err, store.ErrConflict) {
			return &Taken{Message: "something is logged of " + kept.Name + ", and a log is never deleted; put it aside instead"}
		} else if err != nil {
			return err
		}
		if err := w.reread(ctx); err != nil {
			return err
		}
		gone.Moved = moved(w.before, w.after)
		return w.remember(ctx, "deleted "+kept.Name, nil)
	})
	return gone, err
}
