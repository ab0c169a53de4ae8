package changes

import (
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

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
		if c.Open && option != "" && option != c.Chosen && slices.ContainsFunc(c.Ways, func(s recipe.School) bool { return s.Option == option }) {
			w = w.With(c.Topic, c.Piece, option)
		}
	}
	return w
}
