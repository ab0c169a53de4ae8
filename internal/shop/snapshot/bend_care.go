package snapshot

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
)

// FindArchived is an instrument that is put aside; nil where none of this id is.
func (st *State) FindArchived(id uuid.UUID) *recipe.Instrument {
	at := slices.IndexFunc(st.Archive.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return nil
	}
	return &st.Archive.Instruments[at]
}
