package shop_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheBenchIsTheRackWithItsSheets(t *testing.T) {
	t.Parallel()
	r := open(t)
	r.keep(neck("Dunlin", "2026-08-01"))
	bench, err := r.service.Bench(ctx)
	require.NoError(t, err)
	rack, err := r.service.Rack(ctx)
	require.NoError(t, err)
	assert.Equal(t, rack, bench.Rack)
	titles := make(map[string]bool)
	for _, sheet := range bench.Sheets {
		require.False(t, titles[sheet.Title], "each sheet once")
		titles[sheet.Title] = true
		asked, err := r.service.Sheet(ctx, sheet.Event.StepID, sheet.Event.Coat)
		require.NoError(t, err)
		assert.Equal(t, asked, sheet)
	}
	for _, sitting := range rack.Next {
		assert.True(t, titles[sitting.Title], sitting.Title)
	}
	require.NotEmpty(t, bench.Sheets)
}

func TestAShopKeepsItsID(t *testing.T) {
	t.Parallel()
	r := open(t)
	first, err := r.service.Reference(ctx)
	require.NoError(t, err)
	assert.NotEqual(t, uuid.Nil, first.ShopID)
	r.keep(neck("Dunlin", "2026-08-01"))
	again, err := r.service.Reference(ctx)
	require.NoError(t, err)
	assert.Equal(t, first.ShopID, again.ShopID, "whatever changes in it")
	other, err := open(t).service.Reference(ctx)
	require.NoError(t, err)
	assert.NotEqual(t, first.ShopID, other.ShopID)
}
