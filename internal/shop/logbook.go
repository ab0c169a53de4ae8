package shop

import (
	"context"

	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// LogPage reads some of the log of an instrument or of the whole shop. It fails with *Invalid on days and places
// that cannot be read.
func (s Reader) LogPage(ctx context.Context, in views.LogAsked) (views.LogPage, error) {
	page := views.LogPage{Lines: []views.LogLine{}}
	count := in.Count
	if count == 0 {
		count = 100
	}
	asked := store.LogAsked{Instrument: in.InstrumentID, Piece: in.Piece, Kind: in.Kind, Product: in.ProductID, Person: in.PersonID,
		Count: count + 1}
	m, err := s.now(ctx)
	if err != nil {
		return page, err
	}
	if err := in.Days(&asked, m.Now, m.Plan.Zone); err != nil {
		return page, err
	}
	if in.After != "" {
		if asked.Before, err = views.ReadPlace(in.After); err != nil {
			return page, err
		}
	}
	var rows []store.LogLine
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		rows, err = tx.LogPage(ctx, asked)
		return err
	}); err != nil {
		return page, err
	}
	if page.More = len(rows) > count; page.More {
		rows = rows[:count]
	}
	err = s.look(ctx, func(m *snapshot.Snapshot) error {
		page.Lines = page.Lines[:0]
		for _, row := range rows {
			page.Lines = append(page.Lines, views.LogLineOf(m, row))
		}
		return nil
	})
	return page, err
}
