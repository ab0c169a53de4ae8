package snapshot

import (
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/unit"
)

// Moment is an instant with the words people say for it.
type Moment struct {
	At   time.Time `json:"at"`
	Said string    `json:"said" doc:"as people say it, seen from the present: in 50 min, tonight 19:40, Thu 14 May"`
	Full string    `json:"full" doc:"day and time in the shop's zone"`
}

func (m *Snapshot) Moment(t time.Time) Moment {
	return Moment{At: t.UTC(), Said: m.Plan.Say(t), Full: unit.DateText(t.In(m.Plan.Zone), "Mon 2 January 2006, 15:04")}
}

// MomentOf is when an event begins; nil when it cannot be placed.
func (m *Snapshot) MomentOf(e schedule.Planned) *Moment {
	if e.Impossible != "" {
		return nil
	}
	start := m.Moment(e.Start)
	return &start
}

// DayView is a calendar day with the words for it.
type DayView struct {
	Date string `json:"date" format:"date"`
	Said string `json:"said" doc:"Tue 31 March"`
}

func DayOf(d calendar.Day) DayView {
	t := time.Date(d.Year, d.Month, d.Date, 12, 0, 0, 0, time.UTC)
	return DayView{Date: d.String(), Said: unit.DateText(t, "Mon 2 January")}
}

// LastSentence says what holds the last work of an instrument.
func LastSentence(plan *schedule.Plan, i int) string {
	var last *schedule.Planned
	events := plan.EventsOf(i)
	for k := range events {
		if last == nil || events[k].End.After(last.End) {
			last = &events[k]
		}
	}
	if last == nil {
		return ""
	}
	return explain.Sentence(plan, last.Event)
}
