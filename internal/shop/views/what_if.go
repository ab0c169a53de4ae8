package views

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// WhatIf is what changes would do, beside today's plan.
type WhatIf struct {
	Changes []string    `json:"changes" doc:"each in words"`
	Effects []Effect    `json:"effects" doc:"on every instrument that differs"`
	Sum     string      `json:"sum" doc:"in a few words"`
	Stands  bool        `json:"stands" doc:"today's dates stand: the wider shop, served in order, would come out worse"`
	Moved   []MovedBead `json:"moved" doc:"events at another time, the nearest first, at most 400"`
	Rows    []Pair      `json:"rows" doc:"threads of what differs, before and after, where asked for; at most 12"`
	Marks   []DayMark   `json:"marks" doc:"the Mondays along them"`
	Wished  *Wished     `json:"wished,omitempty" doc:"where an instrument is composed again: what it comes to; of the last that is"`
	Edited  *Edited     `json:"edited,omitempty" doc:"where a schedule is changed by hand: what it would be; of the last that is"`
}

// Wished is an instrument composed again, as it would be.
type Wished struct {
	InstrumentID uuid.UUID   `json:"instrumentId"`
	Outlook      Outlook     `json:"outlook"`
	Days         []DayMark   `json:"days" doc:"the days its threads run through"`
	Pieces       []PieceView `json:"pieces"`
	HandsOn      string      `json:"handsOn" doc:"hands-on time in all, what is logged with it"`
	Coats        int         `json:"coats"`
	Redo         string      `json:"redo"`
	Composed
}

// Effect is what changes do to one instrument.
type Effect struct {
	changes.MovedForecast
	Events int  `json:"events" doc:"how many of its events are at another time"`
	Late   bool `json:"late" doc:"its promise would not be kept"`
	Was    bool `json:"wasLate" doc:"it is not kept today"`
	Lost   bool `json:"lost" doc:"it could no longer be placed"`
	Found  bool `json:"found" doc:"it can be placed again"`
}

// MovedBead is an event at another time than today.
type MovedBead struct {
	Event        changes.EventRef `json:"event"`
	InstrumentID uuid.UUID        `json:"instrumentId"`
	PieceID      uuid.UUID        `json:"pieceId"`
	Start        time.Time        `json:"start"`
	End          time.Time        `json:"end"`
}

// Show adds what the instruments that are changed themselves come to.
func Show(b *changes.Set, answer search.Answer, view *WhatIf) error {
	if !slices.ContainsFunc(b.Changes, func(c changes.Change) bool { return c.Kind == "wish" || byHand(&c) }) {
		return nil
	}
	after, err := result(b, answer)
	if err != nil {
		return err
	}
	view.Wished, view.Edited = composedAgain(b, after), edited(b, after)
	return nil
}

// byHand reports whether a change is one of a single schedule, step by step.
func byHand(c *changes.Change) bool { return c.Kind == "edit" || c.Kind == "repair" }

