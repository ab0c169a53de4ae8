package store_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/localpg"
	"umberfrost/internal/store"
)

// read runs a query on what is committed.
func read[T any](t *testing.T, s *store.Store, do func(*store.Tx) (T, error)) T {
	t.Helper()
	var out T
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) (err error) {
		out, err = do(tx)
		return err
	}))
	return out
}

func TestTheOrderIsReplacedWhole(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	sand := in.Pieces[0].Steps[0]
	order := []schedule.Event{{Step: clear.ID, Coat: 2}, {Step: sand.ID, Coat: 1}, {Step: clear.ID, Coat: 1}, {Step: clear.ID, Coat: 4}}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.SetOrder(ctx, order) }))
	assert.Equal(t, order, read(t, s, func(tx *store.Tx) ([]schedule.Event, error) { return tx.Order(ctx) }))

	twice := append(order, order[0])
	err := s.Write(ctx, func(tx *store.Tx) error { return tx.SetOrder(ctx, twice) })
	assert.ErrorIs(t, err, store.ErrConflict)
	assert.Equal(t, order, read(t, s, func(tx *store.Tx) ([]schedule.Event, error) { return tx.Order(ctx) }), "nothing half-saved")
}

func TestAStepComesBetweenOthers(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	gate := job.Step{ID: uuid.New(), Slot: "wait", Kind: job.Gate, Title: "Wait", Coats: 1,
		Ladder: []string{}, Regions: clear.Regions[:1], After: []uuid.UUID{in.Pieces[0].Steps[0].ID}}
	gate.Arrival = &job.Arrival{Expected: calendar.Day{Year: 2026, Month: 4, Date: 1}}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.InsertStep(ctx, in.ID, &in.Pieces[0], 1, gate) }))
	list := read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	steps := list[0].Pieces[0].Steps
	require.Len(t, steps, 3)
	assert.Equal(t, []string{"Sand", "Wait", "Clear"}, []string{steps[0].Title, steps[1].Title, steps[2].Title})
	assert.Equal(t, gate.Terms, steps[1].Terms)
	assert.Equal(t, gate.Regions, steps[1].Regions)
	assert.Equal(t, gate.After, steps[1].After)
	err := s.Write(ctx, func(tx *store.Tx) error {
		gate.ID = uuid.New()
		return tx.InsertStep(ctx, in.ID, &in.Pieces[0], 1, gate)
	})
	assert.ErrorIs(t, err, store.ErrConflict, "its slot is taken")
}

func TestALostUpdateOfAStepIsAConflict(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	clear.Version, clear.Coats = 1, 5
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.ChangeStep(ctx, &in.Pieces[0], clear) }))
	clear.Coats = 7 // as somebody else saw it before
	err := s.Write(ctx, func(tx *store.Tx) error { return tx.ChangeStep(ctx, &in.Pieces[0], clear) })
	assert.ErrorIs(t, err, store.ErrConflict)
	list := read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	step := list[0].Pieces[0].Steps[1]
	assert.Equal(t, 5, step.Coats)
	assert.Equal(t, 2, step.Version)
}

func TestAPinIsMovedAndLifted(t *testing.T) {
	t.Parallel()
	s, _, clear, who := seeded(t)
	pin := store.Pin{Step: clear.ID, Coat: 2, At: noon, Person: &who.ID, MadeAt: noon}
	event := schedule.Event{Step: clear.ID, Coat: 2}
	pins := func() []store.Pin {
		return read(t, s, func(tx *store.Tx) ([]store.Pin, error) { return tx.Pins(ctx) })
	}
	for _, at := range []time.Time{noon, noon.Add(time.Hour)} {
		pin.At = at
		require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.AddPin(ctx, pin) }))
		require.Len(t, pins(), 1)
		assert.True(t, pins()[0].At.Equal(at))
	}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.RemovePin(ctx, event) }))
	assert.Empty(t, pins())
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.RemovePin(ctx, event) }), "twice is once")
}

func TestPeopleChangeAndLeave(t *testing.T) {
	t.Parallel()
	s, _, _, mara := seeded(t)
	week := store.JSON[[7][]calendar.Hours]{V: [7][]calendar.Hours{time.Monday: {{Open: 540, Close: 720}}}}
	mara.Name, mara.Week, mara.Left = "Mara Ness", &week, true
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPerson(ctx, store.Person{ID: uuid.New(), Name: "Tobin"}); err != nil {
			return err
		}
		return tx.ChangePerson(ctx, mara)
	}))
	people := read(t, s, func(tx *store.Tx) ([]store.Person, error) { return tx.People(ctx) })
	require.Len(t, people, 2)
	assert.Equal(t, "Mara Ness", people[0].Name, "in the order in which they came")
	assert.True(t, people[0].Left)
	assert.Equal(t, week.V[time.Monday], people[0].Week.V[time.Monday])
	assert.False(t, people[1].Left)
	mara.Name = "Tobin"
	err := s.Write(ctx, func(tx *store.Tx) error { return tx.ChangePerson(ctx, mara) })
	assert.ErrorIs(t, err, store.ErrConflict)
}

