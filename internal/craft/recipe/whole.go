package recipe

import (
	"slices"
	"time"

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
	after := c.last(Cavity, Board, Frets, Hardware, Plastics, Fittings)
	if c.wish.event("nut") {
		w.add(line{slot: "nut", kind: job.Gate, title: "Nut cut and set", regions: w.regions, after: after, fixed: 60, terms: unseen,
			how: "Film scored along the slot, the seat bare and flat, a drop of glue; slots cut to the strings that will be on it.",
			why: "A nut on film rocks, and comes off with a flake of it."})
		after = nil
	}
	w.add(line{slot: "strings", kind: job.Gate, title: "String it and set it up", regions: w.regions, after: after,
		fixed: 120, terms: job.Terms{Strings: true, Follows: true},
		how: "Strings on, relief, action, intonation. Let it hang free: no stand, no strap, no case yet.",
		why: "The film may be handled and buffed by now, and the joint has its full strength. It goes on curing for weeks."})
	w.hang()
	w.add(line{slot: "hand-over", kind: job.Gate, title: "Last look, into its case", regions: w.regions, fixed: 15, film: material.FullCure,
		terms: unseen,
		how:   "Under the lamp and by the window once more, the set-up checked, a soft cloth over it. Then the case.",
		why:   "A film that has not cured through prints under straps, stands and the lining of a case."})
}

// hang lets it settle under its strings, sets it up for good, and polishes the frets once more where
// that was wished.
func (w *writer) hang() {
	if days := w.wish.HangDays; days > 0 {
		w.add(line{slot: "hang", kind: job.Gate, title: "Let it hang", regions: w.regions, fixed: 5,
			rest: time.Duration(days) * 24 * time.Hour, terms: unseen,
			how: "Strung to pitch, on a hook, in the air it will be played in; a look at the neck now and then.",
			why: "A new neck settles under its strings for weeks, and so does its set-up."})
		w.add(line{slot: "set-up", kind: job.Gate, title: "Final set-up", regions: w.regions, fixed: 60, check: "board-straight",
			terms: unseen,
			how:   "Relief, action, intonation again, and a play test on every fret.", why: "What has settled is what it will stay."})
	}
	if frets := w.crowns(); w.wish.event("last-polish") && len(frets) > 0 {
		w.add(line{slot: "last-polish", kind: job.Buff, work: "fret-polish", title: "Last polish of the frets", regions: frets,
			ladder: []string{"film:3", "compound:extra-fine"}, terms: job.Terms{Follows: true, Clean: true},
			how: "Strings off, the board taped once more, along each fret; pickups covered.",
			why: "A play test leaves its marks, and the last touch is the one that is felt."})
	}
}

// crowns are the frets, wherever they were worked on.
func (w *writer) crowns() []Region {
	for _, p := range w.draft.Pieces {
		if list := only(p.Regions, func(z Region) bool {
			return z.Name == "frets" &&
				(p.Kind == Frets || p.Kind == Whole)
		}); len(list) > 0 {
			return list
		}
	}
	return nil
}

func (w *writer) glueUp(after []string, film material.Milestone) {
	glue := clamped
	w.add(line{slot: "glue-up", kind: job.Gate, title: "Glue the neck in", after: after, fixed: 60, film: film, check: "neck-dry-fit",
		school: "joining/" + w.wish.way("joining"),
		how: "A dry run with every clamp first. Bare wood on both faces, glue on both, clamps up slowly; take the squeeze-out off as " +
			"it gels.",
		why:   "No film belongs on a glue face, and glue smeared on bare wood shows as a pale patch under every colour.",
		terms: job.Terms{Glue: &glue}})
}

// finishGlued writes the finish of body and neck as one, as it was wished of the
// body; a neck that was wished natural stays without its colour.
func (c *composing) finishGlued(w *writer) {
	w.p = c.wish.glued()
	w.all = w.regions
	for i := range w.all {
		w.all[i].Sheen = ""
		if ends := w.p.on(w.all[i], EffectClear, EffectRounds); len(ends) > 0 {
			w.all[i].Sheen = or(w.p.region(w.all[i].Name).Sheen, ends[len(ends)-1].Sheen)
		}
	}
	for p := range c.draft.Pieces {
		for i := range c.draft.Pieces[p].Regions {
			z := &c.draft.Pieces[p].Regions[i]
			if at := slices.IndexFunc(w.all, func(o Region) bool { return o.Key == z.Key }); at >= 0 {
				z.Sheen = w.all[at].Sheen
			}
		}
	}
	w.regions = uncut(w.all)
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
