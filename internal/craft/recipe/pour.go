package recipe

import (
	"fmt"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/resin"
	"umberfrost/internal/craft/unit"
)

// bubbleMin is the most that may go by before bubbles are out of a pour, in minutes (default); a
// short pot life is shorter.
const bubbleMin unit.Minutes = 20

// pour casts resin on a bed that is level and shut, in lifts as deep as it bears.
func (w *writer) pour(l *Layer) {
	r, err := resin.Find(or(l.Of, "medium-epoxy"))
	if err != nil || len(w.regions) == 0 {
		return // refused by the check
	}
	depth := lengthOf(l.Depth)
	w.softBed()
	lifts := r.Lifts(depth)
	w.add(line{slot: "dam", kind: job.MaskOn, work: "dam", title: "Shut the seams, set the dam", check: "seams-shut",
		how: "Tape and clay on every seam and hole below, a dam round the edge as high as the pour and a little more. Water-test where " +
			"water may come.",
		why: "Resin finds a hole that air does not, and goes on running for hours."})
	w.add(line{slot: "bed", kind: job.Inspect, title: "Bed level, thin sections held", check: "bed-level", fixed: 15,
		how: "A level both ways, wedges below. Measure what stays of the wood under its deepest place.",
		why: "Resin lies level whatever the wood does, and a thin section that carries a load must keep its strength."})
	w.underPour(r)
	if l.Over != "" {
		w.add(line{slot: "inclusions", kind: job.Gate, work: "mark", title: "Inclusions sealed and set", check: "inclusion-cure",
			how: l.Over + ": dry, sealed all round with the resin itself, set where it is to lie, and tried in a cup of the same mix.",
			why: "What is damp, oily or full of air bubbles for hours, or stops the cure round itself."})
	}
	w.add(line{slot: "mix", kind: job.Inspect, title: "Mix proved in a cup", check: "mix-proved", fixed: 10,
		how: w.mixing(l, r, depth, lifts),
		why: "A wrong ratio never hardens, and takes the wood below with it."})
	bubbles := bubbleMin
	if r.PotLife > 0 {
		bubbles = min(bubbles, r.PotLife)
	}
	f := mustFamily(r.Family)
	for i := 1; i <= lifts; i++ {
		suffix, of := "", ""
		if lifts > 1 {
			suffix, of = fmt.Sprintf("-%d", i), fmt.Sprintf(", lift %d of %d", i, lifts)
		}
		w.put(line{slot: "pour" + suffix, kind: job.Coat, title: "Pour the resin" + of, role: "resin", family: f.ID, method: w.pouring(f),
			check: "pour-depth",
			how: fmt.Sprintf("From the middle, slowly, %s deep; what is left in the cup is watched for heat. Gloves and air. %s",
				(depth / unit.Millimetre(lifts)).String(), r.HeatNote),
			why: fmt.Sprintf("Deeper than %s at a time it heats itself, yellows and cracks.", r.DepthMost.String())})
		w.add(line{slot: "bubbles" + suffix, kind: job.Inspect, title: "Bubbles out", check: "bubbles-out",
			terms: job.Terms{Within: &job.Within{BeforeMin: bubbles}},
			how:   "A pin or short warm air, never a flame where plastic or finish is near.",
			why:   "Once it thickens a bubble stays."})
	}
	w.add(line{slot: "hard", kind: job.Inspect, title: "Hard right through", check: "pour-hard", film: material.Sand,
		how: "Thumbnail at the thinnest edge and over every inclusion.", why: "What is soft now smears under paper and never polishes."})
	w.add(line{slot: "blush", kind: job.Inspect, title: "Wash the blush off", check: "blush-off", fixed: 10,
		how: "Lukewarm water and a cloth, twice; dry.", why: "Sanded in, it stops every film that comes after."})
	w.add(line{slot: "undam", kind: job.MaskOff, title: "Dam off", check: "tape-lifted",
		how: "Score along it, then peel; the edge eased by hand.", why: "A dam that is left on becomes part of the piece."})
	w.add(line{slot: "flatten", kind: job.Sand, work: "sand-bare", title: "Sand the resin flat", ladder: papers(180, 240, 320),
		film: material.Sand,
		how:  "On a hard block, cool and slow; stop when resin and wood are one face.",
		why:  "It shrinks and creeps up its edges: only a flat bed takes a flat film."})
}

// softBed warns where the heat of a pour may bend what it is poured on.
func (w *writer) softBed() {
	for _, z := range w.regions {
		if soft := timberOf(z).Softens; soft != nil {
			w.doubt(fmt.Sprintf("%s softens from %s, and a pour heats itself: thinner lifts, the body held flat and cool, and a try in "+
				"an offcut first.",
				timberOf(z).Name, soft.String()))
			return
		}
	}
}

// pouring is how a resin is put on.
func (w *writer) pouring(f material.Family) material.Method {
	for _, m := range f.Methods {
		if m == material.Pour {
			return m
		}
	}
	return w.by(f)
}

// underPour seals what a resin must not touch bare, or what would blow bubbles into it.
func (w *writer) underPour(r resin.Resin) {
	thirsty := only(w.regions, func(z Region) bool { return timberOf(z).Drinks() || r.UnderStop != "" })
	if len(thirsty) == 0 {
		return
	}
	f := mustFamily(or(r.UnderStop, "lam-epoxy"))
	w.put(line{slot: "under", kind: job.Coat, title: "Seal the bed", regions: thirsty, role: "sealer", family: f.ID, method: w.by(f),
		how: "Thin, into every pore and corner; the first lift on it while it still grips, or scuffed.",
		why: "Bare wood breathes bubbles into a pour for hours."})
}

// wasteShare is what stays in cups and runs off (default).
const wasteShare = 0.10

// mixing says what to weigh or measure. Rules §6: area times depth, and the waste.
func (w *writer) mixing(l *Layer, r resin.Resin, depth unit.Millimetre, lifts int) string {
	var area unit.SquareMetre
	for _, z := range w.regions {
		area += z.AreaM2
	}
	each := mix.Pour(area, depth/unit.Millimetre(lifts), wasteShare)
	text := fmt.Sprintf("%s for each lift", each.String())
	if lifts == 1 {
		text = each.String() + " in all"
	}
	if r.Mix != "" {
		text += fmt.Sprintf(", %s by %s", r.Mix, r.MixBy)
	}
	if l.Tinted || len(l.Colours) > 0 {
		text += fmt.Sprintf("; powder %g to %g g in 100 mL, into the resin before the hardener", r.PowderLeast, r.PowderMost)
	}
	return text + ". A cup of it beside the piece, stirred by the clock, scraped at walls and bottom."
}
