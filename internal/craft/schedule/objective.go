package schedule

import (
	"cmp"
	"fmt"

	"umberfrost/internal/craft/calendar"
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

// Text says the aims in words.
func (a Objective) Text() string {
	return fmt.Sprintf("%d broken, %g days late, %d set-ups, %.1f days of completion in all", a.Broken, a.DaysLate, a.SetUps, a.Completion)
}

// Objective measures the plan.
func (p *Plan) Objective() Objective { return p.r.objective() }

func (r *retiming) objective() Objective {
	var a Objective
	for i := range r.nodes {
		d := &r.dates[i]
		switch {
		case r.nodes[i].fixed():
		case d.impossible != "", d.missed && d.window == Hard:
			a.Broken++
		case r.nodes[i].step.SetUpMin > 0 && d.shares < 0:
			a.SetUps++
		}
	}
	for i := range r.in.Instruments {
		in := &r.in.Instruments[i]
		finish, done := minute(0), true
		for k := r.first[i]; k < r.first[i+1]; k++ {
			finish, done = max(finish, r.dates[k].end), done && r.dates[k].done
		}
		if done {
			continue
		}
		a.Completion += float64(finish-r.now) / (24 * 60)
		a.DaysLate += weight(in) * float64(r.daysLate(in.Promise, finish))
		if in.Show != nil {
			a.DaysLate += weight(in) * float64(r.daysLate(*in.Show, r.showReady(i)))
		}
	}
	return a
}

func weight(in *Instrument) float64 {
	if in.Weight == 0 {
		return 1
	}
	return in.Weight
}

func (r *retiming) showReady(i int) minute {
	show := minute(0)
	for k := r.first[i]; k < r.first[i+1]; k++ {
		if !r.nodes[k].step.Follows {
			show = max(show, r.dates[k].end)
		}
	}
	return show
}

// daysLate is how many whole local days after a promised day an end lies.
func (r *retiming) daysLate(promise calendar.Day, end minute) int {
	if end <= r.due(promise) {
		return 0
	}
	return max(0, calendar.DaysBetween(promise, calendar.DayOf((end-1).time().In(r.shop.Calendar.Zone()))))
}

// LowerBoundLate is the least weighted days late that any order could reach: the sum
// over instruments of what their own bounds are late. Rules §9.
func (p *Plan) LowerBoundLate() float64 {
	sum, alone := 0.0, p.r.aside()
	for i := range p.r.in.Instruments {
		if p.Forecasts[i].Finished {
			continue
		}
		if at, possible := alone.lowerBound(i); possible {
			in := &p.r.in.Instruments[i]
			sum += weight(in) * float64(p.r.daysLate(in.Promise, at))
		}
	}
	return sum
}
