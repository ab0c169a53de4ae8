package shop

import (
	"context"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Schools plans every way of a topic beside the others, with the rest of the wish
// as it is. Nothing is kept.
func (s Reader) Schools(ctx context.Context, in views.SchoolsAsked) (views.Ways, error) {
	var out views.Ways
	err := s.ask(ctx, func(m *snapshot.Snapshot) (err error) {
		out, err = views.Schools(m, in)
		return err
	})
	return out, err
}
