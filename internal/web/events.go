package web

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"runtime/debug"
	"time"

	"github.com/gofiber/fiber/v2"
	"github.com/google/uuid"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
)

// liveEvents is a stream of what changes, as the browser's EventSource reads it.
const liveEvents = "/api/events"

// heartbeat is how often a stream says that it is alive, and so notices that its
// reader is gone.
const heartbeat = 10 * time.Second

// sendEvents streams a notice at once and then one for every change, until the
// reader or the server goes. A page that comes back after sleep or without a network
// reads the last notice first, and so knows whether it has missed any. It is a raw
// stream: the typed layer's own needs a flusher that Fiber's adapter lacks.
//
// Whoever reads too slowly is let go: each beat renews the time that the next one may take to be sent.
func sendEvents(service *shop.Service, options Options) fiber.Handler {
	return func(c *fiber.Ctx) error {
		ctx, conn := context.WithoutCancel(c.UserContext()), c.Context().Conn()
		caller := access.CallerOf(ctx)
		c.Set(fiber.HeaderContentType, "text/event-stream")
		c.Set("X-Accel-Buffering", "no")
		c.Context().SetBodyStreamWriter(func(w *bufio.Writer) {
			defer func() { // it runs on its own, and would take the server with it
				if cause := recover(); cause != nil {
					options.Log.ErrorContext(ctx, "panic", "path", liveEvents, "cause", fmt.Sprint(cause), "stack", string(debug.Stack()))
				}
			}()
			options.Metrics.streams.Inc()
			defer options.Metrics.streams.Dec()
			notices, end := service.Listen()
			defer end()
			beat := time.NewTicker(heartbeat)
			defer beat.Stop()
			for {
				select {
				case n, more := <-notices:
					if !more {
						return // the server stops
					}
					data, _ := json.Marshal(n) // two numbers
					fmt.Fprintf(w, "event: shop\ndata: %s\n\n", data)
				case <-beat.C:
					fmt.Fprint(w, "event: beat\ndata: \n\n")
				}
				if caller.Pairing != uuid.Nil && !service.Still(ctx, caller.Pairing) {
					return
				}
				if conn.SetWriteDeadline(time.Now().Add(writeWait)) != nil || w.Flush() != nil {
					return
				}
			}
		})
		return nil
	}
}
