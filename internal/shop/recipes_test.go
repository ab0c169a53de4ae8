package shop_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

func (r *room) save(in changes.RecipeSaved) views.RecipeView {
	r.t.Helper()
	in.PersonID = r.person
	view, err := r.service.SaveRecipe(ctx, in)
	require.NoError(r.t, err)
	return view
}

// An own stack is saved, used, bettered and offered to what uses it, with its effect; what is past that point is left.
func TestAnOwnRecipeIsSavedUsedBetteredAndOffered(t *testing.T) {
	t.Parallel()
	r := open(t)
	stack := glossBody("").Wish.Pieces[0]
	id := uuid.New()
	saved := r.save(changes.RecipeSaved{ID: id, Name: "Watt glänzend", Kind: recipe.OwnStack, Stack: &stack})
	assert.Equal(t, []any{1, 0}, []any{saved.Version, saved.Used})
	same := r.save(changes.RecipeSaved{ID: id, Name: "Watt glänzend", Kind: recipe.OwnStack, Stack: &stack})
	assert.Equal(t, 1, same.Version, "the very same is no better")

	ref, err := r.service.Reference(ctx)
	require.NoError(t, err)
	require.Len(t, ref.Own, 1)
	in := glossBody("Grünschenkel")
	in.Wish.Pieces[0] = in.Wish.Pieces[0].Taking(*ref.Own[0].Stack, recipe.OwnUse{ID: id, Version: 1})
	fresh := r.keep(in)
	in = glossBody("Alpenstrandläufer")
	in.Wish.Pieces[0] = in.Wish.Pieces[0].Taking(*ref.Own[0].Stack, recipe.OwnUse{ID: id, Version: 1})
	past := r.keep(in)
	r.allDone(past, "")

	better := stack
	better.Layers = slices.Clone(stack.Layers)
	better.Layers[len(better.Layers)-1].Coats = 11
	bettered := r.save(changes.RecipeSaved{ID: id, Name: "Watt glänzend", Kind: recipe.OwnStack, Stack: &better, Note: "mehr Film"})
	assert.Equal(t, 2, bettered.Version)
	require.Len(t, bettered.Uses, 2)
	offer := bettered.Uses[0]
	assert.Equal(t, []any{fresh.ID, true, "body", 1}, []any{offer.InstrumentID, offer.Offered, offer.Where, offer.Version})
	assert.NotEmpty(t, offer.Effect)
	assert.Equal(t, past.ID, bettered.Uses[1].InstrumentID)
	assert.Contains(t, bettered.Uses[1].Why, "past that point")

	_, err = r.keepChanges(offer.Changes...)
	require.NoError(t, err)
	coats := 0
	for _, s := range r.view(fresh.ID).Pieces[0].Steps {
		if s.Group == "clear" {
			coats += s.Coats
		}
	}
	assert.Equal(t, 11, coats)
	now, err := r.service.Recipe(ctx, id)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(now.Uses, func(u views.RecipeUse) bool { return u.Offered }), "it uses the latest")

	lines, err := r.service.CompareRecipes(ctx, views.RecipePair{A: recipe.OwnUse{ID: id, Version: 1},
		B: recipe.OwnUse{ID: id, Version: 2}})
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(lines.Lines, func(d recipe.Difference) bool {
		return d.A != d.B && strings.Contains(d.B,
			"11 coats")
	}))

	_, err = r.service.NameRecipe(ctx, changes.RecipeNamed{ID: id, Name: "Watt", Retired: true})
	require.NoError(t, err)
	ref, err = r.service.Reference(ctx)
	require.NoError(t, err)
	assert.Empty(t, ref.Own, "no longer offered")
	_, err = r.service.SaveRecipe(ctx, changes.RecipeSaved{ID: uuid.New(), Name: "watt", Kind: recipe.OwnStack, Stack: &stack})
	assert.ErrorContains(t, err, "recipe of that name")
}

