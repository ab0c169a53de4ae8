package shop_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

var ctx = context.Background()

// room is a shop with a clock that can be set.
type room struct {
	t       *testing.T
	store   *store.Store
	service *shop.Service
	now     time.Time
	person  uuid.UUID
	seq     int64
}

func open(t *testing.T) *room {
	r := &room{t: t, store: pgtest.Store(t), now: time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC)}
	var err error
	r.service, err = shop.New(r.store, func() time.Time { return r.now })
	require.NoError(t, err)
	t.Cleanup(r.isAsKept)
	prepared, err := r.service.Prepare(ctx, shop.Default("Europe/London"), "Mara")
	require.NoError(t, err)
	require.True(t, prepared)
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)
	r.person = reference.People[0].ID
	return r
}

// isAsKept compares the shop in memory with what the database holds: whatever a test has changed, and kept.
func (r *room) isAsKept() { assert.NoError(r.t, r.service.AsKept(ctx)) }

func neck(name, promise string) changes.NewInstrument {
	return changes.NewInstrument{ID: uuid.New(), Name: name, Outline: "slab", Promise: promise,
		Wish: recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{
			recipe.PieceWish{Kind: recipe.Neck, Wood: "maple-hard", Length: "650 mm", Width: "2 in"}.Ending("hardwax-oil", "satin")}}}
}

func (r *room) keep(in changes.NewInstrument) views.InstrumentView {
	r.t.Helper()
	view, err := r.service.Keep(ctx, in)
	require.NoError(r.t, err)
	return view
}

func (r *room) log(view views.InstrumentView, title string) changes.Logged {
	r.t.Helper()
	for _, step := range view.Pieces[0].Steps {
		if step.Title == title {
			r.seq++
			logged, err := r.service.Log(ctx, changes.Entry{ID: uuid.New(), Kind: "done", StepID: step.StepID, Coat: step.NextCoat,
				PersonID: r.person, DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq})
			require.NoError(r.t, err)
			return logged
		}
	}
	require.Fail(r.t, "no such step", title)
	return changes.Logged{}
}

func TestForecastSavesNothingAndIsWhatIsKept(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := neck("Dunlin", "2026-06-01")
	_, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	r.now = r.now.Add(3 * time.Hour) // only time has passed
	forecast, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	lines, err := r.service.Instruments(ctx)
	require.NoError(t, err)
	assert.Empty(t, lines)
	view := r.keep(in)
	assert.Equal(t, forecast.Outlook, view.Outlook)
	assert.Equal(t, forecast.Pieces, view.Pieces)
}

// Name and promise can wait: a forecast does without a name, and a promise that is left open is the day on
// which it can be ready.
func TestNameAndPromiseCanWait(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := neck("", "")
	forecast, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	assert.False(t, forecast.Outlook.Late)
	_, err = r.service.Keep(ctx, in)
	assert.ErrorContains(t, err, "give it a name")
	in.Name = "Dunlin"
	view := r.keep(in)
	assert.Equal(t, forecast.Outlook.FinishDay, view.Outlook.FinishDay)
	assert.Equal(t, view.Outlook.FinishDay, view.Outlook.Promise.Said, "as soon as it can be")
	ways, err := r.service.Schools(ctx, views.SchoolsAsked{Instrument: neck("", ""), Topic: "method", Piece: "neck"})
	require.NoError(t, err)
	assert.NotEmpty(t, ways.Ways)

	show := neck("Ruff", "")
	show.Show = "2026-11-01"
	later := r.keep(show)
	assert.Equal(t, "2026-11-01", later.Outlook.Promise.Date, "not before the day on which it is shown")
}

func TestANewInstrumentMovesNobodysDates(t *testing.T) {
	t.Parallel()
	r := open(t)
	first := r.keep(neck("Dunlin", "2026-06-01"))
	forecast, err := r.service.Forecast(ctx, neck("Ruff", "2026-06-01"))
	require.NoError(t, err)
	assert.Empty(t, forecast.Moved)
	r.keep(neck("Ruff", "2026-06-01"))
	again, err := r.service.Instrument(ctx, first.ID)
	require.NoError(t, err)
	assert.Equal(t, first.Outlook, again.Outlook)
}

func TestAPromiseThatCannotHoldSaysWhichOneWould(t *testing.T) {
	t.Parallel()
	r := open(t)
	forecast, err := r.service.Forecast(ctx, neck("Dunlin", "2026-03-13"))
	require.NoError(t, err)
	assert.True(t, forecast.Outlook.Late)
	require.NotEmpty(t, forecast.Notes)
	assert.Contains(t, forecast.Notes[0], "A promise of "+forecast.Outlook.FinishDay+" or later would.")
}

