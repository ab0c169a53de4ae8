package colour_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/colour"
)

func TestTheTableIsSound(t *testing.T) {
	require.NoError(t, colour.Check())
	seen := make(map[string]bool)
	for _, w := range colour.Words() {
		assert.False(t, seen[w.Name], w.Name)
		seen[w.Name] = true
		found, known := colour.Find(w.Name)
		assert.True(t, known && found == w.RGB, "%s is found by its own name", w.Name)
	}
}

func TestColoursInWordsAndFigures(t *testing.T) {
	for _, tt := range []struct {
		said, hex string
		known     bool
	}{
		{"#27506B", "#27506B", true},
		{"  #27506b ", "#27506B", true},
		{"Ochre", "#B5822F", true},
		{"sea green", "#3E7A6C", true}, // not green
		{"dark honey", "#7C5022", true},
		{"pale blue", "#7D96A6", true},
		{"deep-ruby", "#561B24", true},
		{"the blue of evenings", "#27506B", true},
		{"bluish", "", false},
		{"", "", false},
		{"#12", "", false},
		{"blå", "", false},
	} {
		c, known := colour.Find(tt.said)
		assert.Equal(t, tt.known, known, tt.said)
		if known {
			assert.Equal(t, tt.hex, c.Hex(), tt.said)
		}
	}
}

func TestFiguresThatAreRefused(t *testing.T) {
	for _, bad := range []string{"", "27506B", "#27506", "#27506BB", "#2750 B", "#GG506B", "#+1-2+3"} {
		_, err := colour.Parse(bad)
		assert.ErrorContains(t, err, "#27506B", bad)
	}
}

func TestWhatLiesOver(t *testing.T) {
	white, black := colour.RGB{R: 255, G: 255, B: 255}, colour.RGB{}
	assert.Equal(t, "#404040", white.Over(black, 0.25).Hex())
	assert.Equal(t, white, white.Over(black, 1))
	assert.Equal(t, black, white.Over(black, 0))
	assert.Equal(t, white, white.Over(black, 7), "a share is at most all of it")
}

func TestMixingStaysBetween(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := rapid.Custom(func(t *rapid.T) colour.RGB {
			return colour.RGB{R: rapid.Byte().Draw(t, "r"), G: rapid.Byte().Draw(t, "g"), B: rapid.Byte().Draw(t, "b")}
		})
		a, b := draw.Draw(t, "a"), draw.Draw(t, "b")
		seen := a.Over(b, rapid.Float64Range(0, 1).Draw(t, "share"))
		assert.True(t, min(a.R, b.R) <= seen.R && seen.R <= max(a.R, b.R))
		again, err := colour.Parse(seen.Hex())
		assert.NoError(t, err)
		assert.Equal(t, seen, again)
	})
}
