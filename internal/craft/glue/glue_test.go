package glue

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestGlues(t *testing.T) {
	require.NoError(t, Check())
	g, err := Find("pva-yellow")
	require.NoError(t, err)
	assert.Equal(t, Glue{ID: "pva-yellow", Name: "Yellow wood glue", Open: 5, Clamp: 45, SqueezeAfter: 20, SqueezeBefore: 60, Handle: 120,
		Full: 1440, Dye: "no", Note: g.Note}, g)
	thin, err := Find("ca-thin")
	require.NoError(t, err)
	assert.EqualValues(t, 1, thin.Open, "a started minute is a whole one")
	assert.Zero(t, thin.SqueezeAfter, "it is left until it is hard")
	_, err = Find("spit")
	assert.ErrorContains(t, err, `"spit"`)
	_, err = parse(strings.Replace(rows, "120,1440,10,60", "1500,1440,10,60", 1))
	assert.ErrorContains(t, err, "full_min")
}
