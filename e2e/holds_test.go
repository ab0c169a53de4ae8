package e2e

import (
	"context"
	"testing"
	"time"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"

	protocol "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTwentyTabsShareOneStream(t *testing.T) {
	t.Parallel()
	r := room(t)
	first := open(t, r.URL, "/rack")
	tabs := []*page{first}
	for range 19 {
		tabs = append(tabs, tabOf(first, "/rack"))
	}
	turns := func(which string) int {
		return told[int](first, `navigator.locks.query().then((q) => q.`+which+`.filter((l) => l.name === 'umberfrost-live').length)`)
	}
	assert.Equal(t, 1, turns("held"), "a browser opens few connections, and each stream would hold one")
	assert.Equal(t, 19, turns("pending"))
	last := tabs[len(tabs)-1]
	last.see("[data-log]", "Log done")
	last.click("[data-log]", "Log done")
	last.see("[data-toast]", "Logged: Level for gloss, Whimbrel body")
	tabs[7].see("[data-tag='Whimbrel body']", "Buff")

	first.visit("/instruments") // who held the stream has passed it on
	reference := get[views.Reference](t, r.URL+"/api/reference")
	left := tabs[7]
	left.visit("/shop")
	post(t, r.URL+"/api/changes", changes.Changes{ID: uuid.New(), PersonID: reference.People[0].ID,
		Changes: []changes.Change{{Kind: "hands", Name: "Wren"}}}, 201)
	left.see("[data-people]", "Wren")
}

func TestThePageOpensWithoutItsServer(t *testing.T) {
	t.Parallel()
	r := room(t)
	before := entries(t, r.URL)
	p := open(t, r.URL, "/rack")
	told[bool](p, `navigator.serviceWorker.ready.then(() => true)`)
	p.see("[data-log]", "Log done")
	require.Eventually(t, func() bool { return p.keeps("bench") }, patience, 100*time.Millisecond, "the bench should be kept")
	require.NoError(t, r.Stop())

	p.visit("/rack")
	p.see("[data-connection=network]", "The rack is as it was")
	p.see("[data-tag='Whimbrel body']", "Level for gloss")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Kept on this device")
	p.see("[data-not-sent]", "not sent yet")
	p.see("[data-tag='Whimbrel body']", "not sent yet")
	other := tabOf(p, "/rack")
	other.see("[data-connection]", "One log entry is kept here")
	other.click("[data-log]", "")
	other.see("[data-connection]", "2 log entries are kept here")
	p.see("[data-connection]", "2 log entries are kept here")
	p.click("[data-tag='Whimbrel body']", "")
	p.see("[data-sheet]", "Level for gloss")
	p.see("[data-not-sent]", "not sent yet")

	require.NoError(t, r.Start(context.Background()))
	p.gone("[data-connection]", "")
	p.empty()
	assert.Equal(t, before+2, entries(t, r.URL), "exactly once")
	p.see("[data-logbook] li", "sent later")
}

// failing answers the first two posts of a log entry with a fault of the server.
const failing = `{
	const real = window.fetch
	let left = 2
	window.fetch = async (...a) => {
		if (String(a[0]?.url ?? a[0]).endsWith('/api/log') && left-- > 0)
			return new Response('{"status":500,"title":"broken"}', {status: 500, headers: {'content-type': 'application/problem+json'}})
		return real(...a)
	}
}`

func TestAFaultOfTheServerLosesNoText(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	_, err := chromedp.Call(p.ctx, protocol.AddScriptToEvaluateOnNewDocument,
		protocol.AddScriptToEvaluateOnNewDocumentParams{Source: failing})
	require.NoError(t, err)
	p.visit("/instruments")
	p.click("[data-instrument='Avocet'] a", "")
	p.see("[data-logbook]", "Log")
	p.fillNote("a knot near the heel")
	p.see("[data-toast]", "Kept on this device")
	p.see("[data-connection]", "One log entry is kept here")
	p.see("[data-logbook] li", "a knot near the heel")
	p.gone("[data-connection]", "")
}

func TestNoKeyActsBelowADialog(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	before := entries(t, r.URL)
	p.see("[data-log]", "Log done")
	p.press("?")
	p.see("[role=dialog]", "Single keys act on this device")
	p.press("l2")
	p.gone("[data-toast]", "")
	p.see("[role=dialog]", "Keys")
	assert.Equal(t, "Rack · Umberfrost", ask[string](p, `document.title`))
	p.click("[role=dialog] input", "")
	p.press("\x1b")
	p.gone("[role=dialog]", "")
	p.press("l2")
	p.gone("[data-toast]", "")
	assert.Equal(t, "Rack · Umberfrost", ask[string](p, `document.title`), "they are turned off on this device")
	assert.Equal(t, before, entries(t, r.URL))
	p.visit("/rack")
	p.press("?")
	p.click("[role=dialog] input", "")
	p.press("\x1b")
	p.gone("[role=dialog]", "")
	p.press("2")
	p.see("h1", "Instruments")
	assert.Equal(t, "Instruments · Umberfrost", ask[string](p, `document.title`))
}

func TestFoundByAFewLetters(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.press("/")
	p.see("[role=dialog]", "Find or do")
	p.until(`document.activeElement?.tagName === 'INPUT'`, "one types at once")
	p.press("godw")
	p.see("[cmdk-item][data-selected=true]", "Godwit")
	p.press("\r")
	p.see("h1", "Godwit")
	p.gone("[role=dialog]", "")
}

