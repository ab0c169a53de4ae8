package e2e

import (
	"slices"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/heapprofiler"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/performance"
	"github.com/chromedp/chromedp"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// metric is one figure of the browser's own about a page, in seconds or bytes.
func (p *page) metric(name string) float64 {
	p.t.Helper()
	answer, err := chromedp.Call(p.ctx, performance.GetMetrics, cdp.Empty{})
	require.NoError(p.t, err)
	for _, m := range answer.Metrics {
		if m.Name == name {
			return m.Value
		}
	}
	require.Fail(p.t, "the browser has no such figure", name)
	return 0
}

// notes writes notes into the log of an instrument, each as it would come from another
// device, so slowly that a page hears of each alone.
func notes(t testing.TB, url, instrument string, n int, apart time.Duration) {
	t.Helper()
	person := get[views.Reference](t, url+"/api/reference").People[0].ID
	device := uuid.New()
	for i := range n {
		post(t, url+"/api/log", changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: "note", InstrumentID: uuid.MustParse(instrument),
			Note:     "heard",
			PersonID: person, DeviceID: device, DeviceSeq: int64(i + 1)}, 201)
		time.Sleep(apart)
	}
}

// BenchmarkLiveEvent is how long the page's scripts work when something happens
// elsewhere, in milliseconds an event: with the rack on screen, and with the instrument
// that it happened to. Memory is what a thousand events leave behind, in MB.
func BenchmarkLiveEvent(b *testing.B) {
	r := roomOf(b, harness.Kind{Thinks: true})
	avocet := fetchID(b, r.URL, "Avocet")
	for _, screen := range []struct{ name, path, there string }{
		{"rack", "/rack", "[data-log]"}, {"instrument", "/instruments/" + avocet, "[data-sheet] h2"}} {
		b.Run(screen.name, func(b *testing.B) {
			p := open(b, r.URL, screen.path)
			_, err := chromedp.Call(p.ctx, performance.Enable, performance.EnableParams{})
			require.NoError(b, err)
			p.see(screen.there, "")
			time.Sleep(3 * time.Second) // until what comes after the first screen has come
			const events = 20
			for b.Loop() {
				before := p.metric("ScriptDuration")
				notes(b, r.URL, avocet, events, 250*time.Millisecond)
				b.ReportMetric((p.metric("ScriptDuration")-before)*1000/events, "ms-script/event")
			}
		})
	}
	b.Run("memory", func(b *testing.B) {
		p := open(b, r.URL, "/rack")
		_, err := chromedp.Call(p.ctx, performance.Enable, performance.EnableParams{})
		require.NoError(b, err)
		p.see("[data-log]", "")
		heap := func() float64 {
			_, err := chromedp.Call(p.ctx, heapprofiler.CollectGarbage, cdp.Empty{})
			require.NoError(b, err)
			return p.metric("JSHeapUsedSize") / 1e6
		}
		notes(b, r.URL, avocet, 50, 10*time.Millisecond)
		for b.Loop() {
			before := heap()
			notes(b, r.URL, avocet, 1000, 10*time.Millisecond)
			b.ReportMetric(before, "MB-before")
			b.ReportMetric(heap(), "MB-after-1000")
		}
	})
}

// BenchmarkFirstScreen is how long it takes until the rack can be used, in
// milliseconds: for a browser that was never here, and for one that was.
func BenchmarkFirstScreen(b *testing.B) {
	r := roomOf(b, harness.Kind{Thinks: true})
	for b.Loop() {
		usable := func(p *page) float64 {
			start := time.Now()
			p.visit("/rack")
			p.see("[data-log]", "Log done")
			return float64(time.Since(start).Milliseconds())
		}
		ctx, closePage, err := building.Page(1280, 800)
		require.NoError(b, err)
		p := &page{t: b, ctx: ctx, url: r.URL}
		b.ReportMetric(usable(p), "ms-cold")
		told[bool](p, `navigator.serviceWorker.ready.then(() => true)`)
		b.ReportMetric(usable(p), "ms-warm")
		closePage()
	}
}

// BenchmarkWeeksUnderAHand is how long a frame takes while a hand pushes the days along
// and carries a sitting: the 95th of a hundred, in milliseconds of the main thread.
func BenchmarkWeeksUnderAHand(b *testing.B) {
	r := roomOf(b, harness.Kind{Thinks: true})
	p := open(b, r.URL, "/weeks")
	p.spotOf("[data-week-row='Sanderling'] [data-bead]")
	p95 := func(do func()) float64 {
		tasks := slices.DeleteFunc(p.trace(do), func(ms float64) bool { return ms < 1 }) // what draws, not what waits
		slices.Sort(tasks)
		return tasks[len(tasks)*95/100]
	}
	for b.Loop() {
		b.ReportMetric(p95(func() {
			from := p.spotOf("[data-threads]")
			p.mouse(input.DispatchMouseEventTypeMousePressed, from)
			for step := range 60 {
				p.mouse(input.DispatchMouseEventTypeMouseMoved, spot{from.X - float64(5*step), from.Y})
				time.Sleep(16 * time.Millisecond)
			}
			p.mouse(input.DispatchMouseEventTypeMouseReleased, spot{from.X - 300, from.Y})
		}), "ms-p95-pan")
		p.click("button", "Today")
		bead := p.beadInReach()
		b.ReportMetric(p95(func() {
			p.mouse(input.DispatchMouseEventTypeMousePressed, bead)
			for step := range 60 {
				p.mouse(input.DispatchMouseEventTypeMouseMoved, spot{bead.X + float64(2*step), bead.Y})
				time.Sleep(16 * time.Millisecond)
			}
		}), "ms-p95-drag")
		p.press("\x1b")
		p.mouse(input.DispatchMouseEventTypeMouseReleased, bead)
	}
}
