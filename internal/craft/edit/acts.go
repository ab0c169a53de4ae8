package edit

import (
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
)

// What may be done with whole steps.

func (w *working) add(e Edit) error {
	if err := w.fresh("stepId", e.Step); err != nil {
		return err
	}
	p := slices.IndexFunc(w.in.Pieces, func(p job.Piece) bool { return p.ID == e.Piece })
	if p < 0 {
		return fault("pieceId", "must be a piece of this instrument")
	}
	regions, err := w.regions(p, "regions", e.Regions)
	if err != nil {
		return err
	}
	steps := e.Steps
	if len(steps) == 0 {
		var wrong *recipe.Fault
		steps, wrong, err = recipe.Addition(e.What, w.in, p, regions)
		switch {
		case err != nil:
			return err
		case wrong != nil:
			return fault(wrong.Path, "%s", wrong.Message)
		}
	}
	after := e.After
	for i, s := range steps {
		s.ID = e.Step
		if i > 0 {
			s.ID = uuid.NewSHA1(e.Step, fmt.Append(nil, i))
		}
		if s.Version, s.Edited, s.Moved, s.After = 1, true, true, nil; i == 0 {
			s.Within = nil // what it followed is not here
		}
		role, _, _ := strings.Cut(s.Slot[strings.LastIndex(s.Slot, ":")+1:], recipe.HandMark)
		s.Slot = fmt.Sprintf("%s:%s%sadded-%s-%d", w.in.Pieces[p].Kind, role, recipe.HandMark, e.Step.String()[:8], i+1)
		if err := w.insert(p, after, s); err != nil {
			return err
		}
		after = s.ID
	}
	if e.Fields == nil {
		return nil
	}
	at, err := w.find("stepId", e.Step)
	if err != nil {
		return err
	}
	return w.set(at, Edit{Step: e.Step, Fields: e.Fields})
}

// regions are those of a piece that a step is done to: all where none is named. A whole instrument
// has those of its pieces.
func (w *working) regions(p int, field string, wanted []uuid.UUID) ([]uuid.UUID, error) {
	var all []uuid.UUID
	for _, piece := range w.in.Pieces {
		if piece.ID == w.in.Pieces[p].ID || w.in.Pieces[p].Kind == job.Whole {
			for _, z := range piece.Regions {
				all = append(all, z.ID)
			}
		}
	}
	if len(wanted) == 0 {
		return all, nil
	}
	for _, id := range wanted {
		if !slices.Contains(all, id) {
			return nil, fault(field, "must be regions of this piece")
		}
	}
	return slices.Clone(wanted), nil
}

func (w *working) move(at place, e Edit) error {
	s := *w.step(at)
	if w.done(at) > 0 {
		return fault("stepId", "%s is begun or done; what is done stays where it is", phrase.Quoted(s.Title))
	}
	if e.After == s.ID {
		return fault("afterId", "a step cannot come behind itself")
	}
	if with := w.sittingOf(at); with != "" {
		return fault("stepId", "%s is one sitting with %s: leave both out, and put them in elsewhere", phrase.Quoted(s.Title),
			phrase.Quoted(with))
	}
	w.in.Pieces[at.p].Steps = slices.Delete(w.in.Pieces[at.p].Steps, at.s, at.s+1)
	s.Edited, s.Moved = true, true
	return w.insert(at.p, e.After, s)
}

// sittingOf names the step that another belongs to one sitting with, within minutes; empty where there is none.
func (w *working) sittingOf(at place) string {
	steps := w.in.Pieces[at.p].Steps
	switch {
	case steps[at.s].Within != nil && at.s > 0:
		return steps[at.s-1].Title
	case at.s+1 < len(steps) && steps[at.s+1].Within != nil:
		return steps[at.s+1].Title
	}
	return ""
}

func (w *working) duplicate(at place, e Edit) error {
	if err := w.fresh("newId", e.New); err != nil {
		return err
	}
	s := *w.step(at)
	s.Slot = slot(s.Slot, "again", e.New)
	s.ID, s.Version, s.Edited, s.Moved, s.NoReturn, s.Out, s.Within = e.New, 1, true, true, false, "", nil
	after := e.After
	if after == uuid.Nil {
		after = e.Step
	}
	return w.insert(at.p, after, s)
}

