package film

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/working"
)

func TestWorkedDryCoat(t *testing.T) {
	assert.InDelta(t, 24.5, float64(Dry(90, 0.30, 0.10)), 0.05) // rules.md, worked values
}

func TestShowDryIsTheSameFigure(t *testing.T) {
	dry, shown := ShowDry(90, 0.30, 0.10, working.DataSheet)
	assert.Equal(t, Dry(90, 0.30, 0.10), dry)
	assert.Equal(t, "about 25 µm", shown.Result)
	assert.False(t, shown.Estimate, "a data sheet is not an assumption")
}
