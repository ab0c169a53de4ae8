package recipe

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"umberfrost/internal/craft/looks"

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
		translated, wish := fromLooks(t, former.Wish)
		_, twice := fromLooks(t, translated.JSON)
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
			want := translated.Slot(slot) + "|" + rest
			for at < len(now) && now[at] != want {
				at++
			}
			require.Less(t, at, len(now), "%s: %s is missing, or comes too early", former.Name, want)
		}
	}
}

// fromLooks is a wish that was kept in looks, as it is read now.
func fromLooks(t testing.TB, kept []byte) (looks.Wish, Wish) {
	t.Helper()
	translated, err := looks.Translate(kept)
	require.NoError(t, err)
	var wish Wish
	require.NoError(t, json.Unmarshal(translated.JSON, &wish))
	return translated, wish
}
