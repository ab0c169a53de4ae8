package schedule

import (
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
)

// Forecast is when an instrument will be ready.
type Forecast struct {
	Instrument uuid.UUID
	Finish     time.Time     // the end of its last event; zero when impossible
	Slack      time.Duration // from the finish to the end of the promised day
	Show       time.Time     // when it is fit to be shown: all that does not come after is done; zero when it has no such day
	ShowSlack  time.Duration // from then to the end of the day of showing
	Finished   bool          // nothing is left to do
	Impossible string
}

// Late reports whether the promise will not be kept.
func (f Forecast) Late() bool { return f.Impossible != "" || f.Slack < 0 }

// due is the first minute after a day.
func (g *graph) due(day calendar.Day) minute {
	return minuteOf(day.AddDays(1).At(0, g.shop.Calendar.Zone()))
}

// forecast is when an instrument will be ready, against its promise. The
// promise is the end of that local day.
func (r *dating) forecast(i int) Forecast {
	in := &r.in.Instruments[i]
	f := Forecast{Instrument: in.ID, Finished: true}
	var finish, show minute
	for k := r.first[i]; k < r.first[i+1]; k++ {
		d := &r.dates[k]
		if d.impossible != "" && f.Impossible == "" {
			f.Impossible = d.impossible
		}
		f.Finished = f.Finished && d.done
		finish = max(finish, d.end)
		if !r.nodes[k].step.Follows {
			show = max(show, d.end)
		}
	}
	if f.Impossible != "" {
		return f
	}
	f.Finish, f.Slack = r.local(finish), time.Duration(r.due(in.Promise)-finish)*time.Minute
	if in.Show != nil {
		f.Show, f.ShowSlack = r.local(show), time.Duration(r.due(*in.Show)-show)*time.Minute
	}
	return f
}

// LowerBounds are the earliest that the instruments could be finished, whatever the rest
// of the shop does: each its own chain alone with the earliest sides of waits, the hours, the
// air and the clocks, no windows and no shared places. Rules §9. One is zero where that
// cannot be at all.
func (p *Plan) LowerBounds() []time.Time {
	bounds, alone := make([]time.Time, len(p.r.in.Instruments)), p.r.aside()
	for i := range bounds {
		if at, possible := alone.lowerBound(i); possible {
			bounds[i] = p.r.local(at)
		}
	}
	return bounds
}

// aside is these dates set aside, to be overwritten.
func (r *dating) aside() *dating {
	other := *r
	other.dates = slices.Clone(r.dates)
	return &other
}

// lowerBound overwrites an instrument's dates, and answers when it is finished then.
func (r *dating) lowerBound(i int) (minute, bool) {
	if !r.earliestDates(i) {
		return 0, false
	}
	finish := minute(0)
	for k := r.first[i]; k < r.first[i+1]; k++ {
		finish = max(finish, r.dates[k].end)
	}
	return finish, true
}

// earliestDates overwrites an instrument's dates with such as no plan of it can beat;
// false when it cannot be done at all.
func (r *dating) earliestDates(i int) bool {
	for k := r.first[i]; k < r.first[i+1]; k++ {
		n, d := r.nodes[k], &r.dates[k]
		if n.fixed() {
			continue
		}
		*d = eventState{shares: -1, ready: r.now}
		if r.earliest(k); d.impossible != "" {
			return false
		}
		length := lengthOf(n.phases[:n.parts]) - minute(n.step.SetUpMin) - n.mixing // pot life is a latest side, and a set-up may be shared
		if n.divides() {
			d.start, d.end = r.throughOpenings(d.ready, length)
		} else {
			var fits bool
			if d.start, fits = r.soonest(k, d.ready, length); !fits {
				return false
			}
			d.end = d.start + length
		}
	}
	return true
}

// earliest is ready with what must hold for every order of work: coats per day
// and rests are counted over so many coats back, not along one plan.
func (r *dating) earliest(k int32) {
	n, d := r.nodes[k], &r.dates[k]
	same := n.same
	n.same = nil
	r.ready(k, k, k+1)
	n.same = same
	if len(same) == 0 || d.impossible != "" {
		return
	}
	most, rest := n.step.coatLimits()
	days := r.shop.days
	for _, last := range same {
		count := 1
		for back := last; back != nil; back, count = back.before, count+1 {
			c := &r.dates[back.coat]
			if count == most {
				d.ready = max(d.ready, days.turn(days.of(c.start)+1))
			}
			if count == rest {
				d.ready = max(d.ready, days.turn(days.of(c.end)+1), c.end+overnight)
			}
		}
	}
}

// soonest is the earliest start with shop and place open and the air fit.
func (g *graph) soonest(k int32, t, length minute) (minute, bool) {
	n := g.nodes[k]
	s := sitting{from: k, to: k + 1, total: length, offsets: []minute{0}}
	for {
		at, fits := g.openFor(&s, t)
		if fits && n.step.Kind == Coat {
			at, fits = n.fit.next(at, length+minute(n.step.Material.Family.Flash))
		}
		if !fits || at == t {
			return at, fits
		}
		t = at
	}
}

// throughOpenings spreads work over the shop's hours as if hands were always free.
func (g *graph) throughOpenings(t, length minute) (start, end minute) {
	hours := g.shop.hours[0]
	start = never
	for i := hours.from(t); ; i++ {
		s, more := hours.at(i)
		if !more {
			return min(start, t), t + length
		}
		from := max(t, s.start)
		start = min(start, from)
		if from+length <= s.end {
			return start, from + length
		}
		length -= s.end - from
	}
}
