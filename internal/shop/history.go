package shop

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
)

// PromiseMove is one time that an instrument's finish moved, and what moved it.
type PromiseMove struct {
	At     Moment `json:"at"`
	Cause  string `json:"cause"`
	Before string `json:"before,omitempty" doc:"Fri 27 March; absent when there was no finish yet"`
	After  string `json:"after"`
	Days   int    `json:"days" doc:"whole days later; negative is earlier"`
	Text   string `json:"text" doc:"3 days later, 5 h earlier"`
}

// waited is the cause of what no change has moved: the hours went by and work that
// was planned in them was not logged.
const waited = "time went by, and what was planned in it was not done"

// history is the moves of an instrument's finish, the newest first, from its
// snapshots in the same order. What moved between two snapshots, time has moved.
func (m *moment) history(rows []job.ForecastChange) []PromiseMove {
	moves := []PromiseMove{}
	for k, row := range rows {
		before := len(moves)
		if putAside := row.Told && row.FinishBefore != nil && row.FinishAfter == nil; !putAside {
			moves = m.addMove(moves, row.At, row.Cause, row.FinishBefore, row.FinishAfter)
		}
		if row.Told && len(moves) == before {
			moves = append(moves, m.standing(row))
		}
		if k+1 < len(rows) {
			moves = m.addMove(moves, row.At, waited, rows[k+1].FinishAfter, row.FinishBefore)
		}
	}
	return moves
}

// standing is a change of what is promised or said of an instrument that left its day where it was, or put it aside.
func (m *moment) standing(row job.ForecastChange) PromiseMove {
	move := PromiseMove{At: m.moment(row.At), Cause: row.Cause, After: "cannot be placed", Text: "its day stands"}
	switch {
	case row.FinishAfter != nil:
		move.After = dayView(calendar.DayOf(row.FinishAfter.In(m.plan.Zone))).Said
	case row.FinishBefore != nil:
		move.After, move.Text = "no day", "it is planned no more"
	}
	return move
}

func (m *moment) addMove(moves []PromiseMove, at time.Time, cause string, before, after *time.Time) []PromiseMove {
	move := PromiseMove{At: m.moment(at), Cause: cause, After: "cannot be placed"}
	day := func(t time.Time) calendar.Day { return calendar.DayOf(t.In(m.plan.Zone)) }
	if after != nil {
		move.After = dayView(day(*after)).Said
	}
	switch {
	case before == nil && after == nil:
		return moves
	case before == nil:
		move.Text = "ready " + move.After
		return append(moves, move)
	}
	if move.Before = dayView(day(*before)).Said; after == nil {
		move.Text = "it can no longer be placed"
		return append(moves, move)
	}
	gap := after.Sub(*before)
	if gap < time.Hour && gap > -time.Hour {
		return moves
	}
	if move.Days = calendar.DaysBetween(day(*before), day(*after)); move.Days == 0 && cause == waited {
		return moves // hours come and go with every delay
	}
	move.Text = gapWords(gap, move.Days)
	return append(moves, move)
}

// gapWords says how much later or earlier, in days where the day changes.
func gapWords(gap time.Duration, days int) string {
	word := "later"
	if gap < 0 {
		gap, days, word = -gap, -days, "earlier"
	}
	if days > 0 {
		return phrase.Plural(days, "day") + " " + word
	}
	return fmt.Sprintf("%d h %s", int(gap.Hours()), word)
}

// recordHistory writes down what a change did to every forecast it moved, and for logged
// events when they had been planned.
//
// Those that are named stand in the history of their date also where that has not moved.
func (w *unitOfWork) recordHistory(ctx context.Context, cause string, logged happened, told ...uuid.UUID) error {
	old := make(map[uuid.UUID]time.Time)
	for _, f := range w.before.plan.Forecasts {
		old[f.Instrument] = f.Finish
	}
	var rows []job.ForecastChange
	for _, f := range w.after.plan.Forecasts {
		was, there := old[f.Instrument]
		row := job.ForecastChange{Revision: w.Revision, At: w.after.now, Cause: cause, Instrument: f.Instrument, FinishBefore: some(was),
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
		planned := slices.ContainsFunc(w.after.plan.Forecasts, func(f schedule.Forecast) bool { return f.Instrument == id })
		if finish, was := old[id]; was && !planned { // it was put aside
			rows = append(rows, job.ForecastChange{Revision: w.Revision, At: w.after.now, Cause: cause, Instrument: id, FinishBefore: some(finish), Told: true})
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
