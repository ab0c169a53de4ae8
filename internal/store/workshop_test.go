package store_test

import (
	"context"
	"os"
	"path/filepath"
	"slices"
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
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/localpg"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/store"
)

func TestTheOrderIsReplacedWhole(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	sand := in.Pieces[0].Steps[0]
	order := []job.Event{{Step: clear.ID, Coat: 2}, {Step: sand.ID, Coat: 1}, {Step: clear.ID, Coat: 1}, {Step: clear.ID, Coat: 4}}
	require.NoError(t, keep(s, func(w *workshop.Workshop) { w.Order = order }))
	assert.Equal(t, order, kept(t, s).Order)

	err := keep(s, func(w *workshop.Workshop) { w.Order = append(w.Order, order[0]) })
	assert.ErrorIs(t, err, store.ErrConflict)
	assert.Equal(t, order, kept(t, s).Order, "nothing half-saved")
}

func TestAStepComesBetweenOthers(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	gate := job.Step{ID: uuid.New(), Slot: "wait", Kind: job.Gate, Title: "Wait", Coats: 1,
		Ladder: []string{}, Regions: clear.Regions[:1], After: []uuid.UUID{in.Pieces[0].Steps[0].ID}}
	gate.Arrival = &job.Arrival{Expected: calendar.Day{Year: 2026, Month: 4, Date: 1}}
	between := func(w *workshop.Workshop) {
		piece := &w.Own(0).Pieces[0]
		piece.Steps = slices.Insert(piece.Steps, 1, gate)
	}
	require.NoError(t, keep(s, between))
	steps := kept(t, s).Instruments[0].Pieces[0].Steps
	require.Len(t, steps, 3)
	assert.Equal(t, []string{"Sand", "Wait", "Clear"}, []string{steps[0].Title, steps[1].Title, steps[2].Title})
	assert.Equal(t, gate.Terms, steps[1].Terms)
	assert.Equal(t, gate.Regions, steps[1].Regions)
	assert.Equal(t, gate.After, steps[1].After)
	assert.Equal(t, 1, steps[2].Version, "what only moves on is not another version")
	gate.ID = uuid.New()
	assert.ErrorIs(t, keep(s, between), store.ErrConflict, "its slot is taken")
}

func TestALostUpdateOfAStepIsAConflict(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	seen := kept(t, s)
	coats := func(n int) error {
		return s.Write(ctx, func(tx *store.Tx) error {
			next := seen.Clone()
			next.Own(0).Pieces[0].Steps[1].Coats = n
			next.Succeed(seen)
			_, err := tx.Keep(ctx, seen, next)
			return err
		})
	}
	require.NoError(t, coats(5))
	err := coats(7) // from what somebody else saw before
	assert.ErrorIs(t, err, store.ErrConflict)
	var wrong *store.Unkept
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "Curlew", wrong.Name)
	step := kept(t, s).Instruments[0].Pieces[0].Steps[1]
	assert.Equal(t, 5, step.Coats)
	assert.Equal(t, 2, step.Version)
}

func TestAPinIsMovedAndLifted(t *testing.T) {
	t.Parallel()
	s, _, clear, who := seeded(t)
	pin := job.Pin{Event: job.Event{Step: clear.ID, Coat: 2}, Person: &who.ID, MadeAt: noon}
	for _, at := range []time.Time{noon, noon.Add(time.Hour)} {
		pin.At = at
		require.NoError(t, keep(s, func(w *workshop.Workshop) { w.Pins = []job.Pin{pin} }))
		assert.Equal(t, []job.Pin{pin}, kept(t, s).Pins, "an event is pinned to one time")
	}
	require.NoError(t, keep(s, func(w *workshop.Workshop) { w.Pins = nil }))
	assert.Empty(t, kept(t, s).Pins)
}

func TestPeopleChangeAndLeave(t *testing.T) {
	t.Parallel()
	s, _, _, mara := seeded(t)
	week := settings.Week{time.Monday: {{Open: 540, Close: 720}}}
	mara.Name, mara.Week, mara.Left = "Mara Ness", &week, true
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Shop.People = []settings.Person{mara, {ID: uuid.New(), Name: "Tobin"}}
	}))
	people := kept(t, s).Shop.People
	require.Len(t, people, 2)
	assert.Equal(t, "Mara Ness", people[0].Name, "in the order in which they came")
	assert.True(t, people[0].Left)
	assert.Equal(t, week.Whole(), *people[0].Week)
	assert.False(t, people[1].Left)
	err := keep(s, func(w *workshop.Workshop) { w.Shop.People[0].Name = "Tobin" })
	assert.ErrorIs(t, err, store.ErrConflict)
	assert.ErrorContains(t, err, "people")
}

