package pore

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/proptest"
)

func TestWorkedThreeWaterFillings(t *testing.T) {
	share, err := Filled("water-filler", 3)
	require.NoError(t, err)
	assert.InDelta(t, 0.909, share, 0.0005) // rules.md, worked values
}

func TestNeededIsJustEnough(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		family := rapid.SampledFrom([]string{"water-filler", "oil-filler", "epoxy-filler", "oil-slurry"}).Draw(t, "family")
		target := rapid.Float64Range(0.01, 0.99).Draw(t, "target")
		n, err := Needed(family, target)
		require.NoError(t, err)
		enough, _ := Filled(family, n)
		tooFew, _ := Filled(family, n-1)
		assert.GreaterOrEqual(t, enough, target-1e-6)
		assert.Less(t, tooFew, target)
	})
}

func TestRefusals(t *testing.T) {
	_, err := Needed("water-clear", 0.5)
	assert.ErrorContains(t, err, "not a filler")
	_, err = Needed("water-filler", 1)
	assert.Error(t, err)
	_, err = Filled("board-oil", 2)
	assert.Error(t, err)
}

func TestWhatOneFillingLeaves(t *testing.T) { // rules.md §4
	for family, left := range map[string]float64{"water-filler": 0.45, "oil-filler": 0.35, "epoxy-filler": 0.15, "ca-filler": 0.12,
		"oil-slurry": 0.6} {
		share, err := Filled(family, 1)
		require.NoError(t, err)
		assert.InDelta(t, 1-left, share, 1e-12, family)
	}
	assert.Equal(t, 0.95, Full)
	assert.Equal(t, 0.6, Half)
	for family, want := range map[string][2]int{"water-filler": {2, 4}, "oil-filler": {1, 3}, "epoxy-filler": {1, 2}, "ca-filler": {1, 2},
		"oil-slurry": {2, 6}} {
		half, _ := Needed(family, Half)
		full, _ := Needed(family, Full)
		assert.Equal(t, want, [2]int{half, full}, family)
	}
}
