package recipe

import (
	"fmt"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/pore"
)

// worked are the regions of a piece that texture, flame and colour are wished on.
func (w *writer) worked() []Region {
	return only(w.regions, func(z Region) bool { return !z.Plain && timberOf(z).Drinks() })
}

// brush works the grain out before water raises the grain, and before colour.
func (w *writer) brush() {
	if !w.p.Texture {
		return
	}
	w.add(line{slot: "texture", kind: job.Sand, work: "distress", title: "Brush the grain out", regions: w.worked(),
		how: "A wire brush along the grain, soft wood out, hard lines left standing; a nylon brush after it.",
		why: "Cut or brushed now it takes the colour with the rest; later it would break the film."})
}

// colour writes what comes between bare wood and the sealer: what shuts char in, tests, colour
// and filling, in the order that the schools chosen give them.
func (w *writer) colour() {
	regions := w.worked()
	if w.p.charred() {
		w.sealChar(regions)
	}
	if w.p.coloured() {
		w.add(line{slot: "colour-test", kind: job.Inspect, work: "colour-test", title: "Colour test on scrap", regions: w.regions,
			check: "swatch-match",
			how:   "Scrap of the same wood, sanded and sealed the same way: one and two coats, with clear over the top.",
			why:   "Bare dye lies and the jar hides the hue. Write the recipe down: the same colour is needed again."})
	}
	opaque := w.p.Look == "solid" || w.p.Look == "flake"
	early := w.p.fills() && builds(w.p.family()) &&
		(opaque || (w.p.coloured() && w.stands("fill-order") && w.p.way("fill-order") == "first"))
	if early {
		w.fill("fill-order/first")
	}
	switch w.p.Look {
	case "natural":
		if w.stands("figure") && w.p.way("figure") == "warm" {
			w.warm(regions)
		}
	case "one-colour":
		w.oneColour(regions)
	case "grain-colour":
		w.grainColour(regions)
	case "burst":
		w.rubbedGround(regions)
	}
	if w.p.fills() && builds(w.p.family()) && !early {
		school := ""
		if w.stands("fill-order") {
			school = "fill-order/" + w.p.way("fill-order")
		}
		w.fill(school)
	}
}

// stands reports whether a topic stands open for the piece.
func (w *writer) stands(id string) bool { return stands(id, w.wish, w.p) }

// flame chars the wood, and sees that nothing loose is left.
func (w *writer) flame() {
	if !w.p.charred() {
		return
	}
	regions := w.worked()
	w.add(line{slot: "char", kind: job.Coat, work: "char", title: "Char and brush", regions: regions, role: "char", family: "sealed-char",
		tool: "torch",
		how:  "Outdoors, on bare ground, water within reach. Edges have their shape by now. Burn evenly, let it go stone cold, brush with the grain, blow it clean.",
		why:  "No flame comes near once tape, paper, dye, solvent or finish is about."})
	w.add(line{slot: "char-clean", kind: job.Inspect, title: "Char wipes clean", regions: regions, check: "char-clean",
		how: "Ten light strokes with a white cloth.", why: "What is loose now comes off on hands and clothes later."})
}

func (w *writer) sealChar(regions []Region) {
	by := mustFamily(sealOfChar(w.p.Clear))
	w.put(line{slot: "seal-char", kind: job.Coat, title: "Shut the char in", regions: regions, role: "washcoat", family: by.ID,
		method: w.by(by), coats: 2,
		how: "Thin, the first pass a mist, until a white cloth stays clean.",
		why: "Bare char rubs off black and drinks every coat after it unevenly."})
}

// sealOfChar is what shuts char in under a clear.
func sealOfChar(clear string) string {
	if b, found := layering.Between("sealed-char", clear); found {
		return b.Family
	}
	return "dewaxed-shellac"
}

func (w *writer) warm(regions []Region) {
	w.put(line{slot: "warm", kind: job.Coat, title: "Warm with thin amber shellac", regions: regions, role: "warm",
		family: "dewaxed-shellac", method: w.by(mustFamily("dewaxed-shellac")),
		school: "figure/warm", how: "One thin pass, no build.", why: "It gives the wood its glow without any sanding back."})
}

func (w *writer) oneColour(regions []Region) {
	on := "bare"
	if w.stands("colour-on") {
		on = w.p.way("colour-on")
	}
	switch on {
	case "toner":
		return // it is in the coats above the sealer
	case "washcoat":
		w.washcoat(regions, "colour-on/washcoat", "Only the thirsty grain stays sealed once it is sanded back, so the colour takes evenly.")
	}
	w.mainColour(regions, "colour-on/"+on)
}

// washcoat is a thin sealing coat, sanded back so that only the thirsty grain
// stays sealed.
func (w *writer) washcoat(regions []Region, school, why string) {
	shellac := mustFamily("dewaxed-shellac")
	w.put(line{slot: "washcoat", kind: job.Coat, title: "Thin washcoat", regions: regions, role: "washcoat", family: shellac.ID,
		method: w.by(shellac), school: school,
		how: "One light pass of a thin cut, no runs.", why: why})
	w.add(line{slot: "sand-washcoat", kind: job.Sand, work: "scuff", title: "Sand the washcoat back", regions: regions, ladder: papers(320),
		how: "Lightly and evenly, with the grain, off the edges.", why: "A full film would shed the colour in beads and streaks."})
}

