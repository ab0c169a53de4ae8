package shop_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// lacquered is a body with three bare steps left out, so that its coats come at once.
func lacquered(name string) changes.NewInstrument {
	return changes.NewInstrument{ID: uuid.New(), Name: name, Outline: "slab", Promise: "2026-08-01", Show: "2026-07-20",
		Wish: recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{
			recipe.PieceWish{Kind: recipe.Body, Wood: "basswood", Length: "480 mm", Width: "330 mm", Thickness: "44 mm"}.
				Ending("nitro", "gloss").Chosen("method", "spray")}}}
}

// entry is a live entry for an event.
func (r *room) said(kind string, step uuid.UUID, coat int) changes.Entry {
	r.seq++
	return changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: kind, StepID: step, Coat: coat, PersonID: r.person, DeviceID: uuid.NameSpaceURL,
		DeviceSeq: r.seq}
}

// doubts logs an entry and returns the codes of what is asked.
func (r *room) doubts(e changes.Entry) []string {
	r.t.Helper()
	_, err := r.service.Log(ctx, e)
	var doubtful *refuse.Doubtful
	if !errors.As(err, &doubtful) {
		require.NoError(r.t, err)
		return nil
	}
	var codes []string
	for _, d := range doubtful.Doubts {
		codes = append(codes, d.Code)
	}
	return codes
}

// firstCoat keeps a lacquered Curlew on which the first clear coat has just been put,
// and all that comes before it.
func (r *room) firstCoat() (views.InstrumentView, views.StepRow, changes.Entry) {
	r.t.Helper()
	view := r.keep(lacquered("Curlew"))
	clear := step(r.t, view, "Clear, to the levelling")
	first := r.said("done", clear.StepID, 1)
	first.CaughtUp = true
	require.Nil(r.t, r.doubts(first))
	return view, clear, first
}

func step(t *testing.T, view views.InstrumentView, title string) views.StepRow {
	t.Helper()
	for _, p := range view.Pieces {
		for _, s := range p.Steps {
			if s.Title == title {
				return s
			}
		}
	}
	require.Fail(t, "no such step", title)
	return views.StepRow{}
}

func TestEightStepsAreOneQuestion(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(lacquered("Curlew"))
	clear := step(t, view, "Clear, to the levelling")
	e := r.said("done", clear.StepID, 2)
	assert.Equal(t, []string{"out-of-order"}, r.doubts(e))
	_, err := r.service.Log(ctx, e)
	assert.ErrorContains(t, err, "“Sand the bare wood” and ")
	assert.ErrorContains(t, err, "more steps are not logged yet, and come before “Coat 2 of")
	assert.Empty(t, r.view(view.ID).Log, "nothing was kept by asking")

	since := r.now.Add(-26 * time.Hour)
	e.CaughtUp, e.HappenedAt = true, &since
	_, err = r.service.Log(ctx, e)
	require.NoError(t, err)
	after := r.view(view.ID)
	open := 0
	for _, line := range after.Log {
		assert.False(t, line.Happened.At.After(since), line.Title)
		if !strings.HasPrefix(line.Title, "Coat 2 of") {
			assert.Equal(t, []string{"caught-up"}, line.Flags, line.Title)
		}
		open++
	}
	assert.Greater(t, open, 7, "what came before it is logged too, each by itself")
	assert.Equal(t, 2, step(t, after, "Clear, to the levelling").Done)
	_, err = r.service.Log(ctx, e)
	require.NoError(t, err)
	assert.Len(t, r.view(view.ID).Log, open, "and sending it again changes nothing")
}

func TestCatchingUpIsAskedOnce(t *testing.T) {
	t.Parallel()
	r := open(t)
	view, clear, _ := r.firstCoat()

	r.now = r.now.Add(2 * time.Minute)
	second := r.said("done", clear.StepID, 2)
	assert.Equal(t, []string{"too-soon"}, r.doubts(second), "lacquer two minutes apart")
	second.Confirm = []string{"too-soon"}
	assert.Nil(t, r.doubts(second))
	r.now = r.now.Add(2 * time.Minute)
	assert.Nil(t, r.doubts(r.said("done", clear.StepID, 3)), "the answer holds for what is caught up with it")
	lines := r.view(view.ID).Log
	assert.Equal(t, []string{"caught-up"}, lines[0].Flags)
	assert.Equal(t, []string{"caught-up", "too-soon"}, lines[1].Flags)

	r.now = r.now.Add(40 * time.Minute)
	assert.Equal(t, []string{"too-soon", "too-many"}, r.doubts(r.said("done", clear.StepID, 4)), "but not for ever")
}

