package formats

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// priel is a recipe of each kind, with two versions.
func priel(kind recipe.OwnKind) recipe.Own {
	p := recipe.PieceWish{Kind: recipe.Body, Wood: "alder-red", Length: "480 mm", Width: "330 mm",
		Thickness: "45 mm"}.From("one-colour").Ending("nitro", "gloss")
	var one, two recipe.OwnContent
	switch kind {
	case recipe.OwnStack:
		one, two = recipe.StackOf(p), recipe.StackOf(p.Ending("nitro", "satin"))
	case recipe.OwnSchedule:
		one = recipe.OwnContent{Wish: &recipe.Wish{Pieces: []recipe.PieceWish{p}}}
		two = recipe.OwnContent{Wish: one.Wish, Hand: []recipe.OwnPiece{{Kind: recipe.Body,
			Steps: []recipe.OwnStep{{Step: job.Step{Slot: "body:clear:clear",
				Kind: job.Coat, Family: "nitro", Method: "spray", Title: "Klar ☂", Coats: 3, HandsOnMin: 20, Edited: true},
				Regions: []string{"top"}}}}}}
	default:
		one = recipe.OwnContent{Steps: []recipe.OwnStep{{Step: job.Step{Slot: "body:buff", Kind: job.Buff, Title: "Polieren",
			HandsOnMin: 20}}}}
		two = one
	}
	at := time.Date(2026, 3, 12, 16, 20, 0, 123_000, time.UTC)
	return recipe.Own{ID: uuid.MustParse("00000000-0000-0000-0000-0000000000aa"), Name: "Priel ☂", Kind: kind,
		Versions: []recipe.OwnVersion{{Version: 1, At: at, Content: one}, {Version: 2, At: at, Note: "matter", Content: two}}}
}

func TestARecipeThroughItsFileAndBack(t *testing.T) {
	for _, kind := range []recipe.OwnKind{recipe.OwnStack, recipe.OwnSchedule, recipe.OwnFragment} {
		var file, again bytes.Buffer
		require.NoError(t, WriteRecipe(&file, priel(kind)))
		read, err := ReadRecipe(bytes.NewReader(file.Bytes()))
		require.NoError(t, err, kind)
		assert.Equal(t, priel(kind).Versions[1].Content.Lines(), read.Versions[1].Content.Lines())
		require.NoError(t, WriteRecipe(&again, read))
		assert.Equal(t, file.String(), again.String(), kind)
	}
}

func TestWhatIsNotUnderstoodOfARecipeIsRefusedByName(t *testing.T) {
	var file bytes.Buffer
	require.NoError(t, WriteRecipe(&file, priel(recipe.OwnStack)))
	for name, c := range map[string]struct{ old, new, path, message string }{
		"a newer one":      {`"version": 1,`, `"version": 7,`, "/version", "newer Umberfrost"},
		"no version":       {`"version": 1,`, `"version": 0,`, "/version", "must be 1"},
		"another format":   {"umberfrost-recipe", "soup", "/format", "umberfrost-recipe"},
		"an unknown field": {`"kind": "stack"`, `"kind": "stack", "mood": "good"`, "/recipe", "mood"},
		"not JSON":         {`"recipe": {`, `"recipe" {`, "", "not JSON"},
		"an unknown effect": {`"effect": "clear"`, `"effect": "glitter"`, "/recipe/versions[0].content.pieces[0].layers[2].effect",
			"choose one of"},
		"a nameless one": {"Priel ☂", "", "/recipe/name", "1 to 60"},
	} {
		_, err := ReadRecipe(strings.NewReader(strings.Replace(file.String(), c.old, c.new, 1)))
		var wrong *Invalid
		if assert.ErrorAs(t, err, &wrong, name) {
			assert.Equal(t, c.path, wrong.Faults[0].Path, name)
			assert.Contains(t, wrong.Faults[0].Message, c.message, name)
		}
	}
	_, err := ReadRecipe(bytes.NewReader(make([]byte, MaxRecipeBytes+1)))
	assert.ErrorContains(t, err, "4 MiB")
}

// Whatever comes: it is refused, or it is read, written and read again as the same.
func FuzzReadRecipe(f *testing.F) {
	for _, kind := range []recipe.OwnKind{recipe.OwnStack, recipe.OwnSchedule, recipe.OwnFragment} {
		var file bytes.Buffer
		require.NoError(f, WriteRecipe(&file, priel(kind)))
		f.Add(file.Bytes())
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		own, err := ReadRecipe(bytes.NewReader(data))
		if err != nil {
			return
		}
		var once, twice bytes.Buffer
		require.NoError(t, WriteRecipe(&once, own))
		again, err := ReadRecipe(bytes.NewReader(once.Bytes()))
		require.NoError(t, err)
		require.NoError(t, WriteRecipe(&twice, again))
		require.Equal(t, once.String(), twice.String())
	})
}
