package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
)

var building *harness.Building

func TestMain(m *testing.M) {
	var err error
	if building, err = harness.Build(context.Background(), harness.Work); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	code := m.Run()
	building.Close()
	os.Exit(code)
}

// room is a copy of the demo room. Journeys run side by side, each in a room of its own, but for those by keyboard,
// drag and touch: they have the browser to themselves, as somebody has who works with their hands.
func room(t testing.TB) *harness.Room {
	t.Helper()
	r, err := building.Room(context.Background(), false)
	require.NoError(t, err)
	t.Cleanup(func() { r.Stop() })
	return r
}

// page is one person's browser tab.
type page struct {
	t   testing.TB
	ctx context.Context
	url string
}

// patience is how long a page may take to show something.
const patience = 60 * time.Second

func open(t testing.TB, url, path string) *page { return openSized(t, url, path, 1280, 800) }

func openSized(t testing.TB, url, path string, width, height int64) *page {
	t.Helper()
	ctx, closePage, err := building.Page(width, height)
	require.NoError(t, err)
	t.Cleanup(closePage)
	p := &page{t, ctx, url}
	p.visit(path)
	return p
}

func (p *page) visit(path string) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.Navigate(p.url+path)))
	p.see("h1", "")
}

// ask evaluates an expression in the page.
func ask[T any](p *page, expression string) T {
	p.t.Helper()
	value, err := chromedp.Run(p.ctx, chromedp.Evaluate[T](expression))
	require.NoError(p.t, err, expression)
	return value
}

// told evaluates an expression in the page that promises its value.
func told[T any](p *page, expression string) T {
	p.t.Helper()
	value, err := chromedp.Run(p.ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	require.NoError(p.t, err, expression)
	return value
}

// tabOf opens another tab of the same browser, with the same storage.
func tabOf(p *page, path string) *page {
	p.t.Helper()
	ctx, closeTab := chromedp.NewContext(p.ctx)
	p.t.Cleanup(closeTab)
	other := &page{p.t, ctx, p.url}
	other.visit(path)
	return other
}

// text is what the first element of a selector says, or empty.
func (p *page) text(selector string) string {
	p.t.Helper()
	return ask[string](p, fmt.Sprintf(`document.querySelector(%s)?.innerText ?? ''`, quote(selector)))
}

// see waits until some element of a selector is there and says something.
func (p *page) see(selector, words string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`[...document.querySelectorAll(%s)].some(e => e.innerText.includes(%s))`, quote(selector), quote(words)),
		fmt.Sprintf("%s should say %q", selector, words))
}

// gone waits until no element of a selector says something.
func (p *page) gone(selector, words string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`![...document.querySelectorAll(%s)].some(e => e.innerText.includes(%s))`, quote(selector), quote(words)),
		fmt.Sprintf("%s should not say %q", selector, words))
}

func (p *page) until(condition, complaint string) {
	p.t.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		value, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool]("Boolean("+condition+")"))
		if err == nil && value {
			return
		}
	}
	require.Fail(p.t, complaint, "the page says:\n%.1500s", p.text("body"))
}

// click clicks the first element of a selector that says something, once it can be pressed.
func (p *page) click(selector, words string) {
	p.t.Helper()
	p.see(selector, words)
	p.until(fmt.Sprintf(`[...document.querySelectorAll(%s)].find(e => e.innerText.includes(%s))?.matches(':not(:disabled)')`, quote(selector), quote(words)),
		words+" can be pressed")
	ask[bool](p, fmt.Sprintf(`(() => { const e = [...document.querySelectorAll(%s)].find(e => e.innerText.includes(%s)); e.scrollIntoView({block: 'center'}); e.focus(); e.click(); return true })()`,
		quote(selector), quote(words)))
}

// unfold opens a part of the page that is folded.
func (p *page) unfold(name string) {
	p.t.Helper()
	p.see("summary", name)
	ask[bool](p, fmt.Sprintf(`(() => { const d = [...document.querySelectorAll('summary')].find(e => e.innerText.includes(%s)).parentElement; d.open = true; return true })()`, quote(name)))
}

// layer opens a layer of the stack, or closes it again; ground does so with the wood below.
func (p *page) layer(id string) { p.t.Helper(); p.click("[data-layer="+quote(id)+"] button", "") }
func (p *page) ground()         { p.t.Helper(); p.click("[data-ground] button", "") }

// fill types into the field with this label, in place of what was there.
func (p *page) fill(label, value string) {
	p.t.Helper()
	p.see("label", label)
	ask[bool](p, fmt.Sprintf(`(() => {
		const label = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === %s)
		const field = document.getElementById(label.htmlFor)
		Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value').set.call(field, %s)
		field.dispatchEvent(new Event(field.tagName === 'SELECT' ? 'change' : 'input', {bubbles: true}))
		return true })()`, quote(label), quote(value)))
}

// commit types into a field that counts once it is left, and leaves it.
func (p *page) commit(label, value string) {
	p.t.Helper()
	p.see("label", label)
	ask[bool](p, fmt.Sprintf(`(() => { const label = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === %s)
		document.getElementById(label.htmlFor).focus(); return true })()`, quote(label)))
	p.fill(label, value)
	ask[bool](p, `(document.activeElement.blur(), true)`)
}

// pick types a day like 2026-05-29, or a moment like 2026-05-29T08:30, part by part into
// the field with this label, as it is written in a shop that has decided nothing.
func (p *page) pick(label, day string) {
	p.t.Helper()
	first := fmt.Sprintf(`[data-day-input=%s] [role=spinbutton]`, quote(label))
	p.see(first, "")
	ask[bool](p, fmt.Sprintf(`(() => { const e = document.querySelector(%s); e.scrollIntoView({block: 'center'}); e.focus(); return true })()`, quote(first)))
	at, err := time.Parse("2006-01-02", day[:10])
	require.NoError(p.t, err)
	p.press(at.Format("02012006") + strings.ReplaceAll(strings.TrimPrefix(day[10:], "T"), ":", ""))
}

func (p *page) press(keys string) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.KeyEvent(keys)))
}

func quote(text string) string {
	data, _ := json.Marshal(text)
	return string(data)
}

// kept is how much a store of the device holds: the outbox, what the shop does not have yet.
func (p *page) kept(store string) int {
	p.t.Helper()
	return told[int](p, `new Promise((tell, fail) => {
		const opening = indexedDB.open('umberfrost')
		opening.onerror = () => fail(opening.error)
		opening.onsuccess = () => {
			const counting = opening.result.transaction('`+store+`').objectStore('`+store+`').count()
			counting.onsuccess = () => { opening.result.close(); tell(counting.result) }
		}
	})`)
}

// keeps reports whether the device keeps something of the shop's under a name.
func (p *page) keeps(name string) bool {
	p.t.Helper()
	return told[bool](p, `new Promise((tell, fail) => {
		const opening = indexedDB.open('umberfrost')
		opening.onerror = () => fail(opening.error)
		opening.onsuccess = () => {
			const asking = opening.result.transaction('kept').objectStore('kept').getKey('`+name+`')
			asking.onsuccess = () => { opening.result.close(); tell(asking.result !== undefined) }
		}
	})`)
}

// empty waits until the shop has all that was logged on the device.
func (p *page) empty() {
	p.t.Helper()
	require.Eventually(p.t, func() bool { return p.kept("outbox") == 0 }, patience, 100*time.Millisecond, "all of it should be sent")
}
