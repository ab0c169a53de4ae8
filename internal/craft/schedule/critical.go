package schedule

import "time"

// CriticalWait is the longest stretch for which an instrument's finish waits and
// no hands are at it: what would have to be shorter for it to be ready sooner.
type CriticalWait struct {
	Event    Event // what waits
	From, To time.Time
	Reason   string
}

// CriticalWait finds the longest wait still ahead on the chain that leads to an
// instrument's finish: from its last event back along what held each one on its own
// piece, with the time it then spent until its turn. It is false when nothing waits.
func (p *Plan) CriticalWait(i int) (CriticalWait, bool) {
	r := p.r
	last := int32(-1)
	for k := r.first[i]; k < r.first[i+1]; k++ {
		if d := &r.dates[k]; d.impossible == "" && !r.nodes[k].fixed() && (last < 0 || d.end > r.dates[last].end) {
			last = k
		}
	}
	longest := CriticalWait{}
	for k, steps := last, 0; k >= 0 && !r.nodes[k].fixed() && steps < len(r.nodes); steps++ {
		d := &r.dates[k]
		p.longer(&longest, k, max(d.since, r.now), d.ready, d.held)
		p.longer(&longest, k, max(d.ready, r.now), d.start, d.because)
		k = d.held.node
	}
	return longest, longest.To.After(longest.From)
}

// longer takes a wait of event k when it is longer than the longest so far.
func (p *Plan) longer(longest *CriticalWait, k int32, from, to minute, b because) {
	if b.cause == Nothing || b.cause == Follows || time.Duration(to-from)*time.Minute <= longest.To.Sub(longest.From) {
		return
	}
	*longest = CriticalWait{Event: p.r.nodes[k].event, From: p.r.local(from), To: p.r.local(to), Reason: p.reasonOf(k, p.r.because(&b))}
}
