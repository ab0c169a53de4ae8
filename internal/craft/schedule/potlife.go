package schedule

import (
	"fmt"
	"math"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Pot life is a hard window of every coat: what is mixed must be on before it sets.
// A coat that takes longer is put on in batches, each mixed anew. Rules §9.
const (
	leastBatch minute = 5  // what is workable for less is not worth mixing (default)
	mixMinutes minute = 5  // mixing another batch, where the step says nothing of its set-up (default)
	mostBatch         = 12 // more mixes than that for one coat is no coat (default)
)

// PotLife is how long a mix stays workable at a place, by the caution of the shop:
// its reference hours ÷ margin, and less where the place is usually warmer than 20 °C
// (the warmest hour of its week counts, as far as the product may be put on in it).
// False for what does not set in the pot.
func (s *Shop) PotLife(m *material.Material, place int) (unit.Minutes, bool) {
	hours, sets := m.Family.PotLife.Hours()
	if !sets {
		return 0, false
	}
	rate := 1.0
	if room := s.Places[place].Room; room != nil {
		warmest := min(room.Warmest(), m.Family.TempMax)
		rate = max(1, climate.DryingOf(m.Family, material.Recoat).Rate(climate.Air{Temperature: warmest,
			Humidity: climate.Reference.Humidity}))
	}
	return unit.Minutes(math.Floor(hours * 60 / s.Margin / rate)), true
}

// PotLifeOf is the pot life of a coat where it is put on.
func (s *Shop) PotLifeOf(step *Step) (unit.Minutes, bool) {
	if step.Material == nil {
		return 0, false
	}
	return s.PotLife(step.Material, s.placeOf(step))
}

// mix splits a coat that takes longer than its mix lasts into batches, or says why
// it cannot be done. The time that counts is that of putting on: what has been wiped
// off or is under the lamp is out of the pot.
func (n *node) mix(shop *Shop) {
	n.batches = 1
	life, sets := shop.PotLife(n.step.Material, int(n.place))
	work := n.puttingOn()
	if !sets || work <= minute(life) {
		return
	}
	if minute(life) < leastBatch {
		n.refused = fmt.Sprintf("a mix of %s sets within %s, which is too short to put it on", n.step.Material.Name, life.String())
		return
	}
	batches := (work + minute(life) - 1) / minute(life)
	if batches > mostBatch {
		n.refused = fmt.Sprintf("it takes %s to put on and a mix of %s lasts %s: that is %d mixes for one coat; split it by region, or "+
			"take a product that lasts longer",
			text(work), n.step.Material.Name, life.String(), batches)
		return
	}
	again := minute(n.step.SetUpMin)
	if again == 0 {
		again = mixMinutes
	}
	n.batches, n.mixing = uint8(batches), (batches-1)*again
	n.phases[0].length += n.mixing
}

// puttingOn is the part of a coat's minutes in which it is put on.
func (n *node) puttingOn() minute {
	work := minute(n.step.HandsOnMin - n.step.SetUpMin)
	if n.step.WipesOff() {
		return work - work/2
	}
	return work
}
