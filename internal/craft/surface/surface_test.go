package surface

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSurfacesAsFound(t *testing.T) {
	require.NoError(t, Check())
	sealed, err := Find("factory-sealed")
	require.NoError(t, err)
	assert.Equal(t, "fepa:P180", sealed.First)
	assert.Equal(t, []string{"water-sealer", "lacquer-sealer", "sealer-2k"}, sealed.Families)
	assert.Equal(t, []string{"bare-or-sealed", "old-film-drop"}, sealed.Tests)
	char, err := Find("charred")
	require.NoError(t, err)
	assert.Empty(t, char.First, "no paper")
	_, err = Find("sandblasted")
	assert.ErrorContains(t, err, `"sandblasted"`)
	assert.Len(t, All(), 28)
}

func TestMends(t *testing.T) {
	m, err := FindMend("hole-plug")
	require.NoError(t, err)
	assert.Equal(t, Mend{ID: "hole-plug", Damage: "hole", Repair: m.Repair, Uses: []string{"pva-yellow"}, Dye: "yes", Minutes: 25,
		Wait: 24 * time.Hour, Ready: "glue's full strength",
		Flush: "fepa:P180", Note: m.Note}, m)
	drop, err := FindMend("chip-drop-set")
	require.NoError(t, err)
	assert.True(t, drop.InFilm)
	_, err = FindMend("wishing")
	assert.ErrorContains(t, err, `"wishing"`)
	for _, m := range Mends() {
		assert.False(t, m.InFilm, "%s mends a film", m.ID)
	}
	assert.Len(t, Mends(), 19)
}

func TestWhatIsWrongInTheTablesIsNamed(t *testing.T) {
	_, err := parseFound(strings.Replace(foundRows, "bare-or-sealed old-film-drop", "bare-or-sealed lick-it", 1))
	assert.ErrorContains(t, err, "checks of checks.yaml")
	_, err = parseFound(strings.Replace(foundRows, "fepa:P180,fepa:P180", "fepa:P7,fepa:P180", 1))
	assert.ErrorContains(t, err, "first_grit_hand")
	_, err = parseFound(strings.Replace(foundRows, "water-sealer lacquer-sealer", "water-sealer porridge", 1))
	assert.ErrorContains(t, err, "families.csv")
	_, err = parseMends(strings.Replace(mendRows, ",pva-yellow,yes,25", ",porridge,yes,25", 1))
	assert.ErrorContains(t, err, "glues.csv")
	_, err = parseMends(strings.Replace(mendRows, ",yes,25,24", ",perhaps,25,24", 1))
	assert.ErrorContains(t, err, "takes_dye")
}
