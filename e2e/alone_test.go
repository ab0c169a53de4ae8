package e2e

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/shop"
)

// tabTo presses Tab until what has the focus is of a selector and says something, as
// somebody does who has no mouse.
func (p *page) tabTo(selector, words string) {
	p.t.Helper()
	there := fmt.Sprintf(`(() => { const e = document.activeElement
		return Boolean(e?.matches(%s) && (e.innerText + ' ' + (e.getAttribute('aria-label') ?? '')).includes(%s)) })()`, quote(selector), quote(words))
	for range 150 {
		if ask[bool](p, there) {
			return
		}
		p.press(kb.Tab)
	}
	require.Fail(p.t, "the tab key never comes there", "%s %q; it stands at %s", selector, words, ask[string](p, `document.activeElement?.outerHTML.slice(0, 200)`))
}

// Plan, keep, log, undo: without a mouse.
func TestByKeyboardAlone(t *testing.T) {
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

// finger taps the middle of the first element of a selector that says something.
func (p *page) finger(selector, words string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`[...document.querySelectorAll(%s)].some((e) => e.innerText.includes(%s) || (e.getAttribute('aria-label') ?? '').includes(%s))`,
		quote(selector), quote(words), quote(words)), fmt.Sprintf("%s should say %q", selector, words))
	p.fingerOn(fmt.Sprintf(`[...document.querySelectorAll(%s)].find((e) => e.innerText.includes(%s) || (e.getAttribute('aria-label') ?? '').includes(%s))`,
		quote(selector), quote(words), quote(words)))
}

// fingerOn taps the middle of an element, once the page has come to rest and nothing lies over it.
func (p *page) fingerOn(element string) {
	p.t.Helper()
	p.until(element, "there should be "+element)
	where := fmt.Sprintf(`(() => {
		const e = %s
		if (!e || document.querySelector('main [aria-busy=true]')) return {X: -1, Y: -1} // an answer that comes moves what is below it
		e.scrollIntoView({block: 'center'})
		const b = e.getBoundingClientRect()
		const at = {X: b.x + b.width / 2, Y: b.y + b.height / 2}
		const top = document.elementFromPoint(at.X, at.Y)
		return e.contains(top) || top?.contains(e) || e.closest('g')?.contains(top) ? at : {X: -1, Y: -1}
	})()`, element)
	at := spot{-1, -1}
	require.Eventually(p.t, func() bool {
		before := at
		at = ask[spot](p, where)
		return at.X >= 0 && at == before
	}, patience, 150*time.Millisecond, "%s lies under something, or never comes to rest", element)
	p.touch(at)
}

// touch is a finger that comes down on a spot and leaves it again: quickly, however long the page takes to notice.
func (p *page) touch(at spot) {
	p.t.Helper()
	down := make(chan error, 1)
	go func() {
		_, err := chromedp.Call(p.ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: input.DispatchTouchEventTypeTouchStart,
			TouchPoints: []*input.TouchPoint{{X: at.X, Y: at.Y}}})
		down <- err
	}()
	time.Sleep(40 * time.Millisecond)
	_, err := chromedp.Call(p.ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: input.DispatchTouchEventTypeTouchEnd,
		TouchPoints: []*input.TouchPoint{}})
	require.NoError(p.t, err)
	require.NoError(p.t, <-down)
}

// Plan, keep, log, undo: with a finger on a phone.
func TestByTouchAlone(t *testing.T) {
	r := room(t)
	p := openSized(t, r.URL, "/rack", 390, 844)
	_, err := chromedp.Call(p.ctx, emulation.SetTouchEmulationEnabled, emulation.SetTouchEmulationEnabledParams{Enabled: true})
	require.NoError(t, err)
	p.finger("a, button", "New instrument")
	p.see("button", "Keep this instrument")
	p.finger("form input", "")
	p.until(`document.activeElement?.matches('form input')`, "a finger on the field should bring its keyboard up")
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
	p.until(`performance.getEntriesByType('resource').some((e) => /\/Correct-/.test(e.name) && e.responseEnd > 0)`, "what is needed without the server comes before it goes")
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
	ask[any](p, `new Promise((done) => { const opening = indexedDB.open('umberfrost')
		opening.onsuccess = () => {
			const tx = opening.result.transaction('outbox', 'readwrite')
			tx.objectStore('outbox').add({title: 'A note', at: '2026-03-12T15:00:00Z', shop: '', tab: '', tries: 0, entry: {
				id: '0195aaaa-0000-7000-8000-000000000009', kind: 'note', note: '   ', late: true, instrumentId: '`+fetchID(t, r.URL, "Avocet")+`',
				personId: '', deviceId: '0195aaaa-0000-7000-8000-00000000000a', deviceSeq: 900}})
			tx.oncomplete = () => { opening.result.close(); done() }
		} })`)
	time.Sleep(200 * time.Millisecond)
	p.visit(avocet)
	p.see("[data-kept]", "The shop refused it")
	p.click("[data-kept] button", "Correct it")
	p.fill("Note", "It was the booth's air")
	p.click("[data-kept] button", "Keep it so")
	p.gone("[data-kept]", "")
	p.see("[data-logbook] li", "“It was the booth's air”")
	notes := 0
	for _, l := range get[shop.InstrumentView](t, r.URL+"/api"+avocet).Log {
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
	ask[any](p, fmt.Sprintf(`(() => { const field = document.querySelector('[data-logbook] input')
		Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value').set.call(field, %s)
		field.dispatchEvent(new Event('input', {bubbles: true})) })()`, quote(text)))
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
			time.Sleep(300 * time.Millisecond)
			if ask[int](p, `document.documentElement.scrollWidth - innerWidth`) > 0 {
				assert.Fail(t, "wider than the page", "%d %s: %s", width, path, ask[[]string](p, `[...document.querySelectorAll('main *, nav *')]
					.filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest('.overflow-x-auto, .overflow-hidden, svg svg'))
					.map((e) => e.outerHTML.slice(0, 140)).slice(-6)`))
			}
		}
	}
}
