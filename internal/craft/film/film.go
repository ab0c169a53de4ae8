// Package film is how thick a coat dries. The rest of rules §3, settling,
// levelling and the risk of going through, belongs here too.
package film

import (
	"fmt"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Dry is the dry film of one coat on a flat face: wet · solids / (1 + thin).
// solids is a share by volume of the unthinned material, thin is thinner ÷
// material by volume. Rules §3.
func Dry(wet unit.Micron, solids, thin float64) unit.Micron {
	return unit.Micron(float64(wet) * solids / (1 + thin))
}

// ShowDry is Dry with its working.
func ShowDry(wet unit.Micron, solids, thin float64, source working.Source) (unit.Micron, working.Working) {
	dry := Dry(wet, solids, thin)
	return dry, working.New("Dry film of one coat", "wet film × solids ÷ (1 + thinning)", "about "+dry.String(),
		working.Input{Name: "wet film", Value: wet.String(), Source: source},
		working.Input{Name: "solids by volume", Value: unit.Percent(solids * 100).String(), Source: source},
		working.Input{Name: "thinned by", Value: fmt.Sprintf("%g %%", thin*100), Source: source},
	)
}
