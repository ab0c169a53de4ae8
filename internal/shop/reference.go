package shop

import (
	"context"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Reference lists the choices for a new instrument.
func (s Reader) Reference(ctx context.Context) (views.Reference, error) {
	var out views.Reference
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		out = views.ReferenceOf(m)
		return nil
	})
	return out, err
}

// Notation is how the shop is used to having figures written.
func (s *core) Notation() unit.Notation {
	if m := s.board.Current(); m != nil {
		return m.Setting.Notation
	}
	return unit.Notation{} // nobody has looked yet: the answer is an error or the first of all
}
