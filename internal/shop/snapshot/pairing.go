package snapshot

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/settings"
	"umberfrost/internal/shop/refuse"
)

// WorksHere refuses who is nobody of this shop.
func (m *Snapshot) WorksHere(person uuid.UUID) error {
	if !slices.ContainsFunc(m.People, func(p settings.Person) bool { return p.ID == person && !p.Left }) {
		return refuse.Field("personId", "must be one of the people who work in this shop", nil)
	}
	return nil
}
