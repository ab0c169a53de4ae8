package pore

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/proptest"
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
