package snapshot

import (
	"slices"

	"github.com/google/uuid"
)

// Regions are those that a step is done to, piece by piece in the order in which they stand there.
func (l Located) Regions() []uuid.UUID {
	list, wanted := []uuid.UUID{}, l.Piece().RegionsOf(l.Step())
	for _, p := range l.Instrument().Pieces {
		for _, z := range p.Regions {
			if slices.Contains(wanted, z.ID) {
				list = append(list, z.ID)
			}
		}
	}
	return list
}