// mainColour is the colour of the field.
func (w *writer) mainColour(regions []Region, school string) {
	as := "dye"
	if w.stands("colour-as") {
		as = w.p.way("colour-as")
	}
	l := line{slot: "colour", kind: job.Coat, regions: regions, role: "colour", school: school}
	switch as {
	case "bound":
		l.family, l.title, l.coats, l.school = "binder-stain", "Main colour, bound in clear", 2, "colour-as/bound"
		l.how, l.why = "Thin even coats along the grain, a wet edge all the way; do not go back over it.",
			"Bound in clear it cannot lift when the next coat is wiped."
	case "stain":
		l.family, l.title, l.coats, l.school = "water-stain", "Pigmented stain", 1, "colour-as/stain"
		if !builds(w.p.family()) {
			l.family = "oil-stain"
		}
		l.how, l.why = "Flood it on, wipe it off along the grain within its minutes.", "It marks the pores and hardly fades."
	default:
		l.family, l.title, l.coats = "water-dye", "Dye the wood", 2
		l.how, l.why = "Flood it with a cloth and wipe evenly along the grain, centre first, edges last.",
			"Two coats even each other out. Colour can be corrected until it is sealed."
	}
	f := mustFamily(l.family)
	if l.method = material.Wipe; as == "bound" {
		l.method = w.by(f)
	}
	w.put(l)
}

// grainColour is a dark first colour rubbed back, so that it stays in pores and
// figure only, under the main colour.
func (w *writer) grainColour(regions []Region) {
	w.put(line{slot: "dark", kind: job.Coat, title: "Dark colour into the grain", regions: regions, role: "dark", family: "water-dye",
		method: material.Wipe, school: "figure/dark",
		how: "Flood it, work it into pores and figure, wipe the rest off.",
		why: "What the grain drinks now stays dark under everything that follows."})
	w.add(line{slot: "rub-back", kind: job.Sand, work: "scuff", title: "Rub the dark colour back", regions: regions,
		ladder: []string{"nonwoven:general", "fepa:P320"}, school: "figure/dark",
		how: "A damp synthetic pad first, then fine paper with the grain, until the face is pale and only pores and figure are dark.",
		why: "What is left on the face muddies the colour above it."})
	if w.p.way("colour-as") == "bound" {
		w.washcoat(regions, "", "It keeps the dark colour where it is while the next one is wiped over it.")
	}
	w.mainColour(regions, "figure/dark")
}

// rubbedGround is the wood's own colour under a burst; rubbed by hand, the burst is
// all there is.
func (w *writer) rubbedGround(regions []Region) {
	if len(regions) == 0 {
		return
	}
	rubbed := w.stands("burst") && w.p.way("burst") == "rub"
	w.put(line{slot: "colour", kind: job.Coat, title: "Ground colour", regions: regions, role: "colour", family: "water-dye",
		method: material.Wipe,
		how:    "Flood it and wipe evenly, the whole face, lighter than you want it.",
		why:    "The centre of a burst is this colour and the clear, nothing else."})
	if rubbed {
		w.put(line{slot: "edge", kind: job.Coat, title: "Rub the edge in", regions: regions, role: "edge", family: "water-dye",
			method: material.Wipe, coats: 2, school: "burst/rub",
			how: "A little on the cloth, from the edge inwards while the ground is still damp; strokes towards the lighter side, water to blend.",
			why: "Water re-wets the ground, so the two run into one another. Centre first, dark edge last."})
	}
}

// fillsRegion reports whether a region's pores are filled.
func (w *writer) fillsRegion(z Region) bool { return w.p.fills() && timberOf(z).OpenPored() }

// fill packs the pores until they are as full as the look wants them, sands level
// and judges.
func (w *writer) fill(school string) {
	regions := only(w.regions, w.fillsRegion)
	family, target := "water-filler", poreTargets[w.p.way("pores")]
	fills, err := pore.Needed(family, target)
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	l := line{slot: "fill", kind: job.Coat, title: "Fill the pores", regions: regions, role: "filler", family: family,
		method: material.Wipe, coats: fills, school: school,
		how:   "Work it in across the grain with a card and scrape it clean at once, thin each time.",
		why:   fmt.Sprintf("One filling leaves about 45 %% of the pore, so %d thin ones fill it to %.0f %% and shrink less than one thick one.", fills, target*100),
		terms: job.Terms{Repeat: &job.Repeat{Least: max(1, fills-1), Most: fills + 2}}}
	if school == "fill-order/tinted" {
		l.title, l.how = "Fill the pores, tinted", l.how+" Tinted to the colour of the grain."
	}
	w.put(l)
	w.add(line{slot: "sand-fill", kind: job.Sand, work: "scuff", title: "Sand the filler level", regions: regions, ladder: papers(320),
		how: "With the grain, on a block, until the haze on the surface is gone and only the pores are filled.",
		why: "What is left on top clouds the clear. What is sanded too far takes the colour."})
	w.add(line{slot: "pores", kind: job.Inspect, title: "Judge the pores", regions: regions, check: "pores-filled",
		how: "Raking light across the grain on three spots.",
		why: "The target is judged, not counted. Every pore left open now sinks into the gloss later."})
	w.barrierAgain(regions)
}

// poreTargets are the filled shares that a look asks for. Rules §4.
var poreTargets = map[string]float64{"open": 0, "half": pore.Half, "full": pore.Full}
