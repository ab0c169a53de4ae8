package shop

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/workshop"
)

// Forecast is a schedule that nobody has kept yet.
type Forecast struct {
	Outlook Outlook         `json:"outlook"`
	Own     *OwnOutline     `json:"own,omitempty" doc:"its own outline, as it is drawn"`
	Days    []DayMark       `json:"days"`
	Pieces  []PieceView     `json:"pieces"`
	HandsOn string          `json:"handsOn" doc:"hands-on time in all"`
	Coats   int             `json:"coats"`
	Now     Moment          `json:"now"`
	Moved   []MovedForecast `json:"moved" doc:"what it does to other instruments"`
	Notes   []string        `json:"notes" doc:"what is worth knowing before it is kept"`
	Redo    string          `json:"redo" doc:"the chance that some coat has to be done again: about 2 in 5"`
	Composed
}

// MovedForecast is an instrument whose finish a change has moved.
type MovedForecast struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name"`
	Before       string    `json:"before"`
	After        string    `json:"after"`
	Days         int       `json:"days" doc:"whole days later; negative is earlier; 0 where either has no finish"`
	Text         string    `json:"text" doc:"3 days later, the same day, or: can no longer be placed"`
}

// Forecast composes and dates a new instrument beside today's work without
// saving anything.
func (s *Service) Forecast(ctx context.Context, in NewInstrument) (Forecast, error) {
	var f Forecast
	err := s.ask(ctx, func(m *moment) (err error) {
		f, err = m.forecast(in)
		return err
	})
	return f, err
}

func (m *moment) forecast(in NewInstrument) (Forecast, error) {
	stored, draft, err := m.compose(in, asking)
	if err != nil {
		return Forecast{}, err
	}
	_, after, err := m.promised(stored, in.Promise == "")
	if err != nil {
		return Forecast{}, err
	}
	view := after.instrument(len(after.file.Instruments) - 1)
	f := Forecast{Outlook: view.Outlook, Own: view.Own, Days: view.Days, Pieces: view.Pieces, Now: view.Now, Moved: moved(m, after),
		Notes: append([]string{}, draft.Notes...), Composed: after.composed(len(after.file.Instruments) - 1)}
	w := weigh(after.instruments[len(after.instruments)-1])
	f.HandsOn, f.Coats, f.Redo = "about "+w.minutes.Text(), w.coats, w.redoText()
	if view.Outlook.Late {
		note, err := after.wouldHold(len(after.file.Instruments)-1, view.Outlook)
		if err != nil {
			return Forecast{}, err
		}
		f.Notes = append(f.Notes, note)
	}
	return f, nil
}

// forecastEffort is how many events may be placed in looking for an order that would
// keep a promise, while somebody waits for the answer.
const forecastEffort = 20_000

// wouldHold says of an instrument that misses its promise what would keep it: another
// day, or a better order of work.
func (m *moment) wouldHold(i int, o Outlook) (string, error) {
	text := "It cannot be placed: " + o.Impossible + "."
	if o.Impossible == "" {
		text = fmt.Sprintf("This promise will not hold: ready %s. A promise of %s or later would.", o.FinishDay, o.FinishDay)
	}
	p, err := search.Propose(m.input, search.Effort{Seed: seed, Events: forecastEffort})
	if err != nil {
		return "", err
	}
	best := p.Plan.Forecasts[i]
	switch {
	case !p.Better() || best.Impossible != "" || (o.Impossible == "" && !best.Finish.Before(m.plan.Forecasts[i].Finish)):
		return text + " No order of work that was tried reaches it sooner.", nil
	case best.Late():
		return fmt.Sprintf("%s A better order of work would have it ready %s, which is late too.", text, m.finishText(best)), nil
	}
	return fmt.Sprintf("%s A better order of work would have it ready %s, in time.", text, m.finishText(best)), nil
}

// weight is what a schedule takes.
type weight struct {
	minutes unit.Minutes
	coats   int
	sound   float64 // the chance that no step has to be done again
}

