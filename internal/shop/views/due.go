package views

import (
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// Due is one piece of work for the hands.
type Due struct {
	Event        changes.EventRef `json:"event"`
	InstrumentID uuid.UUID        `json:"instrumentId"`
	Name         string           `json:"name"`
	Piece        job.PieceKind    `json:"piece"`
	Kind         string           `json:"kind" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate"`
	Method       material.Method  `json:"method" doc:"of a coat"`
	Title        string           `json:"title"`
	When         string           `json:"when"`
	Start        snapshot.Moment  `json:"start"`
	Minutes      string           `json:"minutes" doc:"about 25 min"`
	Place        string           `json:"place" doc:"where it is done"`
	Because      string           `json:"because"`
	State        State            `json:"state" enum:"ready,drying,closing,waiting,late"`
	CanLog       bool             `json:"canLog" doc:"its piece is ready for it now"`
	LogLabel     string           `json:"logLabel" doc:"the verb on its button: Log coat 3"`
	End          snapshot.Moment  `json:"end"`
}

// Ahead is all planned work in the order in which it begins.
func Ahead(m *snapshot.Snapshot) []*schedule.Planned {
	var ahead []*schedule.Planned
	for i := range m.Plan.Events {
		if e := &m.Plan.Events[i]; !e.Done && e.Impossible == "" {
			ahead = append(ahead, e)
		}
	}
	slices.SortStableFunc(ahead, func(a, b *schedule.Planned) int { return a.Start.Compare(b.Start) })
	return ahead
}

// today is the work that begins before the shop's day turns, in its order, and what comes
// first after it, nil where nothing does.
func today(m *snapshot.Snapshot) (today []*schedule.Planned, then *schedule.Planned, end time.Time) {
	end = m.Calendar.Turn(m.Calendar.ShopDay(m.Now).AddDays(1))
	for i := range m.Plan.Events {
		e := &m.Plan.Events[i]
		switch {
		case e.Done || e.Impossible != "":
		case e.Start.Before(end):
			today = append(today, e)
		case then == nil || e.Start.Before(then.Start):
			then = e
		}
	}
	slices.SortStableFunc(today, func(a, b *schedule.Planned) int { return a.Start.Compare(b.Start) })
	return today, then, end
}

// next lists the rest of today's work in order, what comes first after it, and
// how much it is.
func next(m *snapshot.Snapshot) ([]Due, *Due, string) {
	events, after, end := today(m)
	today, work := []Due{}, unit.Minutes(0)
	for _, e := range events {
		today = append(today, DueOf(m, *e, end))
		work += minutesUntil(*e, end)
	}
	if after == nil {
		return today, nil, work.String()
	}
	then := DueOf(m, *after, time.Time{})
	return today, &then, work.String()
}

// minutesUntil is how much of an event's work lies before an instant.
func minutesUntil(e schedule.Planned, end time.Time) unit.Minutes {
	if e.Spans == nil {
		return unit.Minutes(e.End.Sub(e.Start).Minutes())
	}
	var work time.Duration
	for _, span := range e.Spans {
		if span.Start.Before(end) {
			work += span.Length()
		}
	}
	return unit.Minutes(work.Minutes())
}

// DueOf is an event as work for the hands; of work that is spread, the part
// before an instant is named where one is given.
func DueOf(m *snapshot.Snapshot, e schedule.Planned, until time.Time) Due {
	at, _ := m.Find(e.Step)
	step := at.Planned()
	minutes := "about " + step.HandsOnMin.String()
	if part := minutesUntil(e, until); e.Spans != nil && !until.IsZero() && part < step.HandsOnMin {
		minutes = part.String() + " of " + step.HandsOnMin.String()
	}
	when := m.Plan.Say(e.Start)
	if stateOf(m, e) == Closing {
		when = "by " + m.Plan.Clock(e.Window.Latest)
	}
	return Due{
		Event: changes.Ref(e.Event), InstrumentID: e.Instrument, Name: at.Instrument().Name, Piece: at.Piece().Kind,
		Kind: string(step.Kind), Method: at.Step().Method, Title: step.EventTitle(e.Coat), When: when,
		Start: m.Moment(e.Start), End: m.Moment(e.End), Minutes: minutes, Because: explain.Sentence(m.Plan, e.Event), State: stateOf(m, e),
		Place: m.PlaceName(e.Place), CanLog: loggable(m, e) && !blocked(m, e), LogLabel: logLabel(step, e.Coat),
	}
}

// logLabel is the verb on the button that logs an event.
func logLabel(step schedule.Step, coat int) string {
	switch {
	case step.Kind == schedule.Coat && step.Coats > 1:
		return fmt.Sprintf("Log coat %d", coat)
	case step.Kind == schedule.Coat:
		return "Log coat"
	case step.Kind == schedule.Inspect:
		return "Log passed"
	}
	return "Log done"
}
