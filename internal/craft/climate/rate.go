package climate

import (
	"math"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Stage tells drying from hardening, which answer differently to the air.
type Stage uint8

const (
	Early Stage = iota // until it is dry to touch, may be recoated, sanded, coated over
	Late               // until it may be handled, buffed, has fully cured
)

// StageOf is the stage in which a film reaches a milestone.
func StageOf(m material.Milestone) Stage {
	switch m {
	case material.Handle, material.Buff, material.FullCure:
		return Late
	}
	return Early
}

// The fastest and the slowest that a film is taken to dry, against the
// reference air. Rules §1.
const (
	fastest = 2.5
	slowest = 0.05
)

var referenceDeficit = Reference.Deficit()

// Drying is what decides how a film's speed follows the air.
type Drying struct {
	Kinetics material.Kinetics
	Stage    Stage
	Stops    bool         // whether there is a temperature below which the film does not form
	Below    unit.Celsius // that temperature
}

// DryingOf is how a family's film dries on its way to a milestone.
func DryingOf(f material.Family, m material.Milestone) Drying {
	d := Drying{Kinetics: f.Kinetics, Stage: StageOf(m)}
	if f.StopsBelow != nil {
		d.Stops, d.Below = true, *f.StopsBelow
	}
	return d
}

// Rate is how fast a film dries in this air compared with the reference air:
// 1 there, at most 2.5, at least 0.05 below full humidity, 0 below the film's
// stop. Rules §1.
func (d Drying) Rate(a Air) float64 {
	if d.Stops && a.Temperature < d.Below {
		return 0
	}
	least := slowest
	if a.Humidity >= 100 {
		least = 0
	}
	return min(fastest, max(least, d.Raw(a)))
}

// Raw is the rate before its limits.
func (d Drying) Raw(a Air) float64 {
	t := float64(a.Temperature)
	switch d.Kinetics {
	case material.Evaporative:
		return math.Exp2((t - 20) / 12)
	case material.Waterborne:
		dry := float64(a.Deficit() / referenceDeficit)
		if d.Stage == Early {
			return dry
		}
		return math.Exp2((t-20)/12) * min(1, math.Sqrt(dry))
	case material.Oxidative:
		damp := max(0, float64(a.Humidity)-60) / 40
		return math.Exp2((t-20)/10) * (1 - damp/2)
	case material.Reactive:
		return math.Exp2((t - 20) / 10)
	}
	return 1 // light-cured: the lamp decides; no film: nothing to wait for
}

// Bounds are the least and the most that the rate may be within a segment.
func (d Drying) Bounds(s Segment) (least, most float64) {
	if s.A.Humidity >= 100 && s.B.Humidity >= 100 {
		return 0, fastest
	}
	return slowest, fastest
}
