package snapshot

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/settings"
	"umberfrost/internal/shop/refuse"
)

// IsOfShop says, of who is named under a field, that it is nobody of this shop; nil where it is somebody, also one who has
// left.
func (st *State) IsOfShop(field string, person uuid.UUID) *refuse.Invalid {
	if slices.ContainsFunc(st.People, func(p settings.Person) bool { return p.ID == person }) {
		return nil
	}
	return refuse.Field(field, "must be one of the people of this shop", person)
}