func TestPlacesAreEffectiveDatedAndKeepTheirOrder(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	rack, booth := uuid.New(), uuid.New()
	week := settings.Week{time.Monday: {{Open: 540, Close: 1020}}}.Whole()
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Shop.Places = []settings.Place{
			{ID: booth, Versions: []settings.PlaceVersion{
				{ValidFrom: noon, Name: "the booth", Kind: settings.Booth, Capacity: 1, HangsIn: &rack, Week: &week, Air: "booth",
					Profile: &settings.Profile{Knots: []climate.Knot{{Hour: 6, Air: climate.Air{Temperature: 17, Humidity: 55}}}}},
				{ValidFrom: noon.AddDate(0, 1, 0), Name: "the booth", Kind: settings.Booth, Capacity: 2}}},
			{ID: rack, Versions: []settings.PlaceVersion{{ValidFrom: noon, Name: "the rack", Kind: settings.Drying, Hooks: 6}}}}
	}))
	places := kept(t, s).Shop.Places
	require.Len(t, places, 2)
	assert.Equal(t, []uuid.UUID{booth, rack}, []uuid.UUID{places[0].ID, places[1].ID}, "also where one hangs its pieces in a later one")
	require.Len(t, places[0].Versions, 2)
	assert.Equal(t, week, *places[0].Versions[0].Week)
	assert.EqualValues(t, 17, places[0].Versions[0].Profile.Knots[0].Temperature)
	assert.Equal(t, 2, places[0].Versions[1].Capacity)
	assert.Nil(t, places[0].Versions[1].Week)
}

func TestAPlaceOfNoKindIsRefused(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	err := keep(s, func(w *workshop.Workshop) {
		w.Shop.Places = []settings.Place{{ID: uuid.New(), Versions: []settings.PlaceVersion{{ValidFrom: noon, Name: "the attic",
			Kind: "attic"}}}}
	})
	assert.ErrorIs(t, err, store.ErrRefused)
	assert.Empty(t, kept(t, s).Shop.Places)
}

func TestAVersionOfTheSameMomentIsReplaced(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	booth := uuid.New()
	for i, margin := range []float64{1.25, 1.5} {
		require.NoError(t, keep(s, func(w *workshop.Workshop) {
			w.Shop.Settings = []settings.Setting{{ValidFrom: noon, Name: "Room", TimeZone: "UTC", Margin: margin}}
			w.Shop.Places = []settings.Place{{ID: booth, Versions: []settings.PlaceVersion{
				{ValidFrom: noon, Name: "the booth", Kind: settings.Booth, Capacity: i + 2}}}}
		}))
	}
	shop := kept(t, s).Shop
	require.Len(t, shop.Settings, 1)
	assert.Equal(t, 1.5, shop.Settings[0].Margin)
	require.Len(t, shop.Places, 1)
	require.Len(t, shop.Places[0].Versions, 1)
	assert.Equal(t, 3, shop.Places[0].Versions[0].Capacity)
}

func TestADeclinedGainIsRemembered(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	declined := func(since time.Time) bool {
		return read(t, s, func(tx *store.Tx) (bool, error) { return tx.ProposalDismissed(ctx, "saves a day", since) })
	}
	assert.False(t, declined(noon.Add(-time.Hour)))
	for _, at := range []time.Time{noon, noon.Add(2 * time.Hour)} { // and again, later
		require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.DismissProposal(ctx, "saves a day", at) }))
	}
	assert.True(t, declined(noon.Add(time.Hour)))
	assert.False(t, declined(noon.Add(3*time.Hour)))
}

