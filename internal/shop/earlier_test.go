package shop_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
)

// A database of an earlier version, kept as it was dumped then, opens with all that was in it.
func TestADatabaseOfAnEarlierVersionOpens(t *testing.T) {
	now := time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC)
	s, err := shop.New(pgtest.From(t, "../store/testdata/schema-5.sql"), func() time.Time { return now })
	require.NoError(t, err)
	lines, err := s.Instruments(ctx)
	require.NoError(t, err)
	require.Len(t, lines, 1)
	view, err := s.Instrument(ctx, lines[0].ID)
	require.NoError(t, err)
	assert.Equal(t, "Grünschenkel", view.Name)
	require.Len(t, view.Log, 5)
	body := view.Pieces[0]
	assert.Len(t, body.Steps, 25)
	assert.Equal(t, []int{1, 1, 0}, []int{body.Steps[0].Done, body.Steps[1].Done, body.Steps[2].Done})
	var names []string
	for _, r := range body.Regions {
		names = append(names, r.Name)
	}
	assert.Equal(t, []string{"top", "back", "sides"}, names)
	assert.Equal(t, []recipe.RegionWish{{Name: "top", Wood: "maple-hard"}, {Name: "back", Sheen: "satin", Plain: true}},
		view.Wish.Pieces[0].Regions)
	for _, step := range body.Steps {
		sheet, err := s.Sheet(ctx, step.StepID, 1)
		require.NoError(t, err)
		assert.NotEmpty(t, sheet.Title)
	}
}
