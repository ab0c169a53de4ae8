package changes

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
)

// RecordHistory writes down what a change did to every forecast it moved, and for logged
// events when they had been planned.
//
// Those that are named stand in the history of their date also where that has not moved.
func (w *Unit) RecordHistory(ctx context.Context, cause string, logged happened, told ...uuid.UUID) error {
	old := make(map[uuid.UUID]time.Time)
	for _, f := range w.Before.Plan.Forecasts {
		old[f.Instrument] = f.Finish
	}
	var rows []job.ForecastChange
	for _, f := range w.After.Plan.Forecasts {
		was, there := old[f.Instrument]
		row := job.ForecastChange{Revision: w.Revision, At: w.After.Now, Cause: cause, Instrument: f.Instrument, FinishBefore: some(was),
			FinishAfter: some(f.Finish)}
		if len(logged) > 0 {
			row.Entry = &logged[0].entry.ID
		}
		own := false
		for _, h := range logged {
			if h.entry.Instrument != f.Instrument {
				continue
			}
			own, row.Entry, row.PlannedStart = true, &h.entry.ID, h.planned
			rows = append(rows, row)
			row.FinishBefore = row.FinishAfter // what moved it is told once
		}
		row.Told = slices.Contains(told, f.Instrument)
		if !own && (row.Told || !(there && was.Equal(f.Finish))) {
			rows = append(rows, row)
		}
	}
	for _, id := range told {
		planned := slices.ContainsFunc(w.After.Plan.Forecasts, func(f schedule.Forecast) bool { return f.Instrument == id })
		if finish, was := old[id]; was && !planned { // it was put aside
			rows = append(rows, job.ForecastChange{Revision: w.Revision, At: w.After.Now, Cause: cause, Instrument: id,
				FinishBefore: some(finish), Told: true})
		}
	}
	return w.AddForecastChanges(ctx, rows)
}

func some(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}
