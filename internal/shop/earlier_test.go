package shop_test

import (
	"bytes"
	"encoding/json"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
)

// A database of an earlier version, kept as it was dumped then, opens with all that was in it.
func TestADatabaseOfAnEarlierVersionOpens(t *testing.T) {
	t.Parallel()
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
	assert.Equal(t, []recipe.RegionWish{{Name: "top", Wood: "maple-hard"}, {Name: "back", Sheen: "satin"}}, view.Wish.Pieces[0].Regions)
	for _, l := range view.Wish.Pieces[0].Layers {
		if l.Effect == recipe.EffectColour {
			assert.Equal(t, []string{"top", "sides"}, l.Regions, "the back was plain")
		}
	}
	for _, step := range body.Steps {
		sheet, err := s.Sheet(ctx, step.StepID, 1)
		require.NoError(t, err)
		assert.NotEmpty(t, sheet.Title)
	}
}

// One instrument of each former look, logged half-way: as a database and as a file of that time. What
// it is composed of again are the same steps, each with what was logged of it.
func TestAHalfLoggedInstrumentOfEachFormerLookKeepsItsSteps(t *testing.T) {
	t.Parallel()
	kept, err := os.ReadFile("../formats/testdata/looks-2.json")
	require.NoError(t, err)
	var former struct{ Instruments []recipe.Instrument }
	require.NoError(t, json.Unmarshal(kept, &former))
	require.Len(t, former.Instruments, 7)
	now := time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC)

	t.Run("database", func(t *testing.T) {
		r := &room{t: t, store: pgtest.From(t, "../store/testdata/schema-10.sql"), now: now}
		r.service, err = shop.New(r.store, func() time.Time { return r.now })
		require.NoError(t, err)
		r.keepsSteps(former.Instruments)
	})
	t.Run("file", func(t *testing.T) {
		file, err := formats.Read(bytes.NewReader(kept))
		require.NoError(t, err)
		r := open(t)
		r.now = now
		_, err = r.service.Import(ctx, file)
		require.NoError(t, err)
		r.keepsSteps(former.Instruments)
	})
}

func (r *room) keepsSteps(former []recipe.Instrument) {
	r.t.Helper()
	reference, err := r.service.Reference(ctx)
	require.NoError(r.t, err)
	r.person = reference.People[0].ID
	for _, in := range former {
		done := make(map[uuid.UUID]int)
		before := r.view(in.ID)
		for _, p := range before.Pieces {
			for _, s := range p.Steps {
				done[s.StepID] = s.Done
			}
		}
		_, err := r.keepChanges(changes.Change{Kind: "wish", InstrumentID: in.ID, Wish: before.Wish, Version: before.Version})
		require.NoError(r.t, err, in.Name)
		now := make(map[uuid.UUID]int)
		for _, p := range r.view(in.ID).Pieces {
			for _, s := range p.Steps {
				now[s.StepID] = s.Done
			}
		}
		logged := 0
		for _, p := range in.Pieces {
			for _, s := range p.Steps {
				_, there := now[s.ID]
				assert.True(r.t, there, "%s: %s", in.Name, s.Slot)
				assert.Equal(r.t, done[s.ID], now[s.ID], "%s: %s", in.Name, s.Slot)
				logged += now[s.ID]
			}
		}
		assert.Positive(r.t, logged, in.Name)
	}
}

// A database of each schema before a migration of data comes up to date, and holds in today's format what it held when
// that file was written.
func TestADatabaseOfAnEarlierSchemaHoldsWhatItHeld(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC)
	for _, schema := range []string{"schema-5", "schema-10"} {
		t.Run(schema, func(t *testing.T) {
			from, err := os.Open("../store/testdata/" + schema + ".json")
			require.NoError(t, err)
			defer from.Close()
			want, err := formats.Read(from)
			require.NoError(t, err)
			s, err := shop.New(pgtest.From(t, "../store/testdata/"+schema+".sql"), func() time.Time { return now })
			require.NoError(t, err)
			kept, err := s.Export(ctx, nil)
			require.NoError(t, err)
			assert.True(t, written(t, want) == written(t, kept), "it is another shop")
		})
	}
}
