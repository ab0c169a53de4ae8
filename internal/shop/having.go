package shop

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Have plans what fits into half an hour, two hours or this evening of one person. It fails with *Invalid on another
// time or person.
func (s Reader) Have(ctx context.Context, time string, person uuid.UUID) (views.Having, error) {
	having := views.Having{Fits: []views.Due{}, Pieces: []views.Fit{}}
	err := s.ask(ctx, func(m *snapshot.Snapshot) error {
		if err := m.IsOfShop("person", person); err != nil {
			return err
		}
		window, err := views.Window(m, time)
		if err != nil {
			return err
		}
		return views.TimeBudget(m, window, person, &having)
	})
	return having, err
}