func TestListenTellsOfEveryChangeUntilTheDatabaseIsLost(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	require.NoError(t, os.Chmod(filepath.Dir(dir), 0o755)) // the server may run as another user
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	defer func() { server.Stop() }()
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	s, err := store.Open(ctx, server.URL("shop"))
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(ctx))

	told := make(chan int64, 10)
	listen := func(ctx context.Context) chan error {
		ended := make(chan error, 1)
		go func() { ended <- s.Listen(ctx, func(revision int64) { told <- revision }) }()
		return ended
	}
	next := func() int64 {
		t.Helper()
		select {
		case revision := <-told:
			return revision
		case <-time.After(60 * time.Second):
			require.Fail(t, "nothing is told")
			return 0
		}
	}
	ended := listen(ctx)
	first := next()
	require.NoError(t, s.Write(ctx, func(*store.Tx) error { return nil }))
	assert.Equal(t, first+1, next())
	assert.Error(t, s.Write(ctx, func(*store.Tx) error { return os.ErrInvalid }))
	require.NoError(t, s.Write(ctx, func(*store.Tx) error { return nil }))
	assert.Equal(t, first+2, next(), "what was not kept is not told")

	require.NoError(t, server.Stop())
	assert.ErrorIs(t, <-ended, store.ErrUnavailable)
	assert.ErrorIs(t, s.Listen(ctx, func(int64) {}), store.ErrUnavailable)
	require.NoError(t, server.Resume(ctx))
	limited, stop := context.WithCancel(ctx)
	ended = listen(limited)
	assert.Equal(t, first+2, next(), "who comes back hears where things stand")
	stop()
	assert.Error(t, <-ended)
}

func TestAStepIsDroppedWithAllThatIsSaidOfIt(t *testing.T) {
	t.Parallel()
	s, _, clear, _ := seeded(t)
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Pins = []job.Pin{{Event: job.Event{Step: clear.ID, Coat: 1}, At: noon, MadeAt: noon}}
	}))
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		piece := &w.Own(0).Pieces[0]
		piece.Steps = piece.Steps[:1]
		w.Order = slices.DeleteFunc(w.Order, func(e job.Event) bool { return e.Step == clear.ID })
		w.Pins = nil
	}))
	w := kept(t, s)
	assert.Len(t, w.Instruments[0].Pieces[0].Steps, 1)
	assert.Len(t, w.Order, 1)
	assert.Empty(t, w.Pins)
}

func TestStepsAndPiecesArePlacedAnew(t *testing.T) {
	t.Parallel()
	s, in, _, _ := seeded(t)
	swapped := []uuid.UUID{in.Pieces[0].Steps[1].ID, in.Pieces[0].Steps[0].ID}
	neck := job.Piece{ID: uuid.New(), Kind: job.Neck}
	neck.Regions = []job.Region{{ID: uuid.New(), Name: "shaft", Wood: "maple-hard", AreaM2: 0.05, Sheen: "satin"}}
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		in := w.Own(0)
		body := in.Pieces[0]
		body.Steps[0], body.Steps[1] = body.Steps[1], body.Steps[0]
		body.Regions = slices.Clone(body.Regions)
		body.Regions[0].Sheen, body.Regions[0].AreaM2 = "gloss", 0.08
		in.Pieces = []job.Piece{neck, body}
	}))
	pieces := kept(t, s).Instruments[0].Pieces
	require.Len(t, pieces, 2)
	assert.Equal(t, job.Neck, pieces[0].Kind)
	assert.Equal(t, neck.Regions, pieces[0].Regions)
	assert.Equal(t, swapped, []uuid.UUID{pieces[1].Steps[0].ID, pieces[1].Steps[1].ID})
	assert.Equal(t, "gloss", pieces[1].Regions[0].Sheen)
	assert.InDelta(t, 0.08, float64(pieces[1].Regions[0].AreaM2), 1e-12)

	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		in := w.Own(0)
		in.Pieces = in.Pieces[1:]
	}))
	assert.Len(t, kept(t, s).Instruments[0].Pieces, 1)
}

// A piece that was carried somewhere, and a region of it, stay although they are gone from the schedule: the log speaks
// of them, and whoever keeps that is told.
func TestAPieceOfWhichTheLogSpeaksStays(t *testing.T) {
	t.Parallel()
	s, in, _, who := seeded(t)
	neck, place := job.Piece{ID: uuid.New(), Kind: job.Neck, Regions: []job.Region{{ID: uuid.New(), Name: "shaft"}}}, uuid.New()
	neck.Regions[0].AreaM2 = 0.05
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Own(0).Pieces = append(w.Instruments[0].Pieces, neck)
		w.Shop.Places = []settings.Place{{ID: place, Versions: []settings.PlaceVersion{{ValidFrom: noon, Name: "the rack",
			Kind: settings.Drying}}}}
	}))
	moved := job.Entry{ID: uuid.New(), Kind: job.Moved, Instrument: in.ID, Piece: &neck.ID, Place: &place, HappenedAt: noon,
		RecordedAt: noon,
		Person:     who.ID, Device: uuid.NameSpaceOID, DeviceSeq: 1}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddEntry(ctx, moved); err != nil {
			return err
		}
		was, err := tx.Workshop(ctx, time.Time{})
		if err != nil {
			return err
		}
		next := was.Clone()
		next.Own(0).Pieces = next.Instruments[0].Pieces[:1]
		next.Succeed(was)
		exact, err := tx.Keep(ctx, was, next)
		assert.False(t, exact)
		return err
	}))
	assert.Len(t, kept(t, s).Instruments[0].Pieces, 2)
}