// A fragment is put after any step; bettered, it takes the place of the earlier one where none of it is logged.
func TestAFragmentIsUsedAndBettered(t *testing.T) {
	t.Parallel()
	r := open(t)
	from, to := r.keep(glossBody("Uferschnepfe")), r.keep(glossBody("Pfuhlschnepfe"))
	steps := from.Pieces[0].Steps
	id := uuid.New()
	r.save(changes.RecipeSaved{ID: id, Name: "Schluss", Kind: recipe.OwnFragment, InstrumentID: from.ID,
		StepIDs: []uuid.UUID{steps[len(steps)-2].StepID}})
	after := to.Pieces[0].Steps[2]
	_, err := r.keepChanges(edits(to.ID, edit.Edit{Op: edit.Add, Step: uuid.New(), Piece: to.Pieces[0].ID, After: after.StepID,
		What: "own-" + id.String()})...)
	require.NoError(t, err)
	list := titles(r.view(to.ID), 0)
	assert.Equal(t, steps[len(steps)-2].Title, list[3])

	r.save(changes.RecipeSaved{ID: id, Name: "Schluss", Kind: recipe.OwnFragment, InstrumentID: from.ID,
		StepIDs: []uuid.UUID{steps[len(steps)-3].StepID, steps[len(steps)-2].StepID}})
	view, err := r.service.Recipe(ctx, id)
	require.NoError(t, err)
	require.True(t, view.Uses[0].Offered, view.Uses[0].Why)
	_, err = r.keepChanges(view.Uses[0].Changes...)
	require.NoError(t, err)
	list = titles(r.view(to.ID), 0)
	assert.Equal(t, []string{steps[len(steps)-3].Title, steps[len(steps)-2].Title}, list[3:5], "in the place of the earlier one")
	assert.Len(t, list, len(to.Pieces[0].Steps)+2)
}

// A whole schedule with what a hand has changed is the beginning of another instrument.
func TestAWholeScheduleIsTheBeginningOfAnother(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Kampfläufer"))
	clear := clearOf(t, view)
	_, err := r.keepChanges(edits(view.ID, edit.Edit{Op: edit.Set, Step: clear.StepID,
		Fields: &edit.Fields{Title: ptr("Klar nach Art des Hauses"), Coats: ptr(3)}})...)
	require.NoError(t, err)
	id := uuid.New()
	saved := r.save(changes.RecipeSaved{ID: id, Name: "Ganz", Kind: recipe.OwnSchedule, InstrumentID: view.ID})
	in := glossBody("Bekassine")
	in.Wish = *saved.Versions[0].Wish
	in.Wish.Own = &recipe.OwnUse{ID: id, Version: 1}
	made := r.keep(in)
	assert.Equal(t, titles(r.view(view.ID), 0), titles(made, 0))
	assert.Equal(t, 3, stepNamed(t, made, "Klar nach Art des Hauses").Coats)

	_, err = r.keepChanges(edits(view.ID, edit.Edit{Op: edit.Set, Step: clear.StepID, Fields: &edit.Fields{Coats: ptr(5)}})...)
	require.NoError(t, err)
	bettered := r.save(changes.RecipeSaved{ID: id, Name: "Ganz", Kind: recipe.OwnSchedule, InstrumentID: view.ID, Note: "fünf"})
	require.Len(t, bettered.Uses, 1)
	require.True(t, bettered.Uses[0].Offered, bettered.Uses[0].Why)
	_, err = r.keepChanges(bettered.Uses[0].Changes...)
	require.NoError(t, err)
	assert.Equal(t, 5, stepNamed(t, r.view(made.ID), "Klar nach Art des Hauses").Coats, "what a hand has bettered comes along")
}

