package recipe

import (
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// levelGrits is the ladder that takes the texture out and leaves the scratch that a
// sheen wants.
func (w *writer) levelGrits(sheen string) []string {
	start := 1200
	switch a := w.coatTexture(); {
	case a >= 30:
		start = 400
	case a >= 20:
		start = 600
	case a >= 10:
		start = 800
	}
	switch {
	case sheen == "gloss" && w.p.way("shine") == "papers":
		return upTo(start, 5000, 400, 600, 800, 1000, 1200, 1500, 2000, 2500, 3000, 5000)
	case sheen == "gloss":
		return upTo(start, 2000, 400, 600, 800, 1000, 1200, 1500, 2000)
	case sheen == "satin":
		return upTo(min(start, 800), 1000, 400, 600, 800, 1000)
	}
	return upTo(min(start, 600), 800, 400, 600, 800)
}

// rubOut writes the rest, the levelling and the last sheen of what does not come
// finished by its last coat.
func (w *writer) rubOut() {
	if !w.p.rubsOut() {
		return
	}
	if by := w.p.way("cure-by"); by != "calendar" {
		w.cureTest(by)
	}
	w.plug()
	for _, sheen := range []string{"gloss", "satin", "matte"} {
		regions := only(w.regions, func(z Region) bool { return z.Sheen == sheen })
		if len(regions) == 0 || (sheen != "gloss" && w.p.flatted()) {
			continue
		}
		if sheen == "gloss" {
			w.gloss(regions)
		} else {
			w.dullDown(sheen, regions)
		}
	}
}

func (w *writer) cureTest(by string) {
	checkID := map[string]string{"smell": "smell", "thumbnail": "thumbnail-pocket", "weight": "weight-steady"}[by]
	w.add(line{slot: "cure-test", kind: job.Inspect, title: "Is it cured? Tested by " + by, film: material.Buff, check: checkID,
		school: "cure-by/" + by,
		how:    "In a hidden spot, or on the test board that was coated with it.",
		why:    "The calendar is blind to cold spells and heavy coats."})
}

// plug closes holes and slots before anything wet comes near them.
func (w *writer) plug() {
	if !w.wet() {
		return
	}
	w.add(line{slot: "plug", kind: job.MaskOn, title: "Plug the holes, tape the slots", film: material.Handle,
		how: "Wax or dowel in every hole, tape over slots, pocket and cavities.",
		why: "Water in a hole or a slot swells the wood and lifts the film round it."})
}

func (w *writer) wet() bool {
	return builds(w.p.family()) && slices.Contains([]string{"wet", "spirit"}, w.p.way("levelling"))
}

func (w *writer) gloss(regions []Region) {
	l := line{slot: "level", kind: job.Level, title: "Level for gloss", regions: regions, film: material.Buff,
		ladder: w.levelGrits("gloss"), check: "dull-gone", school: "levelling/" + w.p.way("levelling"),
		how: "The first grit until no shiny speck is left, then only scratches. A hard block on faces, by hand round horns; keep it off " +
			"the edges.",
		why: "A gloss that is levelled soft sinks back and shows every mark. Edges are thinnest and pressed hardest."}
	if w.wet() {
		l.terms.Clean = true
		l.how += " A damp block, never a soaked piece; wipe and change the water between grits."
	} else {
		l.how += " Stearated paper, dry; blow it off between grits."
	}
	if w.piece.Kind != Neck && !w.p.heatSoft() {
		l.tool = "orbital-sander"
	}
	w.add(l)
	b := line{slot: "buff", kind: job.Buff, title: "Buff", regions: regions, film: material.Buff, check: "compound-haze",
		tool: "buffing-wheel", ladder: []string{"compound:medium", "compound:fine", "compound:swirl"},
		school: "shine/" + w.p.way("shine"), how: "One compound at a time, a clean pad for each. Keep it moving and cool.",
		why: "Each compound only clears the marks of the one before; the first clears P2000."}
	if w.p.way("shine") == "papers" {
		b.title, b.tool, b.ladder = "Polish by hand", "", []string{"compound:swirl"}
		b.how, b.why = "A soft cloth and a fine polish, small circles, light.",
			"The papers have done the work; a hand keeps edges cool and covered."
	}
	if w.p.heatSoft() {
		b.how += fmt.Sprintf(" By hand only: %s softens from %s.", w.p.softest().Name, w.p.softest().Softens.String())
		b.tool = ""
	}
	w.add(b)
}

// dullDown rubs a film to matte or satin.
func (w *writer) dullDown(sheen string, regions []Region) {
	if by := w.p.method(); by != material.Wipe && by != material.Pad {
		l := line{slot: "level-" + sheen, kind: job.Level, title: "Level for " + sheen, regions: regions, film: material.Buff,
			ladder: w.levelGrits(sheen), check: "scratch-one-way",
			school: "levelling/" + w.p.way("levelling"),
			how:    "Until no shiny speck is left, then only scratches; the last strokes long and with the grain.",
			why:    "A satin ends earlier than a gloss, but on as level a film."}
		if w.wet() {
			l.terms.Clean = true
			l.how += " A damp block, never a soaked piece."
		}
		w.add(l)
	}
	w.rub(sheen, regions)
}

// rub leaves the last scratch of matte or satin, all one way.
func (w *writer) rub(sheen string, regions []Region) {
	pad, school := "nonwoven:ultra-fine", ""
	if sheen == "matte" {
		pad = "nonwoven:very-fine"
	}
	how := "Long strokes from end to end with the pad, then a soft cloth."
	if w.stands("pads") {
		school = "pads/" + w.p.way("pads")
		if w.p.way("pads") == "wool" {
			pad = map[string]string{"satin": "wool:0000", "matte": "wool:000"}[sheen]
			how = "Fresh wool and soapy water or wax, long strokes from end to end. Magnets out of the way, every shred vacuumed off."
		}
	}
	w.add(line{slot: "rub-" + sheen, kind: job.Buff, title: "Rub to " + sheen, regions: regions, film: material.Buff, ladder: []string{pad},
		check: "sheen-zones", school: school,
		how: how, why: "It evens the sheen and lets the hand slide. Earlier the film smears."})
}
