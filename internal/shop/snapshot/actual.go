package snapshot

import "github.com/google/uuid"

func (m *Snapshot) ProductName(id uuid.UUID) string {
	for _, p := range m.Products {
		if p.ID == id {
			return p.Name
		}
	}
	return "a product that is gone"
}

func (m *Snapshot) PersonName(id uuid.UUID) string {
	for _, p := range m.People {
		if p.ID == id {
			return p.Name
		}
	}
	return "somebody"
}
