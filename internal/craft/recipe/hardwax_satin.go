package recipe

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/wood"
)

// hardwaxSatin is a neck that stays bare to the touch: sanded fine, three thin
// coats of hard-wax oil wiped on and off, rubbed to satin.
var hardwaxSatin = Recipe{
	ID:      "hardwax-oil-satin",
	Title:   "Hard-wax oil satin",
	Piece:   Neck,
	Summary: "Sanded fine and open, three thin coats of hard-wax oil wiped on and off, rubbed to an even satin. Thin and bare to the touch.",
	Roles:   []Role{{"oil", "Hard-wax oil", "hardwax-oil"}},
	Suits: func(w wood.Wood) error {
		if w.InhibitsCure >= 2 {
			return fmt.Errorf("%s is oily and keeps an oil from drying; this recipe is for woods such as maple, mahogany or walnut", w.Name)
		}
		return nil
	},
	lines: func(s setting) []line {
		return []line{
			{slot: "tape-on", kind: schedule.MaskOn, title: "Tape the fretboard and the heel", check: "tape-pressed",
				how: "Tape along the edge of the board, over the frets and over the joint faces.",
				why: "Oil darkens a bare board, and nothing glues or beds on an oiled face."},
			{slot: "sand-bare", kind: schedule.Sand, title: "Sand the bare wood", ladder: ladderTo(320, 120, 150, 180, 240, 320), tool: "orbital-sander",
				how: "Along the neck with a soft-backed paper, the headstock on a block. Look at the tape between marks.",
				why: "Oil hides no scratch, and a neck is judged by the hand."},
			{slot: "rake", kind: schedule.Inspect, title: "Raking light over the bare wood", check: "raking-light-prep",
				how: "A low lamp along the shaft, then across it.",
				why: "Cross-grain scratches at the heel and the volute show up under oil."},
			{slot: "wet", kind: schedule.Sand, work: "raise-grain", title: "Wet the grain", rest: 2 * time.Hour,
				how: "A damp cloth once over, then let it dry.",
				why: "A sweaty hand would raise it later."},
			{slot: "cut-back", kind: schedule.Sand, work: "raise-grain", title: "Cut the raised grain back", ladder: []string{"fepa:P320"}, check: "fuzz-cut",
				how: "Worn P320, with the grain, whiskers only.",
				why: "More than that opens fresh fibres that rise again."},
			{slot: "oil-1", kind: schedule.Coat, role: "oil", method: material.Wipe, title: "First coat of oil",
				how: "Saturate, wait, then wipe every trace off within its minutes. Nothing wet may stay on the surface.",
				why: "The first coat goes into the wood and takes the most. What is left on top stays greasy."},
			{slot: "scuff", kind: schedule.Scuff, title: "Scuff between coats", ladder: []string{"fepa:P400"},
				how: "P400 or a fine pad, a few strokes, wipe the dust off.",
				why: "It takes off the nibs that the first coat raised."},
			{slot: "oil-2", kind: schedule.Coat, role: "oil", method: material.Wipe, coats: 2, title: "Second and third coat",
				how: "Thinner than the first: a few drops on the cloth, rubbed in, wiped dry.",
				why: "Sheen comes with each coat. Thick coats never harden."},
			{slot: "tape-off", kind: schedule.MaskOff, title: "Tape off", check: "tape-lifted",
				how: "Back on itself and slowly, then wipe the edge of the board.",
				why: "Left on for days it takes the oil's edge with it."},
			{slot: "rub", kind: schedule.Buff, title: "Rub to satin", film: material.Buff, ladder: []string{"nonwoven:ultra-fine"}, check: "sheen-zones",
				how: "An ultra-fine pad, long strokes from heel to headstock, then a soft cloth.",
				why: "It evens the sheen and lets the hand slide. Earlier the oil smears."},
		}
	},
}
