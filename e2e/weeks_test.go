package e2e

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// barrier is the sitting of Sanderling's that is moved in these journeys.
const barrier = "[data-week-row='Sanderling'] [data-bead][aria-label*='Groyne Pale Shellac']"

func twoWeeks(t *testing.T, r *harness.Room) *page {
	p := open(t, r.URL, "/weeks")
	p.click("button", "2 weeks")
	p.spotOf(barrier)
	return p
}

// noonOf is where the noon of a day stands across the screen.
func (p *page) noonOf(day string) float64 {
	return ask[float64](p, fmt.Sprintf(`(() => { const r = document.querySelector("[role=gridcell][data-day='%s']").getBoundingClientRect(); return r.left + r.width / 2 })()`, day))
}

func TestASittingIsPinnedByDrag(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := twoWeeks(t, r)
	from := p.spotOf(barrier)
	p.drag(func() {
		p.see("[data-move-to]", "Sun 22 Mar")
		p.see("[data-move-says]", "The shop is closed.") // where it may not be it says why
		p.until(`document.querySelectorAll('[data-glow]').length > 5`, "where it may be put should glow")
	}, from, spot{from.X + 10, from.Y}, spot{p.noonOf("2026-03-22"), from.Y})
	p.see("[data-toast]", "It stays where it was")
	from = p.spotOf(barrier)
	p.gone("[data-tray]", "")

	p.drag(func() {
		p.see("[data-move-to]", "Thu 19 Mar")
		p.see("[data-move-says]", "Sanderling") // the effect while moving
		p.until(`[...document.querySelectorAll('[data-row-effect]')].some(e => e.innerText.includes('later'))`, "the row should say so too")
	}, from, spot{from.X + 10, from.Y}, spot{p.noonOf("2026-03-19"), from.Y})
	p.see("[data-supposed]", "Coat of Groyne Pale Shellac, Sanderling body, on Thu 19 Mar")
	p.see("[data-sum]", "Sanderling")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Coat of Groyne Pale Shellac")
	p.until(`document.querySelector("[data-week-row='Sanderling'] [data-bead][aria-label*='Groyne Pale Shellac, pinned Thu']")`,
		"it should be pinned there")

	p.visit("/weeks") // a pin is seen, and lifted
	p.click("button", "2 weeks")
	p.click(barrier, "")
	p.see("[data-bead-card]", "pinned")
	p.click("[data-bead-card] button", "Let it go")
	p.see("[data-supposed]", "no longer pinned")
	p.see("[data-sum]", "")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "no longer pinned")
	p.until(`document.querySelector("[data-week-row='Sanderling'] [data-bead][aria-label*='planned Tue 09:']")`, "it should be back")
}

func TestASittingIsPinnedByKeyboard(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := twoWeeks(t, r)
	p.walkTo("[data-week-row='Sanderling'] [data-bead]", "", barrier)
	p.press(kb.Enter)
	p.see("[data-bead-card]", "Groyne Pale Shellac")
	p.see("[data-bead-card] [data-because]", "Tue 09:")
	p.until(`document.activeElement?.matches('[data-bead-card]')`, "the card should have the keyboard")
	for range 9 {
		if ask[bool](p, `document.activeElement.innerText === 'Move it'`) {
			break
		}
		p.press("\t")
	}
	p.press("\r")
	p.until(`document.activeElement?.matches('[data-move-bar]')`, "the bar should have the keyboard")
	p.until(`document.querySelectorAll('[data-glow]').length > 0`, "where it may be put should glow")
	// → with shift: a day
	require.NoError(t, chromedp.Do(p.ctx, chromedp.KeyEvent(kb.ArrowRight, chromedp.KeyModifiers(chromedp.ModifierShift))))
	p.see("[data-move-to]", "Thu 19 Mar") // over the Wednesday, on which the booth is closed
	require.NoError(t, chromedp.Do(p.ctx, chromedp.KeyEvent(kb.ArrowRight, chromedp.KeyModifiers(chromedp.ModifierShift))))
	p.see("[data-move-to]", "Fri 20 Mar")
	p.press(kb.ArrowRight)
	p.press(kb.ArrowLeft)
	p.see("[data-move-says]", "Sanderling")
	p.press("\x1b")
	p.gone("[data-move-bar]", "")
	p.gone("[data-tray]", "")

	p.walkTo("[data-week-row='Sanderling'] [data-bead]", "", barrier)
	p.press(kb.Enter)
	p.click("[data-bead-card] button", "Move it")
	p.until(`document.querySelectorAll('[data-glow]').length > 0`, "where it may be put should glow")
	p.press(kb.ArrowRight)
	p.see("[data-move-to]", "Tue 17 Mar")
	p.press("\r")
	p.see("[data-supposed]", "Coat of Groyne Pale Shellac, Sanderling body, on Tue 17 Mar")
	p.click("[data-tray] button", "Drop")
	p.gone("[data-tray]", "")
}

