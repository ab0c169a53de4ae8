package views

import (
	"fmt"
	"math"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// Forecast is a schedule that nobody has kept yet.
type Forecast struct {
	Outlook Outlook                 `json:"outlook"`
	Own     *OwnOutline             `json:"own,omitempty" doc:"its own outline, as it is drawn"`
	Days    []DayMark               `json:"days"`
	Pieces  []PieceView             `json:"pieces"`
	HandsOn string                  `json:"handsOn" doc:"hands-on time in all"`
	Coats   int                     `json:"coats"`
	Now     snapshot.Moment         `json:"now"`
	Moved   []changes.MovedForecast `json:"moved" doc:"what it does to other instruments"`
	Notes   []string                `json:"notes" doc:"what is worth knowing before it is kept"`
	Redo    string                  `json:"redo" doc:"the chance that some coat has to be done again: about 2 in 5"`
	Composed
}

func ForecastOf(m *snapshot.Snapshot, in changes.NewInstrument) (Forecast, error) {
	stored, draft, err := changes.Compose(m, in, changes.Asking)
	if err != nil {
		return Forecast{}, err
	}
	_, after, err := Promised(m, stored, in.Promise == "")
	if err != nil {
		return Forecast{}, err
	}
	view := instrument(after, len(after.Workshop.Instruments)-1)
	f := Forecast{Outlook: view.Outlook, Own: view.Own, Days: view.Days, Pieces: view.Pieces, Now: view.Now, Moved: changes.Moved(m, after),
		Notes: append([]string{}, draft.Notes...), Composed: composed(after, len(after.Workshop.Instruments)-1)}
	w := weigh(after.Instruments[len(after.Instruments)-1])
	f.HandsOn, f.Coats, f.Redo = "about "+w.minutes.String(), w.coats, w.redoText()
	if view.Outlook.Late {
		note, err := wouldHold(after, len(after.Workshop.Instruments)-1, view.Outlook)
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
func wouldHold(m *snapshot.Snapshot, i int, o Outlook) (string, error) {
	text := "It cannot be placed: " + o.Impossible + "."
	if o.Impossible == "" {
		text = fmt.Sprintf("This promise will not hold: ready %s. A promise of %s or later would.", o.FinishDay, o.FinishDay)
	}
	p, err := search.Propose(m.Input, search.Effort{Seed: Seed, Events: forecastEffort})
	if err != nil {
		return "", err
	}
	best := p.Plan.Forecasts[i]
	switch {
	case !p.Better() || best.Impossible != "" || (o.Impossible == "" && !best.Finish.Before(m.Plan.Forecasts[i].Finish)):
		return text + " No order of work that was tried reaches it sooner.", nil
	case best.Late():
		return fmt.Sprintf("%s A better order of work would have it ready %s, which is late too.", text, changes.FinishText(m, best)), nil
	}
	return fmt.Sprintf("%s A better order of work would have it ready %s, in time.", text, changes.FinishText(m, best)), nil
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

// Promised is a new instrument with its promise, and the shop with it. One that was left open is the day on which
// it can be ready, as soon as it can be.
func Promised(m *snapshot.Snapshot, stored recipe.Instrument, open bool) (recipe.Instrument, *snapshot.Snapshot, error) {
	after, err := m.With(stored)
	if err != nil || !open {
		return stored, after, err
	}
	f := after.Last()
	if f.Impossible != "" {
		return stored, after, nil
	}
	stored.Promise = calendar.DayOf(f.Finish.In(m.Plan.Zone))
	if stored.Show != nil && stored.Promise.Compare(*stored.Show) < 0 {
		stored.Promise = *stored.Show
	}
	after, err = m.With(stored)
	return stored, after, err
}
