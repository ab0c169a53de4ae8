package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"os"
	"runtime/debug"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"umberfrost/internal/localpg"
	"umberfrost/internal/shop"
	"umberfrost/internal/trust"
	"umberfrost/internal/web"
	"umberfrost/ui"
)

// serving is how a shop is served: where, with which certificate, and what is told of it.
type serving struct {
	listen           []string // addresses, those on loopback without TLS
	authority        string   // folder of the shop's own
	certificate, key string   // files of another
	names            []string
	observe          string
	logLevel         string
	logFormat        string
}

func (s *serving) flags(cmd *cobra.Command) {
	flags := cmd.Flags()
	flags.StringVar(&s.authority, "trust", "", "folder of the authority that umberfrost trust has made")
	flags.StringVar(&s.certificate, "certificate", "", "file of a certificate to serve with beyond this machine, with --key")
	flags.StringVar(&s.key, "key", "", "file of its key")
	flags.StringSliceVar(&s.names, "name", nil, "a name that a proxy in front of it is asked for by; may be given again")
	flags.StringVar(&s.observe, "observe", "",
		"address on loopback to show counts and profiles on, like 127.0.0.1:9177; nowhere without it")
	flags.StringVar(&s.logLevel, "log-level", "info", "debug, info, warn or error")
	flags.StringVar(&s.logFormat, "log-format", "text", "text or json")
}

// garbage is how much may lie about, in percent of what is in use, before it is collected:
// less than is usual, for planning makes much of it, and the machine in a shop is small.
const garbage = 50

// memory is what a server keeps to while it thinks, in bytes; a shop that holds more than half of it at rest
// gets more (shop.Service.Watch).
const memory = 140 << 20

// doors are listeners, and what those who come in by them are told.
type doors struct {
	listeners []*web.Listener
	beyond    []*web.Listener // those of them that other devices reach
	options   web.Options
	observed  net.Listener
}

// reached are the addresses at which other devices reach the shop now.
func (d *doors) reached(ctx context.Context, kept *trust.Kept) []string {
	var addresses []string
	for _, l := range d.beyond {
		at := l.Addr().(*net.TCPAddr)
		for _, name := range kept.Reached(ctx, at.IP) {
			addresses = append(addresses, "https://"+net.JoinHostPort(name, fmt.Sprint(at.Port)))
		}
	}
	return addresses
}

// open listens where the server is to be asked, on the first of the addresses from a port on where one is given. Beyond
// loopback that is over TLS only.
func (s *serving) open(port int) (*doors, error) {
	level := new(slog.LevelVar)
	if err := level.UnmarshalText([]byte(s.logLevel)); err != nil {
		return nil, badInput{fmt.Errorf("--log-level %q is none of debug, info, warn and error", s.logLevel)}
	}
	log, err := web.NewLog(os.Stderr, level.Level(), s.logFormat)
	if err != nil {
		return nil, badInput{fmt.Errorf("--log-format: %w", err)}
	}
	d := &doors{options: web.Options{Log: log, Metrics: web.NewMetrics(), Commit: commit}}
	kept, err := s.kept()
	if err != nil {
		return nil, err
	}
	d.options.Named = s.named(kept)
	if port != 0 {
		l, err := listenFrom(port)
		if err != nil {
			return nil, err
		}
		d.listeners = append(d.listeners, l)
	}
	for _, address := range s.listen {
		host, _, err := net.SplitHostPort(address)
		if err != nil {
			return nil, badInput{fmt.Errorf("--listen %q is no address; write it like 127.0.0.1:8177, or 0.0.0.0:8443 for all networks",
				address)}
		}
		if web.Loopback(host) {
			l, err := web.Listen(address, nil)
			if err != nil {
				return nil, err
			}
			d.listeners = append(d.listeners, l)
			continue
		}
		if kept == nil {
			return nil, badInput{fmt.Errorf("--listen %s is beyond this machine, where a shop is served over TLS only: make an authority "+
				"with umberfrost trust, or give --certificate and --key", address)}
		}
		l, err := web.Listen(address, kept.Config())
		if err != nil {
			return nil, err
		}
		d.listeners = append(d.listeners, l)
		d.beyond = append(d.beyond, l)
	}
	d.options.Addresses = func(ctx context.Context) []string { return d.reached(ctx, kept) }
	if kept != nil && kept.Authority != nil {
		d.options.Authority = kept.Authority.Raw
	}
	if s.observe != "" {
		if d.observed, err = web.ObserveOn(s.observe); err != nil {
			return nil, badInput{fmt.Errorf("--observe: %w", err)}
		}
	}
	return d, nil
}

