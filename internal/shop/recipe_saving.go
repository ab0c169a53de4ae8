package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// SaveRecipe saves a recipe, or another version of one. It fails with *Invalid naming the field. Saving the very
// same once more changes nothing.
func (s Decider) SaveRecipe(ctx context.Context, in changes.RecipeSaved) (views.RecipeView, error) {
	in.PersonID = access.Who(ctx, in.PersonID)
	err := s.onShop(ctx, func(w *changes.Unit) error {
		content, err := changes.ContentOf(w.Before, in)
		if err != nil {
			return err
		}
		known, there := w.Before.Own(in.ID)
		made := recipe.Own{ID: in.ID, Name: strings.TrimSpace(in.Name), Kind: in.Kind}
		v := recipe.OwnVersion{Version: 1, At: s.clock().UTC().Truncate(time.Microsecond), Note: strings.TrimSpace(in.Note),
			Content: content}
		if in.PersonID != uuid.Nil {
			if err := w.Before.IsOfShop("personId", in.PersonID); err != nil {
				return err
			}
			v.Person = &in.PersonID
		}
		switch {
		case there && known.Kind != in.Kind:
			return refuse.Field("kind", fmt.Sprintf("%s is a %s; save this under another name", known.Name, known.Kind), in.Kind)
		case there && changes.Alike(known.Latest().Content, content):
			return changes.ErrKept
		case there:
			v.Version = known.Latest().Version + 1
		case slices.ContainsFunc(w.Before.Workshop.Recipes, func(r recipe.Own) bool { return strings.EqualFold(r.Name, made.Name) }):
			return refuse.Field("name", "there is a recipe of that name: choose it to save another version, or another name", in.Name)
		}
		made.Versions = []recipe.OwnVersion{v}
		check := made
		check.Versions = []recipe.OwnVersion{v}
		check.Versions[0].Version = 1
		if faults := check.Check(); len(faults) > 0 {
			return &refuse.Invalid{Faults: faults}
		}
		made.Versions = []recipe.OwnVersion{v}
		if there {
			made = known
			made.Versions = append(slices.Clone(known.Versions), v)
		}
		return w.KeepRecipe(ctx, made)
	})
	if err != nil && !errors.Is(err, changes.ErrKept) {
		return views.RecipeView{}, err
	}
	return Reader(s).Recipe(ctx, in.ID)
}

// NameRecipe gives a recipe another name, or takes it from what is offered, or back.
func (s Decider) NameRecipe(ctx context.Context, in changes.RecipeNamed) (views.RecipeView, error) {
	err := s.onShop(ctx, func(w *changes.Unit) error {
		name := strings.TrimSpace(in.Name)
		known, there := w.Before.Own(in.ID)
		switch {
		case !there:
			return refuse.Missing("recipe", in.ID)
		case name == "" || len([]rune(name)) > 60:
			return refuse.Field("name", "give it a name of 1 to 60 characters", in.Name)
		}
		known.Name, known.Retired = name, in.Retired
		return w.KeepRecipe(ctx, known)
	})
	if err != nil {
		return views.RecipeView{}, err
	}
	return Reader(s).Recipe(ctx, in.ID)
}
