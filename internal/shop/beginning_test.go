package shop_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// unbegun is a server of a shop that has said nothing about itself.
func unbegun(t *testing.T) *shop.Service {
	service, err := shop.New(pgtest.Store(t), func() time.Time { return time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC) })
	require.NoError(t, err)
	return service
}

// beginning is a sound answer to what a shop is like.
func beginning(view shop.BeginningView) shop.Beginning {
	return shop.Beginning{Name: "Strandläufer", TimeZone: "Australia/Hobart", Week: view.Hours[0].Week, People: []string{"Mara", "Jón"},
		Places: view.Rooms[2].Places, Air: []shop.Season{{Temperature: "22 °C", Humidity: "60 %"}, {Temperature: "16", Humidity: "60"},
			{Temperature: "50 °F", Humidity: "70 %"}, {Temperature: "16 °C", Humidity: "62 %"}}}
}

func TestAShopBeginsOnce(t *testing.T) {
	t.Parallel()
	s := unbegun(t)
	_, err := s.Rack(ctx)
	require.ErrorIs(t, err, snapshot.ErrNotBegun)
	view, err := s.Beginning(ctx)
	require.NoError(t, err)
	assert.False(t, view.Begun)
	for i := range 3 { // every guess is one that may be kept
		hours, room, air := view.Hours[i%len(view.Hours)], view.Rooms[i%len(view.Rooms)], view.Airs[i%len(view.Airs)]
		_, err := unbegun(t).Begin(ctx, shop.Beginning{Name: "A", TimeZone: "UTC", Week: hours.Week, People: []string{"B"},
			Places: room.Places, Air: air.Air})
		require.NoError(t, err, "%s, %s, %s", hours.ID, room.ID, air.ID)
	}
	in := beginning(view)
	view, err = s.Begin(ctx, in)
	require.NoError(t, err)
	assert.True(t, view.Begun)
	kept, err := s.Shop(ctx)
	require.NoError(t, err)
	assert.Equal(t, "Strandläufer", kept.Shop.Name)
	assert.Equal(t, []string{"10:00–17:00", "19:00–22:00"}, []string{unit.Unmarked(kept.Shop.Week[0]), unit.Unmarked(kept.Shop.Week[1])})
	byName := map[string]views.PlaceView{}
	for _, p := range kept.Places {
		byName[p.Name] = p
		assert.Equal(t, unit.Celsius(16), p.Knots[0].Temperature, "the mean of 22, 16, 10 and 16 °C")
		assert.Equal(t, unit.Percent(63), p.Knots[0].Humidity)
	}
	require.Len(t, byName, 4)
	assert.Equal(t, byName["the drying rack"].ID, byName["the booth"].HangsIn, "pieces hang where there is a place to dry")
	file, err := s.Export(ctx, nil)
	require.NoError(t, err)
	months := file.Shop.Places[0].Versions[0].Profile.Months
	for month, warmer := range map[time.Month]unit.Celsius{time.December: 6, time.January: 6, time.February: 6, time.March: 0,
		time.June: -6, time.August: -6, time.September: 0} {
		assert.InDelta(t, float64(warmer), float64(months[month-1].Temperature), 1e-9, month)
	}
	_, err = s.Begin(ctx, in)
	var taken *refuse.Taken
	assert.ErrorAs(t, err, &taken, "a second tab is told")
}

func TestWhatAShopCannotBeIsSaidByField(t *testing.T) {
	t.Parallel()
	s := unbegun(t)
	view, err := s.Beginning(ctx)
	require.NoError(t, err)
	for field, spoil := range map[string]func(*shop.Beginning){
		"name":               func(b *shop.Beginning) { b.Name = " " },
		"timeZone":           func(b *shop.Beginning) { b.TimeZone = "Local" },
		"week[1]":            func(b *shop.Beginning) { b.Week = make([]string, 7) },
		"people[1]":          func(b *shop.Beginning) { b.People = []string{"Mara", " Mara "} },
		"people[0]":          func(b *shop.Beginning) { b.People = []string{""} },
		"places[0].name":     func(b *shop.Beginning) { b.Places = []shop.BeginningPlace{{Kind: "bench"}} },
		"places[0].kind":     func(b *shop.Beginning) { b.Places = []shop.BeginningPlace{{Name: "the shed", Kind: "shed"}} },
		"air":                func(b *shop.Beginning) { b.Air = b.Air[:3] },
		"air[2].temperature": func(b *shop.Beginning) { b.Air[2].Temperature = "cold" },
		"air[0].humidity":    func(b *shop.Beginning) { b.Air[0].Humidity = "130 %" },
	} {
		in := beginning(view)
		spoil(&in)
		_, err := s.Begin(ctx, in)
		var wrong *refuse.Invalid
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong.Faults[0].Path)
	}
	view, err = s.Beginning(ctx)
	require.NoError(t, err)
	assert.False(t, view.Begun, "nothing is half kept")
}
