package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// A hand has a mouse, a finger and keys. It presses places, not elements: what is covered, off the screen, disabled or
// still moving cannot be pressed, and a journey that tries says why.

// spot is a place on the page.
type spot struct{ X, Y float64 }

// elements are those of a selector that say something, in text or label; those that say just that come first.
func elements(selector, words string) string {
	return fmt.Sprintf(`((words) => {
		const said = (e) => (e.innerText ?? e.textContent ?? '').trim()
		const all = [...document.querySelectorAll(%s)].filter((e) => said(e).includes(words) || (e.getAttribute('aria-label') ?? '').includes(words))
		return [...all.filter((e) => said(e) === words), ...all.filter((e) => said(e) !== words)]
	})(%s)`, quote(selector), quote(words))
}

// labelled is the field of a label.
func labelled(label string) string {
	return fmt.Sprintf(`[...document.querySelectorAll('label')].filter((l) => l.innerText.trim() === %s && l.control).map((l) => l.control)`, quote(label))
}

// place finds where a hand could press the first of some elements that is shown, or why it could not. It is brought into
// view as by a wheel or a finger: what no hand can scroll stays as it is.
const place = `((elements) => {
	const shown = elements.filter((e) => e.checkVisibility({ visibilityProperty: true }) && e.getClientRects().length > 0)
	const e = shown[0]
	if (!e) return { why: elements.length ? 'it is not shown' : 'it is not there' }
	if (e.matches(':disabled, [aria-disabled=true]')) return { why: 'it is disabled' }
	const name = (x) => x ? x.outerHTML.slice(0, 160) : 'nothing'
	let over
	const all = [0.5, 0.25, 0.75, 0.1, 0.9, 0.03, 0.97]
	const hit = (shares) => {
		const r = e.getBoundingClientRect()
		for (const down of shares)
			for (const across of shares) {
				const at = { X: r.left + across * r.width, Y: r.top + down * r.height }
				const there = document.elementFromPoint(at.X, at.Y)
				if (there && e.contains(there)) return at
				over ??= there
			}
		return undefined
	}
	const now = hit([0.5])
	if (now) return { at: now }
	const fixed = []
	for (let a = e.parentElement; a && a !== document.scrollingElement; a = a.parentElement)
		if (!/auto|scroll/.test(getComputedStyle(a).overflow)) fixed.push([a, a.scrollLeft, a.scrollTop])
	e.scrollIntoView({ block: 'center', inline: 'nearest', behavior: 'instant' })
	for (const [a, x, y] of fixed) { a.scrollLeft = x; a.scrollTop = y }
	over = undefined
	const then = hit(all)
	return then ? { at: then } : { why: over ? 'it lies under ' + name(over) : 'it is off the screen' }
})`

// reach is where a hand can press the first of some elements, once it has come to rest.
func (p *page) reach(elements, called string) spot {
	p.t.Helper()
	var now struct {
		At  *spot
		Why string
	}
	look := fmt.Sprintf(`new Promise((tell) => {
		const find = %s
		const start = performance.now()
		let before, same = 0
		const look = () => {
			const passed = performance.now() - start
			const list = %s
			const now = find(list)
			const asks = window.underWay > 0 || document.querySelector('main [aria-busy=true]')
			const comes = asks && passed < %d // what comes moves what is below it
			same = now.at && before?.at && !comes && now.at.X === before.at.X && now.at.Y === before.at.Y ? same + 1 : 0
			before = now
			if (same >= 2) tell(now)
			else if (passed > 5000) tell(now.at ? { why: 'it never comes to rest' } : now)
			else setTimeout(look, 60)
		}
		look()
	})`, place, elements, p.waits().Milliseconds())
	for end := time.Now().Add(patience); time.Now().Before(end); {
		if p.asked(look, &now) == nil && now.At != nil {
			return *now.At
		}
	}
	p.fail("no hand can press "+called, now.Why)
	return spot{}
}

// waits is how long a hand waits for what the page has asked for.
func (p *page) waits() time.Duration {
	if p.hasty {
		return 0
	}
	return 3 * time.Second
}

// spotOf is where a hand can press the first element of a selector.
func (p *page) spotOf(selector string) spot {
	p.t.Helper()
	return p.reach(elements(selector, ""), selector)
}

// click presses what says something with the mouse, or on a page that is touched with a finger.
func (p *page) click(selector, words string) {
	p.t.Helper()
	p.pressOn(elements(selector, words), fmt.Sprintf("%s %q", selector, words))
}

