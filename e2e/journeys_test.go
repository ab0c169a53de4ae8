// Package e2e holds people's journeys through the real application in a real
// browser, on a real database.
package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPlanANewInstrument(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("a", "New instrument")
	p.see("main", "The schedule appears here")
	p.fill("Name", "Redshank")
	p.fill("Promised day", "2026-05-29")
	p.see("[data-forecast]", "Ready ")
	p.see("[data-forecast]", "Sand the bare wood")
	before := p.text("[data-forecast]")
	p.fill("Wood", "oak-red")
	p.fill("Length", "18 7/8 in")
	p.fill("Promised day", "2026-03-20")
	p.see("[data-forecast]", "This promise will not hold")
	assert.NotEqual(t, before, p.text("[data-forecast]"))
	p.fill("Promised day", "2026-06-30")
	p.gone("[data-forecast]", "This promise will not hold")
	p.see("[data-forecast]", "slack")
	p.click("button", "Keep this instrument")
	p.see("h1", "Redshank")
	p.see("[data-sheet]", "Log done")

	p.visit("/rack")
	p.see("[data-tag='Redshank body']", "Sand the bare wood")
	p.see("[data-tag='Redshank neck']", "Tape the fretboard")
}

func TestBadInputSaysWhatWouldBeAccepted(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.fill("Name", "Redshank")
	p.fill("Promised day", "2026-05-29")
	p.fill("Length", "-480 mm")
	p.see("[data-fault]", "from 250 mm to 800 mm")
	p.fill("Promised day", "2026-03-01")
	p.see("[data-fault]", "must be today, 2026-03-12, or later")
	p.click("button", "Keep this instrument")
	p.see("h1", "New instrument")

	p.visit("/instruments/new") // a reload keeps what was typed
	assert.Equal(t, "Redshank", ask[string](p, `document.querySelector('form input').value`))
	p.see("[data-fault]", "from 250 mm to 800 mm")
	p.visit("/instruments")
	p.gone("main", "Redshank")
}

func TestLogACoatSeeDatesMoveAndUndo(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-tag='Avocet body']", "coat 4 of 4")
	r.Advance(75 * time.Minute) // coat 3 is dry now
	p.visit("/rack")
	p.see("[data-tag='Avocet body']", "now")
	p.click("[data-log][aria-label*='Avocet body']", "Log coat 4")
	p.see("[data-toast]", "Logged: Coat 4 of 4, Ebb Gloss, Avocet body")
	p.see("[data-tag='Avocet body']", "Level half-way")
	assert.Equal(t, "drying", ask[string](p, `document.querySelector("[data-tag='Avocet body']").dataset.state`))

	p.click("[data-tag='Avocet body']", "")
	p.see("h1", "Avocet")
	p.see("[data-because]", "but the shop is closed until Fri 13 Mar 09:00")
	p.see("[data-logbook] li", "Coat 4 of 4, Ebb Gloss")
	p.visit("/instruments")
	p.click("[data-instrument='Avocet']", "")
	p.see("[data-steps]", "4 of 4 coats")
	p.see("[data-logbook] li", "Coat 4 of 4, Ebb Gloss")

	p.click("[data-logbook] li button", "strike")
	p.see("[data-toast]", "Struck")
	p.see("[data-logbook] li .line-through", "Coat 4 of 4, Ebb Gloss")
	p.visit("/rack")
	p.see("[data-tag='Avocet body']", "coat 4 of 4")
}

func TestUndoFromTheToast(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Logged: Sand the bare wood, Turnstone body")
	p.see("[data-tag='Turnstone body']", "Raking light")
	p.click("[data-toast] button", "Undo")
	p.see("[data-tag='Turnstone body']", "Sand the bare wood")
}

func TestADoubleTapIsOneCoat(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	ask[bool](p, `(() => { const b = document.querySelector('[data-log]'); b.click(); b.click(); return true })()`)
	p.see("[data-toast]", "Logged: Sand the bare wood, Turnstone body")
	p.gone("[data-toast]", "Not logged")
	p.click("[data-tag='Turnstone body']", "")
	p.see("[data-logbook] li", "Sand the bare wood")
	assert.Equal(t, 1, ask[int](p, `[...document.querySelectorAll('[data-logbook] li')].filter(e => e.innerText.includes('Sand the bare wood')).length`))
}

func TestADoubtfulCoatIsAskedAbout(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("[data-tag='Avocet body']", "")
	p.click("[data-sheet] button", "Log coat 4")
	p.see("[role=alertdialog]", "is dry enough to recoat from")
	p.click("[role=alertdialog] button", "Do not log it")
	p.gone("[role=alertdialog]", "")
	p.gone("[data-logbook] li", "Coat 4 of 4, Ebb Gloss")
	p.click("[data-sheet] button", "Log coat 4")
	p.click("[role=alertdialog] button", "It happened, log it")
	p.see("[data-logbook] li", "before it was dry")
}

func TestTwoPeopleLogTheSameCoat(t *testing.T) {
	r := room(t)
	mara, tobin := open(t, r.URL, "/rack"), open(t, r.URL, "/rack")
	tobin.click("nav button", "Mara")
	mara.see("[data-log]", "Log done")
	tobin.see("[data-log]", "Log done")
	mara.click("[data-log]", "Log done")
	mara.see("[data-toast]", "Logged")
	tobin.click("[data-log]", "Log done")
	tobin.see("[data-toast]", "is logged already: Mara")
}

func TestARestartLosesNothing(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Logged")
	require.NoError(t, r.Stop())
	require.NoError(t, r.Start(context.Background()))
	p.visit("/rack")
	p.see("[data-tag='Turnstone body']", "Raking light")
}

func TestTheServerIsAwayAndTheCoatIsKeptHere(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	require.NoError(t, r.Stop())
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Kept on this device")
	p.see("[data-connection=network]", "cannot be reached")
	p.see("[data-connection]", "One log entry is kept here")
	require.NoError(t, r.Start(context.Background()))
	p.see("[data-tag='Turnstone body']", "Raking light")
	p.gone("[data-connection]", "")
	p.click("[data-tag='Turnstone body']", "")
	p.see("[data-logbook] li", "sent later")
}

func TestTheDatabaseStopsUnderThePage(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("main", "The schedule appears here")
	require.NoError(t, building.StopDatabase())
	p.fill("Name", "Redshank")
	p.fill("Promised day", "2026-05-29")
	p.see("[data-connection=database]", "database does not answer")
	require.NoError(t, building.ResumeDatabase(context.Background()))
	p.see("[data-forecast]", "Ready ")
	p.gone("[data-connection]", "")
	assert.Equal(t, "Redshank", ask[string](p, `document.querySelector('form input').value`), "what was typed is still there")
}

func TestEverythingByKeyboard(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.press("?")
	p.see("[role=dialog]", "Log the focused or chosen work")
	p.press("\x1b")
	p.gone("[role=dialog]", "")
	p.press("l")
	p.see("[data-toast]", "Logged: Sand the bare wood, Turnstone body")
	p.press("2")
	p.see("h1", "Instruments")
	p.press("n")
	p.see("h1", "New instrument")
	p.visit("/instruments")
	p.click("[data-instrument='Avocet']", "")
	p.see("[data-sheet]", "How")
	p.press("w")
	p.see("[role=dialog]", "this shop")
}
