package shop_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// says is an entry about an event, as a device makes it.
func (r *room) says(kind string, event changes.EventRef) changes.Entry {
	r.seq++
	return changes.Entry{ID: uuid.New(), Kind: kind, StepID: event.StepID, Coat: event.Coat, PersonID: r.person,
		DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq}
}

func (r *room) put(in changes.Entry) changes.Logged {
	r.t.Helper()
	logged, err := r.service.Log(ctx, in)
	require.NoError(r.t, err)
	return logged
}

// upTo logs all that comes before a step of an instrument, as somebody does who catches up, and lets its film dry.
func (r *room) upTo(view views.InstrumentView, title string) changes.EventRef {
	r.t.Helper()
	var before *changes.EventRef
	for _, step := range view.Pieces[0].Steps {
		if step.Title == title {
			if before != nil {
				in := r.says("done", *before)
				in.CaughtUp, in.Confirm = true, []string{"out-of-order", "too-soon", "window-closed"}
				r.put(in)
			}
			return changes.EventRef{StepID: step.StepID, Coat: 1}
		}
		before = &changes.EventRef{StepID: step.StepID, Coat: step.Coats}
	}
	require.Fail(r.t, "no such step", title)
	return changes.EventRef{}
}

// oiled are two necks whose first coat of oil is next, a week later.
func oiled(r *room) (dunlin, knot changes.EventRef, shown []views.InstrumentView) {
	for _, name := range []string{"Dunlin", "Knöterich"} {
		shown = append(shown, r.keep(neck(name, "2026-08-01")))
	}
	coat := ""
	for _, step := range shown[0].Pieces[0].Steps {
		if step.Kind == "coat" && coat == "" {
			coat = step.Title
		}
	}
	dunlin, knot = r.upTo(shown[0], coat), r.upTo(shown[1], coat)
	r.now = r.now.Add(4 * 24 * time.Hour)
	return dunlin, knot, shown
}

func TestASittingOfTwoNecks(t *testing.T) {
	t.Parallel()
	r := open(t)
	dunlin, knot, _ := oiled(r)
	now, err := r.service.Sittings(ctx)
	require.NoError(t, err)
	require.Empty(t, now.Open)
	require.NotEmpty(t, now.Offered)
	assert.Contains(t, now.Offered[0].Pieces, "Knöterich neck")

	planned, err := r.service.PlannedSitting(ctx, dunlin)
	require.NoError(t, err)
	require.Len(t, planned.Work[0].Works, 2, "one coat on two necks is one step")
	require.Len(t, planned.Lay.Materials, 1)
	assert.Contains(t, planned.Lay.Materials[0].Batches[0].For, "Dunlin neck")
	assert.NotEmpty(t, planned.Cautions, "oily rags burn")
	assert.Nil(t, planned.Started)

	begin := views.SittingBegun{ID: uuid.New(), PersonID: r.person, Events: []changes.EventRef{dunlin, knot}}
	double := begin
	double.Events = []changes.EventRef{dunlin, dunlin}
	_, err = r.service.BeginSitting(ctx, double)
	assert.ErrorContains(t, err, "events[1]: stands in this sitting already")
	begun, err := r.service.BeginSitting(ctx, begin)
	require.NoError(t, err)
	again, err := r.service.BeginSitting(ctx, begin)
	require.NoError(t, err, "a second device, or a lost answer")
	assert.Equal(t, begun, again)
	other := begin
	other.Events = other.Events[:1]
	_, err = r.service.BeginSitting(ctx, other)
	assert.ErrorContains(t, err, "something else was kept under this id")

	now, err = r.service.Sittings(ctx)
	require.NoError(t, err)
	require.Len(t, now.Open, 1)
	assert.Equal(t, 1, now.Open[0].Steps)
	for _, offered := range now.Offered {
		assert.NotEqual(t, dunlin, offered.Event, "what is under way is not offered again")
	}

	seen, err := r.service.ChangeSitting(ctx, views.SittingChanged{ID: begin.ID, Seen: []string{begun.Cautions[0].ID}})
	require.NoError(t, err)
	assert.True(t, seen.Cautions[0].Seen)

	twice := r.says("done", dunlin)
	twice.Along = []changes.EventRef{knot, knot}
	_, err = r.service.Log(ctx, twice)
	assert.ErrorContains(t, err, "along[1].stepId: is logged with this tap already")
	in := r.says("done", dunlin)
	in.Along, in.SittingID, in.Minutes = []changes.EventRef{knot}, begin.ID, ptr(31)
	logged := r.put(in)
	assert.Contains(t, logged.Title, "and 1 more")
	done, err := r.service.Sitting(ctx, begin.ID)
	require.NoError(t, err)
	assert.True(t, done.Work[0].Done)
	assert.Equal(t, begun.Lay, done.Lay, "batches stay the same however far it has got")
	page, err := r.service.LogPage(ctx, views.LogAsked{Kind: job.Coat})
	require.NoError(t, err)
	require.Len(t, page.Lines, 2)
	for _, line := range page.Lines {
		assert.Equal(t, 16, *line.Minutes, "half of it each")
	}
	ended := true
	over, err := r.service.ChangeSitting(ctx, views.SittingChanged{ID: begin.ID, Ended: &ended})
	require.NoError(t, err)
	assert.NotNil(t, over.Ended)
	now, err = r.service.Sittings(ctx)
	require.NoError(t, err)
	assert.Empty(t, now.Open)

	_, err = r.service.PlannedSitting(ctx, dunlin)
	assert.ErrorIs(t, err, refuse.ErrNotFound, "it is done")
	begin.ID = uuid.New()
	_, err = r.service.BeginSitting(ctx, begin)
	assert.ErrorContains(t, err, "must be work that is planned and not done")

	r.put(changes.Entry{ID: uuid.New(), Kind: "void", Voids: logged.ID, CaughtUp: true, PersonID: r.person, DeviceID: uuid.NameSpaceURL,
		DeviceSeq: 900})
	undone, err := r.service.Sitting(ctx, begun.ID)
	require.NoError(t, err)
	assert.False(t, undone.Work[0].Works[0].Done)
	assert.False(t, undone.Work[0].Works[1].Done, "undo takes back what the one tap did")
}

