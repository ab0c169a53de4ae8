package recipe

import (
	"fmt"

	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
)

// liftMin is how soon a stencil comes off strewn grains, in minutes (default): while they can still move.
const liftMin = 10

// particles are grains that fall on a tacky coat, freely or through a stencil: a hard window. Loose
// ones come off, a light coat locks the rest, and the clear above buries them.
func (w *writer) particles(l *Layer) {
	hold := w.holder(l)
	tack, known := flake.TackOf(hold)
	g, err := flake.Find(or(l.Of, "grain-100"))
	if !known || err != nil {
		return // refused by the check
	}
	f := mustFamily(hold)
	if l.kind() == "stencil" {
		w.add(line{slot: "stencil", kind: job.MaskOn, work: "stencil", title: "Lay the stencil", check: "stencil-pressed",
			how: "Pressed down along every inner edge, points first; weeds lifted with tweezers. Paper over all that stays free.",
			why: "A grain that slips under an edge stays there for good."})
	}
	w.put(line{slot: "hold", kind: job.Coat, title: "Tacky coat for the grains", role: "hold", family: f.ID, method: w.by(f),
		how: "One even wet coat, no dry edge. Grains, tray and sieve stand ready before it goes on.",
		why: fmt.Sprintf("It takes grains from %s to %s after it was put on (%s), and no longer.", tack.After.String(),
			tack.Before.String(), tack.Tell)})
	w.put(line{slot: "strew", kind: job.Coat, work: "sprinkle", title: "Strew the grains: " + phrase.Lower(g.Material), role: "grains",
		family: "particles",
		check:  "tack-particles",
		terms:  job.Terms{Within: &job.Within{AfterMin: tack.After, BeforeMin: tack.Before}},
		how: fmt.Sprintf("From a sieve, high and even, %g to %g g per dm²; tilt it over the tray, strew again where it is thin. %s",
			g.GramsLeast, g.GramsMost, g.Note),
		why: "Too early they sink, too late they do not hold: prove the minutes on a card first."})
	if l.kind() == "stencil" {
		w.add(line{slot: "lift", kind: job.MaskOff, title: "Lift the stencil", check: "tape-lifted",
			terms: job.Terms{Within: &job.Within{BeforeMin: liftMin}},
			how:   "Straight up, slowly, while the grains still sit in tack.",
			why:   "In a set coat the stencil tears the edge out with it."})
	}
	w.add(line{slot: "loose", kind: job.Inspect, work: "brush-off", title: "Loose grains off", check: "particles-held",
		how: "A soft brush and clean dry air from the side; what moves under a finger goes.",
		why: "A loose grain under clear is a bump with a ring round it."})
	w.put(line{slot: "lock", kind: job.Coat, title: "Light coat to lock them", role: "hold", family: f.ID, method: w.by(f),
		how: "Thin and from all sides, dry rather than wet.",
		why: "A wet coat floats grains that are not locked. They are buried by the clear above, not by this."})
}

// holder is the family that takes the grains: as wished, or the clear that buries them where that
// holds grains at all.
func (w *writer) holder(l *Layer) string {
	if l.Family != "" || w.p.clear == nil {
		return or(l.Family, "urethane-2k")
	}
	for _, z := range w.regions {
		if ends := w.p.on(z, EffectClear); len(ends) > 0 {
			if _, holds := flake.TackOf(ends[0].Family); holds {
				return ends[0].Family
			}
		}
	}
	return "dewaxed-shellac"
}
