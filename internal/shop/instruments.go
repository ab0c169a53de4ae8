package shop

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
)

// InstrumentLine is one job in the list.
type InstrumentLine struct {
	ID      uuid.UUID   `json:"id"`
	Name    string      `json:"name"`
	Own     *OwnOutline `json:"own,omitempty" doc:"an outline of its own"`
	Outline string      `json:"outline" enum:"two-horned,one-horned,slab,offset,angular,bass"`
	Colour  string      `json:"colour"`
	Frost   float64     `json:"frost" minimum:"0" maximum:"1" doc:"share of the wait that is left for its first piece"`
	Serial  string      `json:"serial"`
	Woods   []string    `json:"woods"`
	Pieces  []string    `json:"pieces" doc:"body, neck"`
	Outlook Outlook     `json:"outlook"`
	State   State       `json:"state" enum:"ready,drying,closing,waiting,late,finished"`
	Stage   string      `json:"stage" doc:"what is next, in words"`
	Waits   string      `json:"waits" doc:"why it is not sooner"`
	Done    int         `json:"done" doc:"events done"`
	Total   int         `json:"total" doc:"events in all"`
}

// Instruments lists all jobs, running ones first, the tightest promise first.
func (s *Service) Instruments(ctx context.Context) ([]InstrumentLine, error) {
	var lines []InstrumentLine
	err := s.look(ctx, func(m *moment) error {
		lines = m.lines()
		return nil
	})
	return lines, err
}

// InstrumentLook is how an instrument looks by now.
type InstrumentLook struct {
	InstrumentID uuid.UUID     `json:"instrumentId"`
	Looks        []recipe.Look `json:"looks" doc:"of body and neck; none where what is wished is not known"`
}

// Looks lists how the instruments look by now, as far as the log has come.
func (s *Service) Looks(ctx context.Context) ([]InstrumentLook, error) {
	var list []InstrumentLook
	err := s.look(ctx, func(m *moment) error {
		list = madeOnce(m, lasting("looks"), func() []InstrumentLook { return m.allLooks() })
		return nil
	})
	return list, err
}

func (m *moment) allLooks() []InstrumentLook {
	list := make([]InstrumentLook, len(m.file.Instruments))
	for i := range m.file.Instruments {
		in := &m.file.Instruments[i]
		list[i] = InstrumentLook{in.ID, append([]recipe.Look{}, m.looksOf(in, false)...)}
	}
	return list
}

func (m *moment) lines() []InstrumentLine {
	lines := make([]InstrumentLine, 0, len(m.file.Instruments))
	running := m.promises()
	rank := make(map[uuid.UUID]int)
	for i, p := range running {
		rank[p.InstrumentID] = i
	}
	ordered := make([]InstrumentLine, len(running))
	for i := range m.file.Instruments {
		line := m.line(i)
		if at, runs := rank[line.ID]; runs {
			ordered[at] = line
		} else {
			lines = append(lines, line)
		}
	}
	return append(ordered, lines...)
}

func (m *moment) line(i int) InstrumentLine {
	in := m.file.Instruments[i]
	line := InstrumentLine{ID: in.ID, Name: in.Name, Outline: in.Outline, Own: ownOutline(in.Own), Outlook: m.withLatest(m.outlook(i), i), State: Finished,
		Stage: "Finished", Pieces: []string{}, Serial: in.Serial, Woods: woodsOf(&in)}
	line.Done, line.Total = m.progress(&in)
	line.Colour = m.lookOf(in.Pieces[0]).Colour
	if e := m.nextOf(in.Pieces[0]); e != nil {
		line.Frost = m.frost(*e)
	}
	var next *schedule.Planned
	for _, piece := range in.Pieces {
		if piece.Kind != job.Whole {
			line.Pieces = append(line.Pieces, string(piece.Kind))
		}
		if e := m.nextOf(piece); e != nil && (next == nil || e.Open.Before(next.Open)) {
			next = e
		}
	}
	if next != nil {
		at, _ := m.find(next.Step)
		line.Stage = at.planned().EventTitle(next.Coat)
		if len(line.Pieces) > 1 {
			line.Stage += ", " + string(at.piece().Kind)
		}
		line.Waits, line.State = explain.Sentence(m.plan, next.Event), m.stateOf(*next)
		if line.Outlook.Late {
			line.State = Late
		}
	}
	return line
}
