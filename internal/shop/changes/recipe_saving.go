package changes

import (
	"bytes"
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// RecipeSaved is what somebody saves as a recipe of the shop's own: a stack as it stands on the page, a whole
// schedule of an instrument, or some steps of one. The id of a recipe that is there makes another version of it.
type RecipeSaved struct {
	ID           uuid.UUID         `json:"id" doc:"made by the device for a new one"`
	Name         string            `json:"name" maxLength:"60"`
	Kind         recipe.OwnKind    `json:"kind" enum:"stack,schedule,fragment"`
	Note         string            `json:"note,omitempty" maxLength:"200" doc:"what is better about this version"`
	Stack        *recipe.PieceWish `json:"stack,omitempty" doc:"of a stack"`
	InstrumentID uuid.UUID         `json:"instrumentId,omitzero" doc:"of a schedule or a fragment: from where"`
	StepIDs      []uuid.UUID       `json:"stepIds,omitempty" maxItems:"40" doc:"of a fragment"`
	PersonID     uuid.UUID         `json:"personId,omitzero"`
}

// Once is the id under which it is kept once: saved again with other content, it is another version.
func (in RecipeSaved) Once() uuid.UUID { return in.ID }

// RecipeNamed is another name of a recipe, and whether it is still offered.
type RecipeNamed struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name" maxLength:"60"`
	Retired bool      `json:"retired"`
}

// KeepRecipe keeps a recipe as it is now, or a new one.
func (w *Unit) KeepRecipe(ctx context.Context, r recipe.Own) error {
	b, err := Bend(w.Before, nil, uuid.Nil)
	if err != nil {
		return err
	}
	b.Workshop.PutRecipe(r)
	w.Changes = b
	return w.Finish(ctx)
}

func Alike(a, b recipe.OwnContent) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && bytes.Equal(x, y)
}

// ContentOf is what is to be saved.
func ContentOf(m *snapshot.Snapshot, in RecipeSaved) (recipe.OwnContent, error) {
	if in.Kind == recipe.OwnStack {
		if in.Stack == nil {
			return recipe.OwnContent{}, refuse.Field("stack", "say which stack", nil)
		}
		return recipe.StackOf(*in.Stack), nil
	}
	i := slices.IndexFunc(m.Workshop.Instruments, func(o recipe.Instrument) bool { return o.ID == in.InstrumentID })
	switch {
	case i < 0:
		return recipe.OwnContent{}, refuse.Field("instrumentId", "must be an instrument of this shop", in.InstrumentID)
	case in.Kind == recipe.OwnFragment:
		content := recipe.FragmentOf(m.Workshop.Instruments[i], in.StepIDs)
		if len(content.Steps) == 0 {
			return content, refuse.Field("stepIds", "choose some steps of that instrument", nil)
		}
		return content, nil
	case m.Workshop.Instruments[i].Wish == nil:
		return recipe.OwnContent{}, refuse.Field("instrumentId", "what was wished of it is not known here: save its steps as a fragment", in.InstrumentID)
	}
	return recipe.ScheduleOf(m.Workshop.Instruments[i]), nil
}
