package table

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestReadGathersEveryComplaint(t *testing.T) {
	err := Read("brushes", "id,width_mm,hair\nflat,50,hog\nfan,-3,\n", func(r Row) {
		r.Number("width_mm", 1, 200)
		r.Needed("hair")
		r.OneOf("hair", "hog", "")
	})
	require.Error(t, err)
	assert.ErrorContains(t, err, `table brushes, row fan, column width_mm: "-3" is not a number from 1 to 200`)
	assert.ErrorContains(t, err, `column hair: "" is not filled in`)
	assert.NotContains(t, err.Error(), "row flat")
}

func TestReadRefusesRaggedAndEmpty(t *testing.T) {
	assert.Error(t, Read("brushes", "id,width\nflat\n", func(Row) {}))
	assert.Error(t, Read("brushes", "id,width\n", func(Row) {}))
	assert.ErrorContains(t, Read("brushes", "id\nflat\n", func(r Row) { r.Text("colour") }), "a column of this table")
}

func TestOptional(t *testing.T) {
	require.NoError(t, Read("brushes", "id,width\nflat,\nfan,12\n", func(r Row) {
		width, given := r.Optional("width", 0, 100)
		assert.Equal(t, r.Text("id") == "fan", given)
		assert.Equal(t, given, width == 12)
	}))
}
