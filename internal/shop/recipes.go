package shop

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Recipes lists the recipes of the shop's own, those that are still offered first.
func (s Reader) Recipes(ctx context.Context) ([]views.RecipeLine, error) {
	list := []views.RecipeLine{}
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		for _, r := range m.Workshop.Recipes {
			list = append(list, views.LineOf(m, r))
		}
		slices.SortStableFunc(list, func(a, b views.RecipeLine) int { return views.Gone(a) - views.Gone(b) })
		return nil
	})
	return list, err
}

// Recipe shows one own recipe, and what its latest version would do to the instruments that use an earlier one.
func (s Reader) Recipe(ctx context.Context, id uuid.UUID) (views.RecipeView, error) {
	view := views.RecipeView{Versions: []views.RecipeVersion{}, Uses: []views.RecipeUse{}}
	err := s.ask(ctx, func(m *snapshot.Snapshot) error {
		r, found := m.Own(id)
		if !found {
			return refuse.Missing("recipe", id)
		}
		view.RecipeLine = views.LineOf(m, r)
		for _, v := range slices.Backward(r.Versions) {
			view.Versions = append(view.Versions, views.VersionOf(m, v))
		}
		for i := range m.Workshop.Instruments {
			for _, u := range views.UsesOf(&m.Workshop.Instruments[i], id) {
				one, err := views.UseOf(m, i, r, u)
				if err != nil {
					return err
				}
				view.Uses = append(view.Uses, one)
			}
		}
		slices.SortStableFunc(view.Uses, func(a, b views.RecipeUse) int { return views.Offered(b) - views.Offered(a) })
		return nil
	})
	return view, err
}

// CompareRecipes puts two versions beside one another.
func (s Reader) CompareRecipes(ctx context.Context, in views.RecipePair) (views.RecipeCompared, error) {
	out := views.RecipeCompared{Lines: []recipe.Difference{}}
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		var sides [2]recipe.OwnContent
		for i, u := range []recipe.OwnUse{in.A, in.B} {
			r, found := m.Own(u.ID)
			v, there := r.Find(u.Version)
			if !found || !there {
				return refuse.Field(string("ab"[i]), "must be a version of a recipe of this shop", u.String())
			}
			sides[i] = v.Content
		}
		out.Lines = append(out.Lines, recipe.Compare(sides[0], sides[1])...)
		return nil
	})
	return out, err
}
