package shop

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// OwnRecipe is a recipe of the shop's own with all its versions, to go out as a file.
func (s Reader) OwnRecipe(ctx context.Context, id uuid.UUID) (recipe.Own, error) {
	var own recipe.Own
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		found := false
		if own, found = m.Own(id); !found {
			return refuse.Missing("recipe", id)
		}
		return nil
	})
	return own, err
}

// TakeRecipe adds a recipe that came from a file. Of one that is there already, only versions beyond its latest are
// added, where the earlier ones say the same.
func (s Decider) TakeRecipe(ctx context.Context, r recipe.Own) (views.RecipeView, error) {
	err := s.onShop(ctx, func(w *changes.Unit) error {
		known, there := w.Before.Own(r.ID)
		if !there {
			if slices.ContainsFunc(w.Before.Workshop.Recipes, func(o recipe.Own) bool { return strings.EqualFold(o.Name, r.Name) }) {
				r.Name = string([]rune(r.Name)[:min(45, len([]rune(r.Name)))]) + " (from a file)"
			}
			return w.KeepRecipe(ctx, r)
		}
		for i, v := range r.Versions[:min(len(r.Versions), len(known.Versions))] {
			if !changes.Alike(known.Versions[i].Content, v.Content) {
				return refuse.Field(fmt.Sprintf("recipe.versions[%d]", i),
					fmt.Sprintf("version %d of %s says something else here: give the one in the file an id of its own", v.Version,
						known.Name), v.Version)
			}
		}
		known.Versions = append(slices.Clone(known.Versions), r.Versions[min(len(r.Versions), len(known.Versions)):]...)
		return w.KeepRecipe(ctx, known)
	})
	if err != nil {
		return views.RecipeView{}, err
	}
	return Reader(s).Recipe(ctx, r.ID)
}
