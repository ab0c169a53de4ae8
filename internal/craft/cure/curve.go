package cure

import (
	"math"
	"sort"
	"sync"
	"sync/atomic"

	"umberfrost/internal/craft/climate"
)

// Curve is how fast one kind of film dries in one room over all time, laid out
// so that "when has it dried so long" is answered exactly: the rate runs
// linearly between the room's points, split where it meets a limit, and is summed
// up week by week. Rules §2. Times are Unix seconds, sums are hours at the
// reference climate. The zero Curve is the reference climate itself, where a
// clock runs at the speed of the wall clock.
//
// Like a Room, a Curve keeps what it has laid out, and many may ask at the same time.
type Curve struct {
	room   *climate.Room
	drying climate.Drying
	last   atomic.Pointer[curveWeek] // that was asked for
	mu     sync.Mutex
	weeks  map[int64]*curveWeek
}

// curveWeek is one week of a curve, never changed: at from[i] the rate is rate[i], running to
// end[i] at from[i+1], and so far sum[i] has passed. Both have one more entry
// for the end of the week.
type curveWeek struct {
	n                    int64
	from, rate, end, sum []float64
}

// NewCurve is how a film dries in a room; a room of nil is the reference climate.
func NewCurve(room *climate.Room, drying climate.Drying) *Curve {
	return &Curve{room: room, drying: drying, weeks: make(map[int64]*curveWeek)}
}

// horizon is how far a clock is followed before it is said never to get there.
const horizon = 160 // weeks

// tiny is what a sum of hours may be short of by rounding. Without it a clock that then
// stands still, in a room that stays cold, would never get there.
const tiny = 1e-9

const weekSeconds = float64(climate.WeekSeconds)

// Reached is the first moment at which so many hours have passed on the clock
// since start; false when that is more than three years away.
func (c *Curve) Reached(start, hours float64) (float64, bool) {
	if c == nil || c.room == nil {
		return start + hours*3600, true
	}
	if hours <= 0 {
		return start, true
	}
	first := weekNumber(start)
	passed := c.week(first).passed(start)
	for n := first; n < first+horizon; n++ {
		w := c.week(n)
		if left := hours + passed; left <= w.total()+tiny {
			return w.when(min(left, w.total())), true
		}
		hours -= w.total() - passed
		passed = 0
	}
	return math.Inf(1), false
}

// Elapsed is how many hours pass on the clock between two moments.
func (c *Curve) Elapsed(start, end float64) float64 {
	if c == nil || c.room == nil {
		return (end - start) / 3600
	}
	first, last := weekNumber(start), weekNumber(end)
	sum := -c.week(first).passed(start)
	for n := first; n < last; n++ {
		sum += c.week(n).total()
	}
	return sum + c.week(last).passed(end)
}

// Begun is the last moment from which so many hours pass on the clock until
// end; false when that is more than three years back.
func (c *Curve) Begun(end, hours float64) (float64, bool) {
	if c == nil || c.room == nil {
		return end - hours*3600, true
	}
	if hours <= 0 {
		return end, true
	}
	last := weekNumber(end)
	before := c.week(last).passed(end)
	for n := last; n > last-horizon; n-- {
		w := c.week(n)
		if n < last {
			before = w.total()
		}
		if hours <= before+tiny {
			return w.whenLast(max(0, before-hours)), true
		}
		hours -= before
	}
	return math.Inf(-1), false
}

// Rate is how fast the clock runs at a moment.
func (c *Curve) Rate(t float64) float64 {
	if c == nil || c.room == nil {
		return 1
	}
	w := c.week(weekNumber(t))
	i := w.at(t)
	return w.rate[i] + w.slope(i)*(t-w.from[i])
}

func weekNumber(t float64) int64 { return int64(math.Floor(t / weekSeconds)) }

