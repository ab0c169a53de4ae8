package changes

import (
	"bytes"
	"context"
	"encoding/json"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// RecipeSaved is what somebody saves as a recipe of the shop's own: a stack as it stands on the page, a whole
// schedule of an instrument, or some steps of one. The id of a recipe that is there makes another version of it.
type RecipeSaved struct {
	ID           uuid.UUID         `json:"id" doc:"made by the device for a new one"`
	Name         string            `json:"name" maxLength:"60"`
	Kind         recipe.OwnKind    `json:"kind" enum:"stack,schedule,fragment"`
	Note         string            `json:"note,omitempty" maxLength:"200" doc:"what is better about this version"`
	Stack        *recipe.PieceWish `json:"stack,omitempty" doc:"of a stack"`
	InstrumentID uuid.UUID         `json:"instrumentId,omitzero" doc:"of a schedule or a fragment: from where"`
	StepIDs      []uuid.UUID       `json:"stepIds,omitempty" maxItems:"40" doc:"of a fragment"`
	PersonID     uuid.UUID         `json:"personId,omitzero"`
}

// Once is the id under which it is kept once: saved again with other content, it is another version.
func (in RecipeSaved) Once() uuid.UUID { return in.ID }

// RecipeNamed is another name of a recipe, and whether it is still offered.
type RecipeNamed struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name" maxLength:"60"`
	Retired bool      `json:"retired"`
}

// KeepRecipe keeps a recipe as it is now, or a new one.
func (w *Unit) KeepRecipe(ctx context.Context, r recipe.Own) error {
	b, err := NewSet(w.Before, nil, uuid.Nil)
	if err != nil {
		return err
	}
	b.Workshop.PutRecipe(r)
	w.Changes = b
	return w.Finish(ctx)
}

func Alike(a, b recipe.OwnContent) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && bytes.Equal(x, y)
}

// ContentOf is what is to be saved.
func ContentOf(m *snapshot.Snapshot, in RecipeSaved) (recipe.OwnContent, error) {
	if in.Kind == recipe.OwnStack {
		if in.Stack == nil {
			return recipe.OwnContent{}, refuse.Field("stack", "say which stack", nil)
		}
		return recipe.StackOf(*in.Stack), nil
	}
	i := slices.IndexFunc(m.Workshop.Instruments, func(o recipe.Instrument) bool { return o.ID == in.InstrumentID })
	switch {
	case i < 0:
		return recipe.OwnContent{}, refuse.Field("instrumentId", "must be an instrument of this shop", in.InstrumentID)
	case in.Kind == recipe.OwnFragment:
		content := recipe.FragmentOf(m.Workshop.Instruments[i], in.StepIDs)
		if len(content.Steps) == 0 {
			return content, refuse.Field("stepIds", "choose some steps of that instrument", nil)
		}
		return content, nil
	case m.Workshop.Instruments[i].Wish == nil:
		return recipe.OwnContent{}, refuse.Field("instrumentId", "what was wished of it is not known here: save its steps as a fragment",
			in.InstrumentID)
	}
	return recipe.ScheduleOf(m.Workshop.Instruments[i]), nil
}

// OwnPrefix begins the id of an addition that is a fragment of the shop's own.
const OwnPrefix = "own-"

// handed is a composed schedule with what a hand had changed in the own schedule that it began from.
func handed(m *snapshot.Snapshot, wish recipe.Wish, d recipe.Draft) recipe.Draft {
	if wish.Own == nil {
		return d
	}
	r, found := m.Own(wish.Own.ID)
	v, there := r.Find(wish.Own.Version)
	if !found || !there || len(v.Content.Hand) == 0 {
		return d
	}
	return onShelf(m, v.Content).Composed(d)
}

// released is a schedule in which what an earlier version of its recipe had left is not held as changed by hand.
func released(m *snapshot.Snapshot, was *recipe.OwnUse, kept recipe.Draft) recipe.Draft {
	if was == nil {
		return kept
	}
	r, found := m.Own(was.ID)
	if v, there := r.Find(was.Version); found && there {
		return v.Content.Released(kept)
	}
	return kept
}

// onShelf is a recipe without products that this shop does not have.
func onShelf(m *snapshot.Snapshot, c recipe.OwnContent) recipe.OwnContent {
	here := func(steps []recipe.OwnStep) []recipe.OwnStep {
		steps = slices.Clone(steps)
		for i := range steps {
			if id := steps[i].Step.Product; id != nil {
				if made, found := m.Product(*id); !found || made.Family.ID != steps[i].Step.Family {
					steps[i].Step.Product = nil
				}
			}
		}
		return steps
	}
	c.Steps, c.Hand = here(c.Steps), slices.Clone(c.Hand)
	for i := range c.Hand {
		c.Hand[i].Steps = here(c.Hand[i].Steps)
	}
	return c
}

// fragment fills in the steps of an addition that is a fragment of the shop's own.
func (b *Set) fragment(in *recipe.Instrument, e *edit.Edit) error {
	id, own := strings.CutPrefix(e.What, OwnPrefix)
	if e.Op != edit.Add || !own {
		return nil
	}
	key, err := uuid.Parse(id)
	r, found := b.Own(key)
	if err != nil || !found || r.Kind != recipe.OwnFragment {
		return refuse.Field("edit.what", "there is no such fragment among the shop's recipes", e.What)
	}
	p := slices.IndexFunc(in.Pieces, func(p job.Piece) bool { return p.ID == e.Piece })
	if p < 0 {
		return refuse.Field("edit.pieceId", "must be a piece of this instrument", e.Piece)
	}
	regions := e.Regions
	if len(regions) == 0 {
		for _, piece := range in.Pieces {
			for _, z := range piece.Regions {
				if piece.ID == e.Piece || in.Pieces[p].Kind == job.Whole {
					regions = append(regions, z.ID)
				}
			}
		}
	}
	v := r.Latest()
	e.Steps = onShelf(b.Snapshot, v.Content).StepsOn(in.Pieces[p], regions, recipe.OwnUse{ID: r.ID, Version: v.Version})
	return nil
}

// Followed is a wish with the schools that the shop follows where nobody has chosen.
func Followed(m *snapshot.Snapshot, w recipe.Wish) recipe.Wish {
	if len(m.Setting.Ways) == 0 {
		return w
	}
	for _, c := range w.Choices() {
		option := m.Setting.Ways[c.Topic]
		if c.Open && option != "" && option != c.Chosen && slices.ContainsFunc(c.Ways,
			func(s recipe.School) bool { return s.Option == option }) {
			w = w.With(c.Topic, c.Piece, option)
		}
	}
	return w
}
