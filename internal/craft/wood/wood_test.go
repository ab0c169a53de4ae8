package wood

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTableIsSound(t *testing.T) {
	require.NoError(t, Check())
	assert.GreaterOrEqual(t, len(All()), 50)
}

func TestFind(t *testing.T) {
	ash, err := Find("ash-swamp")
	require.NoError(t, err)
	assert.True(t, ash.OpenPored())
	assert.EqualValues(t, 170, ash.PoreDepth)
	assert.Equal(t, 180, ash.SandBareTo)

	maple, err := Find("maple-hard")
	require.NoError(t, err)
	assert.False(t, maple.OpenPored())

	_, err = Find("driftwood")
	assert.ErrorContains(t, err, `"driftwood"`)
}

func TestParseRefusesNonsense(t *testing.T) {
	const head = "id,name,botanical,pore_class,pore_depth_um,density_kg_m3,blotch_risk,colour_bleed,oil_inhibits_cure,grain_raise,figure_note,sensitiser,base_colour_srgb,wet_colour_srgb,sand_bare_to_p,source,note\n"
	_, err := parse(head + "x,X,,spongy,20,500,4,0,0,0,,0,#FFFFFF,white,220,estimate,\n")
	assert.ErrorContains(t, err, "pore_class")
	assert.ErrorContains(t, err, "blotch_risk")
	assert.ErrorContains(t, err, "wet_colour_srgb")
}
