package recipe

import (
	"umberfrost/internal/craft/job"
)

// onWood reports whether a mark is made in bare wood: burnt, engraved or inlaid. The others lie on a
// sealed face, under clear or over it.
func onWood(l *Layer) bool {
	switch l.kind() {
	case "burnt", "engraved", "inlaid":
		return true
	}
	return false
}

// buries reports whether clear lies over a mark on a region.
func (w *writer) buries(l *Layer, z Region) bool {
	above := false
	for _, o := range w.p.layers() {
		if o == l {
			above = true
		} else if above && o.Effect.ends() && w.p.reaches(o, z) {
			return true
		}
	}
	return false
}

var marks = map[string]struct{ title, how, why string }{
	"burnt": {"Burn the mark in", "Iron or pen at a heat tried on scrap; light touches, lifted before it spreads. Cold before the next " +
		"step.",
		"Once colour or film is about, an iron scorches them round the mark."},
	"engraved": {"Engrave the mark", "Lines scribed through a proof, cut with the grain first; dust out with a soft brush.",
		"Cut now its walls take colour and film with the rest."},
	"inlaid": {"Inlay the mark", "A bed cut to the piece, glued a hair proud, levelled with the wood when the glue is hard.",
		"It is sanded with the wood, and both under one film."},
	"film": {"Lay the printed mark", "On a smooth dull film, floated or rubbed down from the middle, every bubble out; no thicker edge " +
		"than it has.",
		"On bare wood it silvers, and every edge of it is felt until the clear has levelled over it."},
	"signed": {"Sign it", "Pigment ink on a sealed dull film, dry before anything touches it; the next coat a mist.",
		"On bare wood ink runs, and a wet coat lifts it."},
	"serial": {"Serial and date", "Pigment ink or stamp on a sealed dull film, where hardware will not cover it; the next coat a mist.",
		"What stands under the clear cannot be worn off."},
}

// woodMarks writes the marks that are made in bare wood.
func (w *writer) woodMarks() {
	for _, l := range w.p.layers(EffectMark) {
		if onWood(l) {
			m := marks[l.kind()]
			w.of(l).add(line{slot: "mark", kind: job.Gate, work: "mark", title: m.title, check: "mark-proof", how: markWords(l) + m.how,
				why: m.why})
		}
	}
}

// marksOnTop writes the marks that lie over all clear of their regions, once that is rubbed out.
func (w *writer) marksOnTop() {
	for _, l := range w.p.layers(EffectMark) {
		if one := w.of(l); !onWood(l) {
			one.regions = nonNil(only(one.regions, func(z Region) bool { return !w.buries(l, z) }))
			one.mark(l, "mark-on-top")
		}
	}
}

// mark writes one that lies on a sealed face.
func (w *writer) mark(l *Layer, slot string) {
	m := marks[l.kind()]
	family := "ink-mark"
	if l.kind() == "film" {
		family = "decal"
	}
	w.put(line{slot: slot, kind: job.Coat, work: "mark", title: m.title, role: "mark", family: family, check: "mark-proof",
		how: markWords(l) + m.how, why: m.why})
}

// markWords says what it is, where that was told.
func markWords(l *Layer) string {
	if l.Over == "" {
		return ""
	}
	return "“" + l.Over + "”. "
}
