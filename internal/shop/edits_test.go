package shop_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// stepNamed finds a step of a view by its title.
func stepNamed(t *testing.T, view views.InstrumentView, title string) views.StepRow {
	t.Helper()
	for _, p := range view.Pieces {
		if i := slices.IndexFunc(p.Steps, func(s views.StepRow) bool { return s.Title == title }); i >= 0 {
			return p.Steps[i]
		}
	}
	require.Fail(t, "no step "+title)
	return views.StepRow{}
}

// clearOf is the step that puts a view's first clear on.
func clearOf(t *testing.T, view views.InstrumentView) views.StepRow {
	t.Helper()
	i := slices.IndexFunc(view.Pieces[0].Steps, func(s views.StepRow) bool { return s.Group == "clear" })
	require.GreaterOrEqual(t, i, 0)
	return view.Pieces[0].Steps[i]
}

func edits(id uuid.UUID, list ...edit.Edit) (made []changes.Change) {
	for i := range list {
		made = append(made, changes.Change{Kind: "edit", InstrumentID: id, Edit: &list[i]})
	}
	return made
}

func (r *room) undo(view views.InstrumentView) error {
	_, err := r.service.Undo(ctx, changes.TakenBack{InstrumentID: view.ID, EditID: view.Undo.ID, PersonID: r.person})
	return err
}

func (r *room) redo(view views.InstrumentView) error {
	_, err := r.service.Redo(ctx, changes.TakenBack{InstrumentID: view.ID, EditID: view.Redo.ID, PersonID: r.person})
	return err
}

// Three finer films at the end: what it does is shown first, kept as one change, taken back and made again.
func TestAScheduleIsChangedByHand(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Dunlin"))
	other := r.keep(glossBody("Turnstone"))
	piece, clear, buff := view.Pieces[0], clearOf(t, view), stepNamed(t, view, "Buff")
	levels := slices.DeleteFunc(slices.Clone(piece.Steps), func(s views.StepRow) bool { return s.Kind != "level" })
	last := levels[len(levels)-1]
	film := uuid.New()
	asked := edits(view.ID,
		edit.Edit{Op: edit.Add, Step: film, Piece: piece.ID, After: last.StepID, What: "level",
			Fields: &edit.Fields{Title: ptr("Drei feinere Filme"), Ladder: ptr([]string{"film:9", "film:3"})}},
		edit.Edit{Op: edit.Set, Step: clear.StepID, Version: clear.Fields.Version, Fields: &edit.Fields{Coats: ptr(clear.Coats + 2)}},
		edit.Edit{Op: edit.LeaveOut, Step: buff.StepID, Version: buff.Fields.Version, Reason: "nur bis zum Film"})
	whatIf, err := r.whatIf(asked...)
	require.NoError(t, err)
	require.NotNil(t, whatIf.Edited)
	would := views.InstrumentView{Pieces: whatIf.Edited.Pieces}
	assert.Equal(t, "nur bis zum Film", stepNamed(t, would, "Buff").Out)
	assert.Equal(t, "film 9, film 3", stepNamed(t, would, "Drei feinere Filme").About)
	require.NotEmpty(t, whatIf.Edited.Strata, "two coats more lie there in the end")
	now, then := whatIf.Edited.Strata[0].Now, whatIf.Edited.Strata[0].Then
	assert.Equal(t, now[len(now)-1].Coats+2, then[len(then)-1].Coats)
	assert.NotEmpty(t, whatIf.Effects)
	assert.Nil(t, r.view(view.ID).Undo, "asking keeps nothing")

	before := r.view(view.ID)
	kept, err := r.keepChanges(asked...)
	require.NoError(t, err)
	assert.Equal(t, []string{"Dunlin: “Drei feinere Filme” added after “" + last.Title + "”",
		fmt.Sprintf("Dunlin: “%s”: %d coats", clear.Title, clear.Coats+2),
		"Dunlin: “Buff” left out, because nur bis zum Film"}, kept.Changes)
	after := r.view(view.ID)
	assert.Equal(t, whatIf.Edited.Outlook.Finish, after.Outlook.Finish, "what is kept is what was asked")
	require.NotNil(t, after.Undo)
	assert.Equal(t, kept.Changes, after.Undo.Said, "one change, whatever was changed")
	assert.Contains(t, after.History[0].Cause, "Drei feinere Filme")

	require.NoError(t, r.undo(after))
	back := r.view(view.ID)
	assert.Equal(t, dated(before), dated(back), "undone, every date is as it was")
	assert.Nil(t, back.Undo)
	require.NotNil(t, back.Redo)
	require.NoError(t, r.redo(back))
	assert.Equal(t, dated(after), dated(r.view(view.ID)))
	assert.Nil(t, r.view(other.ID).Undo, "another instrument has nothing to take back")

	err = r.undo(r.view(view.ID))
	require.NoError(t, err)
	err = r.undo(after)
	var taken *refuse.Taken
	assert.ErrorAs(t, err, &taken, "taken back once is enough")
	r.now = r.now.Add(25 * time.Hour)
	assert.Nil(t, r.view(view.ID).Redo, "after a day it stands")
}

