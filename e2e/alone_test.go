package e2e

import (
	"context"
	"testing"
	"time"

	"umberfrost/internal/shop/views"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Plan, keep, log, undo: without a mouse.
func TestByKeyboardAlone(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.press("n")
	p.see("button", "Keep this instrument")
	p.tabTo("form input", "")
	p.press("Redshank")
	p.tabTo("[data-day-input='Promised day'] [role=spinbutton]", "")
	p.press("29052026")
	p.see("[data-forecast]", "Ready ")
	p.tabTo("button[type=submit]", "Keep")
	p.press(kb.Enter)
	p.see("h1", "Redshank")
	p.see("[data-sheet] button[data-log]", "")
	p.press("l")
	p.see("[data-toast]", "Logged")
	p.press("u")
	p.see("[data-toast]", "Struck")
	p.see("[data-logbook] li", "log again")
}

// Plan, keep, log, undo: with a finger on a phone.
func TestByTouchAlone(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := openTouched(t, r.URL, "/rack", 390, 844)
	p.finger("a, button", "New instrument")
	p.see("button", "Keep this instrument")
	const typing = `document.activeElement?.matches('form input')`
	p.finger("form input", "")
	if !p.within(5*time.Second, typing) { // on a busy machine a tap may last as long as a press, which a hand does not notice
		p.finger("form input", "")
	}
	p.until(typing, "a finger on the field should bring its keyboard up")
	p.press("Redshank") // what its own keyboard types
	p.finger("[data-day-input='Promised day'] ~ button", "")
	p.see("[role=dialog] [role=grid]", "")
	p.finger("[role=dialog] button", "Next")
	p.finger("[role=dialog] [role=gridcell] [role=button], [role=dialog] td > div", "29")
	p.gone("[role=dialog] [role=grid]", "")
	p.see("[data-ready]", "Ready ")
	p.finger("button", "Keep this instrument")
	p.see("h1", "Redshank")
	p.finger("button[data-log]", "")
	p.see("[data-toast]", "Logged")
	p.finger("[data-toast] button", "Undo")
	p.see("[data-toast]", "Struck")
}

// What was logged without a server is put right before it is sent, and what the shop
// refuses is mended where it stands.
func TestAnEntryIsPutRightBeforeItIsSent(t *testing.T) {
	t.Parallel()
	r := room(t)
	avocet := "/instruments/" + fetchID(t, r.URL, "Avocet")
	p := open(t, r.URL, avocet)
	p.see("[data-logbook] li", "")
	p.until(`performance.getEntriesByType('resource').some((e) => /\/Correct-/.test(e.name) && e.responseEnd > 0)`,
		"what is needed without the server comes before it goes")
	require.NoError(t, r.Stop())
	p.fillNote("Looks driy")
	p.see("[data-connection] summary", "One log entry is kept here")
	p.click("[data-connection] summary", "")
	p.click("[data-kept] button", "Correct it")
	p.fill("Note", "Looks dry")
	p.click("[data-kept] button", "Keep it so")
	p.see("[data-kept]", "“Looks dry”")
	require.NoError(t, r.Start(context.Background()))
	p.see("[data-logbook] li", "“Looks dry”")
	p.empty()

	// An entry that the shop refuses stays with its reason until somebody has put it right.
	told[bool](p, `new Promise((done) => { const opening = indexedDB.open('umberfrost')
		opening.onsuccess = () => {
			const tx = opening.result.transaction('outbox', 'readwrite')
			tx.objectStore('outbox').add({title: 'A note', at: '2026-03-12T15:00:00Z', shop: '', tab: '', tries: 0, entry: {
				id: '0195aaaa-0000-7000-8000-000000000009', kind: 'note', note: '   ', late: true, instrumentId: '`+fetchID(t, r.URL, "Avocet")+`',
				personId: '', deviceId: '0195aaaa-0000-7000-8000-00000000000a', deviceSeq: 900}})
			tx.oncomplete = () => { opening.result.close(); done(true) }
		} })`)
	p.visit(avocet)
	p.see("[data-kept]", "The shop refused it")
	p.click("[data-kept] button", "Correct it")
	p.fill("Note", "It was the booth's air")
	p.click("[data-kept] button", "Keep it so")
	p.gone("[data-kept]", "")
	p.see("[data-logbook] li", "“It was the booth's air”")
	notes := 0
	for _, l := range get[views.InstrumentView](t, r.URL+"/api"+avocet).Log {
		if l.Note == "Looks dry" || l.Note == "It was the booth's air" {
			notes++
		}
		assert.NotEqual(t, "Looks driy", l.Note)
	}
	assert.Equal(t, 2, notes)
}

// fillNote adds a note to the instrument on screen.
func (p *page) fillNote(text string) {
	p.t.Helper()
	p.see("[data-logbook] form", "Add")
	p.write(elements("[data-logbook] input", ""), "the note", text)
	p.click("[data-logbook] form button", "Add")
}

// Letters of twice the size run out of no page.
func TestTextOfTwiceTheSize(t *testing.T) {
	t.Parallel()
	r := room(t)
	for _, width := range []int64{1280, 768} {
		p := openSized(t, r.URL, "/rack", width, 800)
		for path, there := range map[string]string{"/rack": "[data-tag]", "/instruments": "[data-instrument]", "/weeks": "[data-threads]",
			"/shop": "[data-people]", "/instruments/new": "form", "/instruments/" + fetchID(t, r.URL, "Avocet"): "[data-sheet] h2"} {
			p.visit(path)
			ask[any](p, `document.documentElement.style.fontSize = '200%'`)
			p.see(there, "")
			p.rest()
			if ask[int](p, `document.documentElement.scrollWidth - innerWidth`) > 0 {
				assert.Fail(t, "wider than the page", "%d %s: %s", width, path, ask[[]string](p, `[...document.querySelectorAll('main *, nav *')]
					.filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest('.overflow-x-auto, .overflow-hidden, svg svg'))
					.map((e) => e.outerHTML.slice(0, 140)).slice(-6)`))
			}
		}
	}
}
