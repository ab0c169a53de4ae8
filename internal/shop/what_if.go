package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/store"
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
	MovedForecast
	Events int  `json:"events" doc:"how many of its events are at another time"`
	Late   bool `json:"late" doc:"its promise would not be kept"`
	Was    bool `json:"wasLate" doc:"it is not kept today"`
	Lost   bool `json:"lost" doc:"it could no longer be placed"`
	Found  bool `json:"found" doc:"it can be placed again"`
}

// MovedBead is an event at another time than today.
type MovedBead struct {
	Event        EventRef  `json:"event"`
	InstrumentID uuid.UUID `json:"instrumentId"`
	PieceID      uuid.UUID `json:"pieceId"`
	Start        time.Time `json:"start"`
	End          time.Time `json:"end"`
}

// WhatIf plans changes beside today's plan; nothing is kept. It fails with
// *Invalid naming the change that cannot be, and why.
func (s *Service) WhatIf(ctx context.Context, in Changes) (WhatIf, error) {
	var view WhatIf
	err := s.ask(ctx, func(m *moment) error {
		b, err := m.bend(in.Changes, in.PersonID)
		if err != nil {
			return err
		}
		answer, err := b.answer()
		if err != nil {
			return err
		}
		view = m.whatIf(b.summary, answer)
		b.addCared(answer, &view)
		if in.Threads {
			view.Rows, view.Marks = m.pairs(answer), m.mondays()
		}
		return b.show(answer, &view)
	})
	return view, err
}

// show adds what the instruments that are changed themselves come to.
func (b *changeSet) show(answer search.Answer, view *WhatIf) error {
	if !slices.ContainsFunc(b.changes, func(c Change) bool { return c.Kind == "wish" || byHand(&c) }) {
		return nil
	}
	after, err := b.after(answer)
	if err != nil {
		return err
	}
	view.Wished, view.Edited = b.composedAgain(after), b.edited(after)
	return nil
}

// byHand reports whether a change is one of a single schedule, step by step.
func byHand(c *Change) bool { return c.Kind == "edit" || c.Kind == "repair" }

// composedAgain is what the instrument that was composed again last comes to; nil where none was.
func (b *changeSet) composedAgain(after *moment) *Wished {
	for k := len(b.changes) - 1; k >= 0; k-- {
		if b.changes[k].Kind != "wish" {
			continue
		}
		id := b.changes[k].InstrumentID
		i := slices.IndexFunc(b.file.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
		view, w := after.instrument(i), weigh(after.instruments[i])
		return &Wished{InstrumentID: id, Outlook: view.Outlook, Days: view.Days, Pieces: view.Pieces, HandsOn: "about " + w.minutes.Text(), Coats: w.coats,
			Redo: w.redoText(), Composed: after.composed(i)}
	}
	return nil
}

// after is the bent shop as it would be, with its dates.
func (b *changeSet) after(answer search.Answer) (*moment, error) {
	in, err := b.input()
	if err != nil {
		return nil, err
	}
	next := *b.state
	next.file, next.instruments, next.steps = b.file, in.Instruments, make(map[uuid.UUID]located)
	for i := range b.file.Instruments {
		next.place(i)
	}
	return &moment{state: &next, now: b.now, input: in, plan: answer.After}, nil
}

// Kept is what keeping changes did.
type Kept struct {
	Changes []string        `json:"changes"`
	Moved   []MovedForecast `json:"moved" doc:"instruments whose finish they moved"`
}

// KeepChanges makes changes real: all of them, or none. The same id again changes
// nothing and is answered as before. It fails like WhatIf, and
// with *Taken where somebody has changed the same thing since.
func (s *Service) KeepChanges(ctx context.Context, in Changes) (Kept, error) {
	kept := Kept{}
	caller, asked := CallerOf(ctx), in
	in.PersonID = who(ctx, in.PersonID)
	if err := caller.checkMoves(in); err != nil {
		return kept, err
	}
	err := s.change(ctx, func(w *unitOfWork) error {
		if err := w.once(ctx, "changes", in.ID, asked, s.clock()); err != nil && !errors.Is(err, errKept) {
			return err
		}
		if said, err := w.KeptChanges(ctx, in.ID); err == nil {
			kept = Kept{said, []MovedForecast{}} // as after a lost answer, or a double tap
			return errKept
		} else if !errors.Is(err, store.ErrNotFound) {
			return err
		}
		if err := s.begin(ctx, w); err != nil {
			return err
		}
		if err := w.before.isOfShop("personId", in.PersonID); err != nil {
			return err
		}
		b, err := w.before.bend(in.Changes, in.PersonID)
		if err != nil {
			return err
		}
		if err := w.decide(ctx, b); err != nil {
			return err
		}
		if err := w.noteEdits(ctx, b, in.PersonID); err != nil {
			return err
		}
		kept = Kept{b.summary, moved(w.before, w.after)}
		if in.ID != uuid.Nil {
			if err := w.NoteKept(ctx, in.ID, b.summary, s.clock()); err != nil {
				return err
			}
		}
		return w.recordHistory(ctx, strings.Join(b.summary, "; "), nil, b.renamed()...)
	})
	if errors.Is(err, errKept) {
		err = nil
	}
	return kept, err
}

// addCared adds what another promise does to instruments whose work stays where it is.
func (b *changeSet) addCared(answer search.Answer, view *WhatIf) {
	renamed := b.renamed()
	for i, f := range answer.After.Forecasts {
		told := slices.ContainsFunc(view.Effects, func(e Effect) bool { return e.InstrumentID == f.Instrument })
		at := slices.IndexFunc(answer.Before.Forecasts, func(was schedule.Forecast) bool { return was.Instrument == f.Instrument })
		if told || at < 0 || !slices.Contains(renamed, f.Instrument) {
			continue
		}
		was := answer.Before.Forecasts[at]
		view.Effects = append(view.Effects, Effect{MovedForecast: b.movedForecast(answer.After.Input().Instruments[i].Name, was, f), Late: f.Late(), Was: was.Late()})
		switch name := answer.After.Input().Instruments[i].Name; {
		case f.Late() && !was.Late():
			view.Sum = fmt.Sprintf("%s is ready %s, which is later than promised. ", name, b.finishText(f)) + view.Sum
		case f.Impossible == "":
			view.Sum = fmt.Sprintf("%s is ready %s, as before. ", name, b.finishText(f)) + view.Sum
		}
	}
}

func (m *moment) whatIf(said []string, answer search.Answer) WhatIf {
	view := WhatIf{Changes: said, Effects: []Effect{}, Moved: []MovedBead{}, Rows: []Pair{}, Marks: []DayMark{}, Stands: answer.Kept}
	for _, d := range answer.Differences {
		e := Effect{MovedForecast: m.movedForecast(d.Name, d.Before, d.After), Events: d.Moved, Late: d.After.Late(), Was: d.Before.Late(),
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
		view.Moved = append(view.Moved, MovedBead{ref(e.Event), e.Instrument, e.Piece, e.Start.UTC(), e.End.UTC()})
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

func (m *moment) finishText(f schedule.Forecast) string {
	if f.Impossible != "" {
		return "cannot be placed"
	}
	return dayView(calendar.DayOf(f.Finish.In(m.plan.Zone))).Said
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
