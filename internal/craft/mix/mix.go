// Package mix is areas and volumes: how much surface there is and how much
// material a coat of it takes.
package mix

import (
	"fmt"
	"math"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Shape factors of rules §6 (default), for a body whose outline nobody knows: the share of
// its bounding box that a face fills, and the rim's length, cutaways and pocket with it, by the root of
// length times width. And the girth of a neck shaft by its mean width.
const (
	faceShare  = 0.72
	rimFactor  = 3.9
	shaftGirth = 1.6
)

// Face is the area of one face of a body with this outline length and width.
func Face(length, width unit.Millimetre) unit.SquareMetre {
	return unit.SquareMetre(faceShare * metres(length) * metres(width))
}

// Rim is the area of a body's sides.
func Rim(length, width, thickness unit.Millimetre) unit.SquareMetre {
	return unit.SquareMetre(rimFactor * math.Sqrt(metres(length)*metres(width)) * metres(thickness))
}

// Shaft is the area of a neck's shaft, back and edges.
func Shaft(length, meanWidth unit.Millimetre) unit.SquareMetre {
	return unit.SquareMetre(metres(length) * shaftGirth * metres(meanWidth))
}

// Transfer is the share of the material that reaches the work (default), by
// method: spray is an HVLP gun.
var transfer = map[string]float64{
	"spray": 0.65, "aerosol": 0.5, "brush": 0.95, "wipe": 0.8, "pad": 0.8, "pour": 0.95, "drop": 0.95,
}

// CoatVolume is the material to lay out for one coat: 1 m² at 1 µm is 1 mL,
// divided by what of it reaches the work. What stays in cup, hose or cloth
// comes on top. It fails for a method it does not know.
func CoatVolume(area unit.SquareMetre, wet unit.Micron, wetSource working.Source, method string) (unit.Millilitre, working.Working, error) {
	share, known := transfer[method]
	if !known {
		return 0, working.Working{}, fmt.Errorf("no transfer share for the method %q", method)
	}
	volume := unit.Millilitre(float64(area) * float64(wet) / share)
	shown := working.New("Material for one coat", "area × wet film ÷ transfer", "about "+volume.String(),
		working.Input{Name: "area", Value: area.String(), Source: working.Rule},
		working.Input{Name: "wet film", Value: wet.String(), Source: wetSource},
		working.Input{Name: "transfer, " + method, Value: unit.Percent(share * 100).String(), Source: working.Rule},
	)
	return volume, shown, nil
}

// stays is what of a mix stays in cup, hose or cloth (default).
var stays = map[string]unit.Millilitre{"spray": 15, "brush": 3, "wipe": 5, "pad": 5, "pour": 5, "drop": 1}

// Stays is what of a mix stays in cup, hose or cloth by this method, once for every mix.
func Stays(method string) unit.Millilitre { return stays[method] }

// Pour is the resin to lay out for a pour: area times depth, and the share that stays in cups and runs
// off. Rules §6.
func Pour(area unit.SquareMetre, depth unit.Millimetre, waste float64) unit.Millilitre {
	return unit.Millilitre(float64(area) * float64(depth) * 1000 * (1 + waste)) // 1 m² at 1 mm is 1000 mL
}

func metres(l unit.Millimetre) float64 { return float64(l) / 1000 }
