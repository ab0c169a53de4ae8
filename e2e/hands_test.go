package e2e

import (
	"fmt"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// spot is a place on the page.
type spot struct{ X, Y float64 }

// spotOf is the middle of the first element of a selector.
func (p *page) spotOf(selector string) spot {
	p.t.Helper()
	p.until(fmt.Sprintf(`document.querySelector(%s)`, quote(selector)), "there should be "+selector)
	return ask[spot](p, fmt.Sprintf(`(() => { const e = document.querySelector(%s); e.scrollIntoView({block: 'center'}); const r = e.getBoundingClientRect(); return {X: r.left + r.width / 2, Y: r.top + r.height / 2} })()`, quote(selector)))
}

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
