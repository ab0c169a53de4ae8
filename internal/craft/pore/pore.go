// Package pore is the filling of grain: what share of a pore is full after so
// many fillings, and how many it takes. Rules §4.
package pore

import (
	"fmt"
	"math"
)

// Full is the filled share at which a face reads as glass-flat (default).
const Full = 0.95

// Half is the filled share at which pores read as softened, not as filled (default).
const Half = 0.6

// leaves is what one filling leaves of a pore's depth (default), by family.
var leaves = map[string]float64{
	"water-filler": 0.45, "oil-filler": 0.35, "epoxy-filler": 0.15, "ca-filler": 0.12, "oil-slurry": 0.6,
}

// Filled is the share of a pore that n fillings of a family have filled, 0 to 1.
// It fails for a family that fills no pores.
func Filled(family string, n int) (float64, error) {
	s, known := leaves[family]
	if !known {
		return 0, fmt.Errorf("%q is not a filler", family)
	}
	return 1 - math.Pow(s, float64(n)), nil
}

// Needed is the smallest number of fillings that reaches the target share,
// which must lie from 0 to below 1.
func Needed(family string, target float64) (int, error) {
	s, known := leaves[family]
	if !known {
		return 0, fmt.Errorf("%q is not a filler", family)
	}
	if target < 0 || target >= 1 {
		return 0, fmt.Errorf("a filled share of %g is not from 0 to below 1", target)
	}
	return int(math.Ceil(math.Log(1-target)/math.Log(s) - 1e-9)), nil
}
