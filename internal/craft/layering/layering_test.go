package layering

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTablesAreSound(t *testing.T) { require.NoError(t, Check()) }

func TestWhatGoesOverWhat(t *testing.T) {
	for name, test := range map[string]struct {
		under, over string
		answer      Answer
		needs       bool
	}{
		"one chemistry":                {"water-sealer", "water-clear", OK, false},
		"wet paste over dye":           {"water-dye", "water-filler", If, true},
		"two-part over lacquer":        {"nitro", "urethane-2k", No, true},
		"oil over a sealed face":       {"dewaxed-shellac", "finishing-oil", If, false},
		"nothing sticks to wax":        {"paste-wax", "nitro", No, true},
		"a pair nobody has tried here": {"paste-wax", "metal-leaf", Untested, false},
		"a condition, not a barrier":   {"sealer-2k", "water-clear", If, false},
	} {
		t.Run(name, func(t *testing.T) {
			v := Over(test.under, test.over)
			assert.Equal(t, test.answer, v.Answer)
			assert.Equal(t, test.needs, v.Needs())
			assert.NotEmpty(t, v.Text())
		})
	}
}

func TestEveryPairThatAsksForABarrierHasOneThatHolds(t *testing.T) {
	for _, v := range verdicts {
		if v.Condition != OnShellac {
			continue
		}
		b, found := Between(v.Under, v.Over)
		require.True(t, found, "%s under %s", v.Under, v.Over)
		assert.True(t, b.Joined(), "%s under %s", v.Under, v.Over)
		assert.Positive(t, b.Coats)
	}
	_, found := Between("nitro", "urethane-2k")
	assert.False(t, found, "no barrier saves a hard film over a soft one")
}