func TestAHappeningIsJudgedAtItsOwnTime(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(lacquered("Curlew"))
	clear := step(t, view, "Clear, to the levelling")
	first := r.said("done", clear.StepID, 1)
	noon := r.now.Add(-8 * time.Hour)
	first.CaughtUp, first.HappenedAt = true, &noon
	require.Nil(t, r.doubts(first))
	for gap, want := range map[time.Duration][]string{30 * time.Minute: {"too-soon"}, -time.Hour: {"out-of-order", "too-soon"},
		300 * 24 * time.Hour: {"future"}} {
		happened := noon.Add(gap)
		e := r.said("done", clear.StepID, 2)
		e.HappenedAt = &happened
		assert.Equal(t, want, r.doubts(e), "%s later, whatever the clock says now", gap)
	}
	late := r.said("done", clear.StepID, 2)
	happened := noon.Add(20 * time.Minute)
	late.HappenedAt, late.Late = &happened, true
	assert.Nil(t, r.doubts(late), "what comes late from a device is always kept")
	assert.Equal(t, []string{"too-soon", "late"}, r.view(view.ID).Log[0].Flags, "and flagged")

	last := view.Pieces[0].Steps[len(view.Pieces[0].Steps)-1]
	skip := r.said("skipped", last.StepID, 1)
	skip.Note = "no time"
	assert.Equal(t, []string{"out-of-order"}, r.doubts(skip), "the last step is left out first")
}

func TestAStrikeOfWhatLaterEntriesStandOn(t *testing.T) {
	t.Parallel()
	r := open(t)
	view, clear, first := r.firstCoat()
	r.now = r.now.Add(24 * time.Hour)
	require.Nil(t, r.doubts(r.said("done", clear.StepID, 2)))
	strike := r.said("void", uuid.Nil, 0)
	strike.Voids = first.ID
	assert.Equal(t, []string{"stood-on"}, r.doubts(strike))
	strike.Confirm = []string{"stood-on"}
	assert.Nil(t, r.doubts(strike))
	top := r.view(view.ID).Log
	again := r.said("void", uuid.Nil, 0)
	for _, line := range top {
		if strings.HasPrefix(line.Title, "Coat 2 of") {
			again.Voids = line.ID
		}
	}
	assert.Nil(t, r.doubts(again), "nothing stands on the last one")
}

func TestTheUndoOfACatchUpStrikesAllOfIt(t *testing.T) {
	t.Parallel()
	r := open(t)
	view, clear, first := r.firstCoat()
	kept := len(r.view(view.ID).Log)
	require.Greater(t, kept, 6)
	r.now = r.now.Add(time.Minute)
	undo := r.said("void", uuid.Nil, 0)
	undo.Voids, undo.CaughtUp = first.ID, true
	require.Nil(t, r.doubts(undo), "what it brought along is no reason to ask")
	after := r.view(view.ID)
	assert.Len(t, after.Log, 2*kept, "struck, each of it, and all kept")
	for _, s := range after.Pieces[0].Steps {
		assert.Zero(t, s.Done, s.Title)
	}
	require.Nil(t, r.doubts(undo), "sent again")
	assert.Len(t, r.view(view.ID).Log, 2*kept)

	again := r.said("done", clear.StepID, 1)
	again.CaughtUp = true
	require.Nil(t, r.doubts(again))
	r.now = r.now.Add(24 * time.Hour)
	require.Nil(t, r.doubts(r.said("done", clear.StepID, 2)))
	undo = r.said("void", uuid.Nil, 0)
	undo.Voids, undo.CaughtUp = again.ID, true
	assert.Equal(t, []string{"stood-on"}, r.doubts(undo), "but the coat that came after it is")
	assert.Len(t, r.view(view.ID).Log, 3*kept+1, "and asking strikes nothing")
}

