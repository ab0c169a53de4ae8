package cure

import "math"

// Clock is the cure clock of one coat: it starts at the coat's end and runs in
// the air of wherever the piece is, one leg after another.
type Clock struct {
	Start float64 // Unix seconds
	Legs  []Leg   // at least one, in order
}

// Leg is a stretch that a piece spends in one air, from From until the next leg
// begins; the last leg never ends. The first begins at or before the clock's start.
type Leg struct {
	From  float64
	Curve *Curve
}

// Reached is the first moment at which so many hours have passed on the clock;
// false when that is more than three years away.
func (c Clock) Reached(hours float64) (float64, bool) {
	for i, leg := range c.Legs {
		start := max(leg.From, c.Start)
		at, reached := leg.Curve.Reached(start, hours)
		if i == len(c.Legs)-1 {
			return at, reached
		}
		end := c.Legs[i+1].From
		if end <= start {
			continue
		}
		if reached && at <= end {
			return at, true
		}
		hours -= leg.Curve.Elapsed(start, end)
	}
	return math.Inf(1), false
}

// Elapsed is how many hours have passed on the clock by a moment.
func (c Clock) Elapsed(until float64) float64 {
	sum := 0.0
	for i, leg := range c.Legs {
		start, end := max(leg.From, c.Start), until
		if i < len(c.Legs)-1 {
			end = min(end, c.Legs[i+1].From)
		}
		if end > start {
			sum += leg.Curve.Elapsed(start, end)
		}
	}
	return sum
}
