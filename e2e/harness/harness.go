// Package harness runs the real application, on a real database, with the demo
// room at a fixed present, and a headless Chromium to drive it.
package harness

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"os"
	"os/exec"
	"sync"
	"sync/atomic"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/network"
	protocol "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"

	"umberfrost/internal/demo"
	"umberfrost/internal/localpg"
	"umberfrost/internal/shop"
	"umberfrost/internal/store"
	"umberfrost/internal/trust"
	"umberfrost/internal/web"
	"umberfrost/ui"
)

// template is the database that every room is a copy of.
const template = "room"

// Name is what a room is called on its network.
const Name = "shop.local"

// placed and draws are how much a room that thinks ahead does so after every change: a tenth of the usual.
const (
	placed = 17_000
	draws  = 20
)

// chromium is Chromium as it shows pages, without windows of its own around them: half the work.
var chromium = cmp.Or(os.Getenv("CHROMIUM"), "chromium-headless-shell")

// pageTime is how long one page may be driven.
const pageTime = 10 * time.Minute

// Building is one database server with a demo room to copy, and one browser.
type Building struct {
	Thorough bool // its rooms that think ahead do so as much as a shop does

	dir     string
	server  *localpg.Server
	rooms   atomic.Int64
	browser context.Context
	trust   *trust.Kept
	close   []func()
}

// Build starts the server, fills a room with work and starts the browser.
func Build(ctx context.Context, work demo.Room) (*Building, error) {
	dir, err := os.MkdirTemp("", "umberfrost-e2e-")
	if err != nil {
		return nil, err
	}
	os.Chmod(dir, 0o711) // the database server may run as another user
	b := &Building{dir: dir, close: []func(){func() { os.RemoveAll(dir) }}}
	if b.server, err = localpg.Start(ctx, dir+"/pg", localpg.Options{Throwaway: true}); err != nil {
		return nil, errors.Join(err, b.Close())
	}
	b.close = append(b.close, func() { b.server.Stop() })
	if err := b.fill(ctx, work); err != nil {
		return nil, errors.Join(err, b.Close())
	}
	if b.trust, err = trust.Make(dir+"/trust", []string{Name, "localhost"}, time.Now); err != nil {
		return nil, errors.Join(err, b.Close())
	}
	if err := b.startBrowser(ctx); err != nil {
		return nil, errors.Join(err, b.Close())
	}
	return b, nil
}

// Close stops everything, the last started first.
func (b *Building) Close() error {
	for i := len(b.close) - 1; i >= 0; i-- {
		b.close[i]()
	}
	return nil
}

func (b *Building) fill(ctx context.Context, work demo.Room) error {
	if err := b.server.CreateDatabase(ctx, template, ""); err != nil {
		return err
	}
	s, err := store.Open(ctx, b.server.URL(template))
	if err != nil {
		return err
	}
	defer s.Close() // a template may have no connections
	if err := s.Migrate(ctx); err != nil {
		return err
	}
	_, err = demo.Fill(ctx, s, demo.Fixed, work)
	return err
}

func (b *Building) startBrowser(ctx context.Context) error {
	path, err := exec.LookPath(chromium)
	if err != nil {
		return fmt.Errorf("no Chromium: install Debian's package %s: %w", chromium, err)
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath(path), chromedp.NoSandbox, chromedp.DisableGPU, chromedp.NoFirstRun,
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true),
		chromedp.Flag("disable-sync", true), chromedp.Flag("disable-quic", true), chromedp.Flag("force-device-scale-factor", "1"),
		chromedp.Flag("ignore-certificate-errors-spki-list", b.spki()), // it trusts the shop's authority, as a device that has taken it
		chromedp.Flag("host-resolver-rules", "MAP "+Name+" 127.0.0.1"),
		chromedp.Flag("hide-scrollbars", true), chromedp.UserDataDir(b.dir+"/browser"), chromedp.WSURLReadTimeout(time.Minute))
	allocator, stop := chromedp.NewExecAllocator(ctx, options...)
	browser, cancel := chromedp.NewContext(allocator)
	b.close = append(b.close, stop, cancel)
	b.browser = browser
	return chromedp.Do(browser)
}

// spki is what a browser knows the server's certificate by.
func (b *Building) spki() string {
	sum := sha256.Sum256(b.trust.Leaf().RawSubjectPublicKeyInfo)
	return base64.StdEncoding.EncodeToString(sum[:])
}

// Room is one running application on its own database.
type Room struct {
	URL      string // on the shop's own machine
	Network  string // for other devices, over TLS
	database string
	building *Building
	now      time.Time
	mu       sync.Mutex
	store    *store.Store
	failed   error // how serving ended
	kind     Kind
	stop     context.CancelFunc // of what it does beside answering
	watch    sync.WaitGroup
	address  string
	network  string
}

