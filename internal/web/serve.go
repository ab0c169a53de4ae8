package web

import (
	"context"
	"errors"
	"net"
	"time"

	"github.com/gofiber/fiber/v2"
	"github.com/valyala/fasthttp"
)

// How long a client is waited for. A time-out for all writes of the server would cut the stream of what changes, which
// renews its own; files are given the time that a slow network needs.
const (
	readWait  = 20 * time.Second // for a whole request
	idleWait  = 2 * time.Minute  // for the next one on a connection
	writeWait = 30 * time.Second
	fileWait  = 10 * time.Minute

	// cutAfter is how long requests in flight may take when the server stops.
	cutAfter = 1500 * time.Millisecond
)

// How long an operation may take: then it answers that it could not.
const (
	usualDeadline = 20 * time.Second
	askDeadline   = time.Minute // plans that are made beside today's
)

// Serve answers on listeners until the context ends. Then it lets what is in flight finish for a moment, and closes
// what is open after that: half a request, a stream that nobody reads.
func Serve(ctx context.Context, app *fiber.App, listeners ...*Listener) error {
	app.Handler() // makes ready, as listening by itself would
	failed := make(chan error, len(listeners))
	for _, l := range listeners {
		go func() { failed <- app.Server().Serve(l) }()
	}
	var err error
	select {
	case err = <-failed:
	case <-ctx.Done():
	}
	cut := time.AfterFunc(cutAfter, func() {
		for _, l := range listeners {
			l.cut()
		}
	})
	defer cut.Stop()
	return errors.Join(err, app.ShutdownWithTimeout(2*cutAfter))
}

// requestConfig is how much of a request is read, and how long its client is waited for.
func requestConfig(header *fasthttp.RequestHeader) fasthttp.RequestConfig {
	config := fasthttp.RequestConfig{WriteTimeout: writeWait}
	path := string(header.RequestURI())
	most, takes := fileLimit(path)
	switch {
	case takes && header.IsPost():
		config.MaxRequestBodySize, config.ReadTimeout = most+1, fileWait
	case isFile(path):
		config.WriteTimeout = fileWait
	}
	return config
}

// within gives every request a deadline: what waits for the database gives up when it has passed. What costs much ends
// when its client has gone, too.
func within(c *fiber.Ctx) error {
	ctx, stop := context.WithTimeout(c.UserContext(), deadlineOf(c.Path()))
	defer stop()
	if isFile(c.Path()) || asks[c.Path()] {
		defer watchClient(ctx, c.Context().Conn(), stop)()
	}
	c.SetUserContext(ctx)
	return c.Next()
}

// lookEvery is how often a client is looked for while something costly is worked out for it.
const lookEvery = 200 * time.Millisecond

// watchClient calls when the client of a connection has gone, until that is ended.
func watchClient(ctx context.Context, conn net.Conn, left func()) (end func()) {
	ctx, stop := context.WithCancel(ctx)
	over := make(chan struct{})
	go func() {
		defer close(over)
		look := time.NewTicker(lookEvery)
		defer look.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-look.C:
				if gone(conn) {
					left()
					return
				}
			}
		}
	}()
	return func() { stop(); <-over }
}

func deadlineOf(path string) time.Duration {
	switch {
	case isFile(path):
		return fileWait
	case asks[path]:
		return askDeadline
	}
	return usualDeadline
}

// asks are the operations that plan beside today's plan.
var asks = map[string]bool{"/api/what-ifs": true, "/api/forecasts": true, "/api/schools": true, "/api/repairs": true, "/api/changes": true}
