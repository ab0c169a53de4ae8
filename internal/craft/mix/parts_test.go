package mix

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

func TestWorkedMix(t *testing.T) { // rules.md, worked values: 4:1 for 250 mL, then 15 % thinner on top
	parts, err := ParseParts("4:1")
	require.NoError(t, err)
	assert.Equal(t, []unit.Millilitre{200, 50}, parts.Split(250))

	batch, shown, err := Recipe{Name: "clear", Parts: parts, Thin: 0.15}.Measure(287.5)
	require.NoError(t, err)
	assert.Equal(t, "200 mL clear + 50 mL hardener + 38 mL thinner", unit.Unmarked(batch.String()), "37.5 mL, as a cup reads it")
	assert.InDelta(t, 1.33, float64(batch.Error), 0.01)
	assert.InDelta(t, 288, float64(batch.Total), 1e-9)
	assert.Equal(t, "wanted ÷ (1 + thinner), by parts 4:1", shown.Formula)
	assert.True(t, shown.Estimate)
}

func TestWhatCannotBeMeasuredByTheCupIsWeighed(t *testing.T) {
	parts, err := ParseParts("100:1.5")
	require.NoError(t, err)
	batch, _, err := Recipe{Name: "resin", Parts: parts, Density: 1.12}.Measure(60)
	require.NoError(t, err)
	assert.True(t, batch.Weighed)
	assert.Equal(t, "66.3 g resin + 1.0 g hardener", batch.String()) // 60 · 100/101.5 · 1.12 = 66.21
	assert.LessOrEqual(t, float64(batch.Error), 5.0)

	more, _, err := Recipe{Name: "resin", Parts: parts}.Measure(60)
	require.NoError(t, err)
	assert.False(t, more.Weighed)
	assert.InDelta(t, 339, float64(more.Total), 6, "whose weight nobody knows is mixed in a quantity that a cup measures true")
}

func TestTheLeastMix(t *testing.T) {
	batch, _, err := Recipe{Name: "clear"}.Measure(3)
	require.NoError(t, err)
	assert.Equal(t, "10 mL clear", unit.Unmarked(batch.String()))
	for _, none := range []unit.Millilitre{0, -1, 200_000} {
		_, _, err = Recipe{Name: "clear"}.Measure(none)
		assert.ErrorContains(t, err, "cannot be measured")
	}
}

func TestRatios(t *testing.T) {
	three, err := ParseParts("100:2:2")
	require.NoError(t, err)
	assert.Equal(t, Parts{100, 2, 2}, three)
	assert.Equal(t, "100:2:2", three.String())
	for _, wrong := range []string{"", "4", "4:0", "4:x", "4:-1", "1:2:3:4", "4:NaN", "4:Inf"} {
		_, err := ParseParts(wrong)
		assert.ErrorContains(t, err, "4:1", wrong)
	}
}

func TestAMixIsEnoughAndKeepsItsProportions(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		r := Recipe{Name: "ä", Parts: rapid.SampledFrom([]Parts{nil, {1, 1}, {2, 1}, {4, 1}, {100, 2}, {100, 2, 2}, {100, 1.5}}).Draw(t,
			"parts"),
			Thin:    rapid.SampledFrom([]float64{0, 0.1, 0.5}).Draw(t, "thin"),
			Density: rapid.SampledFrom([]float64{0, 0.9, 1.7}).Draw(t, "density")}
		wanted := unit.Millilitre(rapid.Float64Range(0.1, 3000).Draw(t, "wanted"))
		batch, _, err := r.Measure(wanted)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, float64(batch.Total), float64(wanted)-1e-6)
		assert.LessOrEqual(t, float64(batch.Error), 5.0)
		for i := 1; i < len(r.Parts); i++ {
			assert.InEpsilon(t, r.Parts[i]/r.Parts[0], float64(batch.Parts[i].Volume/batch.Parts[0].Volume), 0.051)
		}
	})
}
