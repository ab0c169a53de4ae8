package recipe

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/pore"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/wood"
)

// waterborneGloss is colour on bare open-pored wood, sealed and filled flat,
// under a sprayed waterborne clear that is levelled part of the way, left to
// cure, levelled again and buffed.
var waterborneGloss = Recipe{
	ID:      "waterborne-gloss-filled",
	Title:   "Waterborne gloss, dyed and filled",
	Piece:   Body,
	Summary: "Dye on bare open-pored wood, shellac washcoat, pores filled flat, eight sprayed coats with a levelling half-way, buffed to gloss.",
	Roles: []Role{
		{"colour", "Dye", "water-dye"},
		{"washcoat", "Washcoat", "dewaxed-shellac"},
		{"filler", "Grain filler", "water-filler"},
		{"sealer", "Sealer", "water-sealer"},
		{"clear", "Clear", "water-clear"},
	},
	Suits: func(w wood.Wood) error {
		if !w.OpenPored() {
			return fmt.Errorf("%s has no pores to fill; this recipe is for open-pored woods such as ash, oak or mahogany", w.Name)
		}
		return nil
	},
	lines: func(s setting) []line {
		// water-filler and pore.Full are known to the pore package.
		fills, _ := pore.Needed("water-filler", pore.Full)
		return []line{
			{slot: "sand-bare", kind: schedule.Sand, title: "Sand the bare wood", ladder: ladderTo(s.wood.SandBareTo, 80, 120, 150, 180, 220),
				tool: "orbital-sander",
				how:  "Coarse first until every machine mark is gone, then up the ladder with the grain. A hard block on faces, by hand on edges and horns.",
				why:  "The coarse mark never comes back later. Finer than the last mark here starves the dye of colour."},
			{slot: "rake", kind: schedule.Inspect, title: "Raking light over the bare wood", check: "raking-light-prep",
				how: "A low lamp from one side, then turn the body a quarter.",
				why: "A scratch that is missed now is a dark line as soon as colour is on."},
			{slot: "drill", kind: schedule.Gate, title: "Pocket fitted dry, all holes drilled", fixed: 60, tool: "drill-press",
				how: "Fit the neck and the hardware dry, drill every hole, take it all off again.",
				why: "Drilled now, no drill ever meets the finished face."},
			{slot: "tape-on", kind: schedule.MaskOn, title: "Tape the pocket, line the cavities", check: "tape-pressed",
				how: "Low-tack tape pressed down along its edge; paper in the cavities.",
				why: "No film belongs on a glue or joint face. Colour creeps under a lifted edge."},
			{slot: "wet", kind: schedule.Sand, work: "raise-grain", title: "Wet the grain", rest: 2 * time.Hour,
				how: "Wipe once with clean water, evenly, most where the grain runs out. Let it dry standing.",
				why: "Raised now and cut back, the grain stays down when the water dye comes."},
			{slot: "cut-back", kind: schedule.Sand, work: "raise-grain", title: "Cut the raised grain back", ladder: ladderTo(s.wood.SandBareTo, s.wood.SandBareTo),
				check: "fuzz-cut",
				how:   "The last mark again, worn, a few light strokes with the grain. No more than the whiskers.",
				why:   "More than that opens fresh fibres that rise again."},
			{slot: "colour-test", kind: schedule.Inspect, work: "colour-test", title: "Colour test on scrap", check: "swatch-match",
				how: "Scrap of the same wood, sanded the same way: one and two coats, with clear over the top.",
				why: "Bare dye lies and the jar hides the hue. Write the recipe down: the same colour is needed again."},
			{slot: "dye", kind: schedule.Coat, role: "colour", method: material.Wipe, coats: 2, title: "Dye the wood",
				how: "Flood it with a cloth and wipe evenly along the grain, centre first, edges last.",
				why: "Two coats even each other out. Colour can be corrected until it is sealed."},
			{slot: "washcoat", kind: schedule.Coat, role: "washcoat", method: material.Spray, title: "Washcoat over the dye", sealed: true,
				how: "One light wet pass, no runs.",
				why: "It locks the dye so that the filler cannot lift it. Sealing is the first point of no return."},
			{slot: "scuff-washcoat", kind: schedule.Scuff, title: "Scuff the washcoat", ladder: []string{"fepa:P400"},
				how: "Dull it evenly, one light pass. Stay off the edges.",
				why: "Filler packs into a dull washcoat and wipes off clean; rubbed through it takes the colour along."},
			{slot: "fill", kind: schedule.Coat, role: "filler", method: material.Wipe, coats: fills, title: "Fill the pores",
				how: "Work it in across the grain with a card and scrape it clean at once, thin each time.",
				why: fmt.Sprintf("One filling leaves about 45 %% of the pore, so %d thin ones fill it to 95 %% and shrink less than one thick one.", fills)},
			{slot: "sand-fill", kind: schedule.Sand, work: "scuff", title: "Sand the filler level", ladder: []string{"fepa:P320"},
				how: "With the grain, on a block, until the haze on the surface is gone and only the pores are filled.",
				why: "What is left on top clouds the clear. What is sanded too far takes the colour."},
			{slot: "pores", kind: schedule.Inspect, title: "Judge the pores", check: "pores-filled",
				how: "Raking light across the grain on three spots.",
				why: "The target is judged, not counted. Every pore left open now sinks into the gloss later."},
			{slot: "seal", kind: schedule.Coat, role: "sealer", method: material.Spray, title: "Seal",
				how: "One even wet coat over everything, edges last.",
				why: "It stops the filler drinking the clear unevenly, and raises the last of the grain where it can still be cut."},
			{slot: "scuff-seal", kind: schedule.Scuff, title: "Scuff the sealer", ladder: []string{"fepa:P320"},
				how: "A light pass until it feels smooth to the back of the hand.",
				why: "The sealer's first coat raises the grain: sand lightly after it."},
			{slot: "clear-1", kind: schedule.Coat, role: "clear", method: material.Spray, coats: 4, title: "Clear, first half",
				how: "Medium wet, half-overlapping passes; edges first and lightly, faces last. Look for shiny nibs after the tack cloth.",
				why: "Thin coats within the recoat time bond into one film. A night after three, because the film must breathe."},
			{slot: "level-half", kind: schedule.Level, title: "Level half-way", ladder: []string{"fepa:P600"}, film: material.Sand,
				how: "Dry, on a hard block, until the texture is dull all over. Keep off the round-overs.",
				why: "Texture taken out now is not built up by the coats that follow, and leaves more film for the last levelling."},
			{slot: "clear-2", kind: schedule.Coat, role: "clear", method: material.Spray, coats: 4, title: "Clear, second half",
				how: "As before, a little wetter at the end and flat to the last pass.",
				why: "This is the film that the last levelling takes from: spare it nothing."},
			{slot: "tape-off", kind: schedule.MaskOff, title: "Tape off", check: "tape-lifted",
				how: "Back on itself, low and slow, once the last coat is dry to touch.",
				why: "Too early it smears, too late it tears the film."},
			{slot: "level", kind: schedule.Level, title: "Level for gloss", film: material.Buff,
				ladder: []string{"fepa:P800", "fepa:P1000", "fepa:P1200", "fepa:P1500", "fepa:P2000"}, check: "dull-gone", tool: "orbital-sander",
				how: "P800 until no shiny speck is left, then only scratches. A damp block, never a soaked body; wipe and change the water between marks.",
				why: "A gloss that is levelled soft sinks back and shows every mark. Edges are thinnest and pressed hardest: keep the block off them."},
			{slot: "buff", kind: schedule.Buff, title: "Buff", film: material.Buff, check: "compound-haze", tool: "buffing-wheel",
				ladder: []string{"compound:medium", "compound:fine", "compound:swirl"},
				how:    "One compound at a time, a clean pad for each. Keep it moving and cool.",
				why:    "Each compound only clears the marks of the one before; the first clears P2000."},
			{slot: "open", kind: schedule.Gate, work: "open-holes", title: "Open the holes and fit the hardware", film: material.Handle, fixed: 90, check: "hole-gauge",
				how: "Score the film, then ream or scrape each hole, seat and pocket by hand. Wax the screws.",
				why: "Film tightens every hole. A drill or a bit that catches chips it."},
		}
	},
}