func TestTheFocusStaysWithTheWork(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Logged")
	p.see("[data-tag='Whimbrel body']", "Buff")
	p.until(`document.activeElement?.matches('[data-log]')`, "what is next should have the focus")
	p.press("u")
	p.see("[data-toast]", "Struck")
	p.press("2")
	p.see("h1", "Instruments")
	p.until(`document.activeElement?.id === 'screen'`, "a new screen begins at its head")
}

func TestKeepIsInReachOnAPhone(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := openSized(t, r.URL, "/instruments/new", 390, 844)
	p.see("button", "Keep this instrument")
	p.see("[data-archetypes]", "Dark colour rubbed back")
	assert.Less(t, ask[float64](p, `document.querySelector('main header').getBoundingClientRect().height`), 330.0,
		"its head does not fill the page")
	bar := ask[[]float64](p, `(() => {
		const keep = [...document.querySelectorAll('button')].find((b) => b.offsetHeight > 0 && b.innerText.startsWith('Keep')).getBoundingClientRect()
		return [keep.top, keep.bottom, document.querySelector('nav').getBoundingClientRect().top]
	})()`)
	assert.Less(t, bar[1], bar[2]+0.5, "above the band of screens, without scrolling")
	assert.GreaterOrEqual(t, bar[0], 0.0)
	p.click("button", "Keep this instrument")
	p.until(`document.activeElement?.getAttribute('aria-invalid') === 'true'`, "the nearest fault should have the focus")
	p.fill("Name", "Redshank")
	p.pick("Promised day", "2026-05-29")
	p.see("[data-ready]", "Ready ")
}

// On the narrowest phone nothing runs out of the page, and what is pressed at the bench is large enough.
func TestTheNarrowestPhone(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := openSized(t, r.URL, "/rack", 320, 640)
	for path, there := range map[string]string{"/rack": "[data-tag]", "/instruments": "[data-instrument]", "/weeks": "[data-threads]",
		"/shop": "[data-people]", "/instruments/new": "form", "/instruments/" + fetchID(t, r.URL, "Avocet"): "[data-sheet] h2"} {
		p.visit(path)
		p.see(there, "")
		if ask[int](p, `document.documentElement.scrollWidth`) > 320 {
			assert.Fail(t, "wider than the page", "%s: %s", path, ask[[]string](p, `[...document.querySelectorAll('main *, nav *')]
				.filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest('.overflow-x-auto, .overflow-hidden, svg svg'))
				.map((e) => e.outerHTML.slice(0, 140)).slice(-6)`))
		}
		for _, small := range ask[[]string](p, `[...document.querySelectorAll('[data-log], [data-undo], nav a, nav button')]
			.filter((b) => b.offsetHeight > 0 && (b.offsetHeight < 44 || b.offsetWidth < 44)).map((b) => b.outerHTML.slice(0, 120))`) {
			assert.Fail(t, "smaller than 44 px", "%s: %s", path, small)
		}
	}
}

// fetchID is the id of an instrument of the room.
func fetchID(t testing.TB, url, name string) string {
	t.Helper()
	for _, line := range get[[]views.InstrumentLine](t, url+"/api/instruments") {
		if line.Name == name {
			return line.ID.String()
		}
	}
	require.Fail(t, "there is no "+name)
	return ""
}

func TestWhatWasStruckIsLoggedAgainAtItsOwnTime(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Logged: Level for gloss")
	p.click("[data-toast] button", "Undo")
	p.see("[data-toast]", "Struck")
	p.click("[data-toast] button", "Log it again")
	p.see("[data-tag='Whimbrel body']", "Buff")

	p.visit("/instruments/" + fetchID(t, r.URL, "Avocet"))
	p.see("[data-logbook] li", "Tape the fretboard")
	before := get[views.InstrumentView](t, p.url+"/api/instruments/"+fetchID(t, r.URL, "Avocet")).Log
	first := before[0]
	p.click("[data-logbook] li:first-of-type button", "strike")
	p.see("[data-toast]", "Struck")
	p.click("[data-logbook] li button", "log again")
	p.see("[data-toast]", "Logged")
	after := get[views.InstrumentView](t, p.url+"/api/instruments/"+fetchID(t, r.URL, "Avocet")).Log
	again := 0
	for _, l := range after {
		if l.Title == first.Title && l.Happened.At.Equal(first.Happened.At) && !l.Struck {
			again++
		}
	}
	assert.Equal(t, 1, again, "%s stands again, at %s", first.Title, first.Happened.Full)
}

// What an earlier version kept in local storage is sent; what cannot be read is put aside.
func TestWhatAnEarlierVersionKeptIsTakenOver(t *testing.T) {
	t.Parallel()
	r := room(t)
	before := entries(t, r.URL)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	sitting := get[views.Rack](t, r.URL+"/api/rack").Next[0]
	person := get[views.Reference](t, r.URL+"/api/reference").People[0]
	ask[any](p, `localStorage.setItem('umberfrost.outbox', JSON.stringify([{at: '2026-03-12T15:00:00Z', entry: {
		id: '0195aaaa-0000-7000-8000-000000000001', kind: 'done', stepId: '`+sitting.Event.StepID.String()+`', coat: 1,
		personId: '`+person.ID.String()+`', deviceId: '0195aaaa-0000-7000-8000-00000000000a', deviceSeq: 7}}]))`)
	p.visit("/rack")
	p.see("[data-tag='Whimbrel body']", "Buff")
	p.empty()
	assert.Equal(t, before+1, entries(t, r.URL))
	ask[any](p, `localStorage.setItem('umberfrost.outbox', '{broken')`)
	p.visit("/rack")
	p.see("[data-log]", "")
	p.until(`localStorage.getItem('umberfrost.outbox.broken') === '{broken'`, "it should be put aside")
}
