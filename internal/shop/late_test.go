package shop_test

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

func (r *room) putAside(view views.InstrumentView) {
	r.keepChange(changes.Change{Kind: "archive", InstrumentID: view.ID})
}

func (r *room) aside() int {
	list, err := r.service.Archive(ctx)
	require.NoError(r.t, err)
	return len(list)
}

func TestARefusedEntryChangesNothing(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	steps := view.Pieces[0].Steps
	r.putAside(view)
	before := r.exported()
	doubtful := r.says("done", changes.EventRef{StepID: steps[len(steps)-1].StepID, Coat: 1})
	malformed := r.says("done", changes.EventRef{StepID: steps[0].StepID, Coat: 49})
	nobody := r.says("done", changes.EventRef{StepID: steps[0].StepID, Coat: 1})
	nobody.PersonID = uuid.New()
	empty := r.says("note", changes.EventRef{})
	empty.InstrumentID = view.ID
	for name, in := range map[string]changes.Entry{"out of order": doubtful, "no such coat": malformed, "by nobody": nobody,
		"a note of nothing": empty} {
		_, err := r.service.Log(ctx, in)
		require.Error(t, err, name)
		assert.Equal(t, 1, r.aside(), name)
		assert.Equal(t, before, r.exported(), name)
	}
	doubtful.Confirm = []string{"out-of-order", "too-soon"}
	r.put(doubtful)
	assert.Zero(t, r.aside(), "answered, it is kept, and brings it back")
	history := r.view(view.ID).History
	assert.True(t, slices.ContainsFunc(history, func(m views.PromiseMove) bool { return m.Cause == "Dunlin brought back" }))
}

func TestABenchDeviceLogsForWhatIsPutAside(t *testing.T) {
	t.Parallel()
	r := open(t)
	first, second := r.keep(neck("Dunlin", "2026-06-01")), r.keep(neck("Knöterich", "2026-06-01"))
	bench := access.As(ctx, access.Caller{Pairing: uuid.New(), Device: "Tablet", Role: access.RoleBench, Person: r.person})
	for _, late := range []bool{false, true} {
		r.putAside(first)
		in := r.says("note", changes.EventRef{})
		in.InstrumentID, in.Note, in.Late = first.ID, "found in the drying room", late
		_, err := r.service.Log(bench, in)
		require.NoError(t, err)
		assert.Zero(t, r.aside())
	}
	r.putAside(first)
	r.putAside(second)
	both := r.says("done", changes.EventRef{StepID: first.Pieces[0].Steps[0].StepID, Coat: 1})
	both.Along, both.Late = []changes.EventRef{{StepID: second.Pieces[0].Steps[0].StepID, Coat: 1}}, true
	_, err := r.service.Log(bench, both)
	require.NoError(t, err)
	assert.Zero(t, r.aside(), "what was done along brings its own back too")
	_, err = r.service.KeepChanges(bench, changes.Changes{Changes: []changes.Change{{Kind: "archive", InstrumentID: first.ID}},
		PersonID: r.person})
	var forbidden *access.Forbidden
	assert.ErrorAs(t, err, &forbidden, "which lets it decide no more than before")
}

func TestWhatComesLateIsAlwaysKept(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	first, added := view.Pieces[0].Steps[0], uuid.New()
	_, err := r.keepChanges(edits(view.ID, edit.Edit{Op: edit.Add, Step: added, Piece: view.Pieces[0].ID, After: first.StepID,
		What: "level"})...)
	require.NoError(t, err)
	view = r.view(view.ID)
	at := slices.IndexFunc(view.Pieces[0].Steps, func(s views.StepRow) bool { return s.StepID == added })
	_, err = r.keepChanges(edits(view.ID, edit.Edit{Op: edit.Remove, Step: added, Version: view.Pieces[0].Steps[at].Fields.Version})...)
	require.NoError(t, err)

	late := func(kind string, change func(*changes.Entry)) changes.Entry {
		in := r.says(kind, changes.EventRef{})
		in.Late, in.InstrumentID, in.Title = true, view.ID, "Level, Dunlin neck"
		change(&in)
		return in
	}
	event := func(step uuid.UUID, coat int) func(*changes.Entry) {
		return func(in *changes.Entry) { in.StepID, in.Coat = step, coat }
	}
	for name, in := range map[string]changes.Entry{
		"a step that somebody removed": late("done", event(added, 1)),
		"a coat too many":              late("done", event(first.StepID, 40)),
		"rounds of what has none":      late("settled", event(first.StepID, 1)),
		"a check that is none":         late("failed", event(first.StepID, 1)),
		"a piece that is gone": late("moved", func(in *changes.Entry) {
			in.PieceID, in.PlaceID = uuid.New(),
				shop.PlaceID("room")
		}),
		"a place that is gone":      late("moved", func(in *changes.Entry) { in.PieceID, in.PlaceID = view.Pieces[0].ID, uuid.New() }),
		"a struck entry nobody has": late("void", func(in *changes.Entry) { in.Voids = uuid.New() }),
		"a timer nobody started":    late("stopped", func(in *changes.Entry) { in.Stops = uuid.New() }),
		"a note on a step that is gone": late("note", func(in *changes.Entry) {
			in.StepID, in.Coat, in.Note = added, 1, "zu weich"
		}),
	} {
		in.Note += " — ränder"
		logged, err := r.service.Log(ctx, in)
		require.NoError(t, err, name)
		assert.Contains(t, logged.Flags, "adrift", name)
		assert.Contains(t, logged.Flags, "late", name)
		line := r.view(view.ID).Log[0]
		assert.Contains(t, line.Note, "Level, Dunlin neck", name)
		assert.Contains(t, line.Note, "ränder", name)
		again, err := r.service.Log(ctx, in)
		require.NoError(t, err, "sent again after a lost answer: "+name)
		assert.Equal(t, logged.ID, again.ID)
		in.Late, in.DeviceSeq, in.ID = false, in.DeviceSeq+1000, uuid.New()
		_, err = r.service.Log(ctx, in)
		assert.Error(t, err, "live it is said to be wrong: "+name)
	}
	nowhere := late("done", event(added, 1))
	nowhere.InstrumentID = uuid.Nil
	_, err = r.service.Log(ctx, nowhere)
	assert.ErrorContains(t, err, "stepId", "where nobody knows of what it is, it stays on the device")
}