func TestBoothDaysArePainted(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/weeks")
	p.click("button", "2 weeks")
	cell := func(day, open string) string {
		return fmt.Sprintf(`[role=gridcell][aria-label*='the booth'][data-day='2026-03-%s'][data-open=%s]`, day, open)
	}
	from, to := p.spotOf(cell("19", "true")), p.spotOf(cell("20", "true"))
	p.drag(nil, from, spot{(from.X + to.X) / 2, from.Y}, to)
	p.see("[data-supposed]", "the booth closed on Thu 19 March")
	p.see("[data-supposed]", "the booth closed on Fri 20 March")
	p.see("[data-sum]", "later")
	p.walkTo("[role=gridcell]", "the booth", cell("18", "false"))
	p.press(" ") // a Wednesday, by keyboard
	p.see("[data-supposed]", "the booth open on Wed 18 March")
	p.visit("/rack") // it is supposed on every screen, and over a reload
	p.see("[data-supposed]", "the booth open on Wed 18 March")
	p.visit("/weeks")
	p.see("[data-sum]", "later")
	p.click("[data-tray] button", "Keep all")
	p.see("[data-toast]", "Kept: the booth closed on Thu 19 March; the booth closed on Fri 20 March; the booth open on Wed 18 March")
	p.click("button", "2 weeks")
	for day, open := range map[string]string{"18": "true", "19": "false", "20": "false"} {
		p.until(fmt.Sprintf(`document.querySelector(%s)`, quote(cell(day, open))), "day "+day+" should be kept so")
	}
	p.visit("/shop")
	p.see("[data-days] li", "Thu 19 March, the booth: closed")
	p.click("[data-days] button[aria-label='Thu 19 March, the booth, as usual']", "As usual")
	p.see("[data-sum]", "")
	p.click("[data-tray] button", "Keep it")
	p.gone("[data-days] li", "Thu 19 March")
}

func TestAWhatIfIsComparedAndKept(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("button", "What if")
	p.fill("What if", "hands")
	p.fill("Name, where you know it", "Wren")
	p.click("[role=dialog] button", "Suppose it")
	p.see("[data-supposed]", "one more pair of hands: Wren")
	p.visit("/instruments")
	p.click("[data-instrument='Sanderling'] a", "")
	p.click("button", "What if")
	p.fill("What if", "coats")
	p.fill("Step", "Clear, to the end")
	p.fill("How many coats more, or fewer with a minus", "12")
	p.click("[role=dialog] button", "Suppose it")
	p.see("[data-supposed]", "12 coats more on")
	p.see("[data-sum]", "later")
	p.click("[data-tray] button", "Compare")
	p.see("[role=dialog] [data-effect='Sanderling']", "day")
	p.see("[role=dialog]", "then")
	p.press("\x1b")
	before := p.text("header")
	p.twice("[data-tray] button", "Keep all")
	p.see("[data-toast]", "Kept: one more pair of hands: Wren; 12 coats more")
	p.gone("[data-tray]", "")
	p.until(fmt.Sprintf(`document.querySelector('header').innerText !== %s`, quote(before)), "its dates should move")
	p.see("[data-history] li", "one more pair of hands: Wren; 12 coats more")
	p.visit("/shop")
	p.see("[data-people]", "Wren")
}

func TestAProposalIsAccepted(t *testing.T) {
	t.Parallel()
	r := roomOf(t, harness.Kind{Empty: true, Thinks: true})
	neck := func(name, promise string) {
		post(t, r.URL+"/api/instruments", changes.NewInstrument{ID: uuid.New(), Name: name, Outline: "slab", Promise: promise,
			Wish: recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{
				recipe.PieceWish{Kind: recipe.Neck, Wood: "maple-hard", Length: "650 mm", Width: "51 mm"}.Ending("hardwax-oil", "satin")}}},
			201)
	}
	for n := range 9 {
		neck(fmt.Sprint("Stint ", n), "2026-06-30")
	}
	p := open(t, r.URL, "/weeks")
	neck("Dunlin", "2026-03-27") // added last, promised first
	p.see("[data-better]", "on Dunlin")
	p.click("[data-better] button", "Look at it")
	p.see("[role=dialog] [data-effect='Dunlin']", "its promise would hold")
	p.until(`document.querySelectorAll('[role=dialog] svg').length > 0`, "before and after should be drawn")
	p.click("[role=dialog] button", "Accept this order")
	p.see("[data-toast]", "The new order of work holds.")
	p.gone("[data-better]", "on Dunlin")
	p.visit("/instruments")
	p.click("[data-instrument='Dunlin'] a", "")
	p.see("[data-history] li", "a better order of work")
}

