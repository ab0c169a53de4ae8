package labour

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMinutes(t *testing.T) {
	require.NoError(t, Check())
	spray, err := Find("coat", "spray")
	require.NoError(t, err)
	minutes, shown := spray.Minutes(0.3, 1) // 20 + 12·0.3 = 23.6
	assert.EqualValues(t, 25, minutes)
	assert.True(t, shown.Estimate)

	level, err := Find("level", "")
	require.NoError(t, err)
	minutes, _ = level.Minutes(0.25, 5) // 10 + 110·0.25·5 = 147.5
	assert.EqualValues(t, 150, minutes)

	_, err = Find("coat", "ladle")
	assert.ErrorContains(t, err, "ladle")
}

func TestParseRefusesARateGivenTwice(t *testing.T) {
	_, err := parse("work,method,setup_min,min_per_m2,note,source\ncoat,spray,1,1,,\ncoat,spray,2,2,,\n")
	assert.ErrorContains(t, err, "only once")
}