func TestALateEntryIsKeptWithoutWhatIsGoneOfIt(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	in := r.says("done", changes.EventRef{StepID: view.Pieces[0].Steps[0].StepID, Coat: 1})
	in.Late, in.SittingID = true, uuid.New()
	in.Along = []changes.EventRef{{StepID: uuid.New(), Coat: 1}}
	in.Actual = &changes.ActualForm{Wet: "about ninety", Temperature: "18.6", PlaceID: uuid.New(), With: []uuid.UUID{uuid.New()}}
	in.Passed, in.Milestone = new(bool), "sand"
	logged := r.put(in)
	assert.Equal(t, logged.ID, r.put(in).ID, "sent again after a lost answer")
	for _, flag := range []string{"adrift", "ignored", "late"} {
		assert.Contains(t, logged.Flags, flag)
	}
	line := r.view(view.ID).Log[0]
	assert.Contains(t, line.Note, "wet about ninety")
	assert.Equal(t, 1, r.view(view.ID).Pieces[0].Steps[0].Done, "and it stands")

	stopped := r.says("stopped", changes.EventRef{})
	stopped.Stops = logged.ID
	stopped.Late = true
	assert.Contains(t, r.put(stopped).Flags, "adrift", "an entry that started no timer")
	void := r.says("void", changes.EventRef{})
	void.Voids, void.Late = logged.ID, true
	assert.NotContains(t, r.put(void).Flags, "adrift")
	void = r.says("void", changes.EventRef{})
	void.Voids, void.Late = logged.ID, true
	assert.Contains(t, r.put(void).Flags, "adrift", "struck twice is struck once")
}

func TestFieldsOfAnotherKind(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	step := view.Pieces[0].Steps[0].StepID
	minutes, passed, happened := 7, true, r.now.Add(-time.Minute)
	full := func(kind string) changes.Entry {
		in := r.says(kind, changes.EventRef{StepID: step, Coat: 1})
		in.InstrumentID, in.HappenedAt, in.Note, in.Minutes, in.Passed, in.Milestone = view.ID, &happened, "x", &minutes, &passed, "sand"
		in.PieceID, in.PlaceID = view.Pieces[0].ID, shop.PlaceID("room")
		in.Actual = &changes.ActualForm{Lot: "A1"}
		return in
	}
	for _, kind := range []string{"done", "note", "moved", "skipped", "timed", "stopped", "void", "settled", "tested", "failed"} {
		in := full(kind)
		_, err := r.service.Log(ctx, in)
		var wrong *refuse.Invalid
		require.ErrorAs(t, err, &wrong, kind)
		for _, f := range wrong.Faults {
			assert.Contains(t, f.Message, "does not belong to an entry of the kind "+kind, f.Path)
		}
	}
	for name, change := range map[string]func(*changes.Entry){"late": func(in *changes.Entry) { in.Late = true },
		"older": func(in *changes.Entry) { in.Older = true }} {
		in := full("moved")
		change(&in)
		logged := r.put(in)
		assert.Contains(t, logged.Flags, "ignored", name)
		assert.Equal(t, "Dunlin neck carried to the room", logged.Title)
		line := r.view(view.ID).Log[0]
		assert.Nil(t, line.Minutes, "what was ignored is not kept")
	}
	note := r.says("note", changes.EventRef{})
	note.InstrumentID, note.Note = view.ID, "nothing to ignore"
	assert.Empty(t, r.put(note).Flags)
	assert.NotNil(t, r.put(note).Flags, "never null")
}
