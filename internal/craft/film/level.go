package film

import (
	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Settling is the share of its dry film that a film loses until it has fully
// cured, by its kinetics (default). Rules §3.
func Settling(k material.Kinetics) float64 {
	switch k {
	case material.Evaporative:
		return 0.08
	case material.Oxidative:
		return 0.05
	case material.Waterborne, material.UV:
		return 0.03
	case material.Reactive:
		return 0.02
	}
	return 0
}

// Texture is the height, peak to valley, of what a way of putting a coat on leaves
// to be levelled (default); a flowing coat that levels itself leaves less. Rules §3.
func Texture(by material.Method, levelsItself bool) unit.Micron {
	switch by {
	case material.Spray:
		return 15
	case material.Aerosol:
		return 22
	case material.Brush, material.Pour:
		if levelsItself {
			return 15
		}
		return 35
	case material.Pad:
		return 4
	}
	return 5
}

// Removed is the mean film that levelling a texture with a ladder takes from a
// flat face: texture/2 + 1.3 · Σ scratch; a compound takes 1 µm. Rules §3.
func Removed(texture unit.Micron, ladder abrasive.Ladder) unit.Micron {
	removed := texture / 2
	for _, grit := range ladder {
		if grit.Scale == "compound" {
			removed++
			continue
		}
		removed += 1.3 * grit.Scratch
	}
	return removed
}

// How high flake and grains stand for their size: flat in a flowing coat, or as they fell on
// tack (default). Rules §3.
const (
	flatShare      = 0.35
	sprinkledShare = 1.0
)

// Standing is how far flake of a size stands up from the coat it lies in.
func Standing(size unit.Micron, sprinkled bool) unit.Micron {
	if sprinkled {
		return size * sprinkledShare
	}
	return size * flatShare
}

// overGrains is the clear that stays over flake or leaf after levelling (default). Rules §3.
const overGrains unit.Micron = 15

// Bury is the clear that flake, grains or leaf want above them: standing height + R + 15 µm.
func Bury(standing, removed unit.Micron) unit.Micron { return standing + removed + overGrains }
