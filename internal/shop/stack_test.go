package shop_test

import (
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

func rowsOf(stacks []views.StackView, piece recipe.PieceKind) []views.StackRow {
	i := slices.IndexFunc(stacks, func(s views.StackView) bool { return s.Piece == piece })
	return stacks[i].Rows
}

func titlesOf(rows []views.StackRow) (list []string) {
	for _, row := range rows {
		list = append(list, row.Title)
	}
	return list
}

func grainBody(name string) changes.NewInstrument {
	in := glossBody(name)
	in.Wish.Pieces[0] = in.Wish.Pieces[0].From("grain-colour").Ending("water-clear", "satin")
	return in
}

func TestAForecastSaysHowTheLayersLie(t *testing.T) {
	t.Parallel()
	r := open(t)
	f, err := r.service.Forecast(ctx, grainBody("Avocet"))
	require.NoError(t, err)
	rows := rowsOf(f.Stacks, recipe.Body)
	assert.Equal(t, []string{"Colour, left in the grain", "Thin washcoat", "Colour", "Pores filled", "Seal", "Toner over the colour",
		"Waterborne clear, satin"}, titlesOf(rows),
		"from the wood upwards, what the rules add where it lies")
	for _, row := range rows {
		added := row.Layer == ""
		assert.Equal(t, slices.Contains([]string{"Thin washcoat", "Seal", "Toner over the colour"}, row.Title), added, row.Title)
		assert.Equal(t, added, row.Why != "", "only what is added says why: %s", row.Title)
		assert.Zero(t, row.Done)
	}
	clear := rows[len(rows)-1]
	assert.Equal(t, "dark", f.Looks[0].Regions[0].Paints[0].Layer)
	assert.Contains(t, clear.About, "5 coats, sprayed")
	assert.Contains(t, clear.About, "µm", "what it builds")
	assert.Regexp(t, `^about \d in (2|3|4|5|10)$`, f.Redo)

	topics := map[string]string{}
	for _, c := range f.Choices {
		topics[c.Topic] = c.Layer
	}
	assert.Equal(t, map[string]string{"figure": "dark", "colour-as": "colour", "pores": "fill", "fill-order": "fill", "method": "clear",
		"grain": "", "holes": ""},
		map[string]string{"figure": topics["figure"], "colour-as": topics["colour-as"], "pores": topics["pores"],
			"fill-order": topics["fill-order"], "method": topics["method"],
			"grain": topics["grain"], "holes": topics["holes"]}, "each choice stands with the layer that it is one of")
	for _, role := range f.Roles {
		if role.ID == "body:clear" {
			assert.Equal(t, "clear", role.Layer)
		}
	}
}

func TestLayersThatAreLoggedSaySoAndShow(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(grainBody("Dunlin"))
	looks := func() recipe.RegionLook {
		list, err := r.service.Looks(ctx)
		require.NoError(t, err)
		return list[len(list)-1].Looks[0].Regions[0]
	}
	assert.Empty(t, looks().Paints, "bare wood, as long as nothing is on")
	for _, step := range view.Pieces[0].Steps {
		e := r.entry(step.StepID, 1)
		e.Confirm = []string{"out-of-order", "too-soon", "window-closed"}
		_, err := r.service.Log(ctx, e)
		require.NoError(t, err)
		if step.Title == "Dark colour into the grain" {
			break
		}
	}
	assert.Len(t, looks().Paints, 1)
	assert.Empty(t, looks().Sheen)

	same := *view.Wish
	asked, err := r.service.WhatIf(ctx, changes.Changes{Changes: []changes.Change{{Kind: "wish", InstrumentID: view.ID, Wish: &same}}})
	require.NoError(t, err)
	assert.Empty(t, asked.Effects, "nothing was changed")
	dark := rowsOf(asked.Wished.Stacks, recipe.Body)[0]
	assert.Equal(t, []any{"dark", 1}, []any{dark.Layer, dark.Done})
	assert.Equal(t, 2, dark.Total, "the colour and rubbing it back")

	other := same
	other.Pieces = slices.Clone(same.Pieces)
	other.Pieces[0] = other.Pieces[0].Ending("water-clear", "gloss")
	asked, err = r.service.WhatIf(ctx, changes.Changes{Changes: []changes.Change{{Kind: "wish", InstrumentID: view.ID, Wish: &other}}})
	require.NoError(t, err)
	assert.NotEmpty(t, asked.Effects)
	assert.Equal(t, "gloss", asked.Wished.Looks[0].Regions[0].Sheen)
	assert.Equal(t, 1, rowsOf(asked.Wished.Stacks, recipe.Body)[0].Done, "what is logged stays")
	assert.Greater(t, asked.Wished.Coats, 0)

	in := changes.NewInstrument{ID: view.ID, Name: view.Name, Outline: view.Outline, Wish: same}
	ways, err := r.service.Schools(ctx, views.SchoolsAsked{Instrument: in, Topic: "pores", Piece: "body", Running: true})
	require.NoError(t, err)
	assert.Less(t, ways.Ways[1].Coats, ways.Ways[0].Coats, "schools are compared with what is logged as it is")
}

func TestAColourFromTheShelfIsSeen(t *testing.T) {
	t.Parallel()
	r := open(t)
	id, err := r.service.AddProduct(ctx, "Trübes Wasser", "water-dye", `{"colour":"#27506B"}`)
	require.NoError(t, err)
	in := glossBody("Knot")
	in.Materials = map[string]uuid.UUID{"body:colour": id}
	f, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	assert.Equal(t, []string{"#27506B"}, f.Looks[0].Regions[0].Paints[0].Colours)
	assert.False(t, f.Looks[0].Regions[0].Paints[0].Guessed)
}

func TestTheChanceOfDoingACoatAgainIsSaidAsPeopleSayIt(t *testing.T) {
	t.Parallel()
	r := open(t)
	oil := glossBody("Ruff")
	oil.Wish.Pieces[0] = oil.Wish.Pieces[0].From("natural").Ending("hardwax-oil", "matte")
	f, err := r.service.Forecast(ctx, oil)
	require.NoError(t, err)
	assert.Contains(t, f.Redo, " in ")
	rows := rowsOf(f.Stacks, recipe.Body)
	assert.NotContains(t, rows[len(rows)-1].About, "builds", "oil goes into the wood")
	assert.Equal(t, "Pores left open", rows[0].Title)
	g, err := r.service.Forecast(ctx, glossBody("Ruff"))
	require.NoError(t, err)
	assert.NotEqual(t, f.Redo, g.Redo, "more coats, more that may go wrong")
}
