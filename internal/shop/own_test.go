package shop_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop/refuse"
)

// An outline of one's own goes before the one it is named by: areas come from it, it is drawn, and it
// goes out and comes back.
func TestAnOutlineOfItsOwn(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Krähenscharbe")
	in.Own = "M0 0 H330 V480 H0 Z" // a slab as wide and long as the body: all of its box
	view := r.keep(in)
	require.NotNil(t, view.Own)
	assert.Equal(t, [4]float64{0, 0, 330, 480}, view.Own.Box)
	assert.Equal(t, in.Own, view.Own.Path)

	file, err := r.service.Export(ctx, &view.ID)
	require.NoError(t, err)
	top := file.Instruments[0].Pieces[0].Regions[0]
	assert.InDelta(t, 0.330*0.480, float64(top.AreaM2), 1e-9)
	var written bytes.Buffer
	require.NoError(t, formats.Write(&written, file))
	again, err := formats.Read(&written)
	require.NoError(t, err)
	other := open(t)
	_, err = other.service.Import(ctx, again)
	require.NoError(t, err)
	assert.Equal(t, view.Own, other.view(view.ID).Own)

	rack, err := r.service.Rack(ctx)
	require.NoError(t, err)
	assert.Equal(t, view.Own, rack.Tags[0].Own)
}

func TestAHostileOutlineIsRefused(t *testing.T) {
	t.Parallel()
	r := open(t)
	for name, path := range map[string]string{
		"a script":    "<script>alert(1)</script>",
		"nothing":     "M0 0",
		"without end": "M0 0 " + strings.Repeat("L1 1 ", 5000),
		"huge":        "M0 0 H1e300 V1 Z",
	} {
		in := glossBody("Knot")
		in.Own = path
		_, err := r.service.Keep(ctx, in)
		var wrong *refuse.Invalid
		require.ErrorAs(t, err, &wrong, name)
		assert.Equal(t, "outlinePath", wrong.Faults[0].Path, name)
	}
}