// point presses a part of a drawing, which has no text.
func (p *page) point(selector string) { p.t.Helper(); p.click(selector, "") }

func (p *page) pressOn(elements, called string) {
	p.t.Helper()
	p.pressAt(p.reach(elements, called))
}

func (p *page) pressAt(at spot) {
	p.t.Helper()
	if p.touched {
		p.tap(at)
		return
	}
	p.mouse(input.DispatchMouseEventTypeMouseMoved, at)
	p.mouse(input.DispatchMouseEventTypeMousePressed, at)
	p.mouse(input.DispatchMouseEventTypeMouseReleased, at)
}

// twice presses two times in a row, as a hand does that is not sure of the first.
func (p *page) twice(selector, words string) {
	p.t.Helper()
	at := p.reach(elements(selector, words), fmt.Sprintf("%s %q", selector, words))
	p.pressAt(at)
	p.pressAt(at)
}

// mouse does one thing with the mouse at a spot.
func (p *page) mouse(kind input.DispatchMouseEventType, at spot) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.MouseEvent(kind, at.X, at.Y, chromedp.ButtonLeft, chromedp.ClickCount(1))))
}

// drag presses at one spot, goes over the others, and looks before it lets go.
func (p *page) drag(look func(), from spot, over ...spot) {
	p.t.Helper()
	p.mouse(input.DispatchMouseEventTypeMousePressed, from)
	for _, to := range over {
		p.mouse(input.DispatchMouseEventTypeMouseMoved, to)
	}
	if look != nil {
		look()
	}
	p.mouse(input.DispatchMouseEventTypeMouseReleased, over[len(over)-1])
}

// wheel turns the wheel at a spot, with the keys held that are named.
func (p *page) wheel(at spot, x, y float64, held int64) {
	p.t.Helper()
	_, err := chromedp.Call(p.ctx, input.DispatchMouseEvent, input.DispatchMouseEventParams{Type: input.DispatchMouseEventTypeMouseWheel,
		X: at.X, Y: at.Y, DeltaX: x, DeltaY: y, Modifiers: held})
	require.NoError(p.t, err)
}

// openTouched opens a page on a device that is touched.
func openTouched(t testing.TB, url, path string, width, height int64) *page {
	t.Helper()
	p := blankPage(t, url, width, height)
	_, err := chromedp.Call(p.ctx, emulation.SetTouchEmulationEnabled, emulation.SetTouchEmulationEnabledParams{Enabled: true})
	require.NoError(t, err)
	p.touched = true
	p.visit(path)
	return p
}

// finger taps what says something.
func (p *page) finger(selector, words string) {
	p.t.Helper()
	p.tap(p.reach(elements(selector, words), fmt.Sprintf("%s %q", selector, words)))
}

// tap is a finger that comes down on a spot and leaves it again: quickly, however long the page takes to notice.
func (p *page) tap(at spot) {
	p.t.Helper()
	down := make(chan error, 1)
	go func() { down <- p.touch(input.DispatchTouchEventTypeTouchStart, at) }()
	time.Sleep(40 * time.Millisecond) // as long as a finger stays
	require.NoError(p.t, p.touch(input.DispatchTouchEventTypeTouchEnd))
	require.NoError(p.t, <-down)
}

// touch is one thing that fingers do: those on the screen after it.
func (p *page) touch(kind input.DispatchTouchEventType, at ...spot) error {
	points := []*input.TouchPoint{}
	for _, s := range at {
		points = append(points, &input.TouchPoint{X: s.X, Y: s.Y})
	}
	_, err := chromedp.Call(p.ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: kind, TouchPoints: points})
	return err
}

// press presses keys, one after the other.
func (p *page) press(keys string) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.KeyEvent(keys)))
}

// pressWith presses keys while others are held.
func (p *page) pressWith(held chromedp.Modifier, keys string) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.KeyEvent(keys, chromedp.KeyModifiers(held))))
}

// tabTo presses Tab until what has the focus is of a selector and says something, as somebody does who has no mouse.
func (p *page) tabTo(selector, words string) {
	p.t.Helper()
	there := fmt.Sprintf(`(() => { const e = document.activeElement
		return Boolean(e?.matches(%s) && (e.textContent + ' ' + (e.getAttribute('aria-label') ?? '')).includes(%s)) })()`, quote(selector), quote(words))
	for range 200 {
		if ask[bool](p, there) {
			return
		}
		p.press(kb.Tab)
	}
	p.fail(fmt.Sprintf("the tab key never comes to %s %q", selector, words),
		"it stands at "+ask[string](p, `document.activeElement?.outerHTML.slice(0, 200)`))
}

