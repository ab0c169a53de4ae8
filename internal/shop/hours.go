package shop

import (
	"context"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Hours tells how long work took since so many days ago.
func (s Reader) Hours(ctx context.Context, days int) (views.Hours, error) {
	var view views.Hours
	m, err := s.now(ctx)
	if err != nil {
		return view, err
	}
	since := m.Calendar.ShopDay(m.Now).AddDays(-days)
	var rows []store.Worked
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		rows, err = tx.HoursWorked(ctx, since.At(0, m.Plan.Zone))
		return err
	}); err != nil {
		return view, err
	}
	view = views.HoursOf(rows)
	view.Since = snapshot.DayOf(since)
	return view, nil
}
