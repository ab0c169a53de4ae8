package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
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

// room is a copy of the demo room. Journeys run side by side, each in a room of its own.
func room(t testing.TB) *harness.Room { t.Helper(); return roomOf(t, harness.Kind{}) }

func roomOf(t testing.TB, kind harness.Kind) *harness.Room {
	t.Helper()
	r, err := building.Room(context.Background(), kind)
	require.NoError(t, err)
	t.Cleanup(func() { r.Stop() })
	return r
}

// page is one person's browser tab.
type page struct {
	t       testing.TB
	ctx     context.Context
	url     string
	touched bool // with a finger; else there is a mouse
	hasty   bool // the hand waits for no answer
}

// patience is how long a page may take to show something.
const patience = 60 * time.Second

func open(t testing.TB, url, path string) *page { return openSized(t, url, path, 1280, 800) }

func openSized(t testing.TB, url, path string, width, height int64) *page {
	t.Helper()
	p := blankPage(t, url, width, height)
	p.visit(path)
	return p
}

// blankPage is a tab with storage of its own that shows nothing yet.
func blankPage(t testing.TB, url string, width, height int64) *page {
	t.Helper()
	ctx, closePage, err := building.Page(width, height)
	require.NoError(t, err)
	t.Cleanup(closePage)
	return &page{t: t, ctx: ctx, url: url}
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

// asked awaits what an expression in the page promises; a page that is left while it is asked is an error.
func (p *page) asked(expression string, answer any) error {
	text, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](`Promise.resolve(`+expression+`).then((v) => JSON.stringify(v ?? null))`,
		chromedp.EvalAwaitPromise))
	if err != nil {
		time.Sleep(20 * time.Millisecond) // until the next page is there to be asked
		return err
	}
	return json.Unmarshal([]byte(text), answer)
}

// told evaluates an expression in the page that promises its value.
func told[T any](p *page, expression string) T {
	p.t.Helper()
	var value T
	require.NoError(p.t, p.asked(expression, &value), expression)
	return value
}

// tabOf opens another tab of the same browser, with the same storage.
func tabOf(p *page, path string) *page {
	p.t.Helper()
	ctx, closeTab := chromedp.NewContext(p.ctx)
	p.t.Cleanup(closeTab)
	other := &page{t: p.t, ctx: ctx, url: p.url}
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
	p.until(fmt.Sprintf(`[...document.querySelectorAll(%s)].some(e => (e.innerText ?? '').includes(%s))`, quote(selector), quote(words)),
		fmt.Sprintf("%s should say %q", selector, words))
}

// gone waits until no element of a selector says something.
func (p *page) gone(selector, words string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`![...document.querySelectorAll(%s)].some(e => (e.innerText ?? '').includes(%s))`, quote(selector), quote(words)),
		fmt.Sprintf("%s should not say %q", selector, words))
}

// until waits in the page until a condition holds.
func (p *page) until(condition, complaint string) {
	p.t.Helper()
	if !p.within(patience, condition) {
		p.fail(complaint, "")
	}
}

// fail ends a journey with what the page says, and a picture of it.
func (p *page) fail(complaint, why string) {
	p.t.Helper()
	picture := filepath.Join(os.TempDir(), strings.ReplaceAll(p.t.Name(), "/", "-")+".png")
	if png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot()); err == nil {
		os.WriteFile(picture, png, 0o644)
	}
	require.Fail(p.t, complaint, "%s\npictured in %s; the page says:\n%.1500s", why, picture, p.text("body"))
}

// within reports whether a condition comes to hold in some time; one that fails does not hold yet.
func (p *page) within(limit time.Duration, condition string) bool {
	holds := false
	for end := time.Now().Add(limit); !holds && time.Now().Before(end); {
		p.asked(fmt.Sprintf(`new Promise((tell) => {
			const end = performance.now() + %d
			const look = () => {
				let holds = false
				try { holds = Boolean(%s) } catch { }
				if (holds || performance.now() > end) tell(holds)
				else setTimeout(look, 40)
			}
			look()
		})`, min(5*time.Second, limit).Milliseconds(), condition), &holds)
	}
	return holds
}

// rest waits until the page has drawn itself anew and nothing of it grows or shrinks.
func (p *page) rest() {
	p.t.Helper()
	told[bool](p, `new Promise((tell) => {
		let before = '', same = 0
		const look = () => {
			const now = [document.documentElement.scrollWidth, document.documentElement.scrollHeight, document.querySelectorAll('*').length].join()
			same = now === before ? same + 1 : 0
			before = now
			if (same > 5) tell(true)
			else setTimeout(() => requestAnimationFrame(look), 30)
		}
		look()
	})`)
}

// layer opens a layer of the stack, or closes it again; ground does so with the wood below.
func (p *page) layer(id string) { p.t.Helper(); p.click("[data-layer="+quote(id)+"] button", "") }
func (p *page) ground()         { p.t.Helper(); p.click("[data-ground] button", "") }

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
