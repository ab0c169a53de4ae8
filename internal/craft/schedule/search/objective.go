package search

import (
	"cmp"
	"fmt"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
)

// Objective is how good a plan is, by the aims of rules §9 in their order: no broken
// hard window, least weighted days late, fewest set-ups, earliest completion.
type Objective struct {
	Broken     int     // events that cannot be placed, or begin after a hard window
	DaysLate   float64 // Σ weight · whole local days late
	SetUps     int
	Completion float64 // Σ of finishes, in days from now
}

// Compare is negative when a is better than b.
func (a Objective) Compare(b Objective) int {
	return cmp.Or(cmp.Compare(a.Broken, b.Broken), cmp.Compare(a.DaysLate, b.DaysLate),
		cmp.Compare(a.SetUps, b.SetUps), cmp.Compare(round(a.Completion), round(b.Completion)))
}

// round makes completions of the same minutes equal whatever the order of summing.
func round(days float64) int64 { return int64(days*1440 + 0.5) }

// String says the aims in words.
func (a Objective) String() string {
	return fmt.Sprintf("%d broken, %g days late, %d set-ups, %.1f days of completion in all", a.Broken, a.DaysLate, a.SetUps, a.Completion)
}

// Measure is how good a plan is.
func Measure(p *schedule.Plan) Objective {
	var a Objective
	instruments := p.Input().Instruments
	for i := range instruments {
		in := &instruments[i]
		var finish, show time.Time
		done := true
		for k, events := 0, p.EventsOf(i); k < len(events); k++ {
			e := &events[k]
			step := p.Step(e.Event)
			switch {
			case e.Done || e.Begun:
			case e.Impossible != "", e.Window.Missed && e.Window.Kind == schedule.Hard:
				a.Broken++
			case step.SetUpMin > 0 && e.Shares == nil:
				a.SetUps++
			}
			done, finish = done && e.Done, calendar.Later(finish, e.End)
			if !step.Follows {
				show = calendar.Later(show, e.End)
			}
		}
		if done {
			continue
		}
		a.Completion += finish.Sub(p.Now).Hours() / 24
		a.DaysLate += weight(in) * float64(daysLate(p, in.Promise, finish))
		if in.Show != nil {
			a.DaysLate += weight(in) * float64(daysLate(p, *in.Show, show))
		}
	}
	return a
}

func weight(in *schedule.Instrument) float64 { return cmp.Or(in.Weight, 1) }

// due is the end of a day.
func due(p *schedule.Plan, day calendar.Day) time.Time { return day.AddDays(1).At(0, p.Zone) }

// daysLate is how many whole local days after a promised day an end lies.
func daysLate(p *schedule.Plan, promise calendar.Day, end time.Time) int {
	if !end.After(due(p, promise)) {
		return 0
	}
	return max(0, calendar.DaysBetween(promise, calendar.DayOf(end.Add(-time.Minute).In(p.Zone))))
}

// LowerBoundLate is the least weighted days late that any order could reach: the sum
// over instruments of what their own bounds are late. Rules §9.
func LowerBoundLate(p *schedule.Plan) float64 {
	sum, instruments := 0.0, p.Input().Instruments
	for i, at := range p.LowerBounds() {
		if !p.Forecasts[i].Finished && !at.IsZero() {
			sum += weight(&instruments[i]) * float64(daysLate(p, instruments[i].Promise, at))
		}
	}
	return sum
}
