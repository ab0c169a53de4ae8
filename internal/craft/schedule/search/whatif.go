package search

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
)

// Difference is what a change does to one instrument.
type Difference struct {
	Instrument    uuid.UUID
	Name          string
	Before, After schedule.Forecast
	Days          int // whole local days later; negative is earlier
	Moved         int // events that would be at another time
}

// Answer is a what-if beside today's plan; nothing has been changed.
type Answer struct {
	Before, After *schedule.Plan
	Differences   []Difference     // of every instrument that differs
	Order         []schedule.Event // the order of work that After is served in
	Kept          bool             // today's dates stand: the changed shop's own would have been worse, and today's remain possible
}

// WhatIf plans a changed input beside today's plan. A change that only widens what
// is allowed (wider says so: another pair of hands, a wider booth, a longer day) is
// never worse: where today's order of work, served greedily, would come out worse in
// the wider shop, the order of today's dates is tried, and where that is worse too,
// today's dates, which the wider shop still allows, are the answer.
func WhatIf(today *schedule.Plan, changed schedule.Input, wider bool) (Answer, error) {
	after, err := today.Retime(changed)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Before: today, After: after, Order: changed.Order}
	if wider && Measure(after).Compare(Measure(today)) > 0 {
		changed.Order = byStart(today)
		if after, err = today.Retime(changed); err != nil {
			return Answer{}, err
		}
		if a.After, a.Order = after, changed.Order; Measure(after).Compare(Measure(today)) > 0 {
			a.After, a.Order, a.Kept = today, today.Input().Order, true
		}
	}
	a.Differences = Differences(today, a.After)
	return a, nil
}

// byStart is the order of work as it is dated.
func byStart(p *schedule.Plan) []schedule.Event {
	runs := p.Runs()
	slices.SortStableFunc(runs, func(a, b schedule.Run) int { return a.Start.Compare(b.Start) })
	var order []schedule.Event
	for _, run := range runs {
		order = append(order, run.Events...)
	}
	return order
}

// Differences is what another plan does to each instrument that differs.
func Differences(before, after *schedule.Plan) []Difference {
	moved := make(map[uuid.UUID]int)
	for _, e := range after.Events {
		if old, there := before.Find(e.Event); !there || !old.Start.Equal(e.Start) || !old.End.Equal(e.End) {
			moved[e.Instrument]++
		}
	}
	was := make(map[uuid.UUID]schedule.Forecast)
	for _, f := range before.Forecasts {
		was[f.Instrument] = f
	}
	var list []Difference
	for i, f := range after.Forecasts {
		old := was[f.Instrument]
		if moved[f.Instrument] == 0 && old.Finish.Equal(f.Finish) {
			continue
		}
		d := Difference{Instrument: f.Instrument, Name: after.Input().Instruments[i].Name, Before: old, After: f,
			Moved: moved[f.Instrument]}
		if !old.Finish.IsZero() && !f.Finish.IsZero() {
			d.Days = calendar.DaysBetween(calendar.DayOf(old.Finish.In(after.Zone)), calendar.DayOf(f.Finish.In(after.Zone)))
		}
		list = append(list, d)
	}
	return list
}
