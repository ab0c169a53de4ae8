package workshop

import (
	"cmp"
	"reflect"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
)

// Succeed makes a workshop what is kept after another one: what an instrument, a piece or a step leaves open is filled
// in, lists stand in the order in which they are kept, times are whole microseconds, and what differs has its next
// version. What is the same as before is left alone.
func (w *Workshop) Succeed(before *Workshop) {
	known := make(map[uuid.UUID]*recipe.Instrument, len(before.Instruments))
	for i := range before.Instruments {
		known[before.Instruments[i].ID] = &before.Instruments[i]
	}
	for i := range w.Instruments {
		in := &w.Instruments[i]
		was := known[in.ID]
		if was != nil && Same(in, was) {
			continue
		}
		complete(in)
		if was != nil {
			succeed(in, was)
		}
	}
	w.sort()
	for i := range w.Pins {
		p := &w.Pins[i]
		p.At, p.MadeAt = toKeep(p.At), toKeep(p.MadeAt)
	}
	for i := range w.Shop.Settings {
		if s := &w.Shop.Settings[i]; s.Exceptions == nil {
			s.Exceptions = settings.Exceptions{}
		}
	}
}

// sort puts instruments and pins into the order in which they are kept.
func (w *Workshop) sort() {
	slices.SortStableFunc(w.Instruments, func(a, b recipe.Instrument) int {
		return cmp.Or(a.CreatedAt.Compare(b.CreatedAt), slices.Compare(a.ID[:], b.ID[:]))
	})
	slices.SortStableFunc(w.Pins, func(a, b job.Pin) int {
		return cmp.Or(slices.Compare(a.Step[:], b.Step[:]), a.Coat-b.Coat)
	})
}

// toKeep is a time as it is kept: in UTC, to the microsecond.
func toKeep(t time.Time) time.Time { return t.UTC().Round(time.Microsecond) }

// complete fills in what an instrument leaves open.
func complete(in *recipe.Instrument) {
	in.Version, in.CreatedAt = max(in.Version, 1), toKeep(in.CreatedAt)
	if in.Weight == 0 {
		in.Weight = 1
	}
	in.Pieces = slices.Clone(in.Pieces)
	for p := range in.Pieces {
		piece := &in.Pieces[p]
		piece.Steps = append([]job.Step{}, piece.Steps...)
		piece.Regions = append([]job.Region{}, piece.Regions...)
		for s := range piece.Steps {
			step := &piece.Steps[s]
			step.Regions, step.After = sorted(piece.RegionsOf(step)), sorted(step.After)
			step.Coats, step.Version, step.Slot = max(step.Coats, 1), max(step.Version, 1), cmp.Or(step.Slot, step.ID.String())
			step.Ladder = append([]string{}, step.Ladder...)
		}
	}
}

// sorted are ids in their order, each once.
func sorted(ids []uuid.UUID) []uuid.UUID {
	if len(ids) == 0 {
		return nil
	}
	ids = slices.Clone(ids)
	slices.SortFunc(ids, func(a, b uuid.UUID) int { return slices.Compare(a[:], b[:]) })
	return slices.Compact(ids)
}

// succeed gives what differs of an instrument its next version.
func succeed(in, was *recipe.Instrument) {
	steps := make(map[uuid.UUID]*job.Step)
	for p := range was.Pieces {
		for s := range was.Pieces[p].Steps {
			steps[was.Pieces[p].Steps[s].ID] = &was.Pieces[p].Steps[s]
		}
	}
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			step := &in.Pieces[p].Steps[s]
			old := steps[step.ID]
			if old == nil {
				continue
			}
			if recipe.SameStep(*step, *old) {
				*step = *old
				continue
			}
			step.Version = old.Version + 1
		}
	}
	if in.Version = was.Version; !reflect.DeepEqual(head(in), head(was)) {
		in.Version++
	}
}

// head is an instrument without its pieces.
func head(in *recipe.Instrument) recipe.Instrument {
	bare := *in
	bare.Pieces = nil
	return bare
}

// Same reports whether nothing of an instrument differs.
func Same(a, b *recipe.Instrument) bool {
	if len(a.Pieces) == len(b.Pieces) && (len(a.Pieces) == 0 || &a.Pieces[0] == &b.Pieces[0]) { // nobody has owned it
		return reflect.DeepEqual(head(a), head(b))
	}
	return reflect.DeepEqual(a, b)
}

// Find is the place of an instrument in the list; -1 where it is not there.
func (w *Workshop) Find(id uuid.UUID) int {
	return slices.IndexFunc(w.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
}

// Own is an instrument of the list with pieces and steps of its own: what is changed of it changes no other workshop.
func (w *Workshop) Own(i int) *recipe.Instrument {
	in := &w.Instruments[i]
	in.Pieces = slices.Clone(in.Pieces)
	for p := range in.Pieces {
		in.Pieces[p].Steps = slices.Clone(in.Pieces[p].Steps)
	}
	return in
}

// PutRecipe puts a recipe in place of the one of its id; a new one stands where its age puts it.
func (w *Workshop) PutRecipe(r recipe.Own) {
	w.Recipes = slices.Clone(w.Recipes)
	if at := slices.IndexFunc(w.Recipes, func(known recipe.Own) bool { return known.ID == r.ID }); at >= 0 {
		w.Recipes[at] = r
		return
	}
	at := len(w.Recipes)
	for at > 0 && older(&r, &w.Recipes[at-1]) {
		at--
	}
	w.Recipes = slices.Insert(w.Recipes, at, r)
}

// older reports whether a recipe was first saved before another.
func older(r, other *recipe.Own) bool {
	return cmp.Or(r.Versions[0].At.Compare(other.Versions[0].At), slices.Compare(r.ID[:], other.ID[:])) < 0
}

// Archive is what is put aside: instruments that are planned no more, and their pins.
type Archive struct {
	Instruments []recipe.Instrument
	Pins        []job.Pin
}

// TakeArchived takes what is archived out of a workshop, with its part of the order of work.
func (w *Workshop) TakeArchived() Archive {
	var archive Archive
	var active []recipe.Instrument
	steps := make(map[uuid.UUID]bool)
	for _, in := range w.Instruments {
		if in.Archived == nil {
			active = append(active, in)
			continue
		}
		archive.Instruments = append(archive.Instruments, in)
		for _, piece := range in.Pieces {
			for _, step := range piece.Steps {
				steps[step.ID] = true
			}
		}
	}
	if len(archive.Instruments) == 0 {
		return archive
	}
	w.Instruments = append([]recipe.Instrument{}, active...)
	w.Order = slices.DeleteFunc(slices.Clone(w.Order), func(e job.Event) bool { return steps[e.Step] })
	w.Begun = slices.DeleteFunc(slices.Clone(w.Begun), func(b job.Begun) bool { return steps[b.Step] })
	var pins []job.Pin
	for _, p := range w.Pins {
		if steps[p.Step] {
			archive.Pins = append(archive.Pins, p)
		} else {
			pins = append(pins, p)
		}
	}
	w.Pins = pins
	return archive
}

// With is a workshop with what is archived of it.
func (w *Workshop) With(archive Archive) *Workshop {
	whole := *w
	whole.Instruments = slices.Concat(w.Instruments, archive.Instruments)
	whole.Pins = slices.Concat(w.Pins, archive.Pins)
	whole.sort()
	return &whole
}
