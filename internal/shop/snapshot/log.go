package snapshot

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
)

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

// pieceName is a piece with its instrument: Curlew body.
func (m *Snapshot) pieceName(piece uuid.UUID) string {
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

func (m *Snapshot) EntryTitle(e job.Entry) string {
	switch e.Kind {
	case job.Void:
		return "an entry struck"
	case job.Note:
		return "a note"
	case job.Moved:
		return m.pieceName(*e.Piece) + " carried to " + m.PlaceName(*e.Place)
	case job.Stopped:
		return "a timer stopped"
	}
	at, found := m.Find(*e.Step)
	if !found {
		return e.Kind
	}
	title := fmt.Sprintf("%s, %s %s", at.Planned().EventTitle(*e.Coat), at.Instrument().Name, at.Piece().Kind)
	switch e.Kind {
	case job.Tested:
		return TestText(e) + ": " + title
	case job.Settled:
		return fmt.Sprintf("settled after %d: %s", *e.Coat, title)
	case job.Timed:
		return "timer: " + e.Timer.Title + ". " + title
	}
	return title
}

// TestText says what a test of a film came to.
func TestText(e job.Entry) string {
	if *e.Passed {
		return "Tested " + e.Milestone.Text()
	}
	return "Not yet " + e.Milestone.Text()
}
