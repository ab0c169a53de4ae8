package demo

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
)

// Job is one instrument of a room.
type Job struct {
	Name    string
	Outline string
	Started int // days ago
	Promise int // days ahead
	Wish    recipe.Wish
	Colours map[string]string // by role, the products whose colour was chosen
	Serial  string
	Show    int // days ahead on which it must be fit to be shown; 0: no such day
}

func jobID(name string) uuid.UUID { return uuid.NewSHA1(uuid.NameSpaceOID, []byte("job "+name)) }

// choices is a job as somebody would have entered it. Of each family that comes in one colour the first product on
// the shelf is taken.
func (j Job) choices(now time.Time, shelf map[string]uuid.UUID, products []Product) (changes.NewInstrument, error) {
	in := changes.NewInstrument{ID: jobID(j.Name), Name: j.Name, Outline: j.Outline, Serial: j.Serial, Wish: j.Wish,
		Promise: now.AddDate(0, 0, j.Promise).Format(time.DateOnly), Materials: make(map[string]uuid.UUID)}
	if j.Show > 0 {
		in.Show = now.AddDate(0, 0, j.Show).Format(time.DateOnly)
	}
	draft, faults, err := recipe.Compose(j.Wish.Of(j.Outline, ""))
	if err != nil || len(faults) > 0 {
		return in, fmt.Errorf("%v %w", faults, err)
	}
	for _, role := range draft.Roles() {
		for _, p := range products {
			if p.Family == role.Family && !coloured[role.Family] && in.Materials[role.ID] == uuid.Nil {
				in.Materials[role.ID] = shelf[p.Name]
			}
		}
		if name := j.Colours[role.ID]; name != "" {
			in.Materials[role.ID] = shelf[name]
		}
	}
	return in, nil
}

// coloured are families of which the shelf has several colours.
var coloured = map[string]bool{"water-dye": true, "binder-stain": true, "airbrush-colour": true}
