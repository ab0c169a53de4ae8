package recipe

import (
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// clamped is the clock of a usual wood glue at 20 °C: an hour in clamps, squeeze-out
// taken off as it gels, worked on the same evening, strings after a day (default; the
// glue's own sheet says better).
var clamped = job.Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240, FullMin: 24 * 60}

// whole joins body and neck, and strings them.
func (c *composing) whole() {
	w := c.begin(Whole, nil, nil)
	for _, p := range c.draft.Pieces {
		if p.Kind == Body || p.Kind == Neck {
			w.regions = append(w.regions, p.Regions...)
		}
	}
	switch {
	case c.wish.gluedFirst():
		w.glueUp(c.last(Body, Neck), "")
		c.finishGlued(w)
	case c.wish.Joint == "set":
		w.glueUp(c.last(Body, Neck), material.Handle)
	default:
		w.add(line{slot: "bolt-on", kind: job.Gate, title: "Bolt the neck to the body", after: c.last(Body, Neck), fixed: 30,
			film: material.Handle, check: "neck-dry-fit",
			how: "Clean the joint faces, set the neck, draw the screws up evenly by hand.",
			why: "Both films must bear clamping and handling, or they print and stick."})
	}
	w.add(line{slot: "strings", kind: job.Gate, title: "String it and set it up", regions: w.regions, after: c.last(Cavity, Board, Frets),
		fixed: 120, terms: job.Terms{Strings: true, Follows: true},
		how: "Strings on, relief, action, intonation. Let it hang free: no stand, no strap, no case yet.",
		why: "The film may be handled and buffed by now, and the joint has its full strength. It goes on curing for weeks."})
	w.add(line{slot: "hand-over", kind: job.Gate, title: "Last look, into its case", regions: w.regions, fixed: 15, film: material.FullCure,
		terms: job.Terms{Follows: true},
		how:   "Under the lamp and by the window once more, the set-up checked, a soft cloth over it. Then the case.",
		why:   "A film that has not cured through prints under straps, stands and the lining of a case."})
}

func (w *writer) glueUp(after []string, film material.Milestone) {
	glue := clamped
	w.add(line{slot: "glue-up", kind: job.Gate, title: "Glue the neck in", after: after, fixed: 60, film: film, check: "neck-dry-fit",
		school: "joining/" + w.wish.way("joining"),
		how:    "A dry run with every clamp first. Bare wood on both faces, glue on both, clamps up slowly; take the squeeze-out off as it gels.",
		why:    "No film belongs on a glue face, and glue smeared on bare wood shows as a pale patch under every colour.",
		terms:  job.Terms{Glue: &glue}})
}

// finishGlued writes the finish of body and neck as one, as it was wished of the
// body; a neck that was wished natural stays without its colour.
func (c *composing) finishGlued(w *writer) {
	w.p = c.wish.glued()
	for i := range w.regions {
		for _, z := range w.p.Regions {
			if z.Name == w.regions[i].Name {
				w.regions[i].Plain = z.Plain
			}
		}
	}
	w.sand(splitAt, finest)
	w.finish()
	if c.wish.Cavities != "none" {
		c.cavities()
	}
	if c.wish.boardApart() {
		c.board()
	}
	if c.wish.Frets != "none" {
		c.frets()
	}
	c.boardLast()
	if w.fretworkFollows() {
		w.wax()
	}
}
