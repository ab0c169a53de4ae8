package cure

import (
	"errors"
	"fmt"
	"math"

	"umberfrost/internal/craft/material"
)

// WeighIn is one weighing of a coated test board.
type WeighIn struct {
	Hours float64 // since the coat
	Grams float64
}

// WeightTest is what weighings of a test board say: m(t) = Rest + Loss·e^(−Rate·t).
// Rules §2.
type WeightTest struct {
	Rest, Loss float64 // g
	Rate       float64 // per hour
	DryAfter   float64 // hours since the coat, when a day loses less than the limit
}

// The loss in the next 24 h under which a board counts as dry: 0.1 g or 0.02 %
// of its weight, whichever is more (default).
const (
	dryGrams = 0.1
	dryShare = 0.0002
)

// Errors of a weight test.
var (
	ErrKinetics  = errors.New("only evaporative and waterborne films dry by losing weight")
	ErrFewWeighs = errors.New("at least 4 weighings at different times are needed")
	ErrNoLoss    = errors.New("the board is not losing weight in a way that can be followed")
)

// FitWeights fits the curve to at least 4 weighings by least squares: the best
// Rate by golden section, Rest and Loss exactly for each.
func FitWeights(kinetics material.Kinetics, weighs []WeighIn) (WeightTest, error) {
	if kinetics != material.Evaporative && kinetics != material.Waterborne {
		return WeightTest{}, ErrKinetics
	}
	times := make(map[float64]bool)
	longest := 0.0
	for i, w := range weighs {
		if w.Hours < 0 || w.Grams <= 0 || math.IsNaN(w.Hours+w.Grams) || math.IsInf(w.Hours+w.Grams, 0) {
			return WeightTest{}, fmt.Errorf("weighing %d: hours from 0 and grams above 0 are needed", i+1)
		}
		times[w.Hours], longest = true, max(longest, w.Hours)
	}
	if len(times) < 4 {
		return WeightTest{}, ErrFewWeighs
	}
	low, high := math.Log(0.01/longest), math.Log(100/longest)
	const golden = 0.6180339887498949
	a, b := high-golden*(high-low), low+golden*(high-low)
	for range 80 {
		_, missA := fitAt(math.Exp(a), weighs)
		_, missB := fitAt(math.Exp(b), weighs)
		if missA < missB {
			high = b
		} else {
			low = a
		}
		a, b = high-golden*(high-low), low+golden*(high-low)
	}
	fit, _ := fitAt(math.Exp((low+high)/2), weighs)
	if fit.Loss <= 0 || fit.Rest <= 0 {
		return WeightTest{}, ErrNoLoss
	}
	limit := max(dryGrams, dryShare*fit.Rest)
	day := fit.Loss * (1 - math.Exp(-24*fit.Rate))
	fit.DryAfter = max(0, math.Log(day/limit)/fit.Rate)
	return fit, nil
}

// fitAt is the best Rest and Loss for a rate, and the squared miss.
func fitAt(rate float64, weighs []WeighIn) (WeightTest, float64) {
	var n, x, xx, y, xy float64
	for _, w := range weighs {
		e := math.Exp(-rate * w.Hours)
		n, x, xx, y, xy = n+1, x+e, xx+e*e, y+w.Grams, xy+e*w.Grams
	}
	loss := (n*xy - x*y) / (n*xx - x*x)
	fit := WeightTest{Rest: (y - loss*x) / n, Loss: loss, Rate: rate}
	miss := 0.0
	for _, w := range weighs {
		d := fit.Rest + fit.Loss*math.Exp(-rate*w.Hours) - w.Grams
		miss += d * d
	}
	return fit, miss
}
