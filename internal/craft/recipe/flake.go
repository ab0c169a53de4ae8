package recipe

import (
	"fmt"

	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/unit"
)

// flake is flake or pearl in clear, over its base.
func (w *writer) flake(l *Layer) {
	coats, family := 3, "flake-clear"
	how := "A large nozzle, stirred all the time, weighed flake per volume; wet flowing coats so that it lies flat."
	if g, err := flake.Find(l.Of); err == nil {
		coats, family = (g.CoatsLeast+g.CoatsMost+1)/2, g.Family
		how = fmt.Sprintf("%g to %g g in 100 mL of clear ready to spray, weighed; a nozzle of %g mm or more, stirred all the time. Wet "+
			"flowing coats so that it lies flat. %s",
			g.GramsLeast, g.GramsMost, g.Nozzle, g.Note)
	}
	if l.Coats > 0 {
		coats = l.Coats
	}
	f := mustFamily(family)
	w.put(line{slot: "flake", kind: job.Coat, title: map[string]string{"flake-clear": "Flake in clear",
		"pearl-clear": "Pearl in clear"}[family],
		role: "flake", family: f.ID, method: w.by(f), coats: coats, check: "flake-coverage", how: how,
		why: "Thin coverage shows as clouds; flake that stands up pokes through every coat above it."})
}

// buried is the clear that flake of a usual size needs above it (default): its
// standing height, and what levels there. Rules §3.
const buried unit.Micron = 60

// burying is the clear that must lie over the flake, grains and leaf below an ending, when levelling
// takes so much: standing height + R + 15 µm.
func (w *writer) burying(removed unit.Micron) unit.Micron {
	most := unit.Micron(0)
	for _, l := range w.p.layers(EffectFlake, EffectParticles) {
		if !l.meets(w.p.clear) {
			continue
		}
		need := buried
		if g, err := flake.Find(l.Of); err == nil {
			need = film.Bury(g.Standing, removed)
		}
		most = max(most, need)
	}
	return most
}

// candy is coats that are the colour, over a metallic base: each darkens it, and none is sanded.
func (w *writer) candy(l *Layer) {
	coats := 4
	if l.Coats > 0 {
		coats = l.Coats
	}
	if w.p.find(func(o *Layer) bool { return o.meets(l) && (o.opaque() || o.Effect == EffectFlake) }) == nil {
		w.note("Candy lives on the light that its base throws back: over plain wood it is only a tinted clear. A metallic base below it " +
			"is usual.")
	}
	f := mustFamily("candy-clear")
	w.put(line{slot: "candy", kind: job.Coat, title: "Candy coats", role: "toner", family: f.ID, method: w.by(f), coats: coats,
		check: "candy-step",
		how:   "Even overlaps, each coat crossed over the last, the same distance all over; count them, and stop at the swatch.",
		why:   "Each coat darkens it, a lap shows as a band, and paper would cut through to pale."})
}