func TestFitToBeShownHasItsVerdict(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(lacquered("Curlew"))
	require.NotNil(t, view.Outlook.Show)
	assert.False(t, view.Outlook.Show.Late)
	assert.Contains(t, view.Outlook.Show.Text, "before its day")
	in := lacquered("Ruff")
	in.Show = "2026-03-13"
	forecast, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	assert.True(t, forecast.Outlook.Show.Late)
	assert.Regexp(t, `^Fit to be shown \w+ \d+ \w+, \d+ days after its day$`, unit.Unmarked(forecast.Outlook.Show.Text))
}

func TestAMissedPromiseSaysWhatABetterOrderWouldReach(t *testing.T) {
	t.Parallel()
	r := open(t)
	for _, name := range []string{"Curlew", "Knot", "Ruff", "Dunlin", "Avocet", "Godwit"} {
		r.keep(neck(name, "2026-09-01"))
	}
	alone, err := r.service.Forecast(ctx, neck("Sanderling", "2026-09-01"))
	require.NoError(t, err)
	in := neck("Sanderling", alone.Outlook.Finish.At.AddDate(0, 0, -1).Format(time.DateOnly))
	forecast, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	require.True(t, forecast.Outlook.Late)
	assert.Contains(t, forecast.Notes[len(forecast.Notes)-1], "A better order of work would have it ready")
	in.Promise = "2026-03-12"
	forecast, err = r.service.Forecast(ctx, in)
	require.NoError(t, err)
	assert.Regexp(t, "which is late too|No order of work", forecast.Notes[len(forecast.Notes)-1])
}

func TestWhatCannotBePlacedSaysSoEverywhere(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(lacquered("Curlew"))
	closed := changes.Changes{PersonID: r.person}
	for day := range 7 {
		closed.Changes = append(closed.Changes, changes.Change{Kind: "week", Weekday: day,
			Hours: map[bool]string{true: "09:00–09:30", false: "closed"}[day == 1]})
	}
	answer, err := r.service.WhatIf(ctx, closed)
	require.NoError(t, err)
	assert.Contains(t, answer.Sum, "Curlew can no longer be placed")
	require.Len(t, answer.Effects, 1)
	assert.Equal(t, []any{true, 0, "cannot be placed"}, []any{answer.Effects[0].Lost, answer.Effects[0].Days, answer.Effects[0].After})
	closed.ID = uuid.New()
	kept, err := r.service.KeepChanges(ctx, closed)
	require.NoError(t, err)
	assert.Equal(t, "can no longer be placed", kept.Moved[0].Text)
	require.NoError(t, r.service.ThinkAhead(ctx))

	view = r.view(view.ID)
	assert.NotEmpty(t, view.Outlook.Impossible)
	assert.Nil(t, view.Outlook.Chance, "no chance beside what cannot be placed")
	assert.Nil(t, view.Outlook.Finish)
	open := lacquered("Ruff")
	open.Promise = ""
	_, err = r.service.Keep(ctx, open)
	assert.ErrorContains(t, err, "promise: name a day", "left open, there is no day to promise")
	for _, s := range view.Pieces[0].Steps {
		assert.Equal(t, s.When == "cannot be placed", s.Start == nil, s.Title)
	}
	assert.Equal(t, "Curlew", r.rack().Promises[0].Name)
	clear := step(t, view, "Clear, to the levelling")
	sheet, err := r.service.Sheet(ctx, clear.StepID, 1)
	require.NoError(t, err)
	assert.Nil(t, sheet.Start)
	assert.Equal(t, "cannot be placed", sheet.When)
	back := changes.Changes{PersonID: r.person, Changes: []changes.Change{{Kind: "week", Weekday: 1, Hours: "09:00–17:00"}}}
	answer, err = r.service.WhatIf(ctx, back)
	require.NoError(t, err)
	assert.Contains(t, answer.Sum, "Curlew can be placed again")
}

func TestWhatTestsTeachMovesTheDates(t *testing.T) {
	t.Parallel()
	r := open(t)
	view, clear, _ := r.firstCoat()
	before := r.view(view.ID).Outlook.Finish.At
	failed := false
	for n := range 4 { // soft each time, long after the sheet says
		r.now = r.now.Add(time.Duration(3+n) * time.Hour)
		e := r.said("tested", clear.StepID, 1)
		e.Milestone, e.Passed = "recoat", &failed
		require.Nil(t, r.doubts(e))
	}
	assert.True(t, r.view(view.ID).Outlook.Finish.At.After(before), "this lacquer is slower here, in every coat to come")
}
