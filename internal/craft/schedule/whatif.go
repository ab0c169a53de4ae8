package schedule

import (
	"cmp"
	"slices"

	"umberfrost/internal/craft/calendar"

	"github.com/google/uuid"
)

// Difference is what a change does to one instrument.
type Difference struct {
	Instrument    uuid.UUID
	Name          string
	Before, After Forecast
	Days          int // whole local days later; negative is earlier
	Moved         int // events that would be at another time
}

// Answer is a what-if beside today's plan; nothing has been changed.
type Answer struct {
	Before, After *Plan
	Differences   []Difference // of every instrument that differs
	Order         []Event      // the order of work that After is served in
	Kept          bool         // today's dates stand: the changed shop's own would have been worse, and today's remain possible
}

// WhatIf plans a changed input beside today's plan. A change that only widens what
// is allowed (wider says so: another pair of hands, a wider booth, a longer day) is
// never worse: where today's order of work, served greedily, would come out worse in
// the wider shop, the order of today's dates is tried, and where that is worse too,
// today's dates, which the wider shop still allows, are the answer.
func WhatIf(today *Plan, changed Input, wider bool) (Answer, error) {
	after, err := today.Retime(changed)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Before: today, After: after, Order: changed.Order}
	if wider && after.Objective().Compare(today.Objective()) > 0 {
		changed.Order = today.byStart()
		if after, err = today.Retime(changed); err != nil {
			return Answer{}, err
		}
		if a.After, a.Order = after, changed.Order; after.Objective().Compare(today.Objective()) > 0 {
			a.After, a.Order, a.Kept = today, today.r.in.Order, true
		}
	}
	a.Differences = Differences(today, a.After)
	return a, nil
}

// byStart is the order of work as it is dated.
func (p *Plan) byStart() []Event {
	units := slices.Clone(p.r.order)
	slices.SortStableFunc(units, func(a, b int32) int {
		return cmp.Compare(p.r.dates[p.r.units[a].from].start, p.r.dates[p.r.units[b].from].start)
	})
	order := make([]Event, 0, len(p.r.nodes))
	for _, u := range units {
		order = p.r.appendUnit(order, u)
	}
	return order
}

// Differences is what another plan does to each instrument that differs.
func Differences(before, after *Plan) []Difference {
	moved := make(map[uuid.UUID]int)
	for _, e := range after.Events {
		if old, there := before.Find(e.Event); !there || !old.Start.Equal(e.Start) || !old.End.Equal(e.End) {
			moved[e.Instrument]++
		}
	}
	was := make(map[uuid.UUID]Forecast)
	for _, f := range before.Forecasts {
		was[f.Instrument] = f
	}
	var list []Difference
	for i, f := range after.Forecasts {
		old := was[f.Instrument]
		if moved[f.Instrument] == 0 && old.Finish.Equal(f.Finish) {
			continue
		}
		d := Difference{Instrument: f.Instrument, Name: after.r.in.Instruments[i].Name, Before: old, After: f, Moved: moved[f.Instrument]}
		if !old.Finish.IsZero() && !f.Finish.IsZero() {
			d.Days = calendar.DaysBetween(calendar.DayOf(old.Finish.In(after.Zone)), calendar.DayOf(f.Finish.In(after.Zone)))
		}
		list = append(list, d)
	}
	return list
}
