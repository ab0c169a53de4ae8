package search

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Chance is how likely a promise is to be kept.
type Chance struct {
	Instrument uuid.UUID
	Kept       unit.Percent // of the draws
	Learned    int          // observations behind the factors that were drawn
	NineInTen  time.Time    // by when it is finished in nine draws of ten; zero without draws
	Draws      int          // 0: it cannot be placed today
}

// Chances plans the accepted order many times, each with waits and minutes
// drawn from what the shop has learned (one factor per product and draw, not per
// coat) and now and then a coat that has to be done again. The same seed gives the
// same answer. More draws cost proportionally more time: the answer belongs in the
// background. It stops early, with the draws it has, when stop reports true. What
// cannot be placed today has no chance: no draws.
func Chances(p *schedule.Plan, learned schedule.Learned, seed uint64, draws int, stop func() bool) ([]Chance, error) {
	in := p.Input()
	finishes := make([][]time.Time, len(in.Instruments))
	for done := 0; done < draws && (stop == nil || !stop()); done++ {
		drawn, err := finishesOf(p, draw(in, learned, rand.New(rand.NewPCG(seed, uint64(done)))))
		if err != nil {
			return nil, err
		}
		for i, finish := range drawn {
			if p.Forecasts[i].Impossible == "" {
				finishes[i] = append(finishes[i], finish)
			}
		}
	}
	chances := make([]Chance, len(in.Instruments))
	for i := range in.Instruments {
		chances[i] = chanceOf(&in, i, finishes[i])
		chances[i].Learned = learned.Observations()
	}
	return chances, nil
}

// finishesOf are the finishes of a draw. A draw that does not fit an opening is placed
// as the plan would place it, with the minutes that are planned; one that then breaks a
// hard window is as late as today's plan at least.
func finishesOf(today *schedule.Plan, drawn schedule.Input) ([]time.Time, error) {
	p, err := schedule.Retime(drawn)
	if err != nil {
		return nil, err
	}
	again := false
	for i, f := range p.Forecasts {
		if f.Impossible != "" && today.Forecasts[i].Impossible == "" {
			drawn.Instruments[i], again = today.Input().Instruments[i], true
		}
	}
	if again {
		if p, err = schedule.Retime(drawn); err != nil {
			return nil, err
		}
	}
	finishes := make([]time.Time, len(p.Forecasts))
	for i, f := range p.Forecasts {
		if f.Impossible != "" {
			f = today.Forecasts[i]
		}
		finishes[i] = f.Finish
	}
	return finishes, nil
}

// Working shows how a chance came about; ninth is the day by which nine draws of
// ten are finished, in words.
func (c Chance) Working(promise calendar.Day, ninth string) working.Working {
	spread := working.Input{Name: "spread of waits and minutes", Value: "as usual: nothing is learned yet", Source: working.Rule}
	if c.Learned > 0 {
		spread.Value, spread.Source = fmt.Sprintf("%d tests and logged times", c.Learned), working.Shop
	}
	return working.New("Chance of keeping the promise",
		"share of plans that keep it, each with waits, minutes and redone coats drawn from what is usual or learned",
		fmt.Sprintf("%.0f %%, and nine in ten by %s", float64(c.Kept), ninth),
		working.Input{Name: "promise", Value: promise.String(), Source: working.Person},
		working.Input{Name: "plans drawn", Value: fmt.Sprint(c.Draws), Source: working.Shop}, spread)
}

func chanceOf(in *schedule.Input, i int, finishes []time.Time) Chance {
	c := Chance{Instrument: in.Instruments[i].ID, Draws: len(finishes)}
	if len(finishes) == 0 {
		return c
	}
	due := in.Instruments[i].Promise.AddDays(1).At(0, in.Shop.Calendar.Zone())
	slices.SortFunc(finishes, time.Time.Compare)
	kept := 0
	for _, finish := range finishes {
		if !finish.After(due) {
			kept++
		}
	}
	c.Kept = unit.Percent(100 * float64(kept) / float64(len(finishes)))
	c.NineInTen = finishes[(len(finishes)*9+9)/10-1]
	return c
}