func TestAWishIsKeptAsItsNextVersion(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	wish := recipe.Archetypes()[1].Wish
	require.NoError(t, keep(s, func(w *workshop.Workshop) { w.Instruments[0].Wish = &wish }))
	in := kept(t, s).Instruments[0]
	require.NotNil(t, in.Wish)
	assert.Equal(t, wish, *in.Wish)
	assert.Equal(t, 2, in.Version)
}

func TestEverythingAStepIsCanChangeButItsPlace(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	clear.Title, clear.Film, clear.School, clear.Edited, clear.HandsOnMin = "Clear again", "full-cure", "build/few", true, 77
	clear.After, clear.Regions = []uuid.UUID{in.Pieces[0].Steps[0].ID}, clear.Regions[:1]
	require.NoError(t, keep(s, func(w *workshop.Workshop) { w.Own(0).Pieces[0].Steps[1] = clear }))
	step := kept(t, s).Instruments[0].Pieces[0].Steps[1]
	assert.Equal(t, []any{"Clear again", material.FullCure, "build/few", unit.Minutes(77), true, 2},
		[]any{step.Title, step.Film, step.School, step.HandsOnMin, step.Edited, step.Version})
	assert.Equal(t, clear.After, step.After)
	assert.Equal(t, clear.Regions, step.Regions)
}

// A new instrument never writes over a part of another.
func TestTheIdOfAPieceIsTakenOnce(t *testing.T) {
	t.Parallel()
	s, in, _, _ := seeded(t)
	other, _ := curlew()
	other.Pieces[0].ID = in.Pieces[0].ID
	assert.ErrorIs(t, keep(s, func(w *workshop.Workshop) { w.Instruments = append(w.Instruments, other) }), store.ErrConflict)
	assert.Equal(t, in.Pieces[0].Steps[0].Title, kept(t, s).Instruments[0].Pieces[0].Steps[0].Title)
}

func TestAnInstrumentIsDroppedUnlessSomethingIsLoggedOfIt(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	drop := func(w *workshop.Workshop) { w.Instruments, w.Order = nil, nil }
	require.NoError(t, keep(s, drop))
	assert.Empty(t, kept(t, s).Instruments)
	require.NoError(t, keep(s, func(w *workshop.Workshop) { w.Instruments = append(w.Instruments, in) }))
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.AddEntry(ctx, entry(in, clear, 1, who, 1)) }))
	assert.ErrorIs(t, keep(s, drop), store.ErrConflict)
}

// Work that is done stays done where a region is split: on the part that was split off as well.
func TestARegionThatIsSplitOffIsDoneToo(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	e := entry(in, clear, 1, who, 1)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddEntry(ctx, e); err != nil {
			return err
		}
		return tx.Complete(ctx, e)
	}))
	strip := job.Region{ID: uuid.New(), Name: "Streifen", AreaM2: 0.01}
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		piece := &w.Own(0).Pieces[0]
		piece.Regions = append(slices.Clone(piece.Regions), strip)
		piece.Steps[1].Regions = append(slices.Clone(piece.Steps[1].Regions), strip.ID)
	}))
	var regions int
	require.NoError(t, s.Raw().Get(&regions, `select count(*) from completion where entry_id = $1`, e.ID))
	assert.Equal(t, 3, regions)
}

func TestAProductIsRenamedAndNothingDecidedIsDropped(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	sheet := material.SheetVersion{ValidFrom: noon, Sheet: []byte(`{}`)}
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Products = []material.Product{{ID: uuid.New(), Name: "Ebb Gloss", Family: "water-clear",
			Versions: []material.SheetVersion{sheet}}}
	}))
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Products = slices.Clone(w.Products)
		w.Products[0].Name = "Tüllglanz"
	}))
	assert.Equal(t, "Tüllglanz", kept(t, s).Products[0].Name)
	assert.ErrorContains(t, keep(s, func(w *workshop.Workshop) { w.Products = nil }), "products are never dropped")
	assert.ErrorContains(t, keep(s, func(w *workshop.Workshop) { w.Shop.People = nil }), "people are never dropped")
	assert.Len(t, kept(t, s).Products, 1)
}