// composedAgain is what the instrument that was composed again last comes to; nil where none was.
func composedAgain(b *changes.Set, after *snapshot.Snapshot) *Wished {
	for k := len(b.Changes) - 1; k >= 0; k-- {
		if b.Changes[k].Kind != "wish" {
			continue
		}
		id := b.Changes[k].InstrumentID
		i := slices.IndexFunc(b.Workshop.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
		view, w := instrument(after, i), weigh(after.Instruments[i])
		return &Wished{InstrumentID: id, Outlook: view.Outlook, Days: view.Days, Pieces: view.Pieces,
			HandsOn: "about " + w.minutes.String(), Coats: w.coats,
			Redo: w.redoText(), Composed: composed(after, i)}
	}
	return nil
}

// result is the changed shop as it would be, with its dates.
func result(b *changes.Set, answer search.Answer) (*snapshot.Snapshot, error) {
	in, err := b.Input()
	if err != nil {
		return nil, err
	}
	next := *b.State
	next.Workshop, next.Instruments, next.Steps = b.Workshop, in.Instruments, make(map[uuid.UUID]snapshot.Located)
	for i := range b.Workshop.Instruments {
		next.Place(i)
	}
	return &snapshot.Snapshot{State: &next, Now: b.Now, Input: in, Plan: answer.After}, nil
}

// Kept is what keeping changes did.
type Kept struct {
	Changes []string                `json:"changes"`
	Moved   []changes.MovedForecast `json:"moved" doc:"instruments whose finish they moved"`
}

// AddCared adds what another promise does to instruments whose work stays where it is.
func AddCared(b *changes.Set, answer search.Answer, view *WhatIf) {
	renamed := b.Renamed()
	for i, f := range answer.After.Forecasts {
		told := slices.ContainsFunc(view.Effects, func(e Effect) bool { return e.InstrumentID == f.Instrument })
		at := slices.IndexFunc(answer.Before.Forecasts, func(was schedule.Forecast) bool { return was.Instrument == f.Instrument })
		if told || at < 0 || !slices.Contains(renamed, f.Instrument) {
			continue
		}
		was := answer.Before.Forecasts[at]
		view.Effects = append(view.Effects, Effect{MovedForecast: changes.ForecastMove(b.Snapshot, answer.After.Input().Instruments[i].Name,
			was, f), Late: f.Late(), Was: was.Late()})
		switch name := answer.After.Input().Instruments[i].Name; {
		case f.Late() && !was.Late():
			view.Sum = fmt.Sprintf("%s is ready %s, which is later than promised. ", name, changes.FinishText(b.Snapshot, f)) + view.Sum
		case f.Impossible == "":
			view.Sum = fmt.Sprintf("%s is ready %s, as before. ", name, changes.FinishText(b.Snapshot, f)) + view.Sum
		}
	}
}

func WhatIfOf(m *snapshot.Snapshot, said []string, answer search.Answer) WhatIf {
	view := WhatIf{Changes: said, Effects: []Effect{}, Moved: []MovedBead{}, Rows: []Pair{}, Marks: []DayMark{}, Stands: answer.Kept}
	for _, d := range answer.Differences {
		e := Effect{MovedForecast: changes.ForecastMove(m, d.Name, d.Before, d.After), Events: d.Moved, Late: d.After.Late(),
			Was:  d.Before.Late(),
			Lost: d.After.Impossible != "" && d.Before.Impossible == "", Found: d.After.Impossible == "" && d.Before.Impossible != ""}
		e.Found = e.Found || (d.Before.Instrument == uuid.Nil && !e.Lost) // brought back
		view.Effects = append(view.Effects, e)
	}
	slices.SortStableFunc(view.Effects, func(a, b Effect) int { return size(b) - size(a) })
	view.Sum = sumText(view.Effects)
	const most = 400
	for _, e := range answer.After.Events {
		old, there := answer.Before.Find(e.Event)
		if e.Done || e.Impossible != "" || (there && old.Start.Equal(e.Start) && old.End.Equal(e.End)) {
			continue
		}
		view.Moved = append(view.Moved, MovedBead{changes.Ref(e.Event), e.Instrument, e.Piece, e.Start.UTC(), e.End.UTC()})
	}
	slices.SortStableFunc(view.Moved, func(a, b MovedBead) int { return a.Start.Compare(b.Start) })
	view.Moved = view.Moved[:min(most, len(view.Moved))]
	return view
}

// size is how much an effect matters, for putting the most telling first.
func size(e Effect) int {
	days := max(e.Days, -e.Days)
	if e.Late != e.Was {
		days += 1000
	}
	if e.Lost || e.Found {
		days += 10_000
	}
	return days
}

// sumText says in a few words what a what-if does.
func sumText(effects []Effect) string {
	var placed, earlier, later []string
	shifted := 0
	for _, e := range effects {
		switch {
		case e.Lost, e.Found:
			placed = append(placed, e.Name+" "+e.Text)
		case e.Days < 0:
			earlier = append(earlier, fmt.Sprintf("%s %s earlier", e.Name, phrase.Plural(-e.Days, "day")))
		case e.Days > 0:
			later = append(later, fmt.Sprintf("%s %s later", e.Name, phrase.Plural(e.Days, "day")))
		default:
			shifted++
		}
	}
	parts := slices.Concat(few(placed), few(earlier), few(later))
	switch {
	case len(effects) == 0:
		return "Nothing else moves."
	case len(parts) == 0:
		return fmt.Sprintf("No finish changes its day; work moves on %s.", phrase.Plural(shifted, "instrument"))
	}
	return strings.Join(parts, ", ") + "."
}

// few names the first three of a list and counts the rest.
func few(list []string) []string {
	if len(list) <= 3 {
		return list
	}
	return append(list[:3:3], fmt.Sprintf("%d more", len(list)-3))
}
