package shop_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// seen is all that a service shows of its shop.
func (r *room) seen(s *shop.Service) string {
	r.t.Helper()
	rack, err := s.Rack(ctx)
	require.NoError(r.t, err)
	lines, err := s.Instruments(ctx)
	require.NoError(r.t, err)
	var views []views.InstrumentView
	for _, l := range lines {
		view, err := s.Instrument(ctx, l.ID)
		require.NoError(r.t, err)
		views = append(views, view)
	}
	data, err := json.MarshalIndent([]any{rack, lines, views}, "", " ")
	require.NoError(r.t, err)
	return string(data)
}

// differs shows the first line in which two texts differ, and those before it.
func differs(a, b string) string {
	one, two := strings.Split(a, "\n"), strings.Split(b, "\n")
	for i := range min(len(one), len(two)) {
		if one[i] != two[i] {
			return fmt.Sprintf("%s\nnot %s\nbut %s", strings.Join(one[max(0, i-12):i], "\n"), one[i], two[i])
		}
	}
	return ""
}

// history makes up entries about the instruments of a shop: likely ones, and such as
// nobody would make on purpose.
type history struct {
	*rand.Rand
	r      *room
	views  []views.InstrumentView
	places []views.PlaceHead
	made   []uuid.UUID
}

func (h *history) entry() changes.Entry {
	view := h.views[h.IntN(len(h.views))]
	piece := view.Pieces[h.IntN(len(view.Pieces))]
	step := piece.Steps[h.IntN(min(8, len(piece.Steps)))]
	e := h.r.said("done", step.StepID, 1+h.IntN(step.Coats))
	at := h.r.now.Add(-time.Duration(h.IntN(72*60)) * time.Minute)
	e.HappenedAt, e.Late, e.InstrumentID = &at, true, view.ID
	switch h.IntN(10) {
	case 0:
		e.Kind, e.Note = "skipped", "not wanted"
	case 1:
		e.Kind, e.Note = "note", "looked at it"
	case 2:
		passed := h.IntN(2) == 0
		e.Kind, e.Milestone, e.Passed = "tested", "sand", &passed
	case 3:
		e.Kind, e.PieceID, e.PlaceID = "moved", piece.ID, h.places[h.IntN(len(h.places))].ID
	case 4, 5:
		if len(h.made) > 0 {
			e.Kind, e.Voids, e.CaughtUp = "void", h.made[h.IntN(len(h.made))], h.IntN(2) == 0
		}
	case 6:
		e.CaughtUp = true
	case 7:
		minutes := h.IntN(90)
		e.Minutes = &minutes
	}
	h.made = append(h.made, e.ID)
	return e
}

// readings are of a few hours, some of them of the same moment.
func (h *history) readings() changes.NewReadings {
	var list changes.NewReadings
	for range 1 + h.IntN(6) {
		at := h.r.now.Add(-time.Duration(h.IntN(60)) * time.Hour)
		list.Readings = append(list.Readings, changes.NewReading{PlaceID: h.places[h.IntN(len(h.places))].ID, At: &at,
			Temperature: float64(12 + h.IntN(14)), Humidity: float64(35 + h.IntN(40))})
	}
	return list
}