// draw is one way that things may go.
func draw(in schedule.Input, learned schedule.Learned, random *rand.Rand) schedule.Input {
	factors, paces := make(map[string]float64), make(map[schedule.Kind]float64)
	longest := unit.Minutes(in.Shop.Calendar.Longest() / time.Minute)
	instruments := make([]schedule.Instrument, len(in.Instruments))
	for i, instrument := range in.Instruments {
		instrument.Pieces = slices.Clone(instrument.Pieces)
		for p := range instrument.Pieces {
			piece := &instrument.Pieces[p]
			piece.Steps = slices.Clone(piece.Steps)
			for s := range piece.Steps {
				step := &piece.Steps[s]
				if step.Material != nil {
					drawFactor(in.Factors, factors, step.Material, learned, random)
				}
				step.HandsOnMin = drawMinutes(paces, step, learned, longest, random)
				drawRounds(step, &in, random)
			}
		}
		instruments[i] = instrument
	}
	in.Instruments, in.Factors = instruments, factors
	return in
}

// drawFactor draws round what dates are planned with: what is said, else what is learned.
func drawFactor(said, factors map[string]float64, m *material.Material, learned schedule.Learned, random *rand.Rand) {
	if _, drawn := factors[m.Key()]; drawn {
		return
	}
	f, known := learned.Factors[m.Key()]
	if !known {
		f = cure.Prior()
	}
	if factor, is := said[m.Key()]; is {
		f.Median = factor
	}
	factors[m.Key()] = f.Median * math.Exp(f.Sigma*random.NormFloat64())
}

// drawMinutes draws one pace for each kind of work, so that a slow week is slow
// for all of it. What is not handwork stays within the longest opening that there is.
func drawMinutes(paces map[schedule.Kind]float64, step *schedule.Step, learned schedule.Learned, longest unit.Minutes,
	random *rand.Rand) unit.Minutes {
	pace, drawn := paces[step.Kind]
	if !drawn {
		p, known := learned.Pace[step.Kind]
		if !known {
			p = schedule.DefaultPace
		}
		pace = p.Median * math.Exp(p.Sigma*random.NormFloat64())
		paces[step.Kind] = pace
	}
	work := float64(step.HandsOnMin-step.SetUpMin) * pace
	minutes := step.SetUpMin + unit.Minutes(min(20*60, math.Ceil(work)))
	if !step.Kind.Handwork() {
		minutes = min(minutes, max(step.HandsOnMin, longest))
	}
	return minutes
}

// drawRounds draws how many rounds a step takes, and whether a coat has to be
// done again.
func drawRounds(step *schedule.Step, in *schedule.Input, random *rand.Rand) {
	roll := random.Float64()
	if _, settled := in.Settled[step.ID]; settled {
		return
	}
	done := 0
	for coat := 1; coat <= step.Coats; coat++ {
		if _, logged := in.Facts[schedule.Event{Step: step.ID, Coat: coat}]; logged {
			done++
		}
	}
	if done == step.Coats {
		return
	}
	if r := step.Repeat; r != nil {
		// triangular between least and most, with its peak at what is expected
		least, most, peak := float64(r.Least)-0.5, float64(r.Most)+0.5, float64(step.Coats)
		x := least + math.Sqrt(roll*(most-least)*(peak-least))
		if roll > (peak-least)/(most-least) {
			x = most - math.Sqrt((1-roll)*(most-least)*(most-peak))
		}
		step.Coats = max(done, min(r.Most, max(r.Least, int(math.Round(x)))))
		return
	}
	if step.Material != nil && roll*100 < float64(step.Material.Family.RedoChance) {
		step.Coats++
	}
}
