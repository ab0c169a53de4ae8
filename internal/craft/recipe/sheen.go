package recipe

import (
	"slices"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// sheen is what the steps on a region leave it with: matte, satin or gloss; empty where
// a film is left as it was put on, with its texture.
func (d *Draft) sheen(region string) string {
	left, oils := "", 0
	for _, s := range d.on(region) {
		switch s.Kind {
		case job.Coat:
			f, err := material.FindFamily(s.Family)
			if err != nil {
				continue
			}
			switch {
			case s.Sheen != "":
				left = s.Sheen
			case f.Group == "oil-wax" && f.TargetLeast > 0:
				oils += s.Coats
				left = oilSheen(f, oils)
			case f.Group == "clear":
				left = ""
			}
		case job.Level, job.Buff:
			left = sheenAfter(left, s.Ladder)
		}
	}
	return left
}

// on lists the steps done to a region, in the order of the work, without those that were left out.
func (d *Draft) on(region string) []*Step {
	var list []*Step
	for p := range d.Pieces {
		for s := range d.Pieces[p].Steps {
			if step := &d.Pieces[p].Steps[s]; !step.Skipped && slices.Contains(step.Regions, region) {
				list = append(list, step)
			}
		}
	}
	return list
}

// oilSheen is the sheen that so many coats of an oil bring.
func oilSheen(f material.Family, coats int) string {
	satin, gloss := oilCoats(f, "satin"), oilCoats(f, "gloss")
	switch {
	case coats >= gloss && gloss > satin:
		return "gloss"
	case coats >= satin:
		return "satin"
	}
	return "matte"
}

// What the last scratch reads as, in µm (default).
const (
	glossScratch = 1.3
	satinScratch = 4.1
)

// sheenAfter is the sheen after a ladder: that of its last scratch.
func sheenAfter(before string, ladder []string) string {
	if len(ladder) == 0 {
		return before
	}
	grit, err := abrasive.Find(ladder[len(ladder)-1])
	switch {
	case err != nil || grit.Name == "white-nonabrasive":
		return before
	case grit.Scale == "compound" || grit.Scratch <= glossScratch:
		return "gloss"
	case grit.Scratch <= satinScratch:
		return "satin"
	}
	return "matte"
}
