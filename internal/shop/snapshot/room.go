package snapshot

import "github.com/google/uuid"

func (m *Snapshot) PlaceName(id uuid.UUID) string {
	for _, p := range m.Input.Shop.Places {
		if p.ID == id {
			return p.Name
		}
	}
	return "a place"
}