func TestAFactMovesDatesAndLeavesASnapshot(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	planned := view.Pieces[0].Steps[0].Start.At
	r.now = r.now.Add(28 * time.Hour) // a day later than planned
	logged := r.log(view, "Tape the fretboard and the heel")
	require.Len(t, logged.Moved, 0, "by then the plan had slipped already: logging as planned moves nothing")

	var snapshots []job.ForecastChange
	require.NoError(t, r.store.Read(ctx, func(tx *store.Tx) error {
		var err error
		snapshots, err = tx.ForecastChangesOf(ctx, view.ID)
		return err
	}))
	require.Len(t, snapshots, 2, "one for planning it, one for the entry")
	assert.Nil(t, snapshots[1].FinishBefore)
	assert.Equal(t, "planned Dunlin", snapshots[1].Cause)
	assert.Contains(t, snapshots[0].Cause, "Tape the fretboard")
	require.NotNil(t, snapshots[0].PlannedStart)
	assert.True(t, snapshots[0].PlannedStart.After(planned))
}

func TestEveryStepHasASheetWithItsWorking(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(changes.NewInstrument{ID: uuid.New(), Name: "Curlew", Outline: "slab", Promise: "2026-09-01",
		Wish: recipe.Wish{Pieces: []recipe.PieceWish{
			recipe.PieceWish{Kind: recipe.Body, Wood: "wenge", Length: "480 mm", Width: "330 mm",
				Thickness: "44 mm"}.From("one-colour").Ending("water-clear", "gloss"),
			neck("", "").Wish.Pieces[0]}}})
	for _, piece := range view.Pieces {
		for _, step := range piece.Steps {
			sheet, err := r.service.Sheet(ctx, step.StepID, step.Coats)
			require.NoError(t, err, step.Title)
			assert.NotEmpty(t, sheet.Because, step.Title)
			assert.NotEmpty(t, sheet.Lines, step.Title)
			for _, line := range sheet.Lines {
				if line.Working != nil {
					assert.NotEmpty(t, line.Working.Inputs, "%s: %s", step.Title, line.Label)
					assert.Contains(t, line.Text, line.Figure)
				}
			}
			ids := map[string]bool{}
			for _, c := range sheet.Cautions {
				ids[c.ID] = true
			}
			switch step.Title {
			case "Sand the bare wood":
				assert.True(t, ids["wood-dust"])
				assert.Equal(t, piece.Kind == "body", ids["sensitising-wood"], "wenge sensitises, maple hardly")
			case "First coat of oil":
				assert.True(t, ids["oily-rags"])
			case "Clear, to the levelling":
				assert.True(t, ids["spray-mist"])
			}
		}
	}
}

func TestAWholeWaitsUntilItsPiecesAreDone(t *testing.T) {
	t.Parallel()
	r := open(t)
	r.keep(changes.NewInstrument{ID: uuid.New(), Name: "Curlew", Outline: "slab", Promise: "2026-09-01",
		Wish: recipe.Wish{Frets: "mirror", Cavities: "paint", Pieces: []recipe.PieceWish{
			recipe.PieceWish{Kind: recipe.Body, Wood: "ash-swamp", Length: "480 mm", Width: "330 mm",
				Thickness: "44 mm"}.From("one-colour").Ending("water-clear", "gloss"),
			neck("", "").Wish.Pieces[0]}}})
	rack, err := r.service.Rack(ctx)
	require.NoError(t, err)
	var pieces []string
	for _, tag := range rack.Tags {
		pieces = append(pieces, string(tag.Piece))
	}
	assert.ElementsMatch(t, []string{"body", "neck"}, pieces)
}

func TestPrepareLeavesAShopThatHasDecidedAlone(t *testing.T) {
	t.Parallel()
	r := open(t)
	prepared, err := r.service.Prepare(ctx, shop.Default("Asia/Tokyo"), "Somebody")
	require.NoError(t, err)
	assert.False(t, prepared)
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)
	assert.Equal(t, "Europe/London", reference.Zone)

	fresh, err := shop.New(pgtest.Store(t), func() time.Time { return r.now })
	require.NoError(t, err)
	_, err = fresh.Prepare(ctx, shop.Default("Mars/Olympus"), "Somebody")
	assert.ErrorContains(t, err, "Mars/Olympus")
}

// decide changes what the database holds of the shop, beside the use cases.
func (r *room) decide(change func(*workshop.Workshop)) {
	r.t.Helper()
	require.NoError(r.t, r.store.Write(ctx, func(tx *store.Tx) error {
		was, err := tx.Workshop(ctx, time.Time{})
		if err != nil {
			return err
		}
		next := was.Clone()
		change(next)
		_, err = tx.Keep(ctx, was, next)
		return err
	}))
}