func (c *Curve) week(n int64) *curveWeek {
	if w := c.last.Load(); w != nil && w.n == n {
		return w
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	w, laid := c.weeks[n]
	if !laid {
		w = c.layOut(n)
		c.weeks[n] = w
	}
	c.last.Store(w)
	return w
}

func (c *Curve) layOut(n int64) *curveWeek {
	segments := c.room.Week(n)
	w := &curveWeek{n: n,
		from: make([]float64, 0, len(segments)+8), rate: make([]float64, 0, len(segments)+8),
		end: make([]float64, 0, len(segments)+8), sum: make([]float64, 0, len(segments)+8),
	}
	var b climate.Air
	var rawB float64
	for i, s := range segments {
		rawA := rawB
		if i == 0 || s.Whole.A != b {
			rawA = c.drying.Raw(s.Whole.A)
		}
		b, rawB = s.Whole.B, c.drying.Raw(s.Whole.B)
		w.add(c.drying, s, rawWithin(s.Whole, s.Start, rawA, rawB), rawWithin(s.Whole, s.End, rawA, rawB))
	}
	stop := float64(n+1) * weekSeconds
	w.from, w.rate, w.end = append(w.from, stop), append(w.rate, 0), append(w.end, 0)
	w.sum = append(w.sum, w.sumTo(len(w.from)-1))
	return w
}

// rawWithin is the rate at a moment of a line whose rate is known at both ends: it
// runs linearly between them, wherever a week cuts the line.
func rawWithin(l climate.Line, t, rawA, rawB float64) float64 {
	switch t {
	case l.Start:
		return rawA
	case l.End:
		return rawB
	}
	return rawA + (rawB-rawA)*(t-l.Start)/(l.End-l.Start)
}

// sumTo is the sum at the start of stretch i, from the one before it.
func (w *curveWeek) sumTo(i int) float64 {
	if i == 0 {
		return 0
	}
	return w.sum[i-1] + (w.from[i]-w.from[i-1])*(w.rate[i-1]+w.end[i-1])/7200
}

// add lays out one segment, split where its raw rate meets a limit or its
// temperature the film's stop.
func (w *curveWeek) add(d climate.Drying, s climate.Segment, rawA, rawB float64) {
	least, most := d.Bounds(s)
	cuts := [5]float64{0, 1, 1, 1, 1}
	used := 1
	cut := func(a, b, limit float64) {
		if (a < limit) != (b < limit) {
			cuts[used] = (limit - a) / (b - a)
			used++
		}
	}
	cut(rawA, rawB, least)
	cut(rawA, rawB, most)
	if d.Stops {
		cut(float64(s.A.Temperature), float64(s.B.Temperature), float64(d.Below))
	}
	cuts[used] = 1
	sort.Float64s(cuts[:used+1])
	for i := range used {
		from, to := cuts[i], cuts[i+1]
		if from >= to {
			continue
		}
		rate := func(share float64) float64 { return min(most, max(least, rawA+(rawB-rawA)*share)) }
		a, b := rate(from), rate(to)
		if d.Stops && s.At(s.Start+(s.End-s.Start)*(from+to)/2).Temperature < d.Below {
			a, b = 0, 0
		}
		w.from = append(w.from, s.Start+(s.End-s.Start)*from)
		w.rate, w.end = append(w.rate, a), append(w.end, b)
		w.sum = append(w.sum, w.sumTo(len(w.from)-1))
	}
}

func (w *curveWeek) total() float64 { return w.sum[len(w.sum)-1] }

// at is the stretch that holds t.
func (w *curveWeek) at(t float64) int {
	return max(0, min(len(w.from)-2, sort.Search(len(w.from), func(i int) bool { return w.from[i] > t })-1))
}

func (w *curveWeek) slope(i int) float64 {
	return (w.end[i] - w.rate[i]) / (w.from[i+1] - w.from[i])
}

// passed is how much has passed from the week's start to t.
func (w *curveWeek) passed(t float64) float64 {
	i := w.at(t)
	d := t - w.from[i]
	return w.sum[i] + d*(w.rate[i]+w.slope(i)*d/2)/3600
}

// when is the first moment at which so much has passed since the week's start,
// whenLast the last one (they differ where the clock stands still).
func (w *curveWeek) when(sum float64) float64 {
	i := sort.Search(len(w.sum), func(i int) bool { return w.sum[i] >= sum })
	if i == 0 {
		return w.from[0]
	}
	return w.within(i-1, sum)
}

func (w *curveWeek) whenLast(sum float64) float64 {
	i := sort.Search(len(w.sum), func(i int) bool { return w.sum[i] > sum })
	if i == len(w.sum) {
		return w.from[len(w.from)-1]
	}
	return w.within(max(i-1, 0), sum)
}

// within solves the quadratic of one stretch: rate·d + slope·d²/2 = what is
// still missing, in the form that does not lose digits where the slope is small.
func (w *curveWeek) within(i int, sum float64) float64 {
	missing := (sum - w.sum[i]) * 3600
	if missing <= 0 {
		return w.from[i]
	}
	root := math.Sqrt(max(0, w.rate[i]*w.rate[i]+2*w.slope(i)*missing))
	return min(w.from[i+1], w.from[i]+2*missing/(w.rate[i]+root))
}
