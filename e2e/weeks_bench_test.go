package e2e

import (
	"context"
	"encoding/json"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/tracing"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
)

// BenchmarkWeeksOf200Instruments goes over the Weeks screen of a shop of 200
// instruments at 12 weeks, as a person does: panning, zooming, scrolling, dragging a
// sitting. It reports what the browser's own trace says of its main thread, in
// milliseconds a task, and how much is in the page.
func BenchmarkWeeksOf200Instruments(b *testing.B) {
	r := roomOf(b, harness.Kind{Thinks: true})
	fill(b, r, 192)
	p := open(b, r.URL, "/weeks")
	p.click("button", "12 weeks")
	p.spotOf("[data-week-row='Sanderling'] [data-bead]")
	p.within(2*time.Minute, `document.querySelector("[data-threads] a[href] ~ span [data-chance]")`) // the background is done with 200 plans of 200 instruments
	for b.Loop() {
		tasks := p.trace(func() { p.wander() })
		require.NotEmpty(b, tasks)
		slices.Sort(tasks)
		b.ReportMetric(tasks[len(tasks)-1], "ms-longest-task")
		b.ReportMetric(tasks[len(tasks)*99/100], "ms-p99-task")
		b.ReportMetric(float64(ask[int](p, `document.querySelectorAll('*').length`)), "elements")
	}
}

// wander does what hands do on the screen.
func (p *page) wander() {
	p.tabTo("[data-threads]", "")
	for range 8 {
		p.press(kb.ArrowRight)
	}
	for range 8 {
		p.press(kb.ArrowLeft)
	}
	for range 4 {
		p.press("+")
	}
	for range 4 {
		p.press("-")
	}
	middle := p.spotOf("[data-threads]")
	for _, by := range []spot{{0.1, 400}, {0.1, 1200}, {0.1, 3000}, {0.1, -4600}, {300, 0.1}, {-300, 0.1}} {
		p.wheel(middle, by.X, by.Y, 0)
		p.rest()
	}
	p.click("button", "Today") // from wherever that has led
	p.click("button", "12 weeks")
	p.wheel(p.spotOf("[data-threads]"), 0.1, -99999, 0)
	bead := p.beadInReach()
	p.mouse(input.DispatchMouseEventTypeMousePressed, bead)
	for step := range 30 {
		p.mouse(input.DispatchMouseEventTypeMouseMoved, spot{bead.X + float64(4*step), bead.Y})
		time.Sleep(16 * time.Millisecond)
	}
	p.see("[data-move-bar]", "")
	const free = `(() => { const r = [...document.querySelectorAll('[data-glow]')].map((e) => e.getBoundingClientRect()).find((r) => r.width > 0.8 && r.x > innerWidth / 2 && r.x < innerWidth - 100)
		return r && { X: r.x + r.width / 2, Y: r.y + 5 } })()`
	p.until(free, "it may be put somewhere")
	there := spot{ask[spot](p, free).X, bead.Y}
	p.mouse(input.DispatchMouseEventTypeMouseMoved, there)
	p.mouse(input.DispatchMouseEventTypeMouseReleased, there)
	p.see("[data-sum]", "")
	p.click("[data-tray] button", "Drop")
	p.rest()
}

// beadInReach is the middle of a planned bead that lies bare in the right half of the
// screen: at twelve weeks many lie over one another, and some beyond its edge.
func (p *page) beadInReach() spot {
	const bare = `[...document.querySelectorAll('[data-bead][aria-label*=planned]')].map((e) => {
		const r = e.getBoundingClientRect()
		const at = { X: r.x + r.width / 2, Y: r.y + r.height / 2 }
		return { at, bare: at.X > innerWidth / 2 && at.X < innerWidth - 200 && at.Y < innerHeight - 150 && e.contains(document.elementFromPoint(at.X, at.Y)) }
	}).find((b) => b.bare)?.at`
	p.until(bare, "some bead should lie bare")
	return ask[spot](p, bare)
}

// trace is how long each task of the page's main thread took while something was
// done, in milliseconds, by the browser's own tracing.
func (p *page) trace(do func()) []float64 {
	p.t.Helper()
	type event struct {
		Name string
		Dur  float64 // µs
		PID  int
		TID  int
		Args struct{ Name string }
	}
	var mu sync.Mutex
	var events []event
	done := make(chan struct{})
	listening, stop := context.WithCancel(p.ctx)
	defer stop()
	require.NoError(p.t, chromedp.ListenBrowser(listening, func(ev any) {
		switch ev := ev.(type) {
		case *tracing.EventDataCollected:
			mu.Lock()
			defer mu.Unlock()
			for _, value := range ev.Value {
				var e event
				if json.Unmarshal([]byte(value), &e) == nil {
					events = append(events, e)
				}
			}
		case *tracing.EventTracingComplete:
			close(done)
		}
	}))
	_, err := chromedp.CallBrowser(p.ctx, tracing.Start, tracing.StartParams{TransferMode: tracing.StartTransferModeReportEvents,
		TraceConfig: &tracing.TraceConfig{IncludedCategories: []string{"toplevel", "disabled-by-default-devtools.timeline", "__metadata"}}})
	require.NoError(p.t, err)
	do()
	_, err = chromedp.CallBrowser(p.ctx, tracing.End, cdp.Empty{})
	require.NoError(p.t, err)
	<-done
	mu.Lock()
	defer mu.Unlock()
	main := make(map[[2]int]bool)
	for _, e := range events {
		if e.Name == "thread_name" && e.Args.Name == "CrRendererMain" {
			main[[2]int{e.PID, e.TID}] = true
		}
	}
	var tasks []float64
	for _, e := range events {
		if main[[2]int{e.PID, e.TID}] && (e.Name == "RunTask" || e.Name == "ThreadControllerImpl::RunTask") && e.Dur > 0 {
			tasks = append(tasks, e.Dur/1000)
		}
	}
	return tasks
}
