package shop

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
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

// SaveRecipe saves a recipe, or another version of one. It fails with *Invalid naming the field. Saving the very
// same once more changes nothing.
func (s *Service) SaveRecipe(ctx context.Context, in RecipeSaved) (RecipeView, error) {
	in.PersonID = who(ctx, in.PersonID)
	err := s.onShop(ctx, func(w *unitOfWork) error {
		content, err := w.before.contentOf(in)
		if err != nil {
			return err
		}
		known, there := w.before.own(in.ID)
		made := recipe.Own{ID: in.ID, Name: strings.TrimSpace(in.Name), Kind: in.Kind}
		v := recipe.OwnVersion{Version: 1, At: s.clock().UTC().Truncate(time.Microsecond), Note: strings.TrimSpace(in.Note), Content: content}
		if in.PersonID != uuid.Nil {
			if err := w.before.isOfShop("personId", in.PersonID); err != nil {
				return err
			}
			v.Person = &in.PersonID
		}
		switch {
		case there && known.Kind != in.Kind:
			return invalid("kind", fmt.Sprintf("%s is a %s; save this under another name", known.Name, known.Kind), in.Kind)
		case there && alike(known.Latest().Content, content):
			return errKept
		case there:
			v.Version = known.Latest().Version + 1
		case slices.ContainsFunc(w.before.file.Recipes, func(r recipe.Own) bool { return strings.EqualFold(r.Name, made.Name) }):
			return invalid("name", "there is a recipe of that name: choose it to save another version, or another name", in.Name)
		}
		made.Versions = []recipe.OwnVersion{v}
		check := made
		check.Versions = []recipe.OwnVersion{v}
		check.Versions[0].Version = 1
		if faults := check.Check(); len(faults) > 0 {
			return &Invalid{faults}
		}
		made.Versions = []recipe.OwnVersion{v}
		if there {
			made = known
			made.Versions = append(slices.Clone(known.Versions), v)
		}
		return w.keepRecipe(ctx, made)
	})
	if err != nil && !errors.Is(err, errKept) {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, in.ID)
}

// keepRecipe keeps a recipe as it is now, or a new one.
func (w *unitOfWork) keepRecipe(ctx context.Context, r recipe.Own) error {
	b, err := w.before.bend(nil, uuid.Nil)
	if err != nil {
		return err
	}
	b.file.PutRecipe(r)
	w.changes = b
	return w.finish(ctx)
}

func alike(a, b recipe.OwnContent) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && bytes.Equal(x, y)
}

// contentOf is what is to be saved.
func (m *moment) contentOf(in RecipeSaved) (recipe.OwnContent, error) {
	if in.Kind == recipe.OwnStack {
		if in.Stack == nil {
			return recipe.OwnContent{}, invalid("stack", "say which stack", nil)
		}
		return recipe.StackOf(*in.Stack), nil
	}
	i := slices.IndexFunc(m.file.Instruments, func(o recipe.Instrument) bool { return o.ID == in.InstrumentID })
	switch {
	case i < 0:
		return recipe.OwnContent{}, invalid("instrumentId", "must be an instrument of this shop", in.InstrumentID)
	case in.Kind == recipe.OwnFragment:
		content := recipe.FragmentOf(m.file.Instruments[i], in.StepIDs)
		if len(content.Steps) == 0 {
			return content, invalid("stepIds", "choose some steps of that instrument", nil)
		}
		return content, nil
	case m.file.Instruments[i].Wish == nil:
		return recipe.OwnContent{}, invalid("instrumentId", "what was wished of it is not known here: save its steps as a fragment", in.InstrumentID)
	}
	return recipe.ScheduleOf(m.file.Instruments[i]), nil
}

// NameRecipe gives a recipe another name, or takes it from what is offered, or back.
func (s *Service) NameRecipe(ctx context.Context, in RecipeNamed) (RecipeView, error) {
	err := s.onShop(ctx, func(w *unitOfWork) error {
		name := strings.TrimSpace(in.Name)
		known, there := w.before.own(in.ID)
		switch {
		case !there:
			return missing("recipe", in.ID)
		case name == "" || len([]rune(name)) > 60:
			return invalid("name", "give it a name of 1 to 60 characters", in.Name)
		}
		known.Name, known.Retired = name, in.Retired
		return w.keepRecipe(ctx, known)
	})
	if err != nil {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, in.ID)
}
