package store_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/store"
)

func TestPlacesAreEffectiveDatedAndKeepTheirOrder(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	rack, booth := uuid.New(), uuid.New()
	week := store.JSON[[7][]calendar.Hours]{V: [7][]calendar.Hours{time.Monday: {{Open: 540, Close: 1020}}}}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, p := range []store.Place{
			{ID: rack, ValidFrom: noon, Name: "the rack", Kind: "drying", Hooks: 6},
			{ID: booth, ValidFrom: noon, Name: "the booth", Kind: "booth", Capacity: 1, HangsIn: &rack, Week: &week, Air: "booth",
				Profile: &store.JSON[store.Profile]{V: store.Profile{Knots: []climate.Knot{{Hour: 6,
					Air: climate.Air{Temperature: 17, Humidity: 55}}}}}},
			{ID: booth, ValidFrom: noon.AddDate(0, 1, 0), Name: "the booth", Kind: "booth", Capacity: 2},
		} {
			if err := tx.AddPlace(ctx, p); err != nil {
				return err
			}
		}
		return nil
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		list, err := tx.PlaceVersions(ctx)
		require.NoError(t, err)
		require.Len(t, list, 3)
		assert.Equal(t, rack, list[0].ID)
		assert.Equal(t, 1, list[1].Capacity)
		assert.Equal(t, week.V, list[1].Week.V)
		assert.EqualValues(t, 17, list[1].Profile.V.Knots[0].Temperature)
		assert.Equal(t, 2, list[2].Capacity)
		assert.Nil(t, list[2].Week)
		return nil
	}))
}

func TestAPlaceOfNoKindIsRefused(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	assert.Error(t, s.Write(ctx, func(tx *store.Tx) error {
		return tx.AddPlace(ctx, store.Place{ID: uuid.New(), ValidFrom: noon, Name: "the attic", Kind: "attic"})
	}))
}

func TestReadingsAreOnlyAddedTo(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	room := uuid.New()
	reading := func(hour int, temperature float64, recorded time.Time) store.Reading {
		return store.Reading{Place: room, At: noon.Add(time.Duration(hour) * time.Hour), RecordedAt: recorded, Temperature: temperature,
			Humidity: 50}
	}
	var many []store.Reading
	for h := range 2500 {
		many = append(many, reading(h, 20, noon))
	}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPlace(ctx, store.Place{ID: room, ValidFrom: noon, Name: "the room", Kind: "bench"}); err != nil {
			return err
		}
		for _, test := range []struct {
			readings []store.Reading
			added    int
		}{{many, 2500}, {many[:3], 0}, {[]store.Reading{many[0], reading(1, 12, noon.Add(time.Minute))}, 1}} {
			added, err := tx.AddReadings(ctx, test.readings)
			if err != nil {
				return err
			}
			assert.Equal(t, test.added, added)
		}
		return nil
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		list, err := tx.ReadingsSince(ctx, noon)
		require.NoError(t, err)
		require.Len(t, list, 2501, "the same twice is once, a correction is one more")
		assert.Equal(t, 20.0, list[1].Temperature)
		assert.Equal(t, 12.0, list[2].Temperature, "the one recorded later comes later")
		late, err := tx.ReadingsSince(ctx, noon.Add(2400*time.Hour))
		require.NoError(t, err)
		assert.Len(t, late, 100)
		return nil
	}))
	assert.ErrorIs(t, s.Write(ctx, func(tx *store.Tx) error {
		_, err := tx.AddReadings(ctx, []store.Reading{reading(1, 200, noon)})
		return err
	}), store.ErrRefused, "no room is that hot")

	var struck uuid.UUID
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		list, err := tx.ReadingsSince(ctx, noon)
		require.NoError(t, err)
		struck = list[2].ID
		who := store.Person{ID: uuid.New(), Name: "Mara"}
		require.NoError(t, tx.AddPerson(ctx, who))
		require.NoError(t, tx.StrikeReading(ctx, struck, who.ID, noon))
		assert.ErrorIs(t, tx.StrikeReading(ctx, struck, who.ID, noon), store.ErrNotFound, "it is struck")
		return nil
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		list, err := tx.ReadingsSince(ctx, noon)
		require.NoError(t, err)
		require.Len(t, list, 2501, "what is struck stays")
		assert.Equal(t, struck, list[2].ID)
		assert.Equal(t, noon, list[2].StruckAt.UTC())
		return nil
	}))
}

func TestPinsAndTheOrderAreDecisions(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	sand := in.Pieces[0].Steps[0]
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, at := range []time.Time{noon, noon.Add(time.Hour)} {
			if err := tx.AddPin(ctx, store.Pin{Step: clear.ID, Coat: 2, At: at, Person: &who.ID, MadeAt: noon}); err != nil {
				return err
			}
		}
		return tx.Reorder(ctx, []schedule.Event{{Step: clear.ID, Coat: 3}, {Step: sand.ID, Coat: 1}})
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		pins, err := tx.Pins(ctx)
		require.NoError(t, err)
		require.Len(t, pins, 1, "an event is pinned to one time")
		assert.True(t, pins[0].At.Equal(noon.Add(time.Hour)))
		order, err := tx.Order(ctx)
		require.NoError(t, err)
		assert.Equal(t, []schedule.Event{{Step: clear.ID, Coat: 1}, {Step: clear.ID, Coat: 2}, {Step: clear.ID, Coat: 3},
			{Step: sand.ID, Coat: 1}}, order)
		return nil
	}))
}

func TestWhatIsTestedMovedAndSettledStandsUntilStruck(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	room, passed, coat := uuid.New(), true, 1
	about := func(kind string, seq int64) job.Entry {
		e := entry(in, clear, 1, who, seq)
		e.ID, e.Kind, e.Coat = uuid.New(), kind, &coat
		return e
	}
	tested, moved, settled := about(job.Tested, 1), about(job.Moved, 2), about(job.Settled, 3)
	tested.Milestone, tested.Passed = "sand", &passed
	moved.Step, moved.Coat, moved.Piece, moved.Place = nil, nil, &in.Pieces[0].ID, &room
	void := job.Entry{ID: uuid.New(), Kind: job.Void, Instrument: in.ID, Voids: &settled.ID, HappenedAt: noon, RecordedAt: noon,
		Person: who.ID, Device: uuid.NameSpaceOID, DeviceSeq: 4}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPlace(ctx, store.Place{ID: room, ValidFrom: noon, Name: "the room", Kind: "bench"}); err != nil {
			return err
		}
		for _, e := range []job.Entry{tested, moved, settled, void} {
			if err := tx.AddEntry(ctx, e); err != nil {
				return err
			}
		}
		return nil
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		facts, err := tx.StandingFacts(ctx)
		require.NoError(t, err)
		var kinds []string
		for _, e := range facts {
			kinds = append(kinds, e.Kind)
		}
		assert.ElementsMatch(t, []string{job.Tested, job.Moved}, kinds)
		whole, err := tx.WholeLog(ctx)
		assert.Len(t, whole, 4)
		return err
	}))
	bare := about(job.Tested, 9)
	assert.Error(t, s.Write(ctx, func(tx *store.Tx) error { return tx.AddEntry(ctx, bare) }),
		"a test of nothing is refused by the schema itself")
}