// weigh adds up what a schedule takes.
func weigh(in schedule.Instrument) weight {
	w := weight{sound: 1}
	for _, piece := range in.Pieces {
		for _, step := range piece.Steps {
			w.minutes += step.HandsOnMin * unit.Minutes(step.Due())
			if step.Kind == schedule.Coat && step.Due() > 0 {
				w.coats += step.Due()
				w.sound *= 1 - float64(step.Material.Family.RedoChance)/100
			}
		}
	}
	return w
}

// redo is the chance that some step has to be done again, in percent.
func (w weight) redo() int { return int(math.Round((1 - w.sound) * 100)) }

// redoText is that chance as people say it: so many in two, three, four, five or ten.
func (w weight) redoText() string {
	chance := 1 - w.sound
	best, of, off := 0, 1, chance
	for _, n := range []int{2, 3, 4, 5, 10} {
		k := math.Round(chance * float64(n))
		if d := math.Abs(chance - k/float64(n)); k > 0 && d < off-0.005 {
			best, of, off = int(k), n, d
		}
	}
	switch {
	case best == 0:
		return "less than 1 in 10"
	case best == of:
		return "nearly certain"
	}
	return fmt.Sprintf("about %d in %d", best, of)
}

// promised is a new instrument with its promise, and the shop with it. One that was left open is the day on which
// it can be ready, as soon as it can be.
func (m *moment) promised(stored recipe.Instrument, open bool) (recipe.Instrument, *moment, error) {
	after, err := m.with(stored)
	if err != nil || !open {
		return stored, after, err
	}
	f := after.last()
	if f.Impossible != "" {
		return stored, after, nil
	}
	stored.Promise = calendar.DayOf(f.Finish.In(m.plan.Zone))
	if stored.Show != nil && calendar.DaysBetween(stored.Promise, *stored.Show) > 0 {
		stored.Promise = *stored.Show
	}
	after, err = m.with(stored)
	return stored, after, err
}

// last is the forecast of the instrument at the end of the order.
func (m *moment) last() schedule.Forecast { return m.plan.Forecasts[len(m.plan.Forecasts)-1] }

// with is the same shop with one more instrument at the end of the order.
func (m *moment) with(stored recipe.Instrument) (*moment, error) {
	next := *m.state
	planned, err := workshop.Planned(len(m.file.Instruments), &stored, next.catalogue)
	if err != nil {
		return nil, err
	}
	if err := planned.Validate(); err != nil {
		return nil, err
	}
	file := *m.file
	file.Instruments = append(slices.Clone(m.file.Instruments), stored)
	next.file = &file
	next.instruments = append(slices.Clone(m.instruments), planned)
	next.steps = maps.Clone(m.steps)
	next.place(len(m.file.Instruments))
	input := m.input
	input.Instruments = next.instruments
	plan, err := m.plan.Retime(input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	return &moment{state: &next, now: m.now, input: input, plan: plan}, nil
}

// movedForecast is what became of an instrument's finish.
func (m *moment) movedForecast(name string, was, is schedule.Forecast) MovedForecast {
	v := MovedForecast{InstrumentID: is.Instrument, Name: name, Before: m.finishText(was), After: m.finishText(is)}
	switch {
	case was.Instrument == uuid.Nil: // it was not planned at all
		v.Before, v.Text = "", "planned again, ready "+v.After
		if is.Impossible != "" {
			v.Text = "planned again, and cannot be placed"
		}
	case is.Impossible != "" && was.Impossible != "":
		v.Text = "still cannot be placed"
	case is.Impossible != "":
		v.Text = "can no longer be placed"
	case was.Impossible != "":
		v.Text = "can be placed again"
	default:
		v.Days = calendar.DaysBetween(calendar.DayOf(was.Finish.In(m.plan.Zone)), calendar.DayOf(is.Finish.In(m.plan.Zone)))
		v.Text = daysText(v.Days)
	}
	return v
}

// moved compares the finishes of two moments.
func moved(before, after *moment) []MovedForecast {
	list := []MovedForecast{}
	old := make(map[uuid.UUID]schedule.Forecast)
	for _, f := range before.plan.Forecasts {
		old[f.Instrument] = f
	}
	for i, f := range after.plan.Forecasts {
		was, there := old[f.Instrument]
		if there && !was.Finish.Equal(f.Finish) {
			list = append(list, after.movedForecast(after.file.Instruments[i].Name, was, f))
		}
	}
	return list
}
