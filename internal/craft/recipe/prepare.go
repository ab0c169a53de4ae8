package recipe

import (
	"fmt"
	"slices"
	"time"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// The glue-up splits the sanding ladder: what is sanded finer before it is sanded
// again at the joint.
const (
	splitAt = 150
	finest  = 2000
)

var bareMarks = []int{80, 120, 150, 180, 220, 320, 400, 600, 800, 1000}

// sand writes the bare sanding above one grit and up to another, wood by wood: one
// that bleeds first, so that its dust is gone before a pale neighbour is opened.
func (w *writer) sand(above, most int) {
	groups := w.byWood()
	pale := slices.ContainsFunc(groups, func(g []Region) bool { t := timberOf(g[0]); return t.Pale() && t.Bleed == 0 })
	for _, regions := range groups {
		timber := timberOf(regions[0])
		suffix := ""
		if len(groups) > 1 {
			suffix = "-" + timber.ID
			if f := regions[0].wish.Found; f != "" && w.mixed() {
				suffix += "-" + f
			}
		}
		first := 0
		if above == 0 {
			first = w.asFound(regions, suffix)
		} else {
			first = w.first(regions[0])
		}
		if !timber.Drinks() {
			if above == 0 {
				w.dull(timber, regions, suffix)
			}
			continue
		}
		if first < 0 {
			continue // what it is stays: char, texture
		}
		slot := "sand-bare" + suffix
		if above > 0 {
			slot = "sand-on" + suffix
		}
		from, stop := max(coarsest(timber, w.p), first), w.stop(timber, regions)
		ladder := slices.DeleteFunc(upTo(from, max(stop, first), bareMarks...),
			func(m string) bool { return gritOf(m) <= above || gritOf(m) > most })
		if len(ladder) == 0 {
			continue
		}
		l := line{slot: slot, kind: job.Sand, title: "Sand the bare wood", regions: regions, ladder: ladder, how: w.sandHow(timber),
			why: w.sandWhy(timber)}
		if len(groups) > 1 {
			l.title += ", " + phrase.Lower(timber.Name)
		}
		if w.piece.Kind != Neck && timber.Substrate == wood.Solid && !w.p.Figured {
			l.tool = "orbital-sander"
		}
		if timber.Pale() && slices.ContainsFunc(groups, func(g []Region) bool { return timberOf(g[0]).Bleed >= 2 }) {
			l.how += " Tape the dark wood off and vacuum first: its dust stains this one."
		}
		w.add(l)
		if above == 0 && timber.Bleed >= 2 && pale && w.sealsBleed(regions) {
			w.put(line{slot: "seal-bleed-" + timber.ID, kind: job.Coat, title: "Shut the bleeding wood in", regions: regions,
				role: "barrier", family: "dewaxed-shellac",
				method: w.by(mustFamily("dewaxed-shellac")), how: barrierHow(w.by(mustFamily("dewaxed-shellac"))),
				why: fmt.Sprintf("%s gives colour to every solvent and every rag; sealed alone, before its pale neighbour is sanded, it "+
					"keeps it to itself.", timber.Name)})
		}
	}
	if above == 0 {
		how := "A low lamp from one side, then turn the piece a quarter. Wipe with spirit: glue and missed spots stay pale."
		if w.p.flamed() {
			how = "A low lamp from one side, then turn the piece a quarter. Dry: no spirit comes near wood that is about to be burnt."
		}
		w.add(line{slot: "rake", kind: job.Inspect, title: "Raking light over the bare wood", check: "raking-light-prep",
			regions: nonNil(only(w.regions, func(z Region) bool { return timberOf(z).Drinks() })), how: how,
			why: "A scratch that is missed now is a dark line as soon as colour or oil is on."})
	}
}

// mixed reports whether regions of one wood come in different states.
func (w *writer) mixed() bool {
	return slices.ContainsFunc(w.regions, func(z Region) bool { return z.wish.Found != w.regions[0].wish.Found })
}

// byWood groups the regions by what they are made of and how they come, what bleeds first.
func (w *writer) byWood() [][]Region {
	var groups [][]Region
	for _, z := range w.regions {
		i := slices.IndexFunc(groups, func(g []Region) bool { return g[0].Wood == z.Wood && g[0].wish.Found == z.wish.Found })
		if i < 0 {
			groups = append(groups, nil)
			i = len(groups) - 1
		}
		groups[i] = append(groups[i], z)
	}
	slices.SortStableFunc(groups, func(a, b []Region) int { return timberOf(b[0]).Bleed - timberOf(a[0]).Bleed })
	return groups
}

// sealsBleed reports whether shellac may shut in a wood that bleeds: where nothing
// has to soak into it afterwards, and the clear holds on shellac.
func (w *writer) sealsBleed(regions []Region) bool {
	soaks := !builds(w.p.family()) || slices.ContainsFunc(regions, w.colours) || w.poured(regions[0])
	return !soaks && !w.p.flamed() && !layering.Over("dewaxed-shellac", w.p.clear.Family).Needs() && !w.fillsRegion(regions[0])
}

// colours reports whether colour is wished on a region.
func (w *writer) colours(z Region) bool {
	return len(w.p.on(z, EffectColour, EffectFlake, EffectCandy, EffectLeaf, EffectParticles, EffectTint)) > 0
}

func gritOf(key string) int {
	var n int
	_, _ = fmt.Sscanf(key, "fepa:P%d", &n)
	return n
}

// coarsest is the grit that bare sanding of a wood begins with.
func coarsest(timber wood.Wood, p *PieceWish) int {
	switch {
	case timber.Substrate == wood.Veneer:
		return 150
	case p.Figured:
		return 120
	}
	return 80
}

// stop is the grit at which bare sanding ends: not so fine before a dye that it
// starves, finer where oil will hide nothing.
func (w *writer) stop(timber wood.Wood, regions []Region) int {
	if !builds(w.p.family()) && !slices.ContainsFunc(regions, w.colours) {
		return max(timber.SandBareTo, 320)
	}
	return timber.SandBareTo
}

func (w *writer) sandHow(timber wood.Wood) string {
	switch {
	case timber.Substrate == wood.Veneer:
		return "By hand on a hard block with light pressure, with the grain. Half a millimetre is all there is: no coarser grit, no " +
			"machine, no edge."
	case w.p.Figured:
		return "On a hard pad with light pressure, with the grain; by hand on edges. A soft pad digs the soft stripes out into furrows."
	case w.piece.Kind == Neck:
		return "Along the neck with a soft-backed paper, the headstock on a block. Look at the tape between grits."
	}
	return "Coarse first until every machine mark is gone, then up the ladder with the grain. A hard block on faces, by hand on edges " +
		"and horns."
}

func (w *writer) sandWhy(timber wood.Wood) string {
	if !builds(w.p.family()) {
		return "Oil hides no scratch. The coarse grit never comes back later."
	}
	return fmt.Sprintf("The coarse grit never comes back later. P%d is where %s stops: finer starves a colour, coarser shows as dark "+
		"lines.", timber.SandBareTo, phrase.Lower(timber.Name))
}

// dull prepares what is not wood: cleaned and dulled. It is primed once it is fitted, drilled
// and masked, so that no primer lies in a joint.
func (w *writer) dull(timber wood.Wood, regions []Region, suffix string) {
	how := "Wash, degrease, dull evenly, wash again; gloves from here on. " + timber.Advice
	if timber.Softens != nil {
		how += fmt.Sprintf(" It softens from %s: keep the paper moving and cool.", timber.Softens.String())
	}
	slot := "dull-" + timber.ID
	if suffix != "" {
		slot = "dull" + suffix
	}
	w.add(line{slot: slot, kind: job.Sand, work: "scuff", title: "Clean and dull the " + phrase.Lower(timber.Name),
		regions: regions, ladder: papers(320),
		how: how, why: "Nothing soaks in: every film holds on clean scratches and on nothing else."})
}

// prime gives what is not wood its grip, and tries it on an offcut.
func (w *writer) prime() {
	done := make(map[string]bool)
	for _, regions := range w.byWood() {
		timber := timberOf(regions[0])
		alike := only(w.regions, func(z Region) bool { return z.Wood == timber.ID && !w.poured(z) }) // resin grips on clean scratches
		if !timber.Drinks() && !done[timber.ID] && len(alike) > 0 && w.p.clear != nil {
			w.primeOn(timber, alike)
		}
		done[timber.ID] = true
	}
}

func (w *writer) primeOn(timber wood.Wood, regions []Region) {
	primer := mustFamily("dewaxed-shellac")
	if w.p.sprays() {
		primer = mustFamily("sealer-2k")
	}
	w.put(line{slot: "prime-" + timber.ID, kind: job.Coat, title: "Prime for grip", regions: regions, role: "primer", family: primer.ID,
		method: w.by(primer),
		how:    "One thin even coat within hours of cleaning.",
		why:    "It grips what the clear would let go of, and bridges pinholes and layers."})
	w.add(line{slot: "grip-" + timber.ID, kind: job.Inspect, title: "Try the grip on an offcut", regions: regions, check: "adhesion-offcut",
		how: "An offcut of the same stuff, prepared and primed with it.",
		why: "Plastics, resins and metals differ from batch to batch; an offcut tells before the piece does."})
}

// dryFit writes what is built before the finish: what is on order, holes, the joint.
func (w *writer) dryFit() {
	if w.piece.Kind != Neck {
		w.inserts()
	}
	drilled := w.wish.way("holes") == "before"
	first := w.wish.piece(Body) == nil || w.piece.Kind == Body
	if drilled && first {
		w.arrivals()
	}
	if w.piece.Kind == Neck {
		w.add(line{slot: "dry-fit", kind: job.Gate, title: "Joint fitted dry, tuner holes drilled", fixed: 30, check: "neck-dry-fit",
			how: "Fit the joint, drill for the tuners, take everything off again.",
			why: "Fitted now, no file and no drill meets a finished face."})
	} else if drilled {
		w.add(line{slot: "drill", kind: job.Gate, title: "Pocket fitted dry, all holes drilled", fixed: 60, tool: "drill-press",
			check: "hardware-dry-fit", school: "holes/before",
			how: "Fit the neck and the hardware dry, drill every hole, take it all off again.",
			why: "Drilled now, no drill ever meets the finished face."})
	} else {
		w.add(line{slot: "dry-fit", kind: job.Gate, title: "Pocket fitted dry", fixed: 30, check: "neck-dry-fit", school: "holes/after",
			how: "Fit the neck dry; mark nothing yet, the holes come when the neck is on.",
			why: "Film narrows the pocket: its fit is settled while it can still be cut."})
	}
	if w.wish.MockUp && first {
		about := "Hardware, pickups and plastics beside the colour swatch"
		if w.wish.Fittings != "" {
			about = phrase.Capital(w.wish.Fittings) + ", beside the colour swatch"
		}
		w.add(line{slot: "mock-up", kind: job.Inspect, title: "Mock up the whole look", fixed: 30,
			how: about + ", by the window and under the lamp that it will be seen in.",
			why: "The look is judged together, and colour can still be chosen. Once it is on, the hardware has to follow it."})
	}
}

// arrivals are gates for what is on order.
func (w *writer) arrivals() {
	for i, a := range w.wish.Arrivals {
		w.add(line{slot: fmt.Sprintf("arrival-%d", i+1), kind: job.Gate, title: phrase.Capital(a.What) + " must be here", fixed: 5,
			how: "Unpack it, measure it, and hold it against the piece.", why: "What is measured on paper seldom fits the hole.",
			terms: job.Terms{Arrival: &job.Arrival{Expected: a.Expected, SpreadDays: a.SpreadDays, Fallback: a.Fallback}}})
	}
}

// wetGrain raises the grain where water will come, and cuts it back.
func (w *writer) wetGrain() {
	if !w.stands("grain") || w.p.way("grain") != "wet" {
		return
	}
	regions := nonNil(only(w.regions, func(z Region) bool {
		return timberOf(z).Drinks() && w.top(z) == "" && w.first(z) >= 0
	}))
	thin := slices.ContainsFunc(regions, func(z Region) bool { return timberOf(z).Substrate == wood.Veneer })
	w.add(line{slot: "wet", kind: job.Sand, work: "raise-grain", title: "Wet the grain", regions: regions, rest: 2 * time.Hour,
		school: "grain/wet",
		how:    wetHow(thin),
		why:    "Raised now and cut back, the grain stays down when water comes again."})
	w.cutBack(regions)
}

func wetHow(thin bool) string {
	if thin {
		return "A barely damp cloth once over a veneer, never wet: the glue below swells and lets go. Elsewhere wipe once with clean " +
			"water. Let it dry standing."
	}
	return "Wipe once with clean water, evenly, most where the grain runs out. Let it dry standing."
}

// cutBack takes the whiskers off that water has raised, each wood with its last grit.
func (w *writer) cutBack(regions []Region) {
	for first := true; len(regions) > 0; first = false {
		last := func(z Region) int { return max(w.stop(timberOf(z), []Region{z}), w.first(z)) }
		grit := last(regions[0])
		alike := func(z Region) bool { return last(z) == grit }
		slot := "cut-back"
		if !first {
			slot += fmt.Sprintf("-%d", grit)
		}
		w.add(line{slot: slot, kind: job.Sand, work: "raise-grain", title: "Cut the raised grain back", regions: only(regions, alike),
			ladder: papers(grit), check: "fuzz-cut",
			how: "The last grit again, worn, a few light strokes with the grain. No more than the whiskers.",
			why: "More than that opens fresh fibres that rise again."})
		regions = only(regions, func(z Region) bool { return !alike(z) })
	}
}

// fit opens what film has tightened, or drills what was left for last.
func (w *writer) fit() {
	if w.piece.Kind != Neck {
		w.seated()
	}
	switch {
	case w.piece.Kind == Neck:
		w.add(line{slot: "open", kind: job.Gate, title: "Open the tuner holes and the joint", film: material.Handle, fixed: 30,
			check: "hole-gauge",
			how:   "Ream each hole by hand, scrape the joint to bare wood where glue or metal beds.",
			why:   "Film tightens every hole, and no film belongs on a joint face."})
	case w.wish.way("holes") == "before":
		w.add(line{slot: "open", kind: job.Gate, title: "Open the holes and fit the hardware", film: material.Handle, fixed: 90,
			check: "hole-gauge", school: "holes/before",
			how: "Score the film, then ream or scrape each hole, seat and pocket by hand. Wax the screws.",
			why: "Film tightens every hole. A drill or a bit that catches chips it."})
	default:
		w.arrivals()
		w.add(line{slot: "drill-after", kind: job.Gate, title: "Drill with a depth stop and fit the hardware", film: material.Handle,
			fixed: 120, tool: "drill-press", check: depthCheck, school: "holes/after",
			how: "Tape over the spot, score the film, a stop or flag on the bit, a sharp bit; chamfer each rim by hand, seal the bared " +
				"wood, wax the screws.",
			why: "A hole too deep or on the wrong side cannot be taken back in a finished face."})
	}
	if w.wish.Standard == "sale" || w.wish.Standard == "show" {
		w.add(line{slot: "verdict", kind: job.Inspect, title: "Closing look", check: "sheen-zones",
			how: "Under the lamp and by the window, region beside region. Write down what stays and why.",
			why: "A small flaw may be accepted with a reason; one that is found by the customer has none."})
	}
}

// depthCheck is the check of a drilling that meets a finished face.
const depthCheck = "strap-button-depth"

// sizeOf is a length of a checked wish with how it was entered.
func sizeOf(entered string) *job.Size {
	if entered == "" {
		return nil
	}
	return &job.Size{Metres: float64(lengthOf(entered)) / 1000, Entered: entered}
}

func lengthOf(entered string) unit.Millimetre {
	length, _ := unit.ParseLength(entered) // checked
	return length
}
