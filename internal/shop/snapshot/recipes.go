package snapshot

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
)

func (st *State) Own(id uuid.UUID) (recipe.Own, bool) {
	i := slices.IndexFunc(st.Workshop.Recipes, func(r recipe.Own) bool { return r.ID == id })
	if i < 0 {
		return recipe.Own{}, false
	}
	return st.Workshop.Recipes[i], true
}