// dated are the steps of an instrument with their dates.
func dated(view views.InstrumentView) (list []string) {
	for _, p := range view.Pieces {
		for _, b := range p.Beads {
			list = append(list, b.Title+" "+b.Start.Format(time.RFC3339))
		}
	}
	return list
}

// What is done means what it meant: the rest becomes another step, and taking back stops at what is logged.
func TestWhatIsLoggedStaysWhateverIsChanged(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Knot")
	in.Wish.Pieces[0] = recipe.PieceWish{Kind: recipe.Body, Wood: "alder-red", Length: "480 mm", Width: "330 mm",
		Thickness: "44 mm"}.From("natural").Ending("finishing-oil", "satin")
	view := r.keep(in)
	oil := stepNamed(t, view, "Oil, up to satin")
	for _, s := range view.Pieces[0].Steps {
		if s.StepID == oil.StepID {
			break
		}
		for coat := 1; coat <= s.Coats; coat++ {
			e := r.entry(s.StepID, coat)
			e.Late = true
			_, err := r.service.Log(ctx, e)
			require.NoError(t, err)
		}
	}
	e := r.entry(oil.StepID, 1)
	e.Late = true
	_, err := r.service.Log(ctx, e)
	require.NoError(t, err)
	title := r.view(view.ID).Log[0].Title
	for _, line := range r.view(view.ID).Log {
		assert.Empty(t, line.Meant, "%s: nothing has been changed yet", line.Title)
	}

	_, err = r.keepChanges(edits(view.ID, edit.Edit{Op: edit.Set, Step: oil.StepID,
		Fields: &edit.Fields{Material: ptr("hardwax-oil"), Title: ptr("Hartwachs")}})...)
	require.NoError(t, err)
	after := r.view(view.ID)
	assert.Equal(t, title, after.Log[0].Title, "the log says what it said")
	assert.Contains(t, after.Log[0].Meant, fmt.Sprintf("%d coats", oil.Coats), "and what was planned beside what was done")
	begun, rest := stepNamed(t, after, "Oil, up to satin"), stepNamed(t, after, "Hartwachs")
	assert.Equal(t, []int{1, 1, oil.Coats - 1, 0}, []int{begun.Coats, begun.Done, rest.Coats, rest.Done})

	e = r.entry(rest.StepID, 1)
	e.Late = true
	_, err = r.service.Log(ctx, e)
	require.NoError(t, err)
	err = r.undo(r.view(view.ID))
	var wrong *refuse.Invalid
	require.ErrorAs(t, err, &wrong)
	assert.Contains(t, err.Error(), "log speaks of “Hartwachs”")
	assert.Equal(t, titles(after, 0), titles(r.view(view.ID), 0), "and nothing is half undone")
}

// Two change the same step: both versions are shown, and one may be put on top of the other.
func TestALostUpdateShowsBothVersions(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Ruff"))
	clear := clearOf(t, view)
	seen := clear.Fields.Version
	_, err := r.keepChanges(edits(view.ID, edit.Edit{Op: edit.Set, Step: clear.StepID, Version: seen,
		Fields: &edit.Fields{Note: ptr("erst die Flanken")}})...)
	require.NoError(t, err)

	mine := edit.Edit{Op: edit.Set, Step: clear.StepID, Version: seen, Fields: &edit.Fields{Coats: ptr(clear.Coats + 3)}}
	_, err = r.whatIf(edits(view.ID, mine)...)
	var taken *refuse.Taken
	require.ErrorAs(t, err, &taken)
	require.Len(t, taken.Clashes, 1)
	clash := taken.Clashes[0]
	assert.Contains(t, clash.Theirs, refuse.Fact{Label: "Note", Text: "erst die Flanken"})
	assert.Contains(t, clash.Theirs, refuse.Fact{Label: "Coats", Text: fmt.Sprint(clear.Coats)})
	assert.Contains(t, clash.Mine, refuse.Fact{Label: "Coats", Text: fmt.Sprint(clear.Coats + 3)})
	_, err = r.keepChanges(edits(view.ID, mine)...)
	require.ErrorAs(t, err, &taken, "nothing is overwritten unseen")

	mine.Version = clash.Version
	_, err = r.keepChanges(edits(view.ID, mine)...)
	require.NoError(t, err)
	now := clearOf(t, r.view(view.ID))
	assert.Equal(t, []any{clear.Coats + 3, "erst die Flanken"}, []any{now.Coats, now.Fields.Note}, "on top of theirs, what they did stays")
}

