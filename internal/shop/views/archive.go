package views

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// ArchivedLine is an instrument that is put aside.
type ArchivedLine struct {
	ID      uuid.UUID       `json:"id"`
	Name    string          `json:"name"`
	Serial  string          `json:"serial"`
	Woods   []string        `json:"woods"`
	Own     *OwnOutline     `json:"own,omitempty" doc:"an outline of its own"`
	Outline string          `json:"outline"`
	Since   snapshot.Moment `json:"since"`
	Done    int             `json:"done" doc:"events done"`
	Total   int             `json:"total" doc:"events in all"`
}

// Progress counts the events of an instrument that are done, and all of them.
func Progress(m *snapshot.Snapshot, in *recipe.Instrument) (done, total int) {
	for _, piece := range in.Pieces {
		for _, step := range piece.Steps {
			total += step.Due()
			for coat := 1; coat <= step.Due(); coat++ {
				if _, is := m.Facts[job.Event{Step: step.ID, Coat: coat}]; is {
					done++
				}
			}
		}
	}
	return done, total
}

// WoodsOf names the woods of an instrument, each once.
func WoodsOf(in *recipe.Instrument) []string {
	names := []string{}
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			if timber, err := wood.Find(z.Wood); err == nil && !slices.Contains(names, timber.Name) {
				names = append(names, timber.Name)
			}
		}
	}
	return names
}

// BroughtBack is the shop as it would be with an instrument out of the archive; nil where it is not there.
func BroughtBack(m *snapshot.Snapshot, id uuid.UUID) (*snapshot.Snapshot, error) {
	if m.FindArchived(id) == nil {
		return nil, nil
	}
	b, err := changes.NewSet(m, []changes.Change{{Kind: "back", InstrumentID: id}}, uuid.Nil)
	if err != nil {
		return nil, err
	}
	answer, err := b.Answer()
	if err != nil {
		return nil, err
	}
	return result(b, answer)
}

// Deletion asks to delete an instrument of which nothing is logged, by its name.
type Deletion struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name" doc:"its name, typed: it cannot be undone"`
}

// Deleted is what was deleted.
type Deleted struct {
	Name  string                  `json:"name"`
	Moved []changes.MovedForecast `json:"moved" doc:"instruments whose finish that moved"`
}
