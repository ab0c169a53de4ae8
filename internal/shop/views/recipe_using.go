package views

import (
	"errors"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// use is where an instrument uses a recipe.
type use struct {
	version int
	kind    job.PieceKind // the piece; empty: all of it
	steps   []uuid.UUID   // of a fragment
}

// UsesOf are the places in which an instrument uses a recipe.
func UsesOf(in *recipe.Instrument, id uuid.UUID) (list []use) {
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

// UseOf is what the latest version of a recipe would do where an earlier one is used.
func UseOf(m *snapshot.Snapshot, i int, r recipe.Own, u use) (RecipeUse, error) {
	in := &m.Workshop.Instruments[i]
	view := RecipeUse{InstrumentID: in.ID, Name: in.Name, Where: string(u.kind), Version: u.version, Changes: []changes.Change{}}
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
		view.Changes, view.Why = fragmentOver(m, in, u, recipe.OwnUse{ID: r.ID, Version: latest.Version})
	default:
		view.Changes = wishOver(in, u, latest.Content, recipe.OwnUse{ID: r.ID, Version: latest.Version})
	}
	if view.Why != "" {
		view.Changes = []changes.Change{}
		return view, nil
	}
	b, err := changes.NewSet(m, view.Changes, uuid.Nil)
	var wrong *refuse.Invalid
	if errors.As(err, &wrong) {
		view.Why, view.Changes = wrong.Faults[0].Message, []changes.Change{}
		return view, nil
	} else if err != nil {
		return view, err
	}
	if edit.Between(*in, b.Workshop.Instruments[i]).SameSteps() {
		view.Why, view.Changes = "it is past that point: nothing that is still to be done would differ", []changes.Change{}
		return view, nil
	}
	var way RepairWay
	if err := into(b, &way, in.ID); err != nil {
		if !errors.As(err, &wrong) {
			return view, err
		}
		view.Why, view.Changes = wrong.Faults[0].Message, []changes.Change{}
		return view, nil
	}
	view.Offered, view.Effect, view.Late = true, way.Days, way.Late
	return view, nil
}

// wishOver is the wish of an instrument with the latest version of a stack or a schedule in it.
func wishOver(in *recipe.Instrument, u use, latest recipe.OwnContent, own recipe.OwnUse) []changes.Change {
	wish := snapshot.WishOf(in).Stacked()
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
	return []changes.Change{{Kind: "wish", InstrumentID: in.ID, Wish: &wish, Version: in.Version}}
}

// fragmentOver is the latest version of a fragment in the place of an earlier one; it says why where that cannot be.
func fragmentOver(m *snapshot.Snapshot, in *recipe.Instrument, u use, own recipe.OwnUse) ([]changes.Change, string) {
	for _, id := range u.steps {
		if m.Log.Spoken()[id] {
			return nil, "it is past that point: some of it is logged"
		}
	}
	var list []changes.Change
	for _, p := range in.Pieces {
		first := slices.IndexFunc(p.Steps, func(s job.Step) bool { return slices.Contains(u.steps, s.ID) })
		if first < 0 {
			continue
		}
		add := edit.Edit{Op: edit.Add, Step: uuid.NewSHA1(u.steps[0], []byte(own.String())), Piece: p.ID,
			What: changes.OwnPrefix + own.ID.String()}
		if first > 0 {
			add.After = p.Steps[first-1].ID
		}
		list = append(list, changes.Change{Kind: "edit", InstrumentID: in.ID, Edit: &add})
	}
	for _, id := range u.steps {
		list = append(list, changes.Change{Kind: "edit", InstrumentID: in.ID, Edit: &edit.Edit{Op: edit.Remove, Step: id}})
	}
	return list, ""
}
