package shop

import (
	"context"
	"time"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Rack shows the shop as it is now; where the database does not answer, as it was last known.
func (s Reader) Rack(ctx context.Context) (views.Rack, error) {
	var rack views.Rack
	var known time.Time
	remembered, err := s.lookAnyway(ctx, func(m *snapshot.Snapshot) error {
		rack, known = snapshot.Once(m, views.RackKey{}, func() views.Rack { return views.MakeRack(m) }), m.Now
		return nil
	})
	if err != nil {
		return rack, err
	}
	if remembered {
		minutes := int(s.clock().Sub(known).Minutes())
		rack.Remembered = &views.Remembered{At: known.UTC(), Minutes: max(0, minutes)}
		return rack, nil
	}
	rack.Better, err = Thinker(s).line(ctx)
	return rack, err
}
