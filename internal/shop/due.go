package shop

import (
	"context"
	"time"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Ahead lists all work that is planned, in the order in which it begins.
func (s Reader) Ahead(ctx context.Context) ([]views.Due, error) {
	list := []views.Due{}
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		for _, e := range views.Ahead(m) {
			list = append(list, views.DueOf(m, *e, time.Time{}))
		}
		return nil
	})
	return list, err
}
