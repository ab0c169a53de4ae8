package web

import (
	"log/slog"

	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/shop"
)

// Bare answers every request under /api with the same bytes, through the middleware of the application: what an answer
// of that size costs at the least.
func Bare(service *shop.Service, log *slog.Logger, body func() []byte) *fiber.App {
	app := middleware(service, Options{Log: log, Metrics: NewMetrics()})
	app.All("/api/*", func(c *fiber.Ctx) error {
		c.Set(fiber.HeaderContentType, fiber.MIMEApplicationJSON)
		return c.Send(body())
	})
	return app
}
