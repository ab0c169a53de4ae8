package shop

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/repair"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Repairs are the ways of putting damage right, each with its hours, days and risk. Nothing is kept. It fails
// with *Invalid naming the field.
func (s Reader) Repairs(ctx context.Context, in views.RepairAsked) (views.RepairView, error) {
	view := views.RepairView{Ways: []views.RepairWay{}}
	err := s.ask(ctx, func(m *snapshot.Snapshot) error {
		i := slices.IndexFunc(m.Workshop.Instruments, func(o recipe.Instrument) bool { return o.ID == in.InstrumentID })
		if i < 0 {
			return refuse.Field("instrumentId", "must be an instrument of this shop", in.InstrumentID)
		}
		if in.Repair.ID == uuid.Nil {
			in.Repair.ID = uuid.New() // only asked about
		}
		ways, err := repair.Ways(m.Workshop.Instruments[i], in.Repair, m.LoggedOf(&m.Workshop.Instruments[i]))
		if err != nil {
			return refuse.FaultAt("repair", err)
		}
		for _, w := range ways {
			one, err := views.WayOf(m, in, w)
			if err != nil {
				return err
			}
			view.Ways = append(view.Ways, one)
		}
		return nil
	})
	return view, err
}
