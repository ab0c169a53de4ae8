// Package sitting is hands-on work in one go at one place: which of what is planned belongs together, in what
// order it is done, and what to lay out for it. A planned sitting is derived from the dates and has no identity.
package sitting

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// apart is the longest pause within a sitting (default): after it hands have gone elsewhere.
const apart = 30 * time.Minute

// Sitting is some work at one place, in the order in which it is done.
type Sitting struct {
	Place  uuid.UUID
	Events []schedule.Planned
}

// Start is when its first work begins, End when its last ends.
func (s Sitting) Start() time.Time { return s.Events[0].Start }
func (s Sitting) End() time.Time {
	end := s.Events[0].End
	for _, e := range s.Events {
		if e.End.After(end) {
			end = e.End
		}
	}
	return end
}

// Gather parts planned work, given in any order, into sittings: the earliest first. Work at one place that begins
// while the work there before it goes on, or at most half an hour after, belongs to the same sitting. What is done
// or cannot be placed belongs to none.
func Gather(events []schedule.Planned) []Sitting {
	events = slices.DeleteFunc(slices.Clone(events), func(e schedule.Planned) bool { return e.Done || e.Impossible != "" })
	slices.SortStableFunc(events, func(a, b schedule.Planned) int { return a.Start.Compare(b.Start) })
	var list []Sitting
	open := make(map[uuid.UUID]int) // the last sitting at each place
	ends := make(map[uuid.UUID]time.Time)
	for _, e := range events {
		i, goesOn := open[e.Place]
		if !goesOn || e.Start.Sub(ends[e.Place]) > apart {
			i = len(list)
			list = append(list, Sitting{Place: e.Place})
			open[e.Place], ends[e.Place] = i, time.Time{}
		}
		list[i].Events = append(list[i].Events, e)
		if end := firstEnd(e); end.After(ends[e.Place]) {
			ends[e.Place] = end
		}
	}
	return list
}

// firstEnd is when hands leave an event: of work that is spread, its first stretch.
func firstEnd(e schedule.Planned) time.Time {
	if len(e.Spans) > 0 {
		return e.Spans[0].End
	}
	return e.End
}

// Work is one event of a sitting with what laying out needs to know of it.
type Work struct {
	Event   job.Event
	Step    *schedule.Step
	AreaM2  unit.SquareMetre
	Start   time.Time
	Minutes unit.Minutes // in which it is put on
	PotLife unit.Minutes // of its mix where it is put on; 0: it does not set
	Thin    *float64     // as somebody chose; nil: as is usual for the family
}

// Together lists which works, given in their order, are done as one step of a sitting: the same coat, or the same
// work, on one piece after the other. No piece comes twice in a step.
func Together(works []Work) [][]int {
	var steps [][]int
	for i := range works {
		last := len(steps) - 1
		if last >= 0 && goesWith(works, steps[last], i) {
			steps[last] = append(steps[last], i)
			continue
		}
		steps = append(steps, []int{i})
	}
	return steps
}

func goesWith(works []Work, step []int, i int) bool {
	a, b := works[step[0]].Step, works[i].Step
	for _, k := range step {
		if works[k].Step.Piece == b.Piece {
			return false
		}
	}
	switch {
	case a.Kind != b.Kind || a.Within != nil || b.Within != nil:
		return false
	case a.Kind == job.Coat:
		return a.Material.Key() == b.Material.Key() && a.Method == b.Method && len(a.Material.Family.Methods) > 0
	}
	return a.Title == b.Title
}

// Lay is what to lay out for a sitting.
type Lay struct {
	Materials []Material
	Grits     []string // the abrasives of its ladders, coarse ones first
	Tape      bool     // something is taped
	Tools     []string
}

// Out lists what to lay out for some work, in its order.
func Out(works []Work) (Lay, error) {
	var lay Lay
	materials, err := materialsOf(works)
	if err != nil {
		return lay, err
	}
	lay.Materials = materials
	tool := func(name string) {
		if !slices.Contains(lay.Tools, name) {
			lay.Tools = append(lay.Tools, name)
		}
	}
	for _, w := range works {
		for _, key := range w.Step.Ladder {
			if !slices.Contains(lay.Grits, key) {
				lay.Grits = append(lay.Grits, key)
			}
		}
		lay.Tape = lay.Tape || w.Step.Kind == job.MaskOn
		for _, name := range toolsOf(w.Step) {
			tool(name)
		}
	}
	coarse := make(map[string]unit.Micron)
	for _, key := range lay.Grits {
		if grit, err := abrasive.Find(key); err == nil {
			coarse[key] = grit.Scratch
		}
	}
	slices.SortStableFunc(lay.Grits, func(a, b string) int { return cmp.Compare(coarse[b], coarse[a]) })
	return lay, nil
}

// toolsOf is what hands hold for a step.
func toolsOf(s *schedule.Step) []string {
	var tools []string
	if s.Tool != "" {
		tools = append(tools, "the "+strings.ReplaceAll(s.Tool, "-", " "))
	}
	switch s.Kind {
	case job.Coat:
		if name := coatTools[string(s.Method)]; name != "" {
			tools = append(tools, name)
		}
		if s.Material.Family.Lamp > 0 {
			tools = append(tools, "the lamp")
		}
		if s.WipesOff() {
			tools = append(tools, "dry cloths to wipe off with")
		}
	case job.Sand, job.Scuff, job.Level:
		tools = append(tools, "sanding blocks")
	case job.Inspect:
		tools = append(tools, "a raking light")
	}
	return tools
}

var coatTools = map[string]string{"spray": "the spray gun", "brush": "a brush", "wipe": "lint-free cloths", "pad": "a pad",
	"pour": "cups and sticks",
	"drop": "a dropper"}
