package film

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

func TestWorkedDryCoat(t *testing.T) {
	assert.InDelta(t, 24.5, float64(Dry(90, 0.30, 0.10)), 0.05) // rules.md, worked values
}

func TestShowDryIsTheSameFigure(t *testing.T) {
	dry, shown := ShowDry(90, 0.30, 0.10, working.DataSheet)
	assert.Equal(t, Dry(90, 0.30, 0.10), dry)
	assert.Equal(t, "about 25 µm", unit.Unmarked(shown.Result))
	assert.False(t, shown.Estimate, "a data sheet is not an assumption")
}

func TestLevellingTakesHalfTheTextureAndEveryScratch(t *testing.T) {
	ladder, err := abrasive.LadderOf("fepa:P800", "fepa:P1000", "compound:fine")
	require.NoError(t, err)
	assert.InDelta(t, 15.0/2+1.3*(4.8+4)+1, float64(Removed(Texture(material.Spray, false), ladder)), 1e-9)
	assert.Greater(t, Texture(material.Aerosol, false), Texture(material.Spray, false))
	assert.Less(t, Texture(material.Brush, true), Texture(material.Brush, false))
}

func TestSevenSettledWaterborneCoats(t *testing.T) {
	settled := 7 * float64(Dry(90, 0.30, 0.10)) * (1 - Settling(material.Waterborne))
	assert.InDelta(t, 166.7, settled, 0.05) // rules.md, worked values
}

func TestEveryTextureAndSettling(t *testing.T) { // rules.md §3
	for by, want := range map[material.Method]float64{material.Spray: 15, material.Aerosol: 22, material.Brush: 35, material.Pour: 35,
		material.Wipe: 5, material.Pad: 4, material.Drop: 5} {
		assert.EqualValues(t, want, Texture(by, false), by)
	}
	assert.EqualValues(t, 15, Texture(material.Brush, true))
	for kinetics, want := range map[material.Kinetics]float64{material.Evaporative: 0.08, material.Oxidative: 0.05,
		material.Waterborne: 0.03, material.UV: 0.03, material.Reactive: 0.02, material.Still: 0} {
		assert.Equal(t, want, Settling(kinetics), kinetics)
	}
}

func TestTheWorkingSaysTheShares(t *testing.T) {
	_, shown := ShowDry(90, 0.30, 0.10, working.DataSheet)
	assert.Equal(t, "90 µm", unit.Unmarked(shown.Inputs[0].Value))
	assert.Equal(t, []string{"30 %", "10 %"}, []string{shown.Inputs[1].Value, shown.Inputs[2].Value})
}

func TestWhatGrainsStandAndWantAboveThem(t *testing.T) { // rules §3
	assert.InDelta(t, 70, float64(Standing(200, false)), 1e-9, "flat in a flowing coat")
	assert.InDelta(t, 200, float64(Standing(200, true)), 1e-9, "as they fell")
	assert.InDelta(t, 118, float64(Bury(70, 33)), 1e-9, "standing height, what levels, 15 more")
}
