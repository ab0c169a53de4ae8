package shop_test

import (
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

func (r *room) keepChange(c changes.Change) views.Kept {
	r.t.Helper()
	kept, err := r.service.KeepChanges(ctx, changes.Changes{ID: uuid.New(), Changes: []changes.Change{c}, PersonID: r.person})
	require.NoError(r.t, err)
	return kept
}

func asJob(view views.InstrumentView, form changes.JobForm) changes.Change {
	return changes.Change{Kind: "job", InstrumentID: view.ID, Version: view.Version, Job: &form}
}

func TestAPromiseIsChangedAndStandsInItsHistory(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	earlier := asJob(view, changes.JobForm{Name: "Dunlin", Promise: "2026-03-13"})
	asked, err := r.whatIf(earlier)
	require.NoError(t, err)
	require.Len(t, asked.Effects, 1)
	assert.True(t, asked.Effects[0].Late)
	assert.Contains(t, asked.Sum, "later than promised")

	kept := r.keepChange(asJob(view, changes.JobForm{Name: "Dünnläufer 二", Serial: "SR 26-040", Promise: "2026-05-04", Show: "2026-05-01"}))
	assert.Equal(t, []string{"Dunlin: now called Dünnläufer 二, serial SR 26-040, promised Mon 4 May instead of Mon 1 June, shown Fri 1 " +
		"May"}, []string{unit.Unmarked(kept.Changes[0])})
	after, err := r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	assert.Equal(t, "2026-05-04", after.Outlook.Promise.Date)
	assert.Equal(t, "2026-05-01", after.Show.Date)
	require.NotEmpty(t, after.History)
	assert.Equal(t, "its day stands", after.History[0].Text)
	assert.Equal(t, kept.Changes[0], after.History[0].Cause)

	var taken *refuse.Taken
	_, err = r.whatIf(asJob(view, changes.JobForm{Name: "Dunlin", Promise: "2026-05-04"}))
	assert.ErrorAs(t, err, &taken, "somebody who saw it before is told")
	for field, form := range map[string]changes.JobForm{
		"job.name":    {Name: " ", Promise: "2026-05-04"},
		"job.serial":  {Name: "Dunlin", Promise: "2026-05-04", Serial: string(make([]rune, 61))},
		"job.promise": {Name: "Dunlin", Promise: "2026-03-01"},
		"job.show":    {Name: "Dunlin", Promise: "2026-05-04", Show: "2026-06-04"},
	} {
		if field == "job.serial" {
			form.Serial = "0123456789012345678901234567890123456789012345678901234567890"
		}
		_, err = r.whatIf(asJob(after, form))
		assert.ErrorContains(t, err, field)
	}
	r.now = r.now.AddDate(0, 0, 60) // the promise is over, and the name may still be put right
	after, err = r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	r.keepChange(asJob(after, changes.JobForm{Name: "Knutt", Serial: "SR 26-040", Promise: "2026-05-04", Show: "2026-05-01"}))
}

func TestAnInstrumentIsPutAsideAndBroughtBack(t *testing.T) {
	t.Parallel()
	r := open(t)
	first := r.keep(neck("Dunlin", "2026-06-01"))
	second := r.keep(neck("Knot", "2026-06-01"))
	r.log(first, first.Pieces[0].Steps[0].Title)
	before, err := r.service.Instrument(ctx, first.ID)
	require.NoError(t, err)

	asked, err := r.whatIf(changes.Change{Kind: "archive", InstrumentID: first.ID})
	require.NoError(t, err)
	for _, e := range asked.Effects {
		assert.Equal(t, "Knot", e.Name)
		assert.LessOrEqual(t, e.Days, 0, "less work makes nothing later")
	}
	r.keepChange(changes.Change{Kind: "archive", InstrumentID: first.ID})
	lines, err := r.service.Instruments(ctx)
	require.NoError(t, err)
	require.Len(t, lines, 1)
	assert.Equal(t, "Knot", lines[0].Name)
	archive, err := r.service.Archive(ctx)
	require.NoError(t, err)
	require.Len(t, archive, 1)
	assert.Equal(t, []any{"Dunlin", 1, before.Pieces[0].Steps[0].Done}, []any{archive[0].Name, archive[0].Done, 1})
	assert.Equal(t, []string{"Maple, hard"}, archive[0].Woods)
	aside, err := r.service.Instrument(ctx, first.ID)
	require.NoError(t, err)
	assert.NotNil(t, aside.Archived)
	assert.Equal(t, before.Log[0].Title, aside.Log[0].Title)
	assert.Equal(t, 1, aside.Pieces[0].Steps[0].Done)
	page, err := r.service.LogPage(ctx, views.LogAsked{})
	require.NoError(t, err)
	assert.Equal(t, "Dunlin", page.Lines[0].Instrument, "the log tells of it by name")

	file, err := formats.Read(strings.NewReader(r.exported()))
	require.NoError(t, err)
	again := r.blank()
	_, err = again.service.Import(ctx, file)
	require.NoError(t, err)
	assert.Equal(t, r.exported(), again.exported())
	restarted, err := shop.New(r.store, r.service.Now)
	require.NoError(t, err)
	lines, err = restarted.Instruments(ctx)
	require.NoError(t, err)
	assert.Len(t, lines, 1)

	asked, err = r.whatIf(changes.Change{Kind: "back", InstrumentID: first.ID})
	require.NoError(t, err)
	assert.Regexp(t, `^Dunlin planned again, ready \w+ \d+ \w+`, unit.Unmarked(asked.Sum))
	for _, e := range asked.Effects {
		assert.Less(t, e.Days, 1000, e.Name)
	}
	r.keepChange(changes.Change{Kind: "back", InstrumentID: first.ID})
	back, err := r.service.Instrument(ctx, first.ID)
	require.NoError(t, err)
	assert.Nil(t, back.Archived)
	assert.Equal(t, doneOf(before), doneOf(back))
	require.GreaterOrEqual(t, len(back.History), 2)
	assert.Equal(t, []string{"Dunlin brought back", "Dunlin put aside"}, []string{back.History[0].Cause, back.History[1].Cause})
	assert.Equal(t, "it is planned no more", back.History[1].Text)
	for _, move := range back.History {
		assert.NotContains(t, move.Text, "can no longer be placed")
	}
	_, err = r.whatIf(changes.Change{Kind: "back", InstrumentID: second.ID})
	assert.ErrorContains(t, err, "put aside")
}

// doneOf is how many coats of each step are done.
func doneOf(view views.InstrumentView) map[uuid.UUID]int {
	done := make(map[uuid.UUID]int)
	for _, step := range view.Pieces[0].Steps {
		done[step.StepID] = step.Done
	}
	return done
}

func TestWorkOnWhatIsPutAsideBringsItBack(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	r.keepChange(changes.Change{Kind: "archive", InstrumentID: view.ID})
	logged := r.log(view, view.Pieces[0].Steps[0].Title)
	lines, err := r.service.Instruments(ctx)
	require.NoError(t, err)
	require.Len(t, lines, 1)
	assert.Equal(t, 1, lines[0].Done)

	r.keepChange(changes.Change{Kind: "archive", InstrumentID: view.ID})
	void, carried := r.says("void", changes.EventRef{}), r.says("moved", changes.EventRef{})
	void.Voids, carried.PieceID, carried.PlaceID = logged.ID, view.Pieces[0].ID, shop.PlaceID("room")
	r.put(void)
	lines, err = r.service.Instruments(ctx)
	require.NoError(t, err)
	require.Len(t, lines, 1, "what is struck brings it back too")
	assert.Zero(t, lines[0].Done)
	r.keepChange(changes.Change{Kind: "archive", InstrumentID: view.ID})
	r.put(carried)
	archive, err := r.service.Archive(ctx)
	require.NoError(t, err)
	assert.Empty(t, archive)
}

func TestOnlyAWrongInstrumentIsDeleted(t *testing.T) {
	t.Parallel()
	r := open(t)
	wrong, used := r.keep(neck("Dunlin", "2026-06-01")), r.keep(neck("Knot", "2026-06-01"))
	before := r.exported()
	_, err := r.service.Delete(ctx, views.Deletion{InstrumentID: wrong.ID, Name: "Knot"})
	assert.ErrorContains(t, err, "type its name, Dunlin")
	assert.Equal(t, before, r.exported())
	logged := r.log(used, used.Pieces[0].Steps[0].Title)
	r.seq++
	_, err = r.service.Log(ctx, changes.Entry{ID: uuid.New(), Kind: "void", Voids: logged.ID, PersonID: r.person,
		DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq})
	require.NoError(t, err)
	_, err = r.service.Delete(ctx, views.Deletion{InstrumentID: used.ID, Name: "Knot"})
	assert.ErrorContains(t, err, "put it aside instead", "what is struck is logged too")
	_, err = r.service.Delete(ctx, views.Deletion{InstrumentID: wrong.ID, Name: " Dunlin "})
	require.NoError(t, err)
	_, err = r.service.Instrument(ctx, wrong.ID)
	assert.ErrorIs(t, err, refuse.ErrNotFound)
	lines, err := r.service.Instruments(ctx)
	require.NoError(t, err)
	assert.Len(t, lines, 1)
	_, err = r.service.Delete(ctx, views.Deletion{InstrumentID: wrong.ID, Name: "Dunlin"})
	assert.ErrorIs(t, err, refuse.ErrNotFound)

	other := r.keep(neck("Ruff", "2026-06-01")) // also out of the archive
	r.keepChange(changes.Change{Kind: "archive", InstrumentID: other.ID})
	_, err = r.service.Delete(ctx, views.Deletion{InstrumentID: other.ID, Name: "Ruff"})
	require.NoError(t, err)
}
