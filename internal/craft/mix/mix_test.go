package mix

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
	"umberfrost/internal/proptest"
)

func TestWorkedFace(t *testing.T) {
	assert.InDelta(t, 0.114, float64(Face(480, 330)), 0.0005) // rules.md, worked values
}

func TestAreasGrowWithSize(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		length := unit.Millimetre(rapid.Float64Range(300, 700).Draw(t, "length"))
		width := unit.Millimetre(rapid.Float64Range(200, 500).Draw(t, "width"))
		assert.Less(t, Face(length, width), Face(length+1, width))
		assert.Less(t, Rim(length, width, 40), Rim(length, width+1, 40))
		assert.Less(t, Shaft(length, 50), Shaft(length, 51))
	})
}

func TestCoatVolume(t *testing.T) {
	volume, shown, err := CoatVolume(0.3, 90, working.Family, "spray") // 0.3·90/0.65
	require.NoError(t, err)
	assert.InDelta(t, 41.5, float64(volume), 0.1)
	assert.Equal(t, "about 42 mL", unit.Unmarked(shown.Result))
	assert.True(t, shown.Estimate)

	_, _, err = CoatVolume(0.3, 90, working.Family, "ladle")
	assert.ErrorContains(t, err, "ladle")
}

func TestWorkedRimAndShaft(t *testing.T) { // rules.md §6
	assert.InDelta(t, 0.0683, float64(Rim(480, 330, 44)), 0.0001) // 3.9 · √(0.48·0.33) · 0.044
	assert.InDelta(t, 0.0525, float64(Shaft(630, 52.1)), 0.0001)  // 0.63 · 1.6 · 0.0521
}

func TestEveryTransfer(t *testing.T) { // rules.md §6: 1 m² at 100 µm, and what of it reaches the work
	for method, want := range map[string]float64{"spray": 153.85, "aerosol": 200, "brush": 105.26, "wipe": 125, "pad": 125, "pour": 105.26,
		"drop": 105.26} {
		volume, shown, err := CoatVolume(1, 100, working.Family, method)
		require.NoError(t, err)
		assert.InDelta(t, want, float64(volume), 0.01, method)
		assert.Equal(t, unit.Percent(100*100/want).String(), shown.Inputs[2].Value)
	}
}

func TestAPour(t *testing.T) { // rules §6: 1 m² at 1 mm is a litre
	assert.InDelta(t, 2508.0, float64(Pour(0.114, 20, 0.10)), 1e-9)
	assert.InDelta(t, 1000.0, float64(Pour(1, 1, 0)), 1e-9)
}
