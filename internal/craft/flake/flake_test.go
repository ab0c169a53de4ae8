package flake

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/unit"
)

func TestTheTablesAreSound(t *testing.T) { require.NoError(t, Check()) }

func TestGrains(t *testing.T) {
	flat, err := Find("flake-200")
	require.NoError(t, err)
	assert.Equal(t, Grain{ID: "flake-200", Material: "polyester flake", Size: 200, Family: "flake-clear", Standing: 70, GramsLeast: 5,
		GramsMost:  12,
		CoatsLeast: 2, CoatsMost: 4, Nozzle: 1.8, Note: flat.Note}, flat, "0.35 of its size stands up")
	fallen, err := Find("fall-flake-200")
	require.NoError(t, err)
	assert.True(t, fallen.Sprinkled)
	assert.EqualValues(t, 200, fallen.Standing, "on edge, as it fell")
	assert.InDelta(t, 0.5, fallen.GramsLeast, 1e-12)
	_, err = Find("glitter")
	assert.ErrorContains(t, err, `"glitter"`)
	assert.Len(t, All(), 13)
}

func TestTack(t *testing.T) {
	for family, want := range map[string][2]unit.Minutes{"urethane-2k": {10, 25}, "water-clear": {5, 12}, "dewaxed-shellac": {2, 5},
		"lam-epoxy": {120, 240}} {
		tack, holds := TackOf(family)
		require.True(t, holds, family)
		assert.Equal(t, want, [2]unit.Minutes{tack.After, tack.Before}, family)
		assert.Contains(t, Holders(), family)
	}
	_, holds := TackOf("paste-wax")
	assert.False(t, holds)
}

func TestWhatIsWrongInTheTablesIsNamed(t *testing.T) {
	for name, test := range map[string]struct{ old, new, says string }{
		"a standing height of its own": {"flake-200,polyester flake,200,flat,flake-clear,70",
			"flake-200,polyester flake,200,flat,flake-clear,90", "standing_height_um"},
		"no such carrier":            {"200,flat,flake-clear", "200,flat,porridge", "family"},
		"strewn, yet in a clear":     {"200,sprinkled,particles", "200,sprinkled,flake-clear", "family"},
		"more at least than at most": {",5,12,,,2,4,1.8", ",15,12,,,2,4,1.8", "most"},
	} {
		_, err := parseGrains(strings.Replace(grainRows, test.old, test.new, 1))
		assert.ErrorContains(t, err, test.says, name)
	}
	_, err := parseTacks(strings.Replace(tackRows, "water-clear,5,12", "water-clear,15,12", 1))
	assert.ErrorContains(t, err, "later than tack_after_min")
}
