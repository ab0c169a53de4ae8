package views

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/shop/snapshot"
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

// InstrumentLook is how an instrument looks by now.
type InstrumentLook struct {
	InstrumentID uuid.UUID     `json:"instrumentId"`
	Looks        []recipe.Look `json:"looks" doc:"of body and neck; none where what is wished is not known"`
}

func AllLooks(m *snapshot.Snapshot) []InstrumentLook {
	list := make([]InstrumentLook, len(m.Workshop.Instruments))
	for i := range m.Workshop.Instruments {
		in := &m.Workshop.Instruments[i]
		list[i] = InstrumentLook{in.ID, append([]recipe.Look{}, looksOf(m, in, false)...)}
	}
	return list
}

func Lines(m *snapshot.Snapshot) []InstrumentLine {
	lines := make([]InstrumentLine, 0, len(m.Workshop.Instruments))
	running := promises(m)
	rank := make(map[uuid.UUID]int)
	for i, p := range running {
		rank[p.InstrumentID] = i
	}
	ordered := make([]InstrumentLine, len(running))
	for i := range m.Workshop.Instruments {
		line := line(m, i)
		if at, runs := rank[line.ID]; runs {
			ordered[at] = line
		} else {
			lines = append(lines, line)
		}
	}
	return append(ordered, lines...)
}

func line(m *snapshot.Snapshot, i int) InstrumentLine {
	in := m.Workshop.Instruments[i]
	line := InstrumentLine{ID: in.ID, Name: in.Name, Outline: in.Outline, Own: OutlineOf(in.Own), Outlook: withLatest(m, outlook(m, i), i),
		State: Finished,
		Stage: "Finished", Pieces: []string{}, Serial: in.Serial, Woods: WoodsOf(&in)}
	line.Done, line.Total = Progress(m, &in)
	line.Colour = lookOf(m, in.Pieces[0]).Colour
	if e := nextOf(m, in.Pieces[0]); e != nil {
		line.Frost = frost(m, *e)
	}
	var next *schedule.Planned
	for _, piece := range in.Pieces {
		if piece.Kind != job.Whole {
			line.Pieces = append(line.Pieces, string(piece.Kind))
		}
		if e := nextOf(m, piece); e != nil && (next == nil || e.Open.Before(next.Open)) {
			next = e
		}
	}
	if next != nil {
		at, _ := m.Find(next.Step)
		line.Stage = at.Planned().EventTitle(next.Coat)
		if len(line.Pieces) > 1 {
			line.Stage += ", " + string(at.Piece().Kind)
		}
		line.Waits, line.State = explain.Sentence(m.Plan, next.Event), stateOf(m, *next)
		if line.Outlook.Late {
			line.State = Late
		}
	}
	return line
}
