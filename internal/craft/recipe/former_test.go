package recipe

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Wishes as they were kept in looks, with the steps that were composed of them then (slot, family,
// coats): translated and composed again they have the same steps, in the same order, each in its layer.
func TestALookIsComposedAsItWas(t *testing.T) {
	data, err := os.ReadFile("testdata/looks.json")
	require.NoError(t, err)
	var kept []struct {
		Name  string
		Wish  json.RawMessage
		Steps []string
	}
	require.NoError(t, json.Unmarshal(data, &kept))
	require.Greater(t, len(kept), 90)
	for _, former := range kept {
		wish, err := FromLooks(former.Wish)
		require.NoError(t, err, former.Name)
		again, err := json.Marshal(wish)
		require.NoError(t, err)
		twice, err := FromLooks(again)
		require.NoError(t, err)
		assert.Equal(t, wish, twice, "what has layers stays as it is")
		var now []string
		for _, p := range compose(t, wish).Pieces {
			for _, s := range p.Steps {
				now = append(now, fmt.Sprintf("%s|%s|%d", s.Slot, s.Family, s.Coats))
			}
		}
		at := 0
		for _, step := range former.Steps {
			slot, rest, _ := strings.Cut(step, "|")
			if strings.HasSuffix(slot, ":board-oil") && strings.HasPrefix(rest, "drying-oil") &&
				strings.Contains(string(former.Wish), `"frets":`) {
				rest = "drying-oil|1" // the other coat comes when the frets are done
			}
			want := FormerSlot(slot, &wish) + "|" + rest
			for at < len(now) && now[at] != want {
				at++
			}
			require.Less(t, at, len(now), "%s: %s is missing, or comes too early", former.Name, want)
		}
	}
}

func TestSlotsOfFormerSteps(t *testing.T) {
	grain, plain := archetypeWish("grain-colour"), archetypeWish("lacquer-burst")
	for slot, want := range map[string]string{
		"body:sand-bare": "body:sand-bare", "body:tape-on": "body:tape-on", "body:dark": "body:dark:dark",
		"body:clear-1": "body:clear:clear-1", "body:clear-2-3": "body:clear:clear-2-3", "neck:flat-matte": "neck:clear:flat-matte",
		"body:barrier-fill-water-dye": "body:fill:barrier-fill-water-dye", "body:scuff-clear-1-2": "body:clear:scuff-clear-1-2",
		"body:scuff": "body:clear:scuff", "body:fill-2": "body:fill:fill-2", "frets:wax": "frets:wax:wax",
		"frets:fret-level": "frets:fret-level",
		"whole:glue-up":    "whole:glue-up", "whole:colour": "whole:colour:colour",
		"not before body:colour":  "not before body:colour:colour",
		"body:seal-bleed-katalox": "body:seal-bleed-katalox", "body:colour:colour": "body:colour:colour", "no slot": "no slot",
		"body:barrier-unheard-of": "body:barrier-unheard-of",
	} {
		assert.Equal(t, want, FormerSlot(slot, &grain), slot)
	}
	assert.Equal(t, "body:dark:tone", FormerSlot("body:tone", &grain), "the toner over a dark grain")
	assert.Equal(t, "body:colour:tone", FormerSlot("body:tone", &plain))
	assert.Equal(t, "body:colour:tone", FormerSlot("body:tone", nil), "nothing is known of its wish")
}

func TestWhatALookDidNotSayIsFilledInAsThen(t *testing.T) {
	w, err := FromLooks([]byte(`{"pieces":[{"kind":"body","wood":"alder-red","length":"480 mm","width":"330 mm","thickness":"44 mm"}]}`))
	require.NoError(t, err)
	assert.Equal(t, "water-clear", w.Pieces[0].layer(EffectClear).Family)
	assert.Equal(t, "satin", w.Pieces[0].layer(EffectClear).Sheen)
	_, err = FromLooks([]byte(`{"pieces":7}`))
	assert.ErrorContains(t, err, "a wish in looks")
}
