package shop

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
)

// OwnRecipe is a recipe of the shop's own with all its versions, to go out as a file.
func (s *Service) OwnRecipe(ctx context.Context, id uuid.UUID) (recipe.Own, error) {
	var own recipe.Own
	err := s.look(ctx, func(m *moment) error {
		found := false
		if own, found = m.own(id); !found {
			return missing("recipe", id)
		}
		return nil
	})
	return own, err
}

// TakeRecipe adds a recipe that came from a file. Of one that is there already, only versions beyond its latest are
// added, where the earlier ones say the same.
func (s *Service) TakeRecipe(ctx context.Context, r recipe.Own) (RecipeView, error) {
	err := s.onShop(ctx, func(w *unitOfWork) error {
		known, there := w.before.own(r.ID)
		if !there {
			if slices.ContainsFunc(w.before.file.Recipes, func(o recipe.Own) bool { return strings.EqualFold(o.Name, r.Name) }) {
				r.Name = string([]rune(r.Name)[:min(45, len([]rune(r.Name)))]) + " (from a file)"
			}
			return w.keepRecipe(ctx, r)
		}
		for i, v := range r.Versions[:min(len(r.Versions), len(known.Versions))] {
			if !alike(known.Versions[i].Content, v.Content) {
				return invalid(fmt.Sprintf("recipe.versions[%d]", i),
					fmt.Sprintf("version %d of %s says something else here: give the one in the file an id of its own", v.Version, known.Name), v.Version)
			}
		}
		known.Versions = append(slices.Clone(known.Versions), r.Versions[min(len(r.Versions), len(known.Versions)):]...)
		return w.keepRecipe(ctx, known)
	})
	if err != nil {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, r.ID)
}