func TestTwoBrowsersSeeEachOthersChange(t *testing.T) {
	t.Parallel()
	r := room(t)
	mara, tobin := open(t, r.URL, "/weeks"), open(t, r.URL, "/shop")
	tobin.see("[data-people]", "Tobin")
	mara.spotOf("[data-week-row]")
	mara.click("button", "What if")
	mara.fill("What if", "hands")
	mara.fill("Name, where you know it", "Wren")
	mara.click("[role=dialog] button", "Suppose it")
	mara.see("[data-sum]", "")
	mara.click("[data-tray] button", "Keep it")
	mara.see("[data-toast]", "Kept")
	tobin.see("[data-people]", "Wren") // the settings are never asked for again by themselves

	require.NoError(t, r.Stop()) // the stream outlives its server
	require.NoError(t, r.Start(context.Background()))
	reference := get[views.Reference](t, r.URL+"/api/reference")
	post(t, r.URL+"/api/changes", changes.Changes{ID: uuid.New(), PersonID: reference.People[0].ID,
		Changes: []changes.Change{{Kind: "hands", Name: "Plover"}}},
		201)
	tobin.see("[data-people]", "Plover")
	changed := time.Now() // and once the stream is back, without any delay that a person would notice
	post(t, r.URL+"/api/changes", changes.Changes{ID: uuid.New(), PersonID: reference.People[0].ID,
		Changes: []changes.Change{{Kind: "hands", Name: "Dotterel"}}},
		201)
	tobin.see("[data-people]", "Dotterel")
	t.Logf("a change was seen on the other page after %d ms", time.Since(changed).Milliseconds())
}

func TestSettingsSayWhatTheyDoBeforeTheyAreKept(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/shop")
	p.fill("Caution on waits", "4")
	p.see("[data-fault]", "a number from 1")
	p.fill("Caution on waits", "1.6")
	p.see("[data-keep-row]", "later")
	p.visit("/shop") // a reload keeps what was typed
	p.see("[data-keep-row]", "later")
	p.click("[data-keep-row] button", "Keep the shop so")
	p.see("[data-toast]", "caution × 1.6 instead of × 1.25")

	// the usual air of a place, as a curve that is pulled
	knot := "[data-air='the drying loft'] [role=slider]"
	from := p.spotOf(knot)
	p.drag(nil, from, spot{from.X, from.Y - 10}, spot{from.X, from.Y - 30})
	p.see("[data-air='the drying loft'] [data-keep-row]", "")
	p.press(kb.Tab) // from the knot that was pulled to the next
	p.until(fmt.Sprintf(`document.activeElement === document.querySelectorAll(%s)[1]`, quote(knot)), "the next knot should have the keys")
	p.press(kb.ArrowUp) // and by arrow keys
	p.click("[data-air='the drying loft'] [data-keep-row] button", "Keep this air")
	p.see("[data-toast]", "other usual air in the drying loft")
	p.until(fmt.Sprintf(`Number(document.querySelector(%s).getAttribute('aria-valuenow')) > 24`, quote(knot)),
		"what was pulled should be kept")
}

