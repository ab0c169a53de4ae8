package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

func viewOf(t testing.TB, url, name string) views.InstrumentView {
	t.Helper()
	return get[views.InstrumentView](t, url+"/api/instruments/"+fetchID(t, url, name))
}

// stepIn finds a step of a view by its title.
func stepIn(t testing.TB, view views.InstrumentView, title string) views.StepRow {
	t.Helper()
	for _, p := range view.Pieces {
		if i := slices.IndexFunc(p.Steps, func(s views.StepRow) bool { return s.Title == title }); i >= 0 {
			return p.Steps[i]
		}
	}
	require.Fail(t, "no step "+title)
	return views.StepRow{}
}

func finishOf(view views.InstrumentView) string { return view.Outlook.FinishDay }

// A schedule changed with the keyboard alone: shown first, kept as one change, taken back over a reload.
func TestAScheduleIsChangedByKeyboardAlone(t *testing.T) {
	t.Parallel()
	r := room(t)
	before := viewOf(t, r.URL, "Knot")
	p := open(t, r.URL, "/instruments/"+before.ID.String())
	p.see("[data-steps] button", "Clear, to the end")
	p.tabTo("button", "Change the schedule")
	p.press(kb.Enter)
	p.see("[data-edit-effect]", "Nothing is changed yet")
	p.tabTo("[data-steps] button", "Clear, to the end")
	p.press(kb.Enter)
	p.see("[data-step-edit] h2", "Clear, to the end")
	p.tabTo("[data-step-fields] input[type=number]", "")
	p.press("9" + kb.Tab)
	p.see("[data-edit-effect]", "later")
	p.see("[data-strata-change]", "13 coats, not 8")
	p.tabTo("[data-step-acts] button", "Add a step after it")
	p.press(kb.Enter)
	p.see("[role=menuitem]", "Level")
	p.press("L")
	p.see("[role=menuitem][data-highlighted]", "Level")
	p.press(kb.Enter)
	p.see("[data-step-edit] h2", "Level")
	p.see("[data-steps] li", "added")
	p.tabTo("[data-step-acts] button", "Later")
	p.press(kb.Enter)
	p.see("[data-tray]", "moved after “Tape off”")
	p.tabTo("[data-tray] button", "Keep all")
	p.press(kb.Enter)
	p.see("[data-toast]", "Kept: Knot:")
	kept := viewOf(t, r.URL, "Knot")
	assert.Equal(t, 9, stepIn(t, kept, "Clear, to the end").Coats)
	assert.Contains(t, stepsOf(kept), "Level")
	assert.NotEqual(t, finishOf(before), finishOf(kept))

	p.visit("/instruments/" + before.ID.String()) // a reload
	p.see("[data-last-change]", "9 coats")
	p.tabTo("button", "Undo:")
	p.press(kb.Enter)
	p.see("[data-toast]", "Taken back: Knot:")
	p.see("[data-schedule-bar] button", "Redo")
	back := viewOf(t, r.URL, "Knot")
	assert.Equal(t, stepsOf(before), stepsOf(back))
	assert.Equal(t, finishOf(before), finishOf(back))
	p.visit("/instruments/" + before.ID.String())
	p.tabTo("button", "Redo:")
	p.press(kb.Enter)
	p.see("[data-toast]", "Made again")
	assert.Equal(t, finishOf(kept), finishOf(viewOf(t, r.URL, "Knot")))
	assert.Contains(t, viewOf(t, r.URL, "Knot").History[0].Cause, "Made again", "it stands in the history of the date")
}

// Two change one step: both versions are shown, and what one does lands on top of the other.
func TestTwoPeopleChangeOneStep(t *testing.T) {
	t.Parallel()
	r := room(t)
	view := viewOf(t, r.URL, "Knot")
	step := stepIn(t, view, "Clear, to the end")
	p := open(t, r.URL, "/instruments/"+view.ID.String()+"?edit&step="+step.StepID.String()+"&coat=1")
	p.commit("Coats", "6")
	p.see("[data-tray]", "6 coats")

	who := get[views.Reference](t, r.URL+"/api/reference").People[1]
	note := "the flanks first"
	post(t, r.URL+"/api/changes", changes.Changes{ID: uuid.New(), PersonID: who.ID,
		Changes: []changes.Change{{Kind: "edit", InstrumentID: view.ID,
			Edit: &edit.Edit{Op: edit.Set, Step: step.StepID, Version: step.Fields.Version, Fields: &edit.Fields{Note: &note}}}}}, 201)
	p.see("[data-clash]", "the flanks first")
	p.see("[data-clash]", "As it is now")
	p.until(`[...document.querySelectorAll('[data-tray] button')].find(b => b.innerText.startsWith('Keep')).disabled`,
		"nothing is overwritten unseen")
	p.click("[data-clash] button", "Put my change on top")
	p.gone("[data-clash]", "")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Knot: “Clear, to the end”: 6 coats")
	now := stepIn(t, viewOf(t, r.URL, "Knot"), "Clear, to the end")
	assert.Equal(t, []any{6, note}, []any{now.Coats, now.Fields.Note})
}

