package edit

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// What follows from the figures of a step: its minutes by area and grits, its material slot.

// area is what a step is done to.
func (w *working) area(at place) unit.SquareMetre { return w.areaOf(w.piece(at).RegionsOf(w.step(at))) }

func (w *working) areaOf(regions []uuid.UUID) (sum unit.SquareMetre) {
	for _, piece := range w.in.Pieces {
		for _, z := range piece.Regions {
			if slices.Contains(regions, z.ID) {
				sum += z.AreaM2
			}
		}
	}
	return sum
}

// rescale gives a step the minutes of another area or another number of grits: its set-up stays, the
// rest goes along, up to the next five minutes.
func (w *working) rescale(s *job.Step, area unit.SquareMetre, grits int) {
	before := float64(area) * float64(max(grits, 1))
	after := float64(w.areaOf(s.Regions)) * float64(max(len(s.Ladder), 1))
	if before <= 0 || after <= 0 || before == after {
		return
	}
	scale := func(m, fixed unit.Minutes) unit.Minutes {
		work := float64(m-fixed) * after / before
		return min(fixed+unit.Minutes(upToFive(work)), mostMinutes)
	}
	s.HandsOnMin, s.ScuffMin = scale(s.HandsOnMin, s.SetUpMin), scale(s.ScuffMin, 0)
}

const mostMinutes = 24 * 60

func upToFive(minutes float64) int {
	n := int(minutes / 5)
	if float64(n)*5 < minutes {
		n++
	}
	return n * 5
}

// defaultRole is the material slot of a step that takes a family of a group.
var defaultRole = map[string]string{"colour": "colour", "fill": "filler", "seal": "sealer", "clear": "clear", "oil-wax": "oil",
	"metallic": "flake"}

// with puts a step on with another material: a product's id, or a family's.
func (w *working) with(s *job.Step, text string) error {
	if s.Kind != job.Coat {
		return fault("fields.material", "%s takes no material", phrase.Quoted(s.Title))
	}
	name, product := text, (*uuid.UUID)(nil)
	if id, err := uuid.Parse(text); err == nil {
		family, known := "", false
		if w.families != nil {
			family, known = w.families(id)
		}
		if !known {
			return fault("fields.material", "must be a product on the shelf, or a family")
		}
		name, product = family, &id
	}
	next, err := material.FindFamily(name)
	if err != nil {
		return fault("fields.material", "must be a product on the shelf, or a family")
	}
	if now, err := material.FindFamily(s.Family); err == nil && now.Group != next.Group && defaultRole[next.Group] != "" {
		s.Role = defaultRole[next.Group]
	}
	s.Family, s.Product = name, product
	if len(next.Methods) > 0 && !slices.Contains(next.Methods, s.Method) {
		s.Method = next.Methods[0]
	}
	return nil
}
