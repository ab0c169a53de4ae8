package recipe

import (
	"time"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/phrase"
)

// flame burns the wood before tape and paper are near, and before any spirit, oil or film. Accents
// over a water dye, asked for on purpose, come when that is bone dry.
func (w *writer) flame(late bool) {
	for _, l := range w.p.layers(EffectFlame) {
		if w.overDye(l) != late {
			continue
		}
		if l.kind() == "accents" {
			w.of(l).accents(late)
		} else {
			w.of(l).char()
		}
	}
}

// overDye reports whether a flame is wished over unbound water dye.
func (w *writer) overDye(l *Layer) bool {
	for _, below := range w.p.layers() {
		if below == l {
			return false
		}
		if below.Effect == EffectColour && below.meets(l) && w.p.inWood(below) {
			return l.kind() == "accents"
		}
	}
	return false
}

func (w *writer) char() {
	regions := w.drinking()
	w.add(line{slot: "char", kind: job.Coat, work: "char", title: "Char and brush", regions: regions, role: "char", family: "sealed-char",
		tool: "torch",
		how: "Outdoors, on bare ground, water within reach. Edges have their shape by now. Burn evenly, let it go stone cold, brush " +
			"with the grain, blow it clean.",
		why: "No flame comes near once tape, paper, dye, solvent or finish is about."})
	w.add(line{slot: "char-clean", kind: job.Inspect, title: "Char wipes clean", regions: regions, check: "char-clean",
		how: "Ten light strokes with a white cloth.", why: "What is loose now comes off on hands and clothes later."})
}

// accents are touches of the flame, no film of char: nothing has to be shut in.
func (w *writer) accents(late bool) {
	regions := w.drinking()
	step := line{slot: "accents", kind: job.Gate, work: "char", title: "Flame accents", regions: regions, tool: "torch",
		check: "flame-clear",
		how: "Outdoors, on bare ground, water within reach. A small flame kept moving, from the edges inwards; never lingering on a glue " +
			"line, a veneer or an inlay. Brush off what is loose.",
		why: "No flame comes near once tape, paper, spirit or finish is about."}
	if late {
		step.rest = 24 * time.Hour
		w.add(line{slot: "bone-dry", kind: job.Gate, title: "Dye bone dry, masks off", regions: regions, fixed: 5, rest: 24 * time.Hour,
			how: "A day in moving air after the last water. Every tape and paper off; spirit and rags out of the room.",
			why: "Damp dye boils and blotches under a flame, and paper catches out of sight."})
		w.note("Flame over a water dye is asked for on purpose: only bone dry, with every mask off, and tried on scrap first.")
	}
	w.add(step)
	w.add(line{slot: "cold", kind: job.Inspect, title: "Watched until cold", regions: regions, check: "flame-cold", fixed: 30,
		how: "Half an hour beside it, a hand on every corner.", why: "An ember in end grain glows for an hour before it shows."})
}

// drinking are the regions that take up what wood takes up.
func (w *writer) drinking() []Region {
	return only(w.regions, func(z Region) bool { return timberOf(z).Drinks() })
}

// sealChar shuts char in, so that it cannot come off on hands.
func (w *writer) sealChar() {
	for _, l := range w.p.layers(EffectFlame) {
		if l.kind() != "all" {
			continue
		}
		w := w.of(l)
		if w.p.clear == nil || !builds(w.p.family()) {
			continue
		}
		by := mustFamily(sealOfChar(w.p.clear.Family))
		w.put(line{slot: "seal-char", kind: job.Coat, title: "Shut the char in", regions: w.drinking(), role: "washcoat", family: by.ID,
			method: w.by(by), coats: 2,
			how: "Thin, the first pass a mist, until a white cloth stays clean.",
			why: "Bare char rubs off black and drinks every coat after it unevenly."})
	}
}

// sealOfChar is what shuts char in under a clear.
func sealOfChar(clear string) string {
	if b, found := layering.Between("sealed-char", clear); found {
		return b.Family
	}
	return "dewaxed-shellac"
}

// named lists regions in words.
func named(regions []Region) string {
	names := make([]string, len(regions))
	for i, z := range regions {
		names[i] = "the " + z.Name
	}
	return phrase.List(names)
}
