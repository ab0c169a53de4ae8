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
	err := s.onShop(ctx, func(w *writing) error {
		known, there := w.before.own(r.ID)
		if !there {
			if slices.ContainsFunc(w.before.file.Recipes, func(o recipe.Own) bool { return strings.EqualFold(o.Name, r.Name) }) {
				r.Name = string([]rune(r.Name)[:min(45, len([]rune(r.Name)))]) + " (from a file)"
			}
			if err := w.AddOwnRecipe(ctx, r, s.clock()); err != nil {
				return err
			}
		}
		for i, v := range r.Versions {
			if i >= len(known.Versions) {
				if err := w.AddOwnVersion(ctx, r.ID, v); err != nil {
					return err
				}
				continue
			}
			if !alike(known.Versions[i].Content, v.Content) {
				return invalid(fmt.Sprintf("recipe.versions[%d]", i),
					fmt.Sprintf("version %d of %s says something else here: give the one in the file an id of its own", v.Version, known.Name), v.Version)
			}
		}
		return w.reread(ctx)
	})
	if err != nil {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, r.ID)
}

// recipes adds the recipes of a schedule file that the shop does not have.
func (i *importing) recipes(ctx context.Context) error {
	for _, r := range i.file.Recipes {
		if i.before != nil {
			if _, there := i.before.own(r.ID); there {
				continue
			}
		}
		if err := i.tx.AddOwnRecipe(ctx, r, r.Versions[0].At); err != nil {
			return named(err, "recipes", r.Name)
		}
		for _, v := range r.Versions {
			if err := i.tx.AddOwnVersion(ctx, r.ID, v); err != nil {
				return named(err, "recipes", r.Name)
			}
		}
		i.done.Recipes++
	}
	return nil
}
