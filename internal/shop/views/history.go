package views

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/shop/snapshot"
)

// PromiseMove is one time that an instrument's finish moved, and what moved it.
type PromiseMove struct {
	At     snapshot.Moment `json:"at"`
	Cause  string          `json:"cause"`
	Before string          `json:"before,omitempty" doc:"Fri 27 March; absent when there was no finish yet"`
	After  string          `json:"after"`
	Days   int             `json:"days" doc:"whole days later; negative is earlier"`
	Text   string          `json:"text" doc:"3 days later, 5 h earlier"`
}

// waited is the cause of what no change has moved: the hours went by and work that
// was planned in them was not logged.
const waited = "time went by, and what was planned in it was not done"

// History is the moves of an instrument's finish, the newest first, from its
// snapshots in the same order. What moved between two snapshots, time has moved.
func History(m *snapshot.Snapshot, rows []job.ForecastChange) []PromiseMove {
	moves := []PromiseMove{}
	for k, row := range rows {
		before := len(moves)
		if putAside := row.Told && row.FinishBefore != nil && row.FinishAfter == nil; !putAside {
			moves = addMove(m, moves, row.At, row.Cause, row.FinishBefore, row.FinishAfter)
		}
		if row.Told && len(moves) == before {
			moves = append(moves, standing(m, row))
		}
		if k+1 < len(rows) {
			moves = addMove(m, moves, row.At, waited, rows[k+1].FinishAfter, row.FinishBefore)
		}
	}
	return moves
}

// standing is a change of what is promised or said of an instrument that left its day where it was, or put it aside.
func standing(m *snapshot.Snapshot, row job.ForecastChange) PromiseMove {
	move := PromiseMove{At: m.Moment(row.At), Cause: row.Cause, After: "cannot be placed", Text: "its day stands"}
	switch {
	case row.FinishAfter != nil:
		move.After = snapshot.DayOf(calendar.DayOf(row.FinishAfter.In(m.Plan.Zone))).Said
	case row.FinishBefore != nil:
		move.After, move.Text = "no day", "it is planned no more"
	}
	return move
}

func addMove(m *snapshot.Snapshot, moves []PromiseMove, at time.Time, cause string, before, after *time.Time) []PromiseMove {
	move := PromiseMove{At: m.Moment(at), Cause: cause, After: "cannot be placed"}
	day := func(t time.Time) calendar.Day { return calendar.DayOf(t.In(m.Plan.Zone)) }
	if after != nil {
		move.After = snapshot.DayOf(day(*after)).Said
	}
	switch {
	case before == nil && after == nil:
		return moves
	case before == nil:
		move.Text = "ready " + move.After
		return append(moves, move)
	}
	if move.Before = snapshot.DayOf(day(*before)).Said; after == nil {
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
