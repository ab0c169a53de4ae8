package recipe

import (
	"umberfrost/internal/craft/job"
)

// wetting is how soon cloth is laid into the wet resin, in minutes (default): well within a usual pot life.
var wetting = job.Within{BeforeMin: 10}

// cloth is fibre laid in resin for strength: never sanded into the weave.
func (w *writer) cloth(l *Layer) {
	f := mustFamily(or(l.Family, "lam-epoxy"))
	w.put(line{slot: "wet-out", kind: job.Coat, title: "Resin under the cloth", role: "resin", family: f.ID, method: w.by(f),
		how: "Small batches, worked in until the face is evenly wet. The cloth is cut and lies ready.",
		why: "Dry wood drinks resin out of the cloth, and a white spot is a bubble."})
	w.add(line{slot: "lay-cloth", kind: job.Inspect, work: "cloth", title: "Lay the cloth", terms: job.Terms{Within: &wetting},
		how: "From the middle outwards, no crease, then resin through it with a soft spreader until it goes clear.",
		why: "Wetted through from below it lies without a bubble."})
	coats := 2
	if l.Coats > 0 {
		coats = l.Coats
	}
	w.put(line{slot: "flood", kind: job.Coat, title: "Resin over the weave", role: "resin", family: f.ID, method: w.by(f), coats: coats,
		check: "weave-buried", how: "Thin, each on the one before while that still grips a thumbnail.",
		why: "The weave must lie under resin before any paper comes: a cut thread is weak and white."})
}
