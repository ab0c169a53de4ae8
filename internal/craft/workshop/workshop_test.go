package workshop_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
)

var noon = time.Date(2026, 3, 12, 12, 0, 0, 0, time.UTC)

// instrument is one of a neck with one coat on one of its two regions.
func instrument(n byte, archived *time.Time) recipe.Instrument {
	step := job.Step{ID: uuid.UUID{n, 9}, Kind: job.Coat, Title: "Öl", Family: "finishing-oil", Method: "wipe", Coats: 2,
		Regions: []uuid.UUID{{n, 3}}}
	piece := job.Piece{ID: uuid.UUID{n, 2}, Kind: job.Neck, Regions: []job.Region{{ID: uuid.UUID{n, 3}, Name: "shaft"},
		{ID: uuid.UUID{n, 4}, Name: "heel"}},
		Steps: []job.Step{step}}
	return recipe.Instrument{Instrument: job.Instrument{ID: uuid.UUID{n}, Name: "Knutt", CreatedAt: noon, Archived: archived, Version: 1,
		Promise: calendar.DayOf(noon), Pieces: []job.Piece{piece}}}
}

func TestWhatIsArchivedKeepsItsPins(t *testing.T) {
	planned, archived := instrument(1, nil), instrument(2, &noon)
	pins := []job.Pin{{Event: planned.Events()[0], At: noon}, {Event: archived.Events()[1], At: noon}}
	w := workshop.Workshop{Instruments: []recipe.Instrument{planned, archived}, Pins: pins,
		Order: append(planned.Events(), archived.Events()...)}
	before := w
	archive := w.TakeArchived()
	assert.Equal(t, []recipe.Instrument{planned}, w.Instruments)
	assert.Equal(t, planned.Events(), w.Order)
	assert.Equal(t, pins[:1], w.Pins)
	assert.Equal(t, pins[1:], archive.Pins)
	whole := w.With(archive)
	assert.Equal(t, before.Instruments, whole.Instruments)
	assert.Equal(t, before.Pins, whole.Pins)
	assert.Len(t, w.Instruments, 1, "the active shop is as it was")
}

func TestOnlyWhatDiffersHasItsNextVersion(t *testing.T) {
	was := &workshop.Workshop{Instruments: []recipe.Instrument{instrument(1, nil), instrument(2, nil)}}
	was.Succeed(&workshop.Workshop{})
	first := was.Instruments[0].Pieces[0].Steps[0]
	assert.Equal(t, []any{1, "Öl", first.ID.String()}, []any{first.Version, first.Title, first.Slot}, "what was left open is filled in")

	next := was.Clone()
	next.Own(0).Pieces[0].Steps[0].Coats = 3
	next.Instruments[1].Name = "Strandläufer"
	next.Pins = []job.Pin{{Event: job.Event{Step: uuid.UUID{2, 9}, Coat: 1}, At: noon.Add(time.Nanosecond)},
		{Event: job.Event{Step: uuid.UUID{1, 9}, Coat: 1}}}
	next.Succeed(was)
	assert.Equal(t, []int{1, 2}, []int{next.Instruments[0].Version, next.Instruments[1].Version})
	assert.Equal(t, []int{2, 1}, []int{next.Instruments[0].Pieces[0].Steps[0].Version, next.Instruments[1].Pieces[0].Steps[0].Version})
	assert.Equal(t, 2, was.Instruments[0].Pieces[0].Steps[0].Coats, "nothing else has changed")
	assert.Equal(t, uuid.UUID{1, 9}, next.Pins[0].Step, "pins stand in their order")
	assert.Equal(t, noon, next.Pins[1].At, "to the microsecond")
	again := next.Clone()
	again.Succeed(was)
	assert.Equal(t, next.Instruments, again.Instruments, "twice is once")
	assert.True(t, workshop.Same(&next.Instruments[0], &again.Instruments[0]))
	assert.False(t, workshop.Same(&next.Instruments[0], &was.Instruments[0]))
}

// shop is a shop of one room.
func shop(readings ...settings.Reading) *workshop.Workshop {
	var week settings.Week
	week[time.Monday] = []calendar.Hours{{Open: 540, Close: 1080}}
	return &workshop.Workshop{Shop: settings.Shop{Settings: []settings.Setting{{Name: "Stube", TimeZone: "Asia/Tokyo", Margin: 1.25,
		Week: week}},
		Places:   []settings.Place{{ID: uuid.UUID{7}, Versions: []settings.PlaceVersion{{Name: "Stube", Kind: settings.Bench}}}},
		Readings: readings}}
}

func TestAStruckReadingIsNoAir(t *testing.T) {
	cold := settings.Reading{Place: uuid.UUID{7}, At: noon, RecordedAt: noon, Air: climate.Air{Temperature: 4, Humidity: 80}}
	laid, err := shop(cold).ShopAt(noon)
	require.NoError(t, err)
	require.NotNil(t, laid.Places[0].Room)
	cold.StruckAt = &noon
	laid, err = shop(cold).ShopAt(noon)
	require.NoError(t, err)
	assert.Nil(t, laid.Places[0].Room, "nobody has said anything about it")
}

func TestWhatIsRefusedIsNamedByItsPlace(t *testing.T) {
	for path, wrong := range map[string]func(*workshop.Workshop){
		"/shop/settings/0/timeZone": func(w *workshop.Workshop) { w.Shop.Settings[0].TimeZone = "Mars/Olympus" },
		"/shop/settings/0/week":     func(w *workshop.Workshop) { w.Shop.Settings[0].Week = settings.Week{} },
		"/shop":                     func(w *workshop.Workshop) { w.Shop.Settings[0].Margin = 0.5 },
		"/shop/people": func(w *workshop.Workshop) {
			w.Shop.People = []settings.Person{{ID: uuid.UUID{8}, Name: "Mara", Left: true}}
		},
		"/products/0": func(w *workshop.Workshop) {
			w.Products = []material.Product{{ID: uuid.UUID{9}, Family: "plaid", Versions: []material.SheetVersion{{}}}}
		},
		"/instruments/0/pieces/0/steps/0": func(w *workshop.Workshop) {
			w.Instruments = []recipe.Instrument{instrument(1, nil)}
			w.Instruments[0].Pieces[0].Steps[0].Family = "plaid"
		},
	} {
		w := shop()
		wrong(w)
		_, err := w.Input(noon)
		var fault *workshop.Fault
		require.ErrorAs(t, err, &fault, path)
		assert.Equal(t, path, fault.Path)
		assert.Error(t, fault.Err)
	}
}