// Kind is what a room is like when it is opened. The zero one is the demo room, which does not think ahead.
type Kind struct {
	Empty  bool // without instruments
	Blank  bool // and nobody has said what it is like
	Thinks bool // works out a better order and the chances in the background
}

// Room opens a room of its own database.
func (b *Building) Room(ctx context.Context, kind Kind) (*Room, error) {
	r := &Room{database: fmt.Sprintf("room_%d", b.rooms.Add(1)), building: b, now: demo.Fixed, kind: kind}
	from := template
	if kind.Empty || kind.Blank {
		from = ""
	}
	if err := b.server.CreateDatabase(ctx, r.database, from); err != nil {
		return nil, err
	}
	return r, r.Start(ctx)
}

// Start serves the room, at the same address as before when it was stopped.
func (r *Room) Start(ctx context.Context) error {
	var err error
	if r.store, err = store.Open(ctx, r.building.server.URL(r.database)); err != nil {
		return err
	}
	if err := r.store.Migrate(ctx); err != nil {
		return err
	}
	service, err := shop.New(r.store, r.clock)
	if err != nil {
		return err
	}
	switch {
	case !r.kind.Thinks:
		service.ThinkWithin(0, 0)
	case !r.building.Thorough:
		service.ThinkWithin(placed, draws)
	}
	if !r.kind.Blank {
		if _, err := service.Prepare(ctx, shop.Default("Europe/London"), "Finisher"); err != nil {
			return err
		}
	}
	if r.address == "" {
		r.address = "127.0.0.1:0"
	}
	listener, err := web.Listen(r.address, nil)
	if err != nil {
		return err
	}
	r.address = listener.Addr().String()
	r.URL = "http://" + r.address
	if r.network == "" {
		r.network = "127.0.0.1:0"
	}
	secure, err := web.Listen(r.network, r.building.trust.Config())
	if err != nil {
		return err
	}
	r.network = secure.Addr().String()
	_, port, _ := net.SplitHostPort(r.network)
	r.Network = "https://" + net.JoinHostPort(Name, port)
	log := slog.New(slog.NewTextHandler(io.Discard, nil))
	app := web.New(service, ui.Files(), web.Options{Log: log, Named: r.building.trust.Named,
		Addresses: func(context.Context) []string { return []string{r.Network} }, Authority: r.building.trust.Authority.Raw})
	watching, stop := context.WithCancel(context.Background())
	r.stop = stop
	r.watch.Go(func() { service.Watch(watching, log) })
	r.watch.Go(func() { r.failed = web.Serve(watching, app, listener, secure) })
	return nil
}

// Stop ends the application and its connections; the database stays.
func (r *Room) Stop() error {
	r.stop()
	r.watch.Wait()
	return errors.Join(r.failed, r.store.Close())
}

// Advance moves the present on.
func (r *Room) Advance(by time.Duration) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.now = r.now.Add(by)
}

func (r *Room) clock() time.Time {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.now
}

// StopDatabase stops the database server under every room.
func (b *Building) StopDatabase() error { return b.server.Stop() }

// ResumeDatabase starts it again where it was.
func (b *Building) ResumeDatabase(ctx context.Context) error { return b.server.Resume(ctx) }

// Page opens a tab with storage of its own, like another person's device.
func (b *Building) Page(width, height int64) (context.Context, context.CancelFunc, error) {
	tab, cancel := chromedp.NewContext(b.browser, chromedp.WithNewBrowserContext())
	limited, stop := context.WithTimeout(tab, pageTime)
	closePage := func() { stop(); cancel() }
	if err := chromedp.Do(limited, chromedp.EmulateViewport(width, height)); err != nil {
		return limited, closePage, err
	}
	counts := protocol.AddScriptToEvaluateOnNewDocumentParams{Source: underWay}
	if _, err := chromedp.Call(limited, protocol.AddScriptToEvaluateOnNewDocument, counts); err != nil {
		return limited, closePage, err
	}
	// Each page has the keys, as if it were the only one.
	_, err := chromedp.Call(limited, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true})
	return limited, closePage, err
}

// underWay counts what a page has asked for and not heard: what comes moves what is below it, and a hand waits for that.
const underWay = `{
	const real = window.fetch
	window.underWay = 0
	window.fetch = (...a) => {
		window.underWay++
		const answer = real(...a)
		const over = () => { window.underWay-- }
		answer.then(over, over)
		return answer
	}
}`

// Foreign lets what a page asks for come from another machine on the network, as a proxy here would pass it on.
func Foreign(page context.Context) error {
	if _, err := chromedp.Call(page, network.Enable, network.EnableParams{}); err != nil {
		return err
	}
	_, err := chromedp.Call(page, network.SetExtraHTTPHeaders,
		network.SetExtraHTTPHeadersParams{Headers: network.Headers{"X-Forwarded-For": "10.0.0.7"}})
	return err
}