// kept is the certificate to serve with beyond this machine; nil where nobody has one.
func (s *serving) kept() (*trust.Kept, error) {
	switch {
	case s.certificate != "" && s.key != "":
		return trust.Use(s.certificate, s.key, time.Now)
	case s.certificate != "" || s.key != "":
		return nil, badInput{errors.New("a certificate needs its key: give both --certificate and --key")}
	case s.authority == "":
		return nil, nil
	}
	kept, err := trust.Open(s.authority, trust.OwnNames(), time.Now)
	if errors.Is(err, trust.ErrNone) {
		return nil, nil
	}
	return kept, err
}

func (s *serving) named(kept *trust.Kept) func(string) bool {
	return func(host string) bool {
		for _, name := range s.names {
			if strings.EqualFold(name, host) {
				return true
			}
		}
		return kept != nil && kept.Named(host)
	}
}

// keeping is what is looked after beside serving a shop.
type keeping struct {
	database *localpg.Server // a private one; nil where the shop has another
	backups  string          // folder of the daily ones; empty: none are made
}

// serve answers requests until the context ends, then lets those in flight finish for a moment.
func serve(ctx context.Context, service *shop.Service, d *doors, keeps keeping, out io.Writer) error {
	log := d.options.Log
	if keeps.database != nil {
		d.options.Folders = append(d.options.Folders, web.Folder{What: "data", Path: keeps.database.Folder()})
	}
	if keeps.backups != "" {
		d.options.Folders = append(d.options.Folders, web.Folder{What: "backups", Path: keeps.backups})
	}
	app := web.New(service, ui.Files(), d.options)
	debug.SetGCPercent(garbage)
	debug.SetMemoryLimit(memory)
	ctx, stop := context.WithCancel(ctx)
	var beside sync.WaitGroup
	beside.Go(func() { service.Watch(ctx, log) })
	if keeps.backups != "" {
		beside.Go(func() { service.KeepBackups(ctx, keeps.backups, log) })
	}
	if keeps.database != nil {
		beside.Go(func() { keeps.database.Watch(ctx, log) })
	}
	if d.observed != nil {
		fmt.Fprintf(out, "Counts and profiles: http://%s/metrics and /debug/pprof/\n", d.observed.Addr())
		beside.Go(func() {
			if err := d.options.Metrics.Observe(ctx, d.observed); err != nil {
				log.ErrorContext(ctx, "not observed any more", "error", err)
			}
		})
	}
	defer finish(&beside)
	defer stop()
	fmt.Fprintln(out)
	for _, l := range d.listeners {
		if !l.Secure() {
			fmt.Fprintf(out, "Umberfrost is ready: http://%s\n", l.Addr())
		}
	}
	for _, address := range d.options.Addresses(ctx) {
		fmt.Fprintf(out, "For paired devices: %s\n", address)
	}
	fmt.Fprintln(out, "Stop it with Ctrl-C.")
	defer context.AfterFunc(ctx, func() { fmt.Fprintln(out, "\nStopping.") })()
	return web.Serve(ctx, app, d.listeners...)
}

// finishWait is how long what is done beside answering may take to end: a thought that nobody will hear is not waited for.
const finishWait = 300 * time.Millisecond

func finish(beside *sync.WaitGroup) {
	over := make(chan struct{})
	go func() { defer close(over); beside.Wait() }()
	select {
	case <-over:
	case <-time.After(finishWait):
	}
}

// listenFrom listens on loopback on the first free port from the given one on.
func listenFrom(port int) (*web.Listener, error) {
	const tries = 50
	for try := range tries {
		listener, err := web.Listen(fmt.Sprintf("127.0.0.1:%d", port+try), nil)
		if err == nil || !errors.Is(err, syscall.EADDRINUSE) {
			return listener, err
		}
	}
	return nil, fmt.Errorf("ports %d to %d are all taken; name another with --port", port, port+tries-1)
}
