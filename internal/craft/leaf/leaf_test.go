package leaf

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestLeaf(t *testing.T) {
	require.NoError(t, Check())
	brass, err := Find("brass-oil-fast")
	require.NoError(t, err)
	assert.Equal(t, Leaf{ID: "brass-oil-fast", Name: "Brass leaf, sold as imitation gold", Size: "size-oil-fast", After: 150, Before: 240,
		Seal:     "dewaxed-shellac",
		MustSeal: true, SealCoats: 2, SealAfter: 72 * time.Hour, Note: brass.Note}, brass)
	gold, err := Find("gold-oil-slow")
	require.NoError(t, err)
	assert.Empty(t, gold.Seal, "gold is bright as it is")
	assert.EqualValues(t, 660, gold.After)
	low, err := Find("gold-low-water")
	require.NoError(t, err)
	assert.False(t, low.MustSeal)
	assert.Equal(t, 1, low.SealCoats, "advised")
	_, err = Find("tinsel")
	assert.ErrorContains(t, err, `"tinsel"`)
	assert.Len(t, All(), 18)
}

func TestWhatIsWrongInTheTableIsNamed(t *testing.T) {
	for name, test := range map[string]struct{ old, new, says string }{
		"tack that ends before it begins": {"0.6,size-oil-fast,150,240,yes", "0.6,size-oil-fast,250,240,yes", "tack_before_min"},
		"no such size":                    {"size-water,30,1440,no", "size-glue,30,1440,no", "size_family"},
		"sealed without coats":            {"yes,dewaxed-shellac,2,72", "yes,dewaxed-shellac,0,72", "seal_coats"},
	} {
		_, err := parse(strings.Replace(rows, test.old, test.new, 1))
		assert.ErrorContains(t, err, test.says, name)
	}
}
