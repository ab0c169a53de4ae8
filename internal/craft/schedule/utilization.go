package schedule

import (
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/unit"
)

// Utilization is how much of a day's time is taken, done and planned.
type Utilization struct {
	Day    calendar.Day
	Open   bool         // the shop is
	Hands  Taken        // of everybody together
	Places []PlaceTaken // of every place that takes only so many pieces at a time
}

// Taken is time taken of what there is.
type Taken struct {
	Minutes unit.Minutes
	Of      unit.Minutes
}

// PlaceTaken is a place's time: pieces times minutes.
type PlaceTaken struct {
	Place Place
	Open  bool
	Taken
}

// Utilizations is what every day from a first one on holds, for so many days.
func (p *Plan) Utilizations(first calendar.Day, count int) []Utilization {
	days := make([]Utilization, count)
	shop := p.r.shop
	limited := p.limitedPlaces()
	for n := range days {
		day := first.AddDays(n)
		b := &days[n]
		b.Day = day
		shopOpen := shop.Calendar.OpenOn(day)
		b.Open = len(shopOpen) > 0
		for _, person := range shop.People {
			b.Hands.Of += minutesIn(together(shopOpen, person.Calendar, day))
		}
		for _, i := range limited {
			open := together(shopOpen, shop.Places[i].Calendar, day)
			b.Places = append(b.Places, PlaceTaken{shop.Places[i], len(open) > 0,
				Taken{Of: minutesIn(open) * unit.Minutes(shop.Places[i].Capacity)}})
		}
	}
	p.fill(days, first, limited)
	return days
}

func (p *Plan) limitedPlaces() []int {
	var limited []int
	for i := range p.r.shop.Places {
		if p.r.shop.Places[i].Capacity > 0 {
			limited = append(limited, i)
		}
	}
	return limited
}

// fill adds the work of every event to its day. Work is put on the day it begins,
// handwork that is spread on the day of each stretch.
func (p *Plan) fill(days []Utilization, first calendar.Day, limited []int) {
	from, to := first.At(0, p.Zone), first.AddDays(len(days)).At(0, p.Zone)
	for k := range p.Events {
		e := &p.Events[k]
		if e.Impossible != "" || e.Skipped || !e.End.After(from) || !e.Start.Before(to) {
			continue
		}
		spans := e.Spans
		if spans == nil {
			spans = []calendar.Span{{Start: e.Start, End: e.End}}
		}
		for _, s := range spans {
			n := calendar.DaysBetween(first, calendar.DayOf(s.Start.In(p.Zone)))
			if n < 0 || n >= len(days) {
				continue
			}
			tied := unit.Minutes(s.Length() / time.Minute)
			days[n].Hands.Minutes += max(0, tied-p.waitWithin(k, e))
			for at, i := range limited {
				if p.r.shop.Places[i].ID == e.Place {
					days[n].Places[at].Minutes += tied
				}
			}
		}
	}
}

// waitWithin is how long an event that is not spread leaves the hands free: while
// it soaks, levels itself or sets.
func (p *Plan) waitWithin(k int, e *Planned) unit.Minutes {
	wait := unit.Minutes(0)
	if n := p.r.nodes[k]; e.Spans == nil && !e.Done {
		for _, phase := range n.phases[:n.parts] {
			if phase.tied {
				wait += unit.Minutes(phase.length)
			}
		}
	}
	return wait
}

// together is when both the shop and something with hours of its own are open.
func together(shop []calendar.Span, own *calendar.Calendar, day calendar.Day) []calendar.Span {
	if own == nil {
		return shop
	}
	var both []calendar.Span
	for _, a := range shop {
		for _, b := range own.OpenOn(day) {
			s := calendar.Span{Start: calendar.Later(a.Start, b.Start), End: calendar.Earlier(a.End, b.End)}
			if s.Start.Before(s.End) {
				both = append(both, s)
			}
		}
	}
	return both
}

func minutesIn(spans []calendar.Span) unit.Minutes {
	sum := time.Duration(0)
	for _, s := range spans {
		sum += s.Length()
	}
	return unit.Minutes(sum / time.Minute)
}
