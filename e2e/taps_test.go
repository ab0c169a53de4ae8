package e2e

import (
	"testing"

	"github.com/chromedp/cdproto/emulation"
	protocol "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/demo"
	"umberfrost/internal/shop/views"
)

// slowPeople holds back who works here for two seconds, as a slow start does.
const slowPeople = `{
	const real = window.fetch
	window.fetch = async (...a) => {
		if (String(a[0]?.url ?? a[0]).endsWith('/api/reference')) await new Promise((go) => setTimeout(go, 2000))
		return real(...a)
	}
}`

// entries counts the standing entries of the log, over all instruments.
func entries(t *testing.T, url string) (n int) {
	for _, line := range get[[]views.InstrumentLine](t, url+"/api/instruments") {
		for _, l := range get[views.InstrumentView](t, url+"/api/instruments/"+line.ID.String()).Log {
			if !l.Struck && l.Kind == "done" {
				n++
			}
		}
	}
	return n
}

func TestATapBeforeThePeopleHaveComeIsKept(t *testing.T) {
	t.Parallel()
	r := room(t)
	before := entries(t, r.URL)
	p := open(t, r.URL, "/rack")
	_, err := chromedp.Call(p.ctx, protocol.AddScriptToEvaluateOnNewDocument,
		protocol.AddScriptToEvaluateOnNewDocumentParams{Source: slowPeople})
	require.NoError(t, err)
	p.visit("/rack")
	p.see("[data-log]", "Log done")
	assert.Equal(t, "", ask[string](p, `JSON.parse(localStorage.getItem('umberfrost.person') ?? '""')`), "nobody is known yet")
	p.twice("[data-log]", "Log done")
	p.see("[data-toast]", "Logged: Level for gloss, Whimbrel body")
	p.gone("[data-toast]", "Not logged")
	assert.Equal(t, before+1, entries(t, r.URL))
}

func TestTapsThatComeTogetherAreAllKept(t *testing.T) {
	t.Parallel()
	r := room(t)
	before := entries(t, r.URL)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.spotOf("[data-log]") // the page rests
	buttons := ask[[]spot](p, `[...document.querySelectorAll('[data-log]')].map((b) => {
		const r = b.getBoundingClientRect()
		const at = { X: r.x + r.width / 2, Y: r.y + r.height / 2 }
		return b.contains(document.elementFromPoint(at.X, at.Y)) && at
	}).filter(Boolean).toReversed()`) // from below: what a tap moves lies under it
	taps := len(buttons)
	require.Greater(t, taps, 1)
	for _, at := range buttons {
		p.pressAt(at)
	}
	p.empty()
	assert.Equal(t, before+taps, entries(t, r.URL))
	p.click("[data-toast] button", "Undo")
	p.see("[data-toast]", "Struck")
	assert.Equal(t, before+taps-1, entries(t, r.URL))
}

func TestCatchingUpIsOneQuestion(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	p.click("[data-instrument='Sanderling'] a", "")
	p.click("[data-steps] a, [data-steps] button", "Wet the grain")
	p.see("[data-sheet] h2", "Wet the grain")
	p.click("[data-sheet] button", "Log done")
	p.see("[role=alertdialog]", "and 3 more steps are not logged yet, and come before")
	p.see("[role=alertdialog]", "Done since")
	p.click("[role=alertdialog] button", "All of it is done, log all")
	p.see("[data-toast]", "Logged: Wet the grain")
	p.see("[data-logbook] li", "caught up later")
	p.see("[data-logbook]", "Pocket fitted dry, all holes drilled")
	p.click("[data-logbook] li:nth-of-type(2) button", "strike") // what it stands on
	p.see("[role=alertdialog]", "came after it and stands on it")
	p.click("[role=alertdialog] button", "Leave it")
	p.gone("[role=alertdialog]", "")
	p.gone("[data-logbook]", "Struck an entry")
	p.click("[data-toast] button", "Undo") // of the one tap that logged them all
	p.see("[data-toast]", "Struck")
	p.until(`document.querySelectorAll('[data-logbook] li .line-through').length === 5`, "each of the five should be struck")
}

func TestDoneSinceIsReadByTheClockOfTheShop(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	_, err := chromedp.Call(p.ctx, emulation.SetTimezoneOverride, emulation.SetTimezoneOverrideParams{TimezoneID: "Asia/Kolkata"})
	require.NoError(t, err)
	p.click("[data-instrument='Sanderling'] a", "")
	p.click("[data-steps] a, [data-steps] button", "Wet the grain")
	p.see("[data-sheet] h2", "Wet the grain")
	p.click("[data-sheet] button", "Log done")
	p.pick("Done since (empty: just now)", demo.Fixed.AddDate(0, 0, -1).Format("2006-01-02")+"T08:30")
	p.click("[role=alertdialog] button", "All of it is done, log all")
	p.see("[data-logbook] li", "yesterday 08:30")
}
