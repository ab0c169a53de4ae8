package cure

import (
	"fmt"
	"math"
)

// The prior of what reality is against a data sheet: a log-normal with median 1.
// Rules §9.
const (
	priorSigma = 0.25
	// the grid of log factors on which the posterior is summed up: ± 6 sigma
	gridHalf  = 240
	gridWidth = 6 * priorSigma / gridHalf
	// tests are not read without error: how far, in log time, a tack or thumbnail
	// test may be off (default)
	testSigma = 0.05
)

// Test is one look at whether a milestone was reached: so many reference hours
// had passed on the clock, of the sheet's time, and it passed or failed.
type Test struct {
	Elapsed   float64 // hours on the clock
	Reference float64 // the sheet's hours
	Passed    bool
}

// Factor is what a shop has learned about one product and milestone: reality
// divided by the data sheet.
type Factor struct {
	Median       float64
	Sigma        float64 // of its logarithm
	Observations int
}

// Prior is what is known before any test.
func Prior() Factor { return Factor{1, priorSigma, 0} }

// Learn updates the prior by tests, each an interval-censored observation: a
// pass says that the true factor is at most Elapsed ÷ Reference, a fail that it
// is more. Tests without a reference time say nothing.
func Learn(tests []Test) Factor {
	weights := make([]float64, 2*gridHalf+1)
	n := 0
	for i := range weights {
		x := logAt(i) / priorSigma
		weights[i] = -x * x / 2
	}
	for _, t := range tests {
		if t.Reference <= 0 || t.Elapsed < 0 {
			continue
		}
		n++
		seen := math.Log(max(t.Elapsed, 1e-6) / t.Reference)
		for i := range weights {
			z := (seen - logAt(i)) / testSigma
			if !t.Passed {
				z = -z
			}
			weights[i] += logNormalCDF(z)
		}
	}
	if n == 0 {
		return Prior()
	}
	return summary(weights, n)
}

func logAt(i int) float64 { return float64(i-gridHalf) * gridWidth }

// summary is the median and spread of unnormalised log weights on the grid.
func summary(logs []float64, n int) Factor {
	most := math.Inf(-1)
	for _, l := range logs {
		most = max(most, l)
	}
	var sum, mean, square float64
	for i, l := range logs {
		w := math.Exp(l - most)
		sum += w
		mean += w * logAt(i)
	}
	mean /= sum
	half, median := 0.0, 0.0
	for i, l := range logs {
		w := math.Exp(l-most) / sum
		square += w * (logAt(i) - mean) * (logAt(i) - mean)
		if half < 0.5 && half+w >= 0.5 {
			median = logAt(i) + gridWidth*((0.5-half)/w-0.5)
		}
		half += w
	}
	return Factor{math.Exp(median), math.Sqrt(square), n}
}

// logNormalCDF is ln Φ(z), also far out in the tail.
func logNormalCDF(z float64) float64 {
	if z < -8 { // Φ(z) ≈ φ(z)/|z|
		return -z*z/2 - math.Log(-z) - math.Log(2*math.Pi)/2
	}
	return math.Log(math.Erfc(-z/math.Sqrt2) / 2)
}

// String says the factor with what stands behind it.
func (f Factor) String() string {
	if f.Observations == 0 {
		return "nothing learned yet"
	}
	plural := "s"
	if f.Observations == 1 {
		plural = ""
	}
	return fmt.Sprintf("about %.2f times the sheet, from %d test%s", f.Median, f.Observations, plural)
}
