package shop

import (
	"context"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Shop shows the settings.
func (s Reader) Shop(ctx context.Context) (views.ShopView, error) {
	var view views.ShopView
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		view = views.ShopOf(m)
		return nil
	})
	return view, err
}
