package shop

import (
	"context"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Forecast composes and dates a new instrument beside today's work without
// saving anything.
func (s Reader) Forecast(ctx context.Context, in changes.NewInstrument) (views.Forecast, error) {
	var f views.Forecast
	err := s.ask(ctx, func(m *snapshot.Snapshot) (err error) {
		f, err = views.ForecastOf(m, in)
		return err
	})
	return f, err
}
