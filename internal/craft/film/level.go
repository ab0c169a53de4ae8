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