func (w *working) split(at place, e Edit) error {
	if err := w.fresh("newId", e.New); err != nil {
		return err
	}
	apart, err := w.regions(at.p, "regions", e.Regions)
	if err != nil {
		return err
	}
	if at, err = w.part(at); err != nil {
		return err
	}
	if with := w.sittingOf(at); with != "" {
		return fault("stepId", "%s is one sitting with %s: it is not done apart", phrase.Quoted(w.step(at).Title), phrase.Quoted(with))
	}
	s, all := w.step(at), w.piece(at).RegionsOf(w.step(at))
	stay := slices.DeleteFunc(slices.Clone(all), func(id uuid.UUID) bool { return slices.Contains(apart, id) })
	if len(e.Regions) == 0 || len(stay) == 0 || len(stay)+len(apart) != len(all) {
		return fault("regions", "must be some of the regions that %s is done to, not all of them", phrase.Quoted(s.Title))
	}
	part := *s
	part.Slot = slot(s.Slot, "part", e.New)
	part.ID, part.Version, part.Regions, part.Edited, part.Moved, part.Within = e.New, 1, apart, true, true, nil
	whole := w.area(at)
	s.Regions, s.Edited = stay, true
	w.rescale(&part, whole, len(part.Ladder))
	w.rescale(s, whole, len(s.Ladder))
	w.in.Pieces[at.p].Steps = slices.Insert(w.in.Pieces[at.p].Steps, at.s+1, part)
	w.follow(e.Step, part.ID)
	return nil
}

func (w *working) join(at place, e Edit) error {
	other, err := w.find("withId", e.With)
	if err != nil {
		return err
	}
	a, b := w.step(at), w.step(other)
	switch {
	case at.p != other.p || a.ID == b.ID:
		return fault("withId", "must be another step of the same piece")
	case w.done(at) > 0 || w.done(other) > 0:
		return fault("withId", "what is begun or done is not joined any more")
	case a.Kind != b.Kind || a.Family != b.Family || a.Method != b.Method || a.MaterialKey() != b.MaterialKey() ||
		max(a.Coats, 1) != max(b.Coats, 1):
		return fault("withId", "must be work of the same kind, with the same material and as many coats")
	case a.Out != "" || b.Out != "":
		return fault("withId", "what is left out is not joined")
	}
	whole := w.area(at)
	regions := slices.Clone(w.piece(at).RegionsOf(a))
	for _, id := range w.piece(other).RegionsOf(b) {
		if !slices.Contains(regions, id) {
			regions = append(regions, id)
		}
	}
	a.Regions, a.Edited = regions, true
	w.rescale(a, whole, len(a.Ladder))
	w.follow(b.ID, a.ID)
	if recipe.ByHand(b.Slot) && !w.log.Spoken[b.ID] {
		w.take(other)
		return nil
	}
	b.Out, b.Edited = "done along with "+phrase.Quoted(a.Title), true
	return nil
}

func (w *working) leaveOut(at place, e Edit) error {
	reason := strings.TrimSpace(e.Reason)
	if reason == "" || len([]rune(reason)) > mostReason {
		return fault("reason", "say why, in up to %d characters", mostReason)
	}
	at, err := w.part(at)
	if err != nil {
		return err
	}
	s := w.step(at)
	s.Out, s.Edited = reason, true
	return nil
}

const mostReason = 200

func (w *working) takeBack(at place) error {
	s := w.step(at)
	if s.Out == "" {
		return fault("stepId", "%s is not left out", phrase.Quoted(s.Title))
	}
	s.Out, s.Edited = "", true
	return nil
}

func (w *working) remove(at place) error {
	s := w.step(at)
	switch {
	case w.log.Spoken[s.ID] || w.done(at) > 0:
		return fault("stepId", "the log speaks of %s: leave it out instead", phrase.Quoted(s.Title))
	case !recipe.ByHand(s.Slot):
		return fault("stepId", "%s is of the recipe, which would bring it back: leave it out instead", phrase.Quoted(s.Title))
	}
	w.take(at)
	return nil
}

// take takes a step out of its piece; what waited for it waits for what it waited for.
func (w *working) take(at place) {
	gone := *w.step(at)
	w.in.Pieces[at.p].Steps = slices.Delete(w.in.Pieces[at.p].Steps, at.s, at.s+1)
	for p := range w.in.Pieces {
		for s := range w.in.Pieces[p].Steps {
			if o := &w.in.Pieces[p].Steps[s]; slices.Contains(o.After, gone.ID) {
				o.After = slices.DeleteFunc(slices.Clone(o.After), func(id uuid.UUID) bool { return id == gone.ID })
			}
		}
	}
}
