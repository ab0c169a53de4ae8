package e2e

import (
	"os"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

func shot(p *page, name string) {
	time.Sleep(700 * time.Millisecond)
	b, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	require.NoError(p.t, err)
	os.WriteFile("/tmp/shot-"+name+".png", b, 0o644)
}

func TestZZ(t *testing.T) {
	r := room(t)
	p := openSized(t, r.URL, "/weeks", 1280, 800)
	p.see("[data-load]", "A day")
	shot(p, "weeks")
	p = openSized(t, r.URL, "/shop", 390, 844)
	p.see("[data-air-point]", "A point")
	ask[bool](p, `(() => {document.querySelector("[data-air]").scrollIntoView(); return true})()`)
	shot(p, "air390")
}

func OldZZ(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/shop")
	p.see("[data-device]", "Single keys")
	shot(p, "shop")
	ask[bool](p, `(() => {document.querySelector('[data-device] label').click(); document.querySelector('[data-device]').scrollIntoView(); return true})()`)
	ask[bool](p, `(() => {[...document.querySelectorAll('[data-device] label')].find(l=>l.innerText.includes('Figures')).click(); return true})()`)
	p.see("[data-device]", "How figures")
	ask[bool](p, `(() => {const s=[...document.querySelectorAll('[data-device] select')].slice(1,3); for (const f of s){f.value='other'; f.dispatchEvent(new Event('change',{bubbles:true}))} return true})()`)
	shot(p, "device")
	p.visit("/rack")
	p.see("[data-room]", "°F")
	shot(p, "rackF")
	p.visit("/instruments/new")
	p.fill("Name", "Redshank")
	p.pick("Promised day", "2026-05-29")
	p.see("[data-forecast]", "Ready")
	shot(p, "newF")
	ask[bool](p, `(() => {[...document.querySelectorAll('button')].find(b=>b.getAttribute('aria-label')?.startsWith('Calendar')).click(); return true})()`)
	shot(p, "cal")
}