func TestTimersBelongToAStep(t *testing.T) {
	t.Parallel()
	r := open(t)
	dunlin, _, shown := oiled(r)
	sheet, err := r.service.Sheet(ctx, dunlin.StepID, dunlin.Coat)
	require.NoError(t, err)
	wipe := sheet.Timers[0]
	require.Equal(t, timer.WipeOff, wipe.Kind)

	start := r.says("timed", dunlin)
	start.Timer = &wipe
	r.put(start)
	r.now = r.now.Add(40 * time.Minute)
	list, err := r.service.Timers(ctx)
	require.NoError(t, err)
	require.Len(t, list, 1, "one that has rung is shown until somebody stops it")
	assert.Equal(t, "Dunlin", list[0].Name)
	assert.Equal(t, wipe, list[0].Timer)
	assert.Equal(t, r.now.Add(-40*time.Minute), list[0].StartedAt)

	wrong := r.says("timed", dunlin)
	wrong.Timer = &job.Timer{Kind: "egg", Title: "Egg", Minutes: 4}
	_, err = r.service.Log(ctx, wrong)
	assert.ErrorContains(t, err, "timer")

	stop := r.says("stopped", changes.EventRef{})
	stop.StepID, stop.Coat, stop.Stops = uuid.Nil, 0, start.ID
	r.put(stop)
	list, err = r.service.Timers(ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
	stop.ID, stop.DeviceSeq = uuid.New(), 77
	_, err = r.service.Log(ctx, stop)
	assert.ErrorContains(t, err, "that timer has been stopped already")
	page, err := r.service.LogPage(ctx, views.LogAsked{InstrumentID: shown[0].ID, Count: 1})
	require.NoError(t, err)
	assert.Equal(t, 40, *page.Lines[0].Minutes, "how long it ran")
	assert.Equal(t, []string{"overran"}, page.Lines[0].Flags, "it was to be wiped off before 20 min")

	start = r.says("timed", dunlin)
	start.Timer = &wipe
	r.put(start)
	r.now = r.now.Add(19 * time.Minute)
	logged := r.put(r.says("done", dunlin))
	assert.NotContains(t, logged.Flags, "overran")
	list, err = r.service.Timers(ctx)
	require.NoError(t, err)
	assert.Empty(t, list, "what is logged has been wiped off")
	r.put(changes.Entry{ID: uuid.New(), Kind: "void", Voids: logged.ID, PersonID: r.person, DeviceID: uuid.NameSpaceURL, DeviceSeq: 901})
	r.now = r.now.Add(2 * time.Minute)
	assert.Contains(t, r.put(r.says("done", dunlin)).Flags, "overran")
}

func TestWhatIsTrueOfACoat(t *testing.T) {
	t.Parallel()
	r := open(t)
	dunlin, knot, shown := oiled(r)
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)

	bad := r.says("done", dunlin)
	bad.Actual = &changes.ActualForm{Wet: "thick", Thin: "900 %", PlaceID: uuid.New(), Temperature: "hot"}
	_, err = r.service.Log(ctx, bad)
	for _, field := range []string{"actual.wet", "actual.thin", "actual.placeId", "actual.temperature"} {
		assert.ErrorContains(t, err, field)
	}

	in := r.says("done", dunlin)
	in.Minutes, in.HappenedAt = ptr(22), ptr(r.now.Add(-90*time.Minute))
	in.Actual = &changes.ActualForm{PlaceID: reference.Places[0].ID, Lot: "7-Ä", Thin: "10 %", Passes: 2, Wet: "1.5 mil",
		Temperature: "64.4 °F", Humidity: "55"}
	r.put(in)
	page, err := r.service.LogPage(ctx, views.LogAsked{InstrumentID: shown[0].ID, Count: 1})
	require.NoError(t, err)
	require.Len(t, page.Lines, 1)
	assert.True(t, page.More)
	line := page.Lines[0]
	assert.Equal(t, []string{"lot 7-Ä", "thinned 10 %", "2 passes", "\u206038 µm wet", "at " + reference.Places[0].Name, "air \u206018 °C",
		"55 % humidity"}, line.Details)
	assert.Equal(t, "10 %", line.Entered.Thin)
	assert.True(t, line.CanCorrect)

	// It was an hour earlier: the wrong entry is struck, not gone, and only once.
	right := r.says("done", dunlin)
	right.HappenedAt, right.Corrects, right.Note = ptr(r.now.Add(-150*time.Minute)), in.ID, "the clock on the wall"
	r.put(right)
	page, err = r.service.LogPage(ctx, views.LogAsked{InstrumentID: shown[0].ID, Kind: job.Coat})
	require.NoError(t, err)
	require.Len(t, page.Lines, 2)
	assert.True(t, page.Lines[0].Struck, "the later of the two")
	assert.True(t, page.Lines[1].Corrected)
	assert.Equal(t, r.now.Add(-150*time.Minute), page.Lines[1].Happened.At)
	twice := r.says("done", dunlin)
	twice.Corrects = in.ID
	_, err = r.service.Log(ctx, twice)
	var taken *refuse.Taken
	assert.ErrorAs(t, err, &taken, "it has been struck already")
	other := r.says("done", knot)
	other.Corrects = right.ID
	_, err = r.service.Log(ctx, other)
	assert.ErrorContains(t, err, "correctsId")
}

