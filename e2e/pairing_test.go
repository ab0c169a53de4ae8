package e2e

import (
	"os"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/network"
	cdp "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
)

// foreign is a browser on another machine of the shop's network.
func foreign(t *testing.T, r *harness.Room, path string) *page {
	t.Helper()
	ctx, closePage, err := building.Page(768, 1024)
	require.NoError(t, err)
	t.Cleanup(closePage)
	require.NoError(t, harness.Foreign(ctx))
	p := &page{t: t, ctx: ctx, url: r.Network}
	p.visit(path)
	return p
}

// away takes a page's network away, and gives it back.
func (p *page) away(is bool) {
	p.t.Helper()
	all := &network.Conditions{Offline: is, DownloadThroughput: -1, UploadThroughput: -1}
	_, err := chromedp.Call(p.ctx, network.EmulateNetworkConditionsByRule,
		network.EmulateNetworkConditionsByRuleParams{MatchedNetworkConditions: []*network.Conditions{all}})
	require.NoError(p.t, err)
}

// code makes a code on a page of the shop for a device with a role.
func (p *page) code(role string) string {
	p.t.Helper()
	p.visit("/shop")
	p.click("[data-pairings] button", "Let a device in")
	p.fill("The device may", role)
	p.click("[data-pairings] button", "Make a code")
	p.see("[data-code-text]", "-")
	return p.text("[data-code-text]")
}

func TestASecondBrowserIsPairedAndLetGo(t *testing.T) {
	t.Parallel()
	r := room(t)
	here := open(t, r.URL, "/shop")
	tablet := foreign(t, r, "/rack")
	tablet.see("h1", "Pair this device")
	assert.NotContains(t, tablet.text("body"), "Avocet", "nothing of the shop is told to whoever asks")
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	assert.Empty(t, violations(t, tablet, string(axe), true))

	tablet.fill("Code", "0000-0000")
	tablet.click("button", "Pair this device")
	tablet.see("form", "this code is not known here")
	code := here.code("log and move work")
	assert.Empty(t, violations(t, here, string(axe), true))
	tablet.fill("Code", strings.ToLower(code))
	tablet.fill("What this device is called", "Bench tablet")
	tablet.click("button", "Pair this device")
	tablet.see("[data-tag]", "Avocet")
	here.visit("/shop")
	here.see("[data-pairings]", "Bench tablet may log and move work")

	// Its role: it logs, and changes nothing of the shop.
	tablet.gone("a", "New instrument")
	tablet.click("[data-log]", "Log done")
	tablet.see("[data-toast]", "Logged")
	here.visit("/log")
	here.see("main", "entered on Bench tablet")
	tablet.visit("/shop")
	tablet.see("main", "this device may not change it")
	tablet.see("[data-device]", "It is Bench tablet, and may log and move work")
	assert.True(t, ask[bool](tablet, `[...document.querySelectorAll('[data-people] button')].every(b => b.matches(':disabled'))`))
	assert.Equal(t, 403, told[int](tablet, `fetch('/api/pairings').then(r => r.status)`))

	// Who is on it, with a PIN where one is wanted.
	here.visit("/shop")
	here.click("button[aria-label='Change Tobin']", "")
	here.fill("PIN for paired devices, 4 to 8 digits", "4711")
	here.click("[data-people] button", "Set PIN")
	here.see("[data-toast]", "Tobin has a PIN now")
	tablet.visit("/rack")
	tablet.click("nav button", "Mara")
	tablet.see("[role=alertdialog]", "Tobin on this device")
	tablet.fill("PIN of Tobin", "0815")
	tablet.click("[role=alertdialog] button", "Be on this device")
	tablet.see("[role=alertdialog]", "this is not the PIN of Tobin")
	tablet.fill("PIN of Tobin", "4711")
	tablet.click("[role=alertdialog] button", "Be on this device")
	tablet.gone("[role=alertdialog]", "")
	tablet.see("nav button", "Tobin")
	here.visit("/shop")
	here.see("[data-pairings]", "Tobin is on it")

	// Withdrawn while it is away: it forgets what it has seen, and keeps what it has not sent.
	require.True(t, told[bool](tablet, `navigator.serviceWorker.ready.then(() => true)`), "its pages are kept")
	tablet.away(true)
	tablet.click("[data-log]", "Log done")
	tablet.see("[data-connection]", "kept here")
	require.Equal(t, 1, tablet.kept("outbox"))
	here.click("button[aria-label='Change Bench tablet']", "")
	here.click("[data-pairings] button", "Let it in no more")
	here.see("[data-pairings]", "withdrawn")
	tablet.away(false)
	tablet.see("h1", "This device is let in no more")
	tablet.see("[data-pair]", "One log entry made here has not been sent yet")
	require.Eventually(t, func() bool { return !tablet.keeps("bench") }, patience, 50*time.Millisecond,
		"what it has been shown is gone from it")
	assert.NotContains(t, tablet.text("body"), "Avocet")
	require.Equal(t, 1, tablet.kept("outbox"))

	// Paired again by the picture, it sends what it had kept.
	code = here.code("look, but change nothing")
	tablet.visit("/rack")
	require.NoError(t, chromedp.Do(tablet.ctx, chromedp.Navigate(r.Network+"/pair#"+code)))
	tablet.see("button", "Pair this device")
	tablet.click("button", "Pair this device")
	tablet.see("[data-connection]", "The shop refused it: This device may look")
	require.Equal(t, 1, tablet.kept("outbox"), "a device that may only look sends nothing, and loses nothing")
	tablet.gone("[data-log]", "Log")
	here.visit("/shop")
	here.click("button[aria-label='Change Bench tablet']", "")
	here.fill("It may", "log and move work")
	here.see("[data-pairings]", "may log and move work")
	tablet.click("[data-kept] button", "Try again")
	tablet.until(`document.querySelector('[data-connection]') === null`, "it is sent")
	require.Equal(t, 0, tablet.kept("outbox"))
	here.visit("/log")
	here.see("main", "sent later")
}

// Browsers keep no pages under a certificate whose warning was only clicked away: the device says what that costs.
func TestADeviceSaysThatItDoesNotTrustTheCertificate(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := foreign(t, r, "/pair")
	p.gone("main", "does not trust")
	_, err := chromedp.Call(p.ctx, cdp.AddScriptToEvaluateOnNewDocument, cdp.AddScriptToEvaluateOnNewDocumentParams{
		Source: `navigator.serviceWorker.register = () => Promise.reject(new DOMException('An SSL certificate error occurred.', 'SecurityError'))`})
	require.NoError(t, err)
	p.visit("/pair")
	p.see("[data-untrusted]", "This device does not trust the shop’s certificate.")
	assert.Equal(t, "application/x-x509-ca-cert", told[string](p, `fetch('/authority.crt').then(r => r.headers.get('Content-Type'))`))
}
