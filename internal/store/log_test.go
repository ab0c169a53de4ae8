package store_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/store"
)

func TestReadingsAreOnlyAddedTo(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	room := uuid.New()
	reading := func(hour int, temperature unit.Celsius, recorded time.Time) settings.Reading {
		return settings.Reading{Place: room, At: noon.Add(time.Duration(hour) * time.Hour), RecordedAt: recorded,
			Air: climate.Air{Temperature: temperature, Humidity: 50}}
	}
	var many []settings.Reading
	for h := range 2500 {
		many = append(many, reading(h, 20, noon))
	}
	who := settings.Person{ID: uuid.New(), Name: "Mara"}
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Shop.Places = []settings.Place{{ID: room, Versions: []settings.PlaceVersion{{ValidFrom: noon, Name: "the room",
			Kind: settings.Bench}}}}
		w.Shop.People = []settings.Person{who}
	}))
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, test := range []struct {
			readings []settings.Reading
			added    int
		}{{many, 2500}, {many[:3], 0}, {[]settings.Reading{many[0], reading(1, 12, noon.Add(time.Minute))}, 1}} {
			added, err := tx.AddReadings(ctx, test.readings)
			if err != nil {
				return err
			}
			assert.Equal(t, test.added, added)
		}
		return nil
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop(ctx, noon)
		require.NoError(t, err)
		list := w.Shop.Readings
		require.Len(t, list, 2501, "the same twice is once, a correction is one more")
		assert.EqualValues(t, 20, list[1].Temperature)
		assert.EqualValues(t, 12, list[2].Temperature, "the one recorded later comes later")
		late, err := tx.Workshop(ctx, noon.Add(2400*time.Hour))
		require.NoError(t, err)
		assert.Len(t, late.Shop.Readings, 100)
		return nil
	}))
	assert.ErrorIs(t, s.Write(ctx, func(tx *store.Tx) error {
		_, err := tx.AddReadings(ctx, []settings.Reading{reading(1, 200, noon)})
		return err
	}), store.ErrRefused, "no room is that hot")

	var struck uuid.UUID
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop(ctx, noon)
		require.NoError(t, err)
		struck = w.Shop.Readings[2].ID
		require.NoError(t, tx.StrikeReading(ctx, struck, who.ID, noon))
		assert.ErrorIs(t, tx.StrikeReading(ctx, struck, who.ID, noon), store.ErrNotFound, "it is struck")
		return nil
	}))
	list := kept(t, s).Shop.Readings
	require.Len(t, list, 2501, "what is struck stays")
	assert.Equal(t, struck, list[2].ID)
	assert.Equal(t, noon, *list[2].StruckAt)
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
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Shop.Places = []settings.Place{{ID: room, Versions: []settings.PlaceVersion{{ValidFrom: noon, Name: "the room",
			Kind: settings.Bench}}}}
	}))
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, e := range []job.Entry{tested, moved, settled, void} {
			if err := tx.AddEntry(ctx, e); err != nil {
				return err
			}
		}
		return nil
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		facts, _, err := tx.Facts(ctx)
		require.NoError(t, err)
		var kinds []string
		for _, e := range facts {
			kinds = append(kinds, e.Kind)
		}
		assert.ElementsMatch(t, []string{job.Tested, job.Moved}, kinds)
		whole := 0
		for _, err := range tx.EachEntry(ctx) {
			require.NoError(t, err)
			whole++
		}
		assert.Equal(t, 4, whole)
		return nil
	}))
	bare := about(job.Tested, 9)
	assert.Error(t, s.Write(ctx, func(tx *store.Tx) error { return tx.AddEntry(ctx, bare) }),
		"a test of nothing is refused by the schema itself")
}
