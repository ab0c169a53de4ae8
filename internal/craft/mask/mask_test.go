package mask

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMasks(t *testing.T) {
	require.NoError(t, Check())
	m, err := Find("fine-line")
	require.NoError(t, err)
	assert.Equal(t, Mask{ID: "fine-line", Name: "Fine-line plastic tape", Kind: "tape", Solvent: 3, Water: 3, HeatMost: 120,
		StayMost: 48 * time.Hour, Lift: m.Lift,
		Bleed: 1, EdgeStep: 1, Note: m.Note}, m)
	_, err = Find("newspaper")
	assert.ErrorContains(t, err, `"newspaper"`)
	_, err = parse(strings.Replace(rows, "fine-line,Fine-line plastic tape,tape,3", "fine-line,Fine-line plastic tape,tape,4", 1))
	assert.ErrorContains(t, err, "solvent_resist")
}
