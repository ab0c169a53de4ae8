package recipe

import (
	"fmt"
	"math"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/pore"
)

// poreTargets are the filled shares that a look asks for. Rules §4.
var poreTargets = map[string]float64{"open": 0, "half": pore.Half, "full": pore.Full}

// fillsRegion reports whether a region's pores are filled.
func (w *writer) fillsRegion(z Region) bool {
	return w.p.fills() && timberOf(z).OpenPored() && len(w.p.on(z, EffectFill)) > 0 && !w.poured(z)
}

// fill packs the pores until they are as full as the look wants them, sands level and judges. Under
// an oil the pores are filled with its own slurry, as the oil is put on.
func (w *writer) fill(l *Layer) {
	how := w.p.wayOf(l, "pores")
	if how == "open" || !w.p.fills() || (w.p.clear != nil && !builds(w.p.family())) {
		if l.As != "" && l.As != "open" && w.p.coloured() && w.p.clear != nil && !builds(w.p.family()) && w.p.openPored() {
			w.note("Pores under an oil are filled with its slurry, and sanding that in would lift the colour: they stay open.")
		}
		return
	}
	regions := only(w.regions, w.fillsRegion)
	family, target := or(l.Family, "water-filler"), poreTargets[how]
	fills, err := pore.Needed(family, target)
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	if l.Coats > 0 {
		fills = l.Coats
	}
	one, _ := pore.Filled(family, 1)
	full, _ := pore.Filled(family, fills)
	c := line{slot: "fill", kind: job.Coat, title: "Fill the pores", regions: regions, role: "filler", family: family,
		method: material.Wipe, coats: fills, school: w.fillSchool(l),
		how: "Work it in across the grain with a card and scrape it clean at once, thin each time.",
		why: fmt.Sprintf("One filling leaves about %.0f %% of the pore, so %d thin ones fill it to %.0f %% and shrink less than one "+
			"thick one.", (1-one)*100, fills, target*100),
		terms: job.Terms{Repeat: &job.Repeat{Least: max(1, fills-1), Most: fills + 2}}}
	if l.Coats > 0 && full < target {
		c.why = fmt.Sprintf("One filling leaves about %.0f %% of the pore, so %d leave it about %.0f %% full.", (1-one)*100, fills,
			math.Floor(full*100))
	}
	if l.Tinted {
		c.title, c.how = "Fill the pores, tinted", c.how+" Tinted to the colour of the grain."
	}
	w.put(c)
	w.add(line{slot: "sand-fill", kind: job.Sand, work: "scuff", title: "Sand the filler level", regions: regions, ladder: papers(320),
		how: "With the grain, on a block, until the haze on the surface is gone and only the pores are filled.",
		why: "What is left on top clouds the clear. What is sanded too far takes the colour."})
	w.add(line{slot: "pores", kind: job.Inspect, title: "Judge the pores", regions: regions, check: "pores-filled",
		how: "Raking light across the grain on three spots.",
		why: "The target is judged, not counted. Every pore left open now sinks into the gloss later."})
	w.barrierAgain(regions)
}

// fillSchool is the way that the order of filling follows, where there is anything to choose.
func (w *writer) fillSchool(l *Layer) string {
	switch {
	case w.stands("fill-order"):
		return "fill-order/" + w.p.wayOf(l, "fill-order")
	case w.p.covered():
		return "fill-order/first"
	}
	return ""
}

// slurry is dust and oil rubbed into the pores, under an oil on wood without colour.
func (w *writer) slurry() {
	l := w.p.layer(EffectFill)
	if l == nil || !w.p.fills() || w.p.coloured() {
		return
	}
	if w.draft.find(key(w.piece.Kind, l.ID+":slurry")) != nil {
		return // under another oil below this one
	}
	fill := w.of(l)
	fill.put(line{slot: "slurry", kind: job.Coat, title: "Oil wet-sanded into the pores",
		regions: nonNil(only(fill.regions, func(z Region) bool { return w.fillsRegion(z) && group(w.top(z)) != "oil-wax" })),
		role:    "slurry",
		family:  "oil-slurry", method: material.Wipe, coats: 3,
		terms: job.Terms{Repeat: &job.Repeat{Least: 2, Most: 5}},
		how:   "P400 with plenty of oil until a paste forms, leave it to haze, wipe across the grain.",
		why:   "Dust and oil fill small pores with the wood's own colour."})
}

// barrierAgain puts on anew what kept colour from the filler, where the sanding that levelled
// the filler has taken it off the face and the next coat would wake the colour too.
func (w *writer) barrierAgain(regions []Region) {
	if w.p.clear == nil {
		return
	}
	next := w.p.clear.Family
	if sealer, has := w.sealer(); has {
		next = sealer.ID
	}
	for _, z := range regions {
		lying := *w.on(z)
		if len(lying) < 3 || !strings.Contains(lying[len(lying)-2].Last, ":barrier-fill-") {
			continue
		}
		barrier, colour := lying[len(lying)-2].Family, lying[len(lying)-3].Family
		v := layering.Over(colour, next)
		wakes := v.Needs() || v.Condition == layering.TestFirst || v.Condition == layering.LightMist || v.Answer == layering.Untested
		if barrier != next && wakes {
			f := mustFamily(barrier)
			same := func(o Region) bool { l := *w.on(o); return len(l) > 1 && l[len(l)-2].Last == lying[len(lying)-2].Last }
			w.put(line{slot: "barrier-again", kind: job.Coat, title: "Barrier of " + f.Named() + " again", regions: only(regions, same),
				role: "barrier", family: barrier, method: w.by(f), how: barrierHow(w.by(f)),
				why: "Levelling the filler took the first one off the face. " + v.Reason})
			return
		}
	}
}