func TestWeeksByTouchOnATablet(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := openTouched(t, r.URL, "/weeks", 768, 1024)
	p.click("button", "2 weeks")
	p.finger(barrier, "") // a tap opens it
	p.see("[data-bead-card]", "Groyne Pale Shellac")
	p.press("\x1b")
	p.gone("[data-bead-card]", "")
	from := p.spotOf(barrier)
	labels := func() string {
		return ask[string](p, `document.querySelector('[role=grid]').previousElementSibling.textContent`)
	}
	before := labels()
	touch := func(kind input.DispatchTouchEventType, at ...spot) { require.NoError(t, p.touch(kind, at...)) }
	touch(input.DispatchTouchEventTypeTouchStart, from)
	touch(input.DispatchTouchEventTypeTouchMove, spot{from.X + 20, from.Y})
	touch(input.DispatchTouchEventTypeTouchMove, spot{from.X + 75, from.Y})
	p.see("[data-move-to]", "Mar")
	touch(input.DispatchTouchEventTypeTouchEnd)
	p.gone("[data-move-bar]", "")
	assert.Equal(t, before, labels(), "a finger on a bead moves the bead, not the days")

	empty := spot{from.X - 40, from.Y - 160}
	touch(input.DispatchTouchEventTypeTouchStart, empty)
	touch(input.DispatchTouchEventTypeTouchMove, spot{empty.X - 60, empty.Y})
	touch(input.DispatchTouchEventTypeTouchMove, spot{empty.X - 200, empty.Y})
	touch(input.DispatchTouchEventTypeTouchEnd)
	p.until(fmt.Sprintf(`document.querySelector('[role=grid]').previousElementSibling.textContent !== %s`, quote(before)),
		"a finger beside it pans")
	assert.LessOrEqual(t, ask[int](p, `document.documentElement.scrollWidth`), 768)
	for _, height := range ask[[]float64](p,
		`[...document.querySelectorAll('main header button')].map(b => b.getBoundingClientRect().height)`) {
		assert.GreaterOrEqual(t, height, 44.0)
	}
}

func TestDaysArePannedAndZoomedByKeyboardAndWheel(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/weeks")
	list := p.spotOf("[data-threads]")
	const day = `document.querySelector('[role=gridcell][data-day="2026-03-18"]').getBoundingClientRect()`
	// changed waits until a side of a day is more than it was, or less, and answers with what it is then.
	changed := func(what, side string, than float64, more bool) float64 {
		t.Helper()
		is := map[bool]string{true: ">", false: "<"}[more]
		p.until(fmt.Sprintf("%s.%s %s %g", day, side, is, than), what)
		return ask[float64](p, day+"."+side)
	}
	now := func(side string) float64 { return ask[float64](p, day+"."+side) }
	const ctrl, shift = 2, 8
	wide, at := now("width"), now("left")
	p.wheel(list, 0.1, -100, ctrl)
	changed("ctrl and the wheel should zoom in", "width", wide, true)
	p.wheel(list, 0.1, 100, ctrl)
	p.wheel(list, 120, 0.1, 0)
	changed("a sideways wheel should pan", "left", at, false)
	p.click("button", "Today")
	at = now("left")
	p.wheel(list, 0.1, 120, shift)
	changed("shift and the wheel should pan", "left", at, false)
	p.click("button", "6 weeks")
	p.tabTo("[data-threads]", "")
	wide = now("width")
	p.press("+")
	changed("plus should zoom in", "width", wide, true)
	p.press("-")
	p.press("-")
	changed("minus should zoom out", "width", wide, false)
	at = now("left")
	p.press(kb.ArrowLeft)
	changed("an arrow should pan", "left", at, true)
}

func TestWhatIsSupposedOutlivesALostServerAndASecondTab(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/weeks")
	p.click("button", "What if")
	p.fill("What if", "hours")
	p.fill("Open, such as 09:00–12:30, 1:30–5:30pm", "early")
	p.click("[role=dialog] button", "Suppose it")
	p.see("[data-tray] [role=alert]", "write it like 09:00–12:30")
	assert.True(t, ask[bool](p, `[...document.querySelectorAll('[data-tray] button')].find(b => b.innerText === 'Keep it').disabled`),
		"what cannot be is not kept")
	p.click("[data-supposed] button", "")
	p.gone("[data-tray]", "")

	p.click("button", "What if")
	p.fill("What if", "warmer")
	p.click("[role=dialog] button", "Suppose it") // two degrees
	p.see("[data-sum]", "earlier")
	// Another tab of the same device adds to it.
	ask[any](p, `(() => {
		const list = JSON.parse(localStorage.getItem('umberfrost.supposing'))
		localStorage.setItem('umberfrost.supposing', JSON.stringify([...list, {kind: 'hands', name: 'Wren'}]))
		window.dispatchEvent(new StorageEvent('storage', {key: 'umberfrost.supposing'}))
	})()`)
	p.see("[data-supposed]", "one more pair of hands: Wren")

	require.NoError(t, r.Stop())
	p.see("[data-connection=network]", "cannot be reached")
	p.see("[data-supposed]", "Wren")
	require.NoError(t, r.Start(context.Background()))
	p.gone("[data-connection]", "")
	p.see("[data-sum]", "earlier")
	p.click("[data-tray] button", "Keep all")
	p.see("[data-toast]", "Kept: the room 2 °C warmer; one more pair of hands: Wren")
}