// walkTo tabs to where a row of things has its one stop, and walks along it by arrow keys.
func (p *page) walkTo(stop, words, selector string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`document.querySelector(%s)`, quote(selector)), "there should be "+selector)
	p.tabTo(stop, words)
	left := fmt.Sprintf(`document.querySelector(%s).getBoundingClientRect().left < document.activeElement.getBoundingClientRect().left`,
		quote(selector))
	for range 40 {
		if ask[bool](p, fmt.Sprintf(`document.activeElement.matches(%s)`, quote(selector))) {
			return
		}
		if ask[bool](p, left) {
			p.press(kb.ArrowLeft)
		} else {
			p.press(kb.ArrowRight)
		}
	}
	p.fail("the arrow keys never come to "+selector, "")
}

// write types in place of what a field says.
func (p *page) write(field, called, text string) {
	p.t.Helper()
	has := false
	for end := time.Now().Add(patience); !has && time.Now().Before(end); { // again where the page has moved away under it
		p.pressOn(field, called)
		has = p.within(2*time.Second, fmt.Sprintf(`(%s).includes(document.activeElement)`, field))
	}
	if !has {
		p.fail(called+" should have the keys", "")
	}
	p.pressWith(chromedp.ModifierCtrl, "a")
	if text == "" {
		text = kb.Delete
	}
	p.press(text)
}

// fill types into the field with this label, in place of what was there, or takes one of a list by its value or what it says.
func (p *page) fill(label, value string) {
	p.t.Helper()
	field := labelled(label)
	p.until(field+`.length > 0`, "there should be a field "+label)
	if ask[string](p, field+`[0].tagName`) == "SELECT" {
		p.take(field, label, value)
		return
	}
	p.write(field, label, value)
}

// take opens a list and goes down to one of it with the keys.
func (p *page) take(field, label, one string) {
	p.t.Helper()
	var list struct {
		Value string // of the one that is wanted
		Down  int    // how many can be chosen above it
	}
	wanted := fmt.Sprintf(`(() => {
		const can = [...%s[0].options].filter((o) => !o.disabled && !o.hidden)
		const at = Math.max(can.findIndex((o) => o.value === %s), can.findIndex((o) => o.text === %[2]s))
		const down = at >= 0 ? at : can.findIndex((o) => o.text.includes(%[2]s))
		return down >= 0 && { Value: can[down].value, Down: down }
	})()`, field, quote(one))
	p.until(wanted, label+" should offer "+one)
	taken := false
	for end := time.Now().Add(patience); !taken && time.Now().Before(end); {
		list = ask[struct {
			Value string
			Down  int
		}](p, wanted)
		p.pressOn(field, label)
		p.press(kb.Home + strings.Repeat(kb.ArrowDown, list.Down) + kb.Enter)
		taken = p.within(2*time.Second, fmt.Sprintf(`((list) => !list || list.value === %s)(%s[0])`, quote(list.Value),
			field)) // gone: it was chosen
	}
	if !taken {
		p.fail(label+" should be "+one, "")
	}
}

// commit types into a field that counts once it is left, and leaves it.
func (p *page) commit(label, value string) {
	p.t.Helper()
	p.fill(label, value)
	p.press(kb.Tab)
}

// pick types a day like 2026-05-29, or a moment like 2026-05-29T08:30, part by part into
// the field with this label, as it is written in a shop that has decided nothing.
func (p *page) pick(label, day string) {
	p.t.Helper()
	p.click(fmt.Sprintf(`[data-day-input=%s] [role=spinbutton]`, quote(label)), "")
	at, err := time.Parse("2006-01-02", day[:10])
	require.NoError(p.t, err)
	p.press(at.Format("02012006") + strings.ReplaceAll(strings.TrimPrefix(day[10:], "T"), ":", ""))
}

// unfold opens a part of the page that is folded.
func (p *page) unfold(name string) {
	p.t.Helper()
	p.see("summary", name)
	if !ask[bool](p, elements("summary", name)+`[0].parentElement.open`) {
		p.click("summary", name)
	}
}

// choose takes an item of a menu that a button opens.
func (p *page) choose(button, item string) {
	p.t.Helper()
	p.click("main button", button)
	p.click("[role=menuitem]", item)
	p.gone("[role=menuitem]", "")
}
