package schedule

import "sort"

// phase is a part of an attended piece of work: hands at it, or a wait at the
// same place that leaves them free for another piece there.
type phase struct {
	length minute
	tied   bool
}

// hands is the time of one person: what of their openings is taken.
type hands struct {
	*openings
	first int // the opening that day[0] is
	day   []taken
	// longest is the longest stretch of them at each place, as far as it was asked for
	longest []minute
}

// taken is one opening of a person: stints in order, never overlapping, and the
// stretches in which hands may only turn to work at the same place.
type taken struct {
	stints  []stint
	ties    []stint
	longest minute // the longest stretch without a stint; −1: not measured since it changed
}

type stint struct {
	span
	node  int32
	place int32
}

func newHands(o *openings, now minute) *hands {
	return &hands{openings: o, first: o.from(now)}
}

func (h *hands) at(i int) *taken {
	for i-h.first >= len(h.day) {
		s, _ := h.openings.at(h.first + len(h.day))
		h.day = append(h.day, taken{longest: s.length()})
	}
	return &h.day[i-h.first]
}

// free is the earliest start at or after t of phases of work at a place; false
// when there is none within the horizon.
func (h *hands) free(t minute, phases []phase, place int32) (minute, bool) {
	total := lengthOf(phases)
	for i := max(h.from(t), h.first); ; i++ {
		open, more := h.openings.at(i)
		if !more {
			return 0, false
		}
		start := max(t, open.start)
		if start+total > open.end {
			continue
		}
		day := h.at(i)
		if len(phases) == 1 && day.room(open) < total {
			continue
		}
		for start+total <= open.end {
			next := day.clash(start, total, phases, place)
			if next == start {
				return start, true
			}
			start = next
		}
	}
}

// clash returns start when the phases fit there, else the next start worth
// trying. Jobs and ties lie in order, so it looks only at those in reach.
func (d *taken) clash(start, total minute, phases []phase, place int32) minute {
	end := start + total
	for i := firstAfter(d.stints, start); i < len(d.stints) && d.stints[i].start < end; i++ {
		if next := clashOne(d.stints[i], start, phases, place); next > start {
			return next
		}
	}
	for _, tie := range d.ties {
		if tie.place != place && tie.start < end && tie.end > start {
			return tie.end
		}
	}
	return start
}

// clashOne is where the phases must start to keep clear of a job: start itself
// when they do already.
func clashOne(j stint, start minute, phases []phase, place int32) minute {
	at := start
	for _, p := range phases {
		if j.start < at+p.length && j.end > at && (!p.tied || j.place != place) {
			return start + j.end - at
		}
		at += p.length
	}
	return start
}

// firstAfter is the first job that ends after t. Like the searches in openings
// and load it is written out, because planning does little else.
func firstAfter(stints []stint, t minute) int {
	low, high := 0, len(stints)
	for low < high {
		if mid := (low + high) / 2; stints[mid].end > t {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return low
}

// until is how long hands stay free from t on, which must be free.
func (h *hands) until(t minute) minute {
	i := h.from(t)
	open, _ := h.openings.at(i)
	end := open.end
	day := h.at(i)
	if k := firstAfter(day.stints, t); k < len(day.stints) {
		end = min(end, day.stints[k].start)
	}
	for _, tie := range day.ties {
		if tie.end > t {
			end = min(end, tie.start)
		}
	}
	return end
}

// take marks phases as taken from start on.
func (h *hands) take(start minute, phases []phase, node int, place int32) {
	day := h.at(h.from(start))
	for _, p := range phases {
		if p.length > 0 {
			list := &day.stints
			if p.tied {
				list = &day.ties
			}
			*list = insert(*list, stint{span{start, start + p.length}, int32(node), place})
		}
		start += p.length
	}
	day.longest = -1
}

// release gives back all that a node has taken in the opening of t.
func (h *hands) release(t minute, node int) {
	day := h.at(h.from(t))
	day.stints, day.ties = without(day.stints, node), without(day.ties, node)
	day.longest = -1
}

// room is the longest stretch without a job.
func (d *taken) room(open span) minute {
	if d.longest < 0 {
		last := open.start
		for _, j := range d.stints {
			d.longest, last = max(d.longest, j.start-last), j.end
		}
		d.longest = max(d.longest, open.end-last)
	}
	return d.longest
}

func insert(stints []stint, j stint) []stint {
	at := sort.Search(len(stints), func(i int) bool { return stints[i].start > j.start })
	stints = append(stints, stint{})
	copy(stints[at+1:], stints[at:])
	stints[at] = j
	return stints
}

func without(stints []stint, node int) []stint {
	kept := stints[:0]
	for _, j := range stints {
		if j.node != int32(node) {
			kept = append(kept, j)
		}
	}
	return kept
}

// holder is the stint that has these hands at t, or takes them before so many minutes have
// passed, while they are there.
func (h *hands) holder(t, length minute) (stint, bool) {
	i := h.from(t)
	if open, more := h.openings.at(i); !more || i < h.first || open.start > t {
		return stint{}, false
	}
	stints := h.at(i).stints
	k := firstAfter(stints, t)
	if k == len(stints) || stints[k].start >= t+length {
		return stint{}, false
	}
	return stints[k], true
}

func lengthOf(phases []phase) minute {
	total := minute(0)
	for _, p := range phases {
		total += p.length
	}
	return total
}
