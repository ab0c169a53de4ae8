package snapshot

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

func StepIn(in *recipe.Instrument, id uuid.UUID) *job.Step {
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			if in.Pieces[p].Steps[s].ID == id {
				return &in.Pieces[p].Steps[s]
			}
		}
	}
	return nil
}

func RegionNames(in *recipe.Instrument, ids []uuid.UUID) (names []string) {
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			if slices.Contains(ids, z.ID) {
				names = append(names, z.Name)
			}
		}
	}
	return names
}
