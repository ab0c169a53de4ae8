package shop

import (
	"errors"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// use is where an instrument uses a recipe.
type use struct {
	version int
	kind    job.PieceKind // the piece; empty: all of it
	steps   []uuid.UUID   // of a fragment
}

// usesOf are the places in which an instrument uses a recipe.
func usesOf(in *recipe.Instrument, id uuid.UUID) (list []use) {
	if in.Wish != nil {
		if own := in.Wish.Own; own != nil && own.ID == id {
			list = append(list, use{version: own.Version})
		}
		for _, p := range in.Wish.Pieces {
			if p.Own != nil && p.Own.ID == id {
				list = append(list, use{version: p.Own.Version, kind: p.Kind})
			}
		}
	}
	for _, p := range in.Pieces {
		var part use
		for _, s := range p.Steps {
			if own, named := recipe.ParseOwnUse(s.Recipe); named && own.ID == id {
				part.version, part.kind = own.Version, p.Kind
				part.steps = append(part.steps, s.ID)
			}
		}
		if len(part.steps) > 0 {
			list = append(list, part)
		}
	}
	return list
}

// recipeUse is what the latest version of a recipe would do where an earlier one is used.
func (m *moment) recipeUse(i int, r recipe.Own, u use) (RecipeUse, error) {
	in := &m.file.Instruments[i]
	view := RecipeUse{InstrumentID: in.ID, Name: in.Name, Where: string(u.kind), Version: u.version, Changes: []Change{}}
	if u.kind == "" {
		view.Where = "all of it"
	}
	latest := r.Latest()
	if u.version >= latest.Version {
		view.Why = "it uses the latest"
		return view, nil
	}
	switch r.Kind {
	case recipe.OwnFragment:
		view.Changes, view.Why = m.fragmentOver(in, u, recipe.OwnUse{ID: r.ID, Version: latest.Version})
	default:
		view.Changes = wishOver(in, u, latest.Content, recipe.OwnUse{ID: r.ID, Version: latest.Version})
	}
	if view.Why != "" {
		view.Changes = []Change{}
		return view, nil
	}
	b, err := m.bend(view.Changes, uuid.Nil)
	var wrong *Invalid
	if errors.As(err, &wrong) {
		view.Why, view.Changes = wrong.Faults[0].Message, []Change{}
		return view, nil
	} else if err != nil {
		return view, err
	}
	if edit.Between(*in, b.file.Instruments[i]).SameSteps() {
		view.Why, view.Changes = "it is past that point: nothing that is still to be done would differ", []Change{}
		return view, nil
	}
	var way RepairWay
	if err := b.into(&way, in.ID); err != nil {
		if !errors.As(err, &wrong) {
			return view, err
		}
		view.Why, view.Changes = wrong.Faults[0].Message, []Change{}
		return view, nil
	}
	view.Offered, view.Effect, view.Late = true, way.Days, way.Late
	return view, nil
}

// wishOver is the wish of an instrument with the latest version of a stack or a schedule in it.
func wishOver(in *recipe.Instrument, u use, latest recipe.OwnContent, own recipe.OwnUse) []Change {
	wish := wishOf(in).Stacked()
	if u.kind == "" {
		next := latest.Wish.Stacked()
		next.Arrivals, next.Own = wish.Arrivals, &own
		for i := range next.Pieces {
			for _, p := range wish.Pieces {
				if p.Kind == next.Pieces[i].Kind {
					next.Pieces[i] = p.Taking(next.Pieces[i], own)
					next.Pieces[i].Own = p.Own
				}
			}
		}
		wish = next
	}
	for i := range wish.Pieces {
		if u.kind != "" && wish.Pieces[i].Kind == u.kind {
			wish.Pieces[i] = wish.Pieces[i].Taking(*latest.Stack, own)
		}
	}
	return []Change{{Kind: "wish", InstrumentID: in.ID, Wish: &wish, Version: in.Version}}
}

// fragmentOver is the latest version of a fragment in the place of an earlier one; it says why where that cannot be.
func (m *moment) fragmentOver(in *recipe.Instrument, u use, own recipe.OwnUse) ([]Change, string) {
	for _, id := range u.steps {
		if m.log.Spoken()[id] {
			return nil, "it is past that point: some of it is logged"
		}
	}
	var list []Change
	for _, p := range in.Pieces {
		first := slices.IndexFunc(p.Steps, func(s job.Step) bool { return slices.Contains(u.steps, s.ID) })
		if first < 0 {
			continue
		}
		add := edit.Edit{Op: edit.Add, Step: uuid.NewSHA1(u.steps[0], []byte(own.Text())), Piece: p.ID, What: ownPrefix + own.ID.String()}
		if first > 0 {
			add.After = p.Steps[first-1].ID
		}
		list = append(list, Change{Kind: "edit", InstrumentID: in.ID, Edit: &add})
	}
	for _, id := range u.steps {
		list = append(list, Change{Kind: "edit", InstrumentID: in.ID, Edit: &edit.Edit{Op: edit.Remove, Step: id}})
	}
	return list, ""
}

// ownPrefix begins the id of an addition that is a fragment of the shop's own.
const ownPrefix = "own-"

// handed is a composed schedule with what a hand had changed in the own schedule that it began from.
func (m *moment) handed(wish recipe.Wish, d recipe.Draft) recipe.Draft {
	if wish.Own == nil {
		return d
	}
	r, found := m.own(wish.Own.ID)
	v, there := r.Find(wish.Own.Version)
	if !found || !there || len(v.Content.Hand) == 0 {
		return d
	}
	return m.onShelf(v.Content).Composed(d)
}

// released is a schedule in which what an earlier version of its recipe had left is not held as changed by hand.
func (m *moment) released(was *recipe.OwnUse, kept recipe.Draft) recipe.Draft {
	if was == nil {
		return kept
	}
	r, found := m.own(was.ID)
	if v, there := r.Find(was.Version); found && there {
		return v.Content.Released(kept)
	}
	return kept
}

// onShelf is a recipe without products that this shop does not have.
func (m *moment) onShelf(c recipe.OwnContent) recipe.OwnContent {
	here := func(steps []recipe.OwnStep) []recipe.OwnStep {
		steps = slices.Clone(steps)
		for i := range steps {
			if id := steps[i].Step.Product; id != nil {
				if made, found := m.product(*id); !found || made.Family.ID != steps[i].Step.Family {
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
func (b *changeSet) fragment(in *recipe.Instrument, e *edit.Edit) error {
	id, own := strings.CutPrefix(e.What, ownPrefix)
	if e.Op != edit.Add || !own {
		return nil
	}
	key, err := uuid.Parse(id)
	r, found := b.own(key)
	if err != nil || !found || r.Kind != recipe.OwnFragment {
		return invalid("edit.what", "there is no such fragment among the shop's recipes", e.What)
	}
	p := slices.IndexFunc(in.Pieces, func(p job.Piece) bool { return p.ID == e.Piece })
	if p < 0 {
		return invalid("edit.pieceId", "must be a piece of this instrument", e.Piece)
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
	e.Steps = b.onShelf(v.Content).StepsOn(in.Pieces[p], regions, recipe.OwnUse{ID: r.ID, Version: v.Version})
	return nil
}

// followed is a wish with the schools that the shop follows where nobody has chosen.
func (m *moment) followed(w recipe.Wish) recipe.Wish {
	if len(m.setting.Ways) == 0 {
		return w
	}
	for _, c := range w.Choices() {
		option := m.setting.Ways[c.Topic]
		if c.Open && option != "" && option != c.Chosen && slices.ContainsFunc(c.Ways, func(s recipe.School) bool { return s.Option == option }) {
			w = w.With(c.Topic, c.Piece, option)
		}
	}
	return w
}