func TestAVersionOfTheSameMomentIsReplaced(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	setting := store.ShopSetting{ValidFrom: noon, Name: "Room", TimeZone: "UTC", Margin: 1.25}
	setting.Exceptions.V = map[string][]calendar.Hours{}
	place := store.Place{ID: uuid.New(), ValidFrom: noon, Name: "the booth", Kind: "booth", Capacity: 1}
	for _, margin := range []float64{1.25, 1.5} {
		setting.Margin, place.Capacity = margin, place.Capacity+1
		require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
			if err := tx.AddShopSetting(ctx, setting); err != nil {
				return err
			}
			return tx.AddPlace(ctx, place)
		}))
	}
	settings := read(t, s, func(tx *store.Tx) ([]store.ShopSetting, error) { return tx.ShopSettings(ctx) })
	require.Len(t, settings, 1)
	assert.Equal(t, 1.5, settings[0].Margin)
	places := read(t, s, func(tx *store.Tx) ([]store.Place, error) { return tx.PlaceVersions(ctx) })
	require.Len(t, places, 1)
	assert.Equal(t, 3, places[0].Capacity)
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
	s, in, clear, _ := seeded(t)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPin(ctx, store.Pin{Step: clear.ID, Coat: 1, At: time.Now(), MadeAt: time.Now()}); err != nil {
			return err
		}
		return tx.DropStep(ctx, clear.ID)
	}))
	list := read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	assert.Len(t, list[0].Pieces[0].Steps, len(in.Pieces[0].Steps)-1)
	for _, e := range read(t, s, func(tx *store.Tx) ([]schedule.Event, error) { return tx.Order(ctx) }) {
		assert.NotEqual(t, clear.ID, e.Step)
	}
	assert.Empty(t, read(t, s, func(tx *store.Tx) ([]store.Pin, error) { return tx.Pins(ctx) }))
}

func TestStepsAndPiecesArePlacedAnew(t *testing.T) {
	t.Parallel()
	s, in, _, _ := seeded(t)
	piece := in.Pieces[0]
	swapped := []uuid.UUID{piece.Steps[1].ID, piece.Steps[0].ID}
	neck := job.Piece{ID: uuid.New(), Kind: job.Neck}
	neck.Regions = []job.Region{{ID: uuid.New(), Name: "shaft", Wood: "maple-hard", AreaM2: 0.05, Sheen: "satin"}}
	changed := piece
	changed.Regions = append([]job.Region{}, piece.Regions...)
	changed.Regions[0].Sheen, changed.Regions[0].AreaM2 = "gloss", 0.08
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.PlaceSteps(ctx, piece.ID, swapped); err != nil {
			return err
		}
		return tx.AddPieces(ctx, in.ID, []job.Piece{neck, changed})
	}))
	list := read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	require.Len(t, list[0].Pieces, 2)
	assert.Equal(t, job.Neck, list[0].Pieces[0].Kind)
	assert.Equal(t, "satin", list[0].Pieces[0].Regions[0].Sheen)
	body := list[0].Pieces[1]
	assert.Equal(t, swapped, []uuid.UUID{body.Steps[0].ID, body.Steps[1].ID})
	assert.Equal(t, "gloss", body.Regions[0].Sheen)
	assert.InDelta(t, 0.08, float64(body.Regions[0].AreaM2), 1e-12)

	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.DropPiece(ctx, neck.ID) }))
	list = read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	assert.Len(t, list[0].Pieces, 1)
}

func TestAWishIsKeptAsItsNextVersion(t *testing.T) {
	t.Parallel()
	s, in, _, _ := seeded(t)
	wish := recipe.Archetypes()[1].Wish
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.ChangeWish(ctx, in.ID, wish) }))
	list := read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	require.NotNil(t, list[0].Wish)
	assert.Equal(t, wish, *list[0].Wish)
	assert.Equal(t, 2, list[0].Version)
}

func TestEverythingAStepIsCanChangeButItsPlace(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	clear.Version, clear.Title, clear.Film, clear.School, clear.Edited, clear.HandsOnMin = 1, "Clear again", "full-cure", "build/few", true,
		77
	clear.After, clear.Regions = []uuid.UUID{in.Pieces[0].Steps[0].ID}, clear.Regions[:1]
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.ChangeStep(ctx, &in.Pieces[0], clear) }))
	list := read(t, s, func(tx *store.Tx) ([]recipe.Instrument, error) { return tx.Instruments(ctx) })
	step := list[0].Pieces[0].Steps[1]
	assert.Equal(t, []any{"Clear again", material.FullCure, "build/few", unit.Minutes(77), true},
		[]any{step.Title, step.Film, step.School, step.HandsOnMin, step.Edited})
	assert.Equal(t, clear.After, step.After)
	assert.Equal(t, clear.Regions, step.Regions)
}
