package shop

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/unit"
)

// Due is one piece of work for the hands.
type Due struct {
	Event        EventRef        `json:"event"`
	InstrumentID uuid.UUID       `json:"instrumentId"`
	Name         string          `json:"name"`
	Piece        job.PieceKind   `json:"piece"`
	Kind         string          `json:"kind" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate"`
	Method       material.Method `json:"method" doc:"of a coat"`
	Title        string          `json:"title"`
	When         string          `json:"when"`
	Start        Moment          `json:"start"`
	Minutes      string          `json:"minutes" doc:"about 25 min"`
	Place        string          `json:"place" doc:"where it is done"`
	Because      string          `json:"because"`
	State        State           `json:"state" enum:"ready,drying,closing,waiting,late"`
	CanLog       bool            `json:"canLog" doc:"its piece is ready for it now"`
	LogLabel     string          `json:"logLabel" doc:"the verb on its button: Log coat 3"`
	End          Moment          `json:"end"`
}

// Ahead lists all work that is planned, in the order in which it begins.
func (s *Service) Ahead(ctx context.Context) ([]Due, error) {
	list := []Due{}
	err := s.look(ctx, func(m *moment) error {
		for _, e := range m.ahead() {
			list = append(list, m.due(*e, time.Time{}))
		}
		return nil
	})
	return list, err
}

// ahead is all planned work in the order in which it begins.
func (m *moment) ahead() []*schedule.Planned {
	var ahead []*schedule.Planned
	for i := range m.plan.Events {
		if e := &m.plan.Events[i]; !e.Done && e.Impossible == "" {
			ahead = append(ahead, e)
		}
	}
	slices.SortStableFunc(ahead, func(a, b *schedule.Planned) int { return a.Start.Compare(b.Start) })
	return ahead
}

// today is the work that begins before the shop's day turns, in its order, and what comes
// first after it, nil where nothing does.
func (m *moment) today() (today []*schedule.Planned, then *schedule.Planned, end time.Time) {
	end = m.calendar.Turn(m.calendar.ShopDay(m.now).AddDays(1))
	for i := range m.plan.Events {
		e := &m.plan.Events[i]
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
func (m *moment) next() ([]Due, *Due, string) {
	events, after, end := m.today()
	today, work := []Due{}, unit.Minutes(0)
	for _, e := range events {
		today = append(today, m.due(*e, end))
		work += minutesUntil(*e, end)
	}
	if after == nil {
		return today, nil, work.Text()
	}
	then := m.due(*after, time.Time{})
	return today, &then, work.Text()
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

// due is an event as work for the hands; of work that is spread, the part
// before an instant is named where one is given.
func (m *moment) due(e schedule.Planned, until time.Time) Due {
	at, _ := m.find(e.Step)
	step := at.planned()
	minutes := "about " + step.HandsOnMin.Text()
	if part := minutesUntil(e, until); e.Spans != nil && !until.IsZero() && part < step.HandsOnMin {
		minutes = part.Text() + " of " + step.HandsOnMin.Text()
	}
	when := m.plan.Say(e.Start)
	if m.stateOf(e) == Closing {
		when = "by " + m.plan.Clock(e.Window.Latest)
	}
	return Due{
		Event: ref(e.Event), InstrumentID: e.Instrument, Name: at.instrument().Name, Piece: at.piece().Kind,
		Kind: string(step.Kind), Method: at.step().Method, Title: step.EventTitle(e.Coat), When: when,
		Start: m.moment(e.Start), End: m.moment(e.End), Minutes: minutes, Because: explain.Sentence(m.plan, e.Event), State: m.stateOf(e),
		Place: m.placeName(e.Place), CanLog: m.loggable(e) && !m.blocked(e), LogLabel: logLabel(step, e.Coat),
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
