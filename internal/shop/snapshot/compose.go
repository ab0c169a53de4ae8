package snapshot

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
)

func (st *State) Product(id uuid.UUID) (material.Material, bool) {
	if made := st.Catalogue.Product(&id); made != nil {
		return *made, true
	}
	return material.Material{}, false
}
