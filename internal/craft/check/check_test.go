package check

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestFind(t *testing.T) {
	require.NoError(t, Valid())
	rake, err := Find("raking-light-prep")
	require.NoError(t, err)
	assert.Contains(t, rake.Otherwise(), "Go back to the grit")
	pores, err := Find("pores-filled")
	require.NoError(t, err)
	assert.Contains(t, pores.Otherwise(), "“sink back”")
	_, err = Find("luck")
	assert.ErrorContains(t, err, "luck")
}

func TestParseRefuses(t *testing.T) {
	_, err := parse([]byte(`[{id: a, title: A, at: prep, how: look, pass_when: good}]`))
	assert.ErrorContains(t, err, "if_not")
}
