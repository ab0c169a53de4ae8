package looks

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// stackOf is the preset and the layers of a piece of a wish in looks, in words.
func stackOf(t *testing.T, piece string) (preset string, ids []string, wish map[string]any) {
	t.Helper()
	out, err := Translate([]byte(`{"standard": "gift", "pieces": [` + piece + `]}`))
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(out.JSON, &wish))
	p := wish["pieces"].([]any)[0].(map[string]any)
	for _, l := range p["layers"].([]any) {
		ids = append(ids, l.(map[string]any)["id"].(string))
	}
	preset, _ = p["preset"].(string)
	return preset, ids, wish
}

func TestALookBecomesAStack(t *testing.T) {
	for name, c := range map[string]struct {
		piece, preset string
		layers        []string
	}{
		"nothing said":      {`{"kind": "body"}`, "natural", []string{"fill", "clear"}},
		"one colour":        {`{"kind": "body", "look": "one-colour"}`, "one-colour", []string{"colour", "fill", "clear"}},
		"dark in the grain": {`{"kind": "body", "look": "grain-colour"}`, "grain-colour", []string{"dark", "colour", "fill", "clear"}},
		"a burst":           {`{"kind": "body", "look": "burst"}`, "burst", []string{"colour", "burst", "fill", "clear"}},
		"solid":             {`{"kind": "body", "look": "solid"}`, "solid", []string{"fill", "base", "clear"}},
		"flake":             {`{"kind": "neck", "look": "flake"}`, "flake", []string{"fill", "base", "flake", "clear"}},
		"charred and waxed": {`{"kind": "body", "look": "charred", "wax": true}`, "charred", []string{"char", "fill", "clear", "wax"}},
		"brushed":           {`{"kind": "body", "texture": true}`, "natural", []string{"texture", "fill", "clear"}},
		"figure made dark":  {`{"kind": "body", "ways": {"figure": "dark"}}`, "grain-colour", []string{"dark", "fill", "clear"}},
		"figure warmed":     {`{"kind": "body", "ways": {"figure": "warm"}}`, "natural", []string{"warm", "fill", "clear"}},
		"filled first": {`{"kind": "body", "look": "one-colour", "ways": {"fill-order": "first"}}`, "one-colour",
			[]string{"fill", "colour", "clear"}},
		"a toner is not wood": {`{"kind": "body", "look": "one-colour", "ways": {"colour-on": "toner", "fill-order": "after"}}`,
			"one-colour", []string{"fill", "colour", "clear"}},
	} {
		preset, layers, _ := stackOf(t, c.piece)
		assert.Equal(t, c.preset, preset, name)
		assert.Equal(t, c.layers, layers, name)
	}
}

func TestWhatWasSaidOfALookStaysSaid(t *testing.T) {
	_, _, wish := stackOf(t, `{"kind": "body", "wood": "ash-swamp", "look": "one-colour", "clear": "nitro", "sheen": "gloss",
		"ways": {"grain": "wet", "colour-as": "stain", "levelling": "dry"},
		"regions": [{"name": "back", "plain": true}, {"name": "Kopfüber", "sheen": "satin", "plain": true}]}`)
	piece := wish["pieces"].([]any)[0].(map[string]any)
	assert.Equal(t, "gift", wish["standard"])
	assert.Equal(t, "ash-swamp", piece["wood"])
	assert.Equal(t, map[string]any{"grain": "wet"}, piece["ways"])
	layers := piece["layers"].([]any)
	assert.Equal(t, map[string]any{"id": "colour", "effect": "colour", "as": "even", "carrier": "stain", "regions": []any{"top", "sides"}},
		layers[0])
	assert.Equal(t, map[string]any{"id": "clear", "effect": "clear", "family": "nitro", "sheen": "gloss",
		"ways": map[string]any{"levelling": "dry"}}, layers[2])
	assert.Equal(t, []any{map[string]any{"name": "Kopfüber", "sheen": "satin"}}, piece["regions"])
	for _, gone := range []string{"look", "clear", "sheen"} {
		assert.NotContains(t, piece, gone)
	}
}

func TestALayeredWishStaysAsItIs(t *testing.T) {
	kept := `{"pieces": [{"kind": "body", "preset": "burst"}, {"kind": "neck", "layers": [{"id": "dark", "effect": "colour", "as": "grain"}]}]}`
	out, err := Translate([]byte(kept))
	require.NoError(t, err)
	assert.JSONEq(t, kept, string(out.JSON))
	assert.Equal(t, "neck:dark:tone", out.Slot("neck:tone"))
	_, err = Translate([]byte(`[]`))
	assert.ErrorContains(t, err, "in looks")
}

func TestTheSlotOfAStepNamesItsLayer(t *testing.T) {
	wish, err := Translate([]byte(`{"pieces": [{"kind": "body", "look": "grain-colour"}, {"kind": "neck"}]}`))
	require.NoError(t, err)
	for was, is := range map[string]string{
		"body:dark": "body:dark:dark", "body:tone": "body:dark:tone", "whole:tone": "whole:dark:tone", "neck:tone": "neck:colour:tone",
		"body:clear-2-1": "body:clear:clear-2-1", "body:fill-3": "body:fill:fill-3", "body:scuff-tone-2": "body:dark:scuff-tone-2",
		"body:scuff-seal": "body:clear:scuff-seal", "not before body:shade": "not before body:burst:shade", "frets:wax": "frets:wax:wax",
		"frets:polish": "frets:polish", "body:sand-bare": "body:sand-bare", "body:clear:clear": "body:clear:clear", "by hand": "by hand",
		"body:tape-on": "body:tape-on", "neck:flat-matte": "neck:clear:flat-matte", "body:scuff-clear-1-2": "body:clear:scuff-clear-1-2",
		"body:barrier-fill-water-dye": "body:fill:barrier-fill-water-dye", "body:scuff": "body:clear:scuff",
		"frets:fret-level": "frets:fret-level", "whole:glue-up": "whole:glue-up", "whole:colour": "whole:colour:colour",
		"not before body:colour": "not before body:colour:colour", "body:seal-bleed-katalox": "body:seal-bleed-katalox",
		"body:barrier-unheard-of": "body:barrier-unheard-of",
	} {
		assert.Equal(t, is, wish.Slot(was))
	}
	assert.Equal(t, "body:colour:tone", (*Wish)(nil).Slot("body:tone"), "of no wish")
}

func TestWhatALookDidNotSayIsFilledInAsThen(t *testing.T) {
	_, _, wish := stackOf(t, `{"kind": "body", "wood": "alder-red"}`)
	end := wish["pieces"].([]any)[0].(map[string]any)["layers"].([]any)[1].(map[string]any)
	assert.Equal(t, "water-clear", end["family"])
	assert.Equal(t, "satin", end["sheen"])
	_, err := Translate([]byte(`{"pieces":7}`))
	assert.ErrorContains(t, err, "a wish in looks")
}

func Example() {
	wish, err := Translate([]byte(`{"pieces": [{"kind": "body", "look": "charred"}]}`))
	fmt.Println(wish.Slot("body:char-clean"), err)
	// Output: body:char:char-clean <nil>
}