// What a change appends to the shop in memory is what another server, or this one after
// a restart, reads of it in the database.
func TestWhatIsAppendedIsWhatIsRead(t *testing.T) {
	t.Parallel()
	r := open(t)
	both := neck("Knot", "2026-06-20")
	both.Wish.Pieces = append(both.Wish.Pieces, recipe.PieceWish{Kind: recipe.Body, Wood: "ash-swamp",
		Length: "480 mm", Width: "330 mm", Thickness: "44 mm"}.From("one-colour").Ending("nitro", "satin"))
	h := &history{Rand: rand.New(rand.NewPCG(7, 7)), r: r, views: []views.InstrumentView{r.keep(both), r.keep(lacquered("Curlew"))}}
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)
	h.places = reference.Places
	other, err := shop.New(r.store, func() time.Time { return r.now })
	require.NoError(t, err)
	servers := []*shop.Service{r.service, other}
	kept := 0
	for k := range 120 {
		if h.IntN(4) == 0 {
			r.now = r.now.Add(time.Duration(h.IntN(600)) * time.Minute)
		}
		if h.IntN(5) == 0 {
			_, err := servers[h.IntN(2)].AddReadings(ctx, h.readings())
			require.NoError(t, err)
		}
		e := h.entry()
		_, err := servers[h.IntN(2)].Log(ctx, e)
		var invalid *refuse.Invalid
		var taken *refuse.Taken
		if errors.As(err, &invalid) || errors.As(err, &taken) {
			continue // it cannot be said of that step, or was said already
		}
		require.NoError(t, err, "%+v", e)
		if kept++; k%8 == 0 {
			restarted, err := shop.New(r.store, func() time.Time { return r.now })
			require.NoError(t, err)
			read := r.seen(restarted)
			require.Empty(t, differs(read, r.seen(r.service)), "after %d entries, the last %+v", k, e)
			require.Empty(t, differs(read, r.seen(other)), "after %d entries, the last %+v", k, e)
		}
	}
	assert.Greater(t, kept, 60)

	// The file of it says the same: read by another shop, and planned from its log.
	file, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	elsewhere, err := shop.New(pgtest.Store(t), func() time.Time { return r.now })
	require.NoError(t, err)
	_, err = elsewhere.Import(ctx, file)
	require.NoError(t, err)
	assert.Empty(t, differs(r.seen(r.service), r.seen(elsewhere)))
	in, err := file.Input(r.now)
	require.NoError(t, err)
	plan, err := schedule.Retime(in)
	require.NoError(t, err)
	for _, f := range plan.Forecasts {
		view, err := r.service.Instrument(ctx, f.Instrument)
		require.NoError(t, err)
		assert.Equal(t, view.Outlook.Finish.At.UTC(), f.Finish.UTC(), "%s", view.Name)
	}
}

func TestManyLookWhileOthersChange(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(lacquered("Curlew"))
	for _, name := range []string{"Knot", "Ruff", "Dunlin"} {
		r.keep(neck(name, "2026-09-01"))
	}
	now := r.now
	busy, err := shop.New(r.store, func() time.Time { return now })
	require.NoError(t, err)
	done := make(chan struct{})
	var lookers, writers sync.WaitGroup
	for range 4 {
		lookers.Go(func() {
			last := 0
			for {
				select {
				case <-done:
					return
				default:
				}
				seen, err := busy.Instrument(ctx, view.ID)
				if !assert.NoError(t, err) || !assert.GreaterOrEqual(t, len(seen.Log), last, "what was seen once is seen again") {
					return
				}
				last = len(seen.Log)
			}
		})
	}
	lookers.Go(func() {
		for {
			select {
			case <-done:
				return
			default:
				assert.NoError(t, busy.ThinkAhead(ctx))
			}
		}
	})
	for writer := range 2 {
		writers.Go(func() {
			for k := range 15 {
				note := changes.Entry{ID: uuid.New(), Kind: "note", InstrumentID: view.ID, Note: "looked at it", PersonID: r.person,
					DeviceID: uuid.NewSHA1(view.ID, []byte{byte(writer)}), DeviceSeq: int64(k + 1)}
				_, err := busy.Log(ctx, note)
				assert.NoError(t, err)
				seen, err := busy.Instrument(ctx, view.ID)
				assert.NoError(t, err)
				assert.Contains(t, entries(seen), note.ID, "who has logged something sees it at once")
			}
		})
	}
	writers.Wait()
	close(done)
	lookers.Wait()
	for _, s := range []*shop.Service{r.service, busy} {
		require.NoError(t, s.ThinkAhead(ctx))
	}
	assert.Empty(t, differs(r.seen(r.service), r.seen(busy)))
}

func entries(view views.InstrumentView) []uuid.UUID {
	var ids []uuid.UUID
	for _, line := range view.Log {
		ids = append(ids, line.ID)
	}
	return ids
}

func TestALogThatIsLongerThanItsPageSaysSo(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	notes := make([]job.Entry, 503)
	for i := range notes {
		notes[i] = job.Entry{ID: uuid.New(), Kind: job.Note, Instrument: view.ID, HappenedAt: r.now, RecordedAt: r.now, Person: r.person,
			Device: view.ID, DeviceSeq: int64(i + 1), Note: "looked at it"}
		notes[i].Flags = []string{}
	}
	require.NoError(t, r.store.Write(ctx, func(tx *store.Tx) error { return tx.AddEntries(ctx, notes) }))
	view = r.view(view.ID)
	assert.Len(t, view.Log, 60)
	assert.True(t, view.MoreLog, "the rest comes page by page")
	page, err := r.service.LogPage(ctx, views.LogAsked{InstrumentID: view.ID, After: view.Log[59].Place, Count: 200})
	require.NoError(t, err)
	assert.Len(t, page.Lines, 200)
	assert.NotEqual(t, view.Log[59].ID, page.Lines[0].ID)
}
