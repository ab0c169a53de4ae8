package schedule

import (
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/working"
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
func (r *retiming) due(day Day) minute {
	return minuteOf(day.Next(1).At(0, r.shop.Calendar.zone))
}

// forecast is when an instrument will be ready, against its promise. The
// promise is the end of that local day.
func (r *retiming) forecast(i int) Forecast {
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

// Bound is the earliest that an instrument could be finished, whatever the rest
// of the shop does: its own chain alone with the earliest sides of waits, the hours, the
// air and the clocks, no windows and no shared places. Rules §9. It is zero when that
// cannot be at all.
func (p *Plan) Bound(i int) time.Time {
	at, possible := p.r.bound(i)
	if !possible {
		return time.Time{}
	}
	return p.r.local(at)
}

func (r *retiming) bound(i int) (minute, bool) {
	alone := *r
	alone.dates = slices.Clone(r.dates)
	finish := minute(0)
	for k := r.first[i]; k < r.first[i+1]; k++ {
		n, d := r.nodes[k], &alone.dates[k]
		if n.fixed() {
			finish = max(finish, d.end)
			continue
		}
		*d = dated{shares: -1, ready: r.now}
		if alone.earliest(k); d.impossible != "" {
			return 0, false
		}
		length := lengthOf(n.phases[:n.parts]) - minute(n.step.SetUp)
		if r.divides(n) {
			d.start, d.end = alone.throughOpenings(d.ready, length)
		} else {
			var fits bool
			if d.start, fits = alone.soonest(k, d.ready, length); !fits {
				return 0, false
			}
			d.end = d.start + length
		}
		finish = max(finish, d.end)
	}
	return finish, true
}

// earliest is ready with what must hold for every order of work: coats per day
// and rests are counted over so many coats back, not along one plan.
func (r *retiming) earliest(k int32) {
	n, d := r.nodes[k], &r.dates[k]
	same := n.same
	n.same = nil
	r.ready(k, k, k+1)
	n.same = same
	if len(same) == 0 || d.impossible != "" {
		return
	}
	most, rest := n.step.breath()
	days := r.shop.days
	for _, last := range same {
		back := last
		for count := 1; back >= 0; count++ {
			c := &r.dates[back]
			if count == most {
				d.ready = max(d.ready, days.turn(days.of(c.start)+1))
			}
			if count == rest {
				d.ready = max(d.ready, days.turn(days.of(c.end)+1), c.end+overnight)
			}
			back = r.coatBefore(back)
		}
	}
}

// soonest is the earliest start with shop and place open and the air fit.
func (r *retiming) soonest(k int32, t, length minute) (minute, bool) {
	n := r.nodes[k]
	s := sitting{from: k, to: k + 1, total: length, offsets: []minute{0}}
	for {
		at, fits := r.openFor(&s, t)
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
func (r *retiming) throughOpenings(t, length minute) (start, end minute) {
	hours := r.shop.hours[0]
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

// LatestStart is the latest minute at which an instrument's next work may begin
// so that its promise is still kept, alone in the shop: backward from the promise along
// its own chains with clocks, hours and its own hands. It is zero when that minute is
// past, and when nothing is left to do.
func (p *Plan) LatestStart(i int) time.Time {
	at, possible := p.r.latestStart(i)
	if !possible || at < p.r.now || p.Forecasts[i].Finished {
		return time.Time{}
	}
	return p.r.local(at)
}

// SlackWorking shows how an instrument's slack came about: from its finish to the
// end of the promised day.
func (p *Plan) SlackWorking(i int) working.Working {
	in, f := &p.r.in.Instruments[i], p.Forecasts[i]
	finish := working.Input{Name: "ready", Value: p.Clock(f.Finish), Source: working.Profile}
	if f.Finished {
		finish.Source = working.Person
	}
	return working.New("Slack", "end of the promised day − when the last work will be done", spanText(f.Slack),
		working.Input{Name: "promise, end of", Value: in.Promise.String(), Source: working.Person}, finish)
}

// LatestStartWorking shows how an instrument's latest start came about.
func (p *Plan) LatestStartWorking(i int) working.Working {
	result := "is past: the promise will not be kept"
	if at := p.LatestStart(i); !at.IsZero() {
		result = p.Clock(at)
	}
	return working.New("Latest start", "backward from the promise along its own chain with waits, hours, air and its own hands, as if it were alone in the shop", result,
		working.Input{Name: "promise, end of", Value: p.r.in.Instruments[i].Promise.String(), Source: working.Person},
		working.Input{Name: "caution on waits", Value: fmt.Sprintf("× %g", p.r.shop.Margin), Source: working.Shop},
		working.Input{Name: "air", Value: "as it usually is", Source: working.Profile})
}

// spanText says how long something is in days and hours, late where negative.
func spanText(d time.Duration) string {
	late := ""
	if d < 0 {
		d, late = -d, " late"
	}
	hours := int(d.Hours())
	if hours < 48 {
		return fmt.Sprintf("%d h%s", hours, late)
	}
	return fmt.Sprintf("%d days %d h%s", hours/24, hours%24, late)
}

func (r *retiming) latestStart(i int) (minute, bool) {
	first, end := r.first[i], r.first[i+1]
	b := backward{r: r, first: first, due: r.due(r.in.Instruments[i].Promise), dates: make([]span, end-first)}
	b.ends = make([]minute, end-first)
	for k := range b.ends {
		b.ends[k] = b.due
	}
	latest := b.due
	for k := end - 1; k >= first; k-- {
		n := r.nodes[k]
		if n.fixed() {
			continue
		}
		start, fits := b.seat(k, b.breathe(k, b.ends[k-first]))
		if !fits || start < r.now || r.tooLate(k, start) {
			return 0, false
		}
		latest = min(latest, start)
		for l := range n.links {
			b.allow(&n.links[l], start)
		}
	}
	return latest, true
}

// tooLate reports whether an event's piece is not ready by then because of what is
// done already, which nothing that is still to be planned can change.
func (r *retiming) tooLate(k int32, start minute) bool {
	d := &r.dates[k]
	return d.impossible == "" && d.held.node >= 0 && r.nodes[d.held.node].fixed() && d.held.until > start
}

// backward is one instrument planned from its promise towards now.
type backward struct {
	r     *retiming
	first int32
	due   minute
	ends  []minute // by event, the latest end that what follows allows
	dates []span
	used  load // its own hands
}

// allow lets what a link comes from end no later than this start allows.
func (b *backward) allow(l *link, start minute) {
	if b.r.nodes[l.from].fixed() {
		return
	}
	by := start - l.rest
	if l.wait != nil || l.clock != nil {
		begun, _ := l.curve.Begun(start.seconds(), l.hours)
		by = floorMinute(begun)
	}
	b.ends[l.from-b.first] = min(b.ends[l.from-b.first], by)
}

// seat is the latest start of an event that ends by then.
func (b *backward) seat(k int32, by minute) (minute, bool) {
	n := b.r.nodes[k]
	length := lengthOf(n.phases[:n.parts])
	if b.r.divides(n) {
		return b.spread(k, by, length)
	}
	for {
		start, fits := b.free(by, length)
		if !fits {
			return 0, false
		}
		if at := b.fitBefore(n, start, length); at < start {
			by = at + length
			continue
		}
		b.dates[k-b.first] = span{start, start + length}
		b.used.add(b.dates[k-b.first], 1)
		return start, true
	}
}

// fitBefore is the latest start at or before t at which the place is open and
// the air fit; steps back by quarters of an hour.
func (b *backward) fitBefore(n *node, t, length minute) minute {
	fit := (*fitness)(nil)
	if n.step.Kind == Coat {
		fit = n.fit
		length += minute(n.step.Material.Family.Flash)
	}
	hours := b.r.shop.placeHours(int(n.place))
	for ; t >= b.r.now; t -= 15 {
		if at, ok := fit.next(t, length); !ok || at != t {
			continue
		}
		if at, ok := hours.next(t, lengthOf(n.phases[:n.parts])); ok && at == t {
			break
		}
	}
	return t
}

// free is the latest start of so many minutes that end by then, with the shop
// open and its own hands free.
func (b *backward) free(by, length minute) (minute, bool) {
	hours := b.r.shop.hours[0]
	hours.from(by)
	for i := min(hours.from(by), len(hours.spans)-1); i >= 0; i-- {
		open := hours.spans[i]
		if end := b.used.lastFree(min(by, open.end), length, int32(len(b.r.hands))); end-length >= open.start {
			return end - length, true
		}
		if open.end < b.r.now {
			break
		}
	}
	return 0, false
}

// spread is the latest start of divided handwork that ends by then. The first
// stretch, found last, is a useful one like all but the very last: where too little would
// be left for it, the one after it gives some away.
func (b *backward) spread(k int32, by, length minute) (minute, bool) {
	least, left := b.r.least(b.r.nodes[k]), length
	for end := by; ; {
		start, fits := b.free(end, min(least, left))
		if !fits {
			return 0, false
		}
		stop := start + min(least, left)
		from := max(b.used.freeSince(start, int32(len(b.r.hands))), b.openSince(start), stop-left)
		if rest := left - (stop - from); rest > 0 && rest < least {
			if from = min(from+least-rest, stop); from == stop {
				end = start // too short to share: not used at all
				continue
			}
		}
		b.used.add(span{from, stop}, 1)
		if left -= stop - from; left == 0 {
			b.dates[k-b.first] = span{from, by}
			return from, true
		}
		end = from
	}
}

func (b *backward) openSince(t minute) minute {
	hours := b.r.shop.hours[0]
	return hours.spans[hours.from(t)].start
}

// breathe is the latest end of a coat that leaves the coats after it their coats
// per day and overnight rests, seen backward.
func (b *backward) breathe(k int32, by minute) minute {
	n := b.r.nodes[k]
	next := b.after(k)
	if n.step.Kind != Coat || next < 0 {
		return by
	}
	days := b.r.shop.days
	most, restAfter := n.step.breath()
	perDay, sinceRest, rested := 0, 0, false
	day := days.of(by - 1)
	for at := next; at >= 0; at = b.after(at) {
		coat := b.dates[at-b.first]
		if days.of(coat.start) == day {
			perDay++
		}
		if !rested {
			sinceRest++
		}
		if further := b.after(at); further >= 0 && b.r.isRest(coat.end, b.dates[further-b.first].start) {
			rested = true
		}
	}
	following := b.dates[next-b.first].start
	if b.r.isRest(by, following) {
		sinceRest = 0
	}
	if perDay >= most {
		by = min(by, days.turn(day))
	}
	if sinceRest >= restAfter {
		by = min(by, following-overnight, days.turn(days.of(following)))
	}
	return by
}

// after is the next coat of the same product that is still to come, -1 for none.
func (b *backward) after(k int32) int32 {
	for at := k + 1; at < b.first+int32(len(b.dates)); at++ {
		if slices.Contains(b.r.nodes[at].same, k) {
			return at
		}
	}
	return -1
}