func TestHoursAgainstThePlan(t *testing.T) {
	t.Parallel()
	r := open(t)
	dunlin, knot, shown := oiled(r)
	for event, minutes := range map[changes.EventRef]int{dunlin: 10, knot: 30} {
		in := r.says("done", event)
		in.Minutes = &minutes
		r.put(in)
	}
	in := r.says("done", *r.view(shown[0].ID).Next) // nobody looked at the clock
	in.Confirm = []string{"too-soon"}
	r.put(in)
	hours, err := r.service.Hours(ctx, 30)
	require.NoError(t, err)
	assert.Equal(t, 2, hours.Times)
	require.Len(t, hours.Kinds, 1)
	assert.Equal(t, 40, hours.Kinds[0].Taken)
	require.Len(t, hours.Instruments, 2)
	assert.Equal(t, shown[1].ID, hours.Instruments[0].ID, "what took longest first")
	require.Len(t, hours.Own, 1)
	assert.Equal(t, 2, hours.Own[0].Times)
	r.now = r.now.Add(60 * 24 * time.Hour)
	later, err := r.service.Hours(ctx, 30)
	require.NoError(t, err)
	assert.Zero(t, later.Times)
}

// A film that fails its test asks for time, one that passes gives it back.
func TestATestFromTheSheetMovesTheDates(t *testing.T) {
	t.Parallel()
	r := open(t)
	dunlin, _, shown := oiled(r)
	r.put(r.says("done", dunlin))
	next := *r.view(shown[0].ID).Next
	r.now = r.now.Add(time.Hour)
	sheet, err := r.service.Sheet(ctx, next.StepID, next.Coat)
	require.NoError(t, err)
	require.NotNil(t, sheet.Test, "it waits for the first coat")
	assert.Equal(t, dunlin, sheet.Test.Event)

	in := r.says("tested", sheet.Test.Event)
	in.Milestone, in.Passed, in.Actual = sheet.Test.Milestone, ptr(true), &changes.ActualForm{TestedBy: job.Thumbnail}
	r.put(in)
	passed, err := r.service.Sheet(ctx, next.StepID, next.Coat)
	require.NoError(t, err)
	assert.Equal(t, "now", passed.When)

	r.now = r.now.Add(time.Minute)
	in = r.says("tested", sheet.Test.Event)
	in.Milestone, in.Passed, in.Actual = sheet.Test.Milestone, ptr(false), &changes.ActualForm{TestedBy: job.Smell}
	r.put(in)
	failed, err := r.service.Sheet(ctx, next.StepID, next.Coat)
	require.NoError(t, err)
	assert.True(t, failed.Start.At.After(passed.Start.At), failed.Because)
}
