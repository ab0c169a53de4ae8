package snapshot

import (
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
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

func (m *Snapshot) ProductName(id uuid.UUID) string {
	for _, p := range m.Products {
		if p.ID == id {
			return p.Name
		}
	}
	return "a product that is gone"
}

func (m *Snapshot) PersonName(id uuid.UUID) string {
	for _, p := range m.People {
		if p.ID == id {
			return p.Name
		}
	}
	return "somebody"
}

func (m *Snapshot) InstrumentName(id uuid.UUID) string {
	for i := range m.Workshop.Instruments {
		if m.Workshop.Instruments[i].ID == id {
			return m.Workshop.Instruments[i].Name
		}
	}
	if in := m.FindArchived(id); in != nil {
		return in.Name
	}
	return ""
}

func (m *Snapshot) PlaceName(id uuid.UUID) string {
	for _, p := range m.Input.Shop.Places {
		if p.ID == id {
			return p.Name
		}
	}
	return "a place"
}

func LadderText(keys []string) string {
	ladder, err := abrasive.LadderOf(keys...)
	if err != nil {
		return err.Error()
	}
	return ladder.String()
}

// Method names a method inside a sentence.
func Method(m material.Method) string {
	return map[material.Method]string{"spray": "sprayed", "aerosol": "from the can", "brush": "brushed", "wipe": "wiped", "pad": "padded",
		"pour": "poured", "drop": "dropped in"}[m]
}

// MostCoats is how many coats of a step may be logged: rounds may go beyond what
// is expected.
func (m *Snapshot) MostCoats(at Located) int {
	if rounds := at.Step().Repeat; rounds != nil {
		return rounds.Most
	}
	return at.Step().Coats
}

// ToBe is what an event of a step is to be, as it stands now.
func (l Located) ToBe(coat int) *job.Planned {
	s, planned := l.Step(), l.Planned()
	p := &job.Planned{Title: planned.EventTitle(coat), Coats: max(s.Coats, 1), Family: s.Family, Product: s.Product, Method: s.Method,
		Minutes: s.HandsOnMin}
	if len(s.Ladder) > 0 {
		p.Ladder = s.Ladder
	}
	if len(s.Regions) != len(l.Piece().Regions) {
		p.Where = RegionNames(l.Instrument(), s.Regions)
	}
	return p
}

// PieceName is a piece with its instrument: Curlew body.
func (m *Snapshot) PieceName(piece uuid.UUID) string {
	for _, in := range m.Workshop.Instruments {
		for _, p := range in.Pieces {
			if p.ID == piece {
				return in.Name + " " + string(p.Kind)
			}
		}
	}
	return "a piece"
}

// OwnerOf is the instrument of a piece; no id when there is none.
func (m *Snapshot) OwnerOf(piece uuid.UUID) uuid.UUID {
	for _, in := range m.Workshop.Instruments {
		if slices.ContainsFunc(in.Pieces, func(p job.Piece) bool { return p.ID == piece }) {
			return in.ID
		}
	}
	return uuid.Nil
}
