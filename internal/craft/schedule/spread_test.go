package schedule

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

func TestStretchesLeaveNoRestThatIsTooShort(t *testing.T) {
	cut := cutting{least: 30, longest: 45}
	assert.EqualValues(t, 30, cut.shortest(100), "30, 35 and 35 are possible")
	assert.EqualValues(t, 40, cut.part(45, 100), "45 would leave 55, which is neither one stretch of 45 nor two of 30")
}

func TestHalfOfAWipedCoatIsPutOn(t *testing.T) {
	// 121 minutes of a wiped filler are put on in 61 of them: the rest is wiping off, with the pot empty.
	family, err := material.FindFamily("epoxy-filler")
	require.NoError(t, err)
	require.Positive(t, family.WipeBefore)
	filler := material.OfFamily(family)
	n := node{step: &Step{Material: &filler, Step: job.Step{Kind: Coat, HandsOnMin: 121, Method: material.Wipe}}}
	assert.EqualValues(t, 61, n.puttingOn())
	n.step.Method = material.Spray
	assert.EqualValues(t, 121, n.puttingOn())
}
