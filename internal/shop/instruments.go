package shop

import (
	"context"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Instruments lists all jobs, running ones first, the tightest promise first.
func (s Reader) Instruments(ctx context.Context) ([]views.InstrumentLine, error) {
	var lines []views.InstrumentLine
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		lines = views.Lines(m)
		return nil
	})
	return lines, err
}

// Looks lists how the instruments look by now, as far as the log has come.
func (s Reader) Looks(ctx context.Context) ([]views.InstrumentLook, error) {
	var list []views.InstrumentLook
	err := s.look(ctx, func(m *snapshot.Snapshot) error {
		list = snapshot.Once(m, snapshot.Lasting("looks"), func() []views.InstrumentLook { return views.AllLooks(m) })
		return nil
	})
	return list, err
}
