package aging

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTableIsSound(t *testing.T) { require.NoError(t, Check()) }

func TestWhatIsDoneToAFilmInWhichOrder(t *testing.T) {
	list := All()
	assert.Len(t, list, len(order), "every row that the order names is in the table")
	assert.Less(t, Rank("dents"), Rank("wear-wood"), "dents before wear, so that dirt finds them")
	assert.Less(t, Rank("wear-clear"), Rank("dull-all"))
	assert.Equal(t, len(order)-1, Rank("dirt"), "dirt last")
	cold, err := Find("check-cold")
	require.NoError(t, err)
	assert.True(t, cold.Bears("nitro"))
	assert.False(t, cold.Bears("water-clear"), "waterborne hardly checks")
	wood, err := Find("wear-wood")
	require.NoError(t, err)
	assert.Equal(t, []any{"wood", 5.0, 15.0, "fepa:P220"}, []any{wood.Down(), wood.Least, wood.Most, wood.Grits[0]})
	assert.True(t, wood.Bears("urethane-2k"), "all films are worn")
	dents, _ := Find("dents")
	assert.Empty(t, dents.Down())
	_, err = Find("rust")
	assert.Error(t, err)
}

func TestTheMapOfPlaces(t *testing.T) {
	shares := make(map[string]float64)
	for _, p := range Places() {
		shares[p.Region] += p.Share
		known, err := FindPlace(p.ID)
		require.NoError(t, err)
		assert.Equal(t, p, known)
	}
	for region, share := range shares {
		assert.Less(t, share, 1.0, "the places of the %s leave some of it", region)
	}
	assert.Equal(t, 0.35, shares["shaft"], "the back of a neck is worn most")
	_, err := FindPlace("moon")
	assert.Error(t, err)
}
