package abrasive

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTableIsSound(t *testing.T) { require.NoError(t, Check()) }

func TestLadder(t *testing.T) {
	ladder, err := LadderOf("fepa:P800", "fepa:P1000", "compound:medium")
	require.NoError(t, err)
	assert.Equal(t, "P800, P1000, compound medium", ladder.String())
	assert.EqualValues(t, 21.8, ladder[0].Mean)

	_, err = LadderOf("fepa:P320", "fepa:P321")
	assert.ErrorContains(t, err, "fepa:P321")
}

func TestFinerPaperScratchesLess(t *testing.T) {
	keys := []string{"fepa:P80", "fepa:P120", "fepa:P220", "fepa:P400", "fepa:P800", "fepa:P1500", "fepa:P3000"}
	ladder, err := LadderOf(keys...)
	require.NoError(t, err)
	for i := 1; i < len(ladder); i++ {
		assert.Less(t, ladder[i].Scratch, ladder[i-1].Scratch, ladder[i].Key)
	}
}
