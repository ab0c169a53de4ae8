package explain

import (
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
)

// CriticalWait is the longest stretch for which an instrument's finish waits and
// no hands are at it: what would have to be shorter for it to be ready sooner.
type CriticalWait struct {
	Event    schedule.Event // what waits
	From, To time.Time
	Reason   string
}

// Critical finds the longest wait still ahead on the chain that leads to an
// instrument's finish: from its last event back along what held each one on its own
// piece, with the time it then spent until its turn. It is false when nothing waits.
func Critical(p *schedule.Plan, i int) (CriticalWait, bool) {
	var last schedule.Planned
	for _, e := range p.EventsOf(i) {
		if ahead(&e) && e.Impossible == "" && (last.Event == (schedule.Event{}) || e.End.After(last.End)) {
			last = e
		}
	}
	var longest CriticalWait
	found := last.Event != (schedule.Event{})
	for e, steps := last, 0; found && ahead(&e) && steps < len(p.Events); steps++ {
		longest.take(p, &e, calendar.Later(e.Since, p.Now), e.Ready, e.Held)
		longest.take(p, &e, calendar.Later(e.Ready, p.Now), e.Start, e.Because)
		e, found = p.Find(e.Held.Event)
	}
	return longest, longest.To.After(longest.From)
}

// ahead reports whether an event is neither done nor begun.
func ahead(e *schedule.Planned) bool { return !e.Done && !e.Begun }

// take takes a wait of an event when it is longer than the longest so far.
func (c *CriticalWait) take(p *schedule.Plan, e *schedule.Planned, from, to time.Time, b schedule.Because) {
	if b.Cause == schedule.Nothing || b.Cause == schedule.Follows || to.Sub(from) <= c.To.Sub(c.From) {
		return
	}
	*c = CriticalWait{Event: e.Event, From: from, To: to, Reason: reasonOf(p, e, b)}
}
