package resin

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/unit"
)

func TestResins(t *testing.T) {
	require.NoError(t, Check())
	r, err := Find("medium-epoxy")
	require.NoError(t, err)
	assert.Equal(t, "cast-epoxy", r.Family)
	assert.EqualValues(t, 25, r.DepthMost)
	assert.EqualValues(t, 60, r.PotLife, "the least of it counts")
	assert.Equal(t, []time.Duration{12 * time.Hour, 36 * time.Hour, 72 * time.Hour},
		[]time.Duration{r.LiftAfter, r.LiftBefore, r.SandAfter})
	assert.Equal(t, []string{"2:1", "volume"}, []string{r.Mix, r.MixBy})
	polyester, err := Find("cast-polyester")
	require.NoError(t, err)
	assert.Equal(t, "sealer-2k", polyester.UnderStop)
	_, err = Find("jelly")
	assert.ErrorContains(t, err, `"jelly"`)
	assert.Len(t, All(), 7)
}

func TestLifts(t *testing.T) {
	r, err := Find("medium-epoxy")
	require.NoError(t, err)
	for depth, want := range map[unit.Millimetre]int{1: 1, 25: 1, 25.1: 2, 50: 2, 60: 3} {
		assert.Equal(t, want, r.Lifts(depth), "%g mm in lifts of 25", float64(depth))
	}
}

func TestWhatIsWrongInTheTableIsNamed(t *testing.T) {
	for name, test := range map[string]struct{ old, new, says string }{
		"deeper at least than at most": {"cast-epoxy,6,25", "cast-epoxy,26,25", "depth_most_mm"},
		"no such family":               {",cast-epoxy,6,25", ",cast-porridge,6,25", "family"},
		"no such barrier":              {"0.5,3,sealer-2k", "0.5,3,porridge", "under_stop"},
	} {
		_, err := parse(strings.Replace(rows, test.old, test.new, 1))
		assert.ErrorContains(t, err, test.says, name)
	}
}
