package shop

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Sheet shows one event.
func (s Reader) Sheet(ctx context.Context, stepID uuid.UUID, coat int) (views.Sheet, error) {
	var sheet views.Sheet
	err := s.look(ctx, func(m *snapshot.Snapshot) (err error) {
		sheet, err = views.SheetOf(m, stepID, coat)
		return err
	})
	return sheet, err
}
