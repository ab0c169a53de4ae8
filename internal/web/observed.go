package web

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/pprof"
	"runtime/debug"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v2"
	"github.com/gofiber/fiber/v2/middleware/recover"
	"github.com/google/uuid"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// requestID is the header under which an answer says which line of the log is about it.
const requestID = "Request-Id"

type requestKey struct{}

// NewLog makes the log of a server: of lines for people (text), or for machines (json). What is about a request says
// about which.
func NewLog(out io.Writer, level slog.Level, format string) (*slog.Logger, error) {
	options := &slog.HandlerOptions{Level: level}
	switch format {
	case "text":
		return slog.New(withRequest{slog.NewTextHandler(out, options)}), nil
	case "json":
		return slog.New(withRequest{slog.NewJSONHandler(out, options)}), nil
	}
	return nil, fmt.Errorf("a log is written as text or json, not as %q", format)
}

// withRequest adds the id of the request that a context belongs to.
type withRequest struct{ slog.Handler }

func (h withRequest) Handle(ctx context.Context, r slog.Record) error {
	if id, is := ctx.Value(requestKey{}).(string); is {
		r.AddAttrs(slog.String("request", id))
	}
	return h.Handler.Handle(ctx, r)
}

func (h withRequest) WithAttrs(attrs []slog.Attr) slog.Handler {
	return withRequest{h.Handler.WithAttrs(attrs)}
}

func (h withRequest) WithGroup(name string) slog.Handler {
	return withRequest{h.Handler.WithGroup(name)}
}

// observed gives every request an id, and the log a line about it when it is answered.
func observed(log *slog.Logger, seen *Metrics) fiber.Handler {
	return func(c *fiber.Ctx) error {
		began := time.Now()
		id := uuid.Must(uuid.NewV7()).String()
		c.SetUserContext(context.WithValue(c.UserContext(), requestKey{}, id))
		c.Set(requestID, id)
		if err := c.Next(); err != nil {
			if err := c.App().ErrorHandler(c, err); err != nil {
				return err
			}
		}
		took := time.Since(began)
		seen.answered(c, took)
		size := -1 // of a stream nobody knows it
		if !c.Response().IsBodyStream() {
			size = len(c.Response().Body())
		}
		log.InfoContext(c.UserContext(), "request", "method", c.Method(), "path", c.Path(), "status", c.Response().StatusCode(),
			"bytes", size, "ms", took.Milliseconds(), "from", c.Context().RemoteIP().String())
		return nil
	}
}

// recovered answers a panic as what it is, a fault of the server, and writes down where it happened.
func recovered(log *slog.Logger) fiber.Handler {
	return recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: func(c *fiber.Ctx, cause any) {
		log.ErrorContext(c.UserContext(), "panic", "path", c.Path(), "cause", fmt.Sprint(cause), "stack", string(debug.Stack()))
	}})
}

// Metrics are what a server counts about itself.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	streams  prometheus.Gauge
}

// NewMetrics makes the counts of a server that has answered nothing yet.
func NewMetrics() *Metrics {
	m := &Metrics{
		registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "umberfrost_request_seconds",
			Help: "How long requests took, in seconds, by operation and status.", Buckets: prometheus.ExponentialBuckets(0.001, 3, 10)},
			[]string{"method", "route", "status"}),
		streams: prometheus.NewGauge(prometheus.GaugeOpts{Name: "umberfrost_streams", Help: "Pages that are told of changes now."}),
	}
	m.registry.MustRegister(m.requests, m.streams, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	return m
}

func (m *Metrics) answered(c *fiber.Ctx, took time.Duration) {
	m.requests.WithLabelValues(c.Method(), c.Route().Path, strconv.Itoa(c.Response().StatusCode())).Observe(took.Seconds())
}

// Observe serves the counts and profiles of a server on a listener of their own, until the context ends. Whoever may
// ask there learns much of the shop, so it is one on loopback; see ObserveOn.
func (m *Metrics) Observe(ctx context.Context, listener net.Listener) error {
	mux := http.NewServeMux()
	mux.Handle("/metrics", promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{}))
	mux.HandleFunc("/debug/pprof/", pprof.Index)
	mux.HandleFunc("/debug/pprof/cmdline", pprof.Cmdline)
	mux.HandleFunc("/debug/pprof/profile", pprof.Profile)
	mux.HandleFunc("/debug/pprof/symbol", pprof.Symbol)
	mux.HandleFunc("/debug/pprof/trace", pprof.Trace)
	server := &http.Server{Handler: onlyHere(mux), ReadHeaderTimeout: readWait}
	stop := context.AfterFunc(ctx, func() { server.Close() })
	defer stop()
	if err := server.Serve(listener); err != http.ErrServerClosed {
		return err
	}
	return nil
}

// onlyHere answers only to the names of loopback: a page of another site could ask there by a name of its own.
func onlyHere(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !Loopback(hostName(r.Host)) {
			http.Error(w, "ask for it as localhost or 127.0.0.1", http.StatusMisdirectedRequest)
			return
		}
		next.ServeHTTP(w, r)
	})
}

// ObserveOn listens where a server is observed: on loopback only.
func ObserveOn(address string) (net.Listener, error) {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return nil, fmt.Errorf("%q is no address; write it like 127.0.0.1:9177", address)
	}
	if !Loopback(host) {
		return nil, fmt.Errorf("%s is not on loopback: counts and profiles are shown on this machine only, as at 127.0.0.1:9177", address)
	}
	return net.Listen("tcp", address)
}