// Where nobody chooses, the shop's own school is followed; what is planned already stays.
func TestTheShopsSchoolsAreFollowedWhereNobodyChooses(t *testing.T) {
	t.Parallel()
	r := open(t)
	before := r.keep(glossBody("Flussuferläufer"))
	view, err := r.service.Shop(ctx)
	require.NoError(t, err)
	require.NotEmpty(t, view.Topics)
	form := view.Shop
	form.Ways = map[string]string{"levelling": "wet"}
	_, err = r.keepChanges(changes.Change{Kind: "shop", Shop: &form})
	require.NoError(t, err)
	after := r.keep(glossBody("Waldwasserläufer"))
	chosen := after.Wish.Pieces[0].Layers[len(after.Wish.Pieces[0].Layers)-1].Ways["levelling"]
	assert.Equal(t, "wet", chosen)
	assert.NotEqual(t, titles(before, 0), titles(after, 0))
	assert.Equal(t, titles(before, 0), titles(r.view(before.ID), 0))
	dry := glossBody("Rotschenkel")
	dry.Wish = dry.Wish.With("levelling", recipe.Body, "dry")
	assert.Equal(t, titles(before, 0), titles(r.keep(dry), 0), "what somebody has chosen goes before, also where it is the usual way")
	asked, err := r.service.Schools(ctx, views.SchoolsAsked{Instrument: glossBody("x"), Topic: "levelling", Piece: "body"})
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(asked.Ways, func(w views.WayView) bool { return w.Option == "wet" && w.Chosen }),
		"schools are compared with what would be done")
	form.Ways = map[string]string{"levelling": "by moonlight"}
	_, err = r.keepChanges(changes.Change{Kind: "shop", Shop: &form})
	assert.ErrorContains(t, err, "one of the schools")
}

// Through the file and back without loss, into another shop too.
func TestARecipeGoesThroughAFileWithoutLoss(t *testing.T) {
	t.Parallel()
	r := open(t)
	stack := glossBody("").Wish.Pieces[0]
	id := uuid.New()
	r.save(changes.RecipeSaved{ID: id, Name: "Priel ☂", Kind: recipe.OwnStack, Stack: &stack})
	stack.Layers = slices.Clone(stack.Layers)
	stack.Layers[len(stack.Layers)-1].Sheen = "satin"
	r.save(changes.RecipeSaved{ID: id, Name: "Priel ☂", Kind: recipe.OwnStack, Stack: &stack, Note: "matter"})
	own, err := r.service.OwnRecipe(ctx, id)
	require.NoError(t, err)
	var file bytes.Buffer
	require.NoError(t, formats.WriteRecipe(&file, own))
	taken, err := formats.ReadRecipe(bytes.NewReader(file.Bytes()))
	require.NoError(t, err)

	other := open(t)
	read, err := other.service.TakeRecipe(ctx, taken)
	require.NoError(t, err)
	assert.Equal(t, []any{"Priel ☂", 2}, []any{read.Name, read.Version})
	back, err := other.service.OwnRecipe(ctx, id)
	require.NoError(t, err)
	var again bytes.Buffer
	require.NoError(t, formats.WriteRecipe(&again, back))
	assert.Equal(t, file.String(), again.String())
	_, err = other.service.TakeRecipe(ctx, taken)
	require.NoError(t, err, "twice is once")
	taken.Versions[0].Content = taken.Versions[1].Content
	_, err = other.service.TakeRecipe(ctx, taken)
	assert.ErrorContains(t, err, "says something else here")
	taken.ID = uuid.New()
	read, err = other.service.TakeRecipe(ctx, taken)
	require.NoError(t, err)
	assert.Equal(t, "Priel ☂ (from a file)", read.Name)

	// and with the whole shop
	in := glossBody("Goldregenpfeifer")
	in.Wish.Pieces[0] = in.Wish.Pieces[0].Taking(stack, recipe.OwnUse{ID: id, Version: 2})
	view := r.keep(in)
	_, err = r.keepChanges(edits(view.ID, edit.Edit{Op: edit.LeaveOut, Step: view.Pieces[0].Steps[1].StepID, Reason: "nie"},
		edit.Edit{Op: edit.Move, Step: view.Pieces[0].Steps[3].StepID, After: view.Pieces[0].Steps[4].StepID})...)
	require.NoError(t, err)
	whole, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	var out, in2 bytes.Buffer
	require.NoError(t, formats.Write(&out, whole))
	read1, err := formats.Read(bytes.NewReader(out.Bytes()))
	require.NoError(t, err)
	require.NoError(t, formats.Write(&in2, read1))
	assert.Equal(t, out.String(), in2.String(), "what a hand has changed, and the recipes, go with it")
	only, err := r.service.Export(ctx, &view.ID)
	require.NoError(t, err)
	assert.Len(t, only.Recipes, 1, "an instrument takes the recipes along that it uses")
}