// By touch on a tablet and a phone: left out with a reason, split by region, taken back in.
func TestAScheduleIsChangedByTouch(t *testing.T) {
	t.Parallel()
	for _, width := range []int64{768, 390} {
		t.Run(fmt.Sprint(width), func(t *testing.T) {
			t.Parallel()
			r := room(t)
			view := viewOf(t, r.URL, "Knot")
			clear, buff := stepIn(t, view, "Clear, to the end"), stepIn(t, view, "Buff")
			p := openTouched(t, r.URL, "/instruments/"+view.ID.String()+"?step="+buff.StepID.String()+"&coat=1", width, 1000)
			p.finger("[data-schedule-bar] button", "Change the schedule")
			p.finger("[data-step-acts] button", "Leave it out")
			p.see("[role=dialog]", "It stays in the schedule")
			p.write(elements("[role=dialog] textarea", ""), "the reason", "a satin sheen will do")
			p.finger("[role=dialog] button[type=submit]", "Leave it out")
			p.see("[data-steps] li", "because a satin sheen will do")
			p.finger("[data-step-acts] button", "Take it back in")
			p.gone("[data-steps] li", "because a satin")
			p.finger("[data-steps] button", "Clear, to the end")
			p.see("[data-step-edit] h2", "Clear, to the end")
			p.finger("[data-step-acts] button", "Split by region")
			p.finger("[role=dialog] label", "back")
			p.finger("[role=dialog] button", "Split")
			p.see("[data-tray]", "apart for back")
			p.finger("[data-tray] button", "Keep all")
			p.see("[data-toast]", "Kept: Knot:")
			now := viewOf(t, r.URL, "Knot")
			assert.Empty(t, stepIn(t, now, "Buff").Out)
			assert.Len(t, stepIn(t, now, "Clear, to the end").Fields.Regions, len(clear.Fields.Regions)-1)
		})
	}
}

// A burn-through on an edge: the ways that hold for this film, one of them chosen, and the promise seen moving.
func TestABurnThroughOnAnEdgeIsMended(t *testing.T) {
	t.Parallel()
	r := room(t)
	before := viewOf(t, r.URL, "Knot")
	p := open(t, r.URL, "/instruments/"+before.ID.String())
	p.click("[data-schedule-bar] button", "Put damage right")
	p.fill("What has happened", "burn-through")
	p.fill("How deep it goes", "wood")
	p.click("[data-repair] [data-toggles] button", "sides")
	p.see("[data-way=touch-up]", "Seal the bared spot")
	p.see("[data-way=touch-up]", "later, ready")
	p.see("[data-ways-not]", "neither flake nor candy nor leaf lies there")
	p.click("[data-way=touch-up] button", "See what it does")
	p.see("[data-tray]", "a burn-through on sides")
	p.see("[data-edit-effect]", "later")
	p.see("[data-steps] li", "Touch the colour in")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Knot: a burn-through on sides")
	after := viewOf(t, r.URL, "Knot")
	assert.Contains(t, stepsOf(after), "Feather the edge of the spot")
	assert.NotEqual(t, finishOf(before), finishOf(after))
	p.see("[data-history]", "burn-through")
}

// A check that is not passed brings the same grit again, and says so.
func TestAFailedCheckBringsTheSameGritAgain(t *testing.T) {
	t.Parallel()
	r := room(t)
	var view views.InstrumentView
	var check views.StepRow
	for _, line := range get[[]views.InstrumentLine](t, r.URL+"/api/instruments") { // any that comes to a check next
		view = viewOf(t, r.URL, line.Name)
		for _, piece := range view.Pieces {
			for i, s := range piece.Steps {
				if s.Kind == "inspect" && s.Done == 0 && s.Title == "Raking light over the bare wood" && i > 0 && check.Title == "" {
					check = s
				}
			}
		}
		if check.Title != "" {
			break
		}
	}
	require.NotEmpty(t, check.Title)
	p := open(t, r.URL, "/instruments/"+view.ID.String()+"?step="+check.StepID.String()+"&coat=1")
	before := len(stepsOf(view))
	for _, piece := range view.Pieces { // what comes before it is done by then
		for _, s := range piece.Steps {
			if s.StepID == check.StepID {
				for _, b := range piece.Steps {
					if b.StepID == check.StepID {
						break
					}
					if b.Done == 0 && b.Coats == 1 {
						p.visit("/instruments/" + view.ID.String() + "?step=" + b.StepID.String() + "&coat=1")
						p.click("[data-sheet] [data-log]", "")
						p.until(`document.querySelector('[data-toast]') || document.querySelector('[role=dialog]')`,
							"it is logged or asked about")
						if ask[bool](p, `Boolean(document.querySelector('[role=dialog]'))`) {
							p.click("[role=dialog] button", "Log it")
						}
						p.empty()
					}
				}
			}
		}
	}
	p.visit("/instruments/" + view.ID.String() + "?step=" + check.StepID.String() + "&coat=1")
	p.click("[data-sheet] button", "Not passed")
	p.see("[data-toast]", "Comes now, before it is looked at again: Sand the bare wood")
	assert.Len(t, stepsOf(viewOf(t, r.URL, view.Name)), before+1)
}