func TestWhatIsLeftOutIsNotPlannedAndNotLogged(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Snipe"))
	mask := stepNamed(t, view, "Tape the pocket, line the cavities")
	_, err := r.keepChanges(edits(view.ID, edit.Edit{Op: edit.LeaveOut, Step: mask.StepID, Reason: "keine Taschen"})...)
	require.NoError(t, err)
	view = r.view(view.ID)
	rules := []string{}
	for _, o := range view.Objections {
		rules = append(rules, o.Rule)
	}
	assert.Contains(t, rules, "mask-missing", "the schedule objects")
	assert.False(t, slices.ContainsFunc(view.Pieces[0].Beads, func(b views.Bead) bool { return b.Event.StepID == mask.StepID }))
	_, err = r.service.Log(ctx, r.entry(mask.StepID, 1))
	assert.ErrorContains(t, err, "left out: keine Taschen")
	_, err = r.service.Sheet(ctx, mask.StepID, 1)
	assert.NoError(t, err, "one can still look at it")

	// composing again leaves it out, and its mend takes it back in
	wish := *view.Wish
	_, err = r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &wish, Version: view.Version})
	require.NoError(t, err)
	assert.Equal(t, "keine Taschen", stepNamed(t, r.view(view.ID), mask.Title).Out)
	_, err = r.keepChanges(changes.Change{Kind: "mend", InstrumentID: view.ID, Rule: "mask-missing",
		StepID: view.Objections[slices.Index(rules, "mask-missing")].StepID})
	require.NoError(t, err)
	assert.Empty(t, stepNamed(t, r.view(view.ID), mask.Title).Out)
	assert.Len(t, slices.DeleteFunc(titles(r.view(view.ID), 0), func(s string) bool { return s != mask.Title }), 1, "it is the same step")
}

// A schedule composed again can be taken back too, with the regions that it had cut.
func TestAWishIsTakenBackWithItsRegions(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Bruchwasserläufer"))
	wish := *view.Wish
	wish.Pieces = slices.Clone(wish.Pieces)
	wish.Pieces[0].Regions = []recipe.RegionWish{{Name: "Kante", Kind: "border", Width: "9 mm", Edge: "taped"}}
	wish.Cavities = "paint"
	_, err := r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &wish, Version: view.Version})
	require.NoError(t, err)
	cut := r.view(view.ID)
	require.Len(t, cut.Pieces[0].Regions, len(view.Pieces[0].Regions)+1)
	require.Len(t, cut.Pieces, 2)
	for range 2 {
		require.NoError(t, r.undo(r.view(view.ID)))
		back := r.view(view.ID)
		assert.Equal(t, view.Pieces[0].Regions, back.Pieces[0].Regions)
		assert.Equal(t, dated(view), dated(back))
		require.NoError(t, r.redo(back))
		again := r.view(view.ID)
		assert.Equal(t, cut.Pieces[0].Regions, again.Pieces[0].Regions)
		assert.Equal(t, dated(cut), dated(again))
	}
}

// Random edits, kept and taken back in a shop of two, end where they began.
func TestRandomEditsTakenBackEndWhereTheyBegan(t *testing.T) {
	t.Parallel()
	for seed := range uint64(2) {
		random := rand.New(rand.NewPCG(seed, 14))
		r := open(t)
		view := r.keep(glossBody("Curlew"))
		r.keep(glossBody("Whimbrel"))
		var stack [][]string
		for range 16 {
			now := r.view(view.ID)
			if random.IntN(3) == 0 && now.Undo != nil {
				require.NoError(t, r.undo(now))
				require.Equal(t, stack[len(stack)-1], dated(r.view(view.ID)))
				stack = stack[:len(stack)-1]
				continue
			}
			if _, err := r.keepChanges(edits(view.ID, anyEdit(random, now))...); err == nil && r.view(view.ID).Undo != nil &&
				(now.Undo == nil || r.view(view.ID).Undo.ID != now.Undo.ID) {
				stack = append(stack, dated(now))
			}
		}
		assert.NotEmpty(t, stack)
	}
}

// anyEdit draws an edit, possible or not.
func anyEdit(random *rand.Rand, view views.InstrumentView) edit.Edit {
	piece := view.Pieces[random.IntN(len(view.Pieces))]
	step, other := piece.Steps[random.IntN(len(piece.Steps))], piece.Steps[random.IntN(len(piece.Steps))]
	e := edit.Edit{Step: step.StepID, Version: step.Fields.Version}
	switch random.IntN(8) {
	case 0:
		e.Op, e.Fields = edit.Set, &edit.Fields{Coats: ptr(1 + random.IntN(9))}
	case 1:
		e.Op, e.Fields = edit.Set, &edit.Fields{Minutes: ptr(random.IntN(200))}
	case 2:
		e.Op, e.After = edit.Move, other.StepID
	case 3:
		e.Op, e.New = edit.Duplicate, uuid.New()
	case 4:
		e.Op, e.New, e.Regions = edit.Split, uuid.New(), step.Fields.Regions[:1]
	case 5:
		e.Op, e.Reason = edit.LeaveOut, "genug"
	case 6:
		e.Op = edit.TakeBack
	default:
		extras := recipe.Extras()
		e.Op, e.Step, e.Version, e.Piece, e.After, e.What = edit.Add, uuid.New(), 0, piece.ID, other.StepID, extras[random.IntN(16)].ID
	}
	return e
}
