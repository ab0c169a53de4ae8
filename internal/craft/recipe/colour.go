package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
)

// belowSeal writes what comes between bare wood and the sealer: what shuts char in, tests, colour, washcoats
// and filling, in the order of the stack.
func (w *writer) belowSeal() {
	w.sealChar()
	if w.p.coloured() {
		w.add(line{slot: "colour-test", kind: job.Inspect, work: "colour-test", title: "Colour test on scrap", check: "swatch-match",
			how: "Scrap of the same wood, sanded and sealed the same way: one and two coats, with clear over the top.",
			why: "Bare dye lies and the jar hides the hue. Write the recipe down: the same colour is needed again."})
	}
	for _, l := range w.p.layers(EffectColour, EffectFill, EffectSeal) {
		switch {
		case l.Effect == EffectFill:
			w.of(l).fill(l)
		case l.Effect == EffectSeal:
			w.of(l).sealBelow(l)
		case w.p.inWood(l):
			w.of(l).colour(l)
		default:
			continue // it lies above the sealer
		}
		w.cuts(l)
	}
	w.flame(true)
}

// stands reports whether a topic stands open for the piece.
func (w *writer) stands(id string) bool { return stands(id, w.wish, w.p) }

// colour writes one layer of colour that goes into the wood.
func (w *writer) colour(l *Layer) {
	w.regions = w.drinking()
	switch {
	case len(w.regions) == 0:
	case l.grain():
		w.grainColour()
	case l.burst():
		w.rubbedEdge(l)
	case w.underBurst(l):
		w.ground(l)
	default:
		w.mainColour(l)
	}
	w.unmask()
}

// underBurst reports whether a colour is the ground of a burst above it.
func (w *writer) underBurst(l *Layer) bool {
	burst := w.p.find(func(o *Layer) bool { return o.burst() && o.meets(l) })
	return burst != nil && !burst.airbrushed()
}

// overDark reports whether a colour lies above one that stays in the grain.
func (w *writer) overDark(l *Layer) bool {
	return w.p.find(func(o *Layer) bool { return o.grain() && o.meets(l) }) != nil
}

// overSeal reports whether a sealer or a barrier is wished below a colour.
func (w *writer) overSeal(l *Layer) bool {
	for _, o := range w.p.layers() {
		switch {
		case o == l:
			return false
		case o.Effect == EffectSeal && o.meets(l) && (o.kind() == "sealer" || o.kind() == "barrier"):
			return true
		}
	}
	return false
}

// grainColour is a dark colour rubbed back, so that it stays in pores and figure only.
func (w *writer) grainColour() {
	l := line{slot: "dark", kind: job.Coat, title: "Dark colour into the grain", role: "dark", family: or(w.layer.Family, "water-dye"),
		method: material.Wipe, coats: max(w.layer.Coats, 1), school: "figure/dark",
		how: "Flood it, work it into pores and figure, wipe the rest off.",
		why: "What the grain drinks now stays dark under everything that follows."}
	if w.layer.Family == "" && w.layer.Carrier != "" {
		l.family = carriers[w.layer.Carrier]
	}
	w.put(l)
	w.add(line{slot: "rub-back", kind: job.Sand, work: "scuff", title: "Rub the dark colour back",
		ladder: []string{"nonwoven:general", "fepa:P320"}, school: "figure/dark",
		how: "A damp synthetic pad first, then fine paper with the grain, until the face is pale and only pores and figure are dark.",
		why: "What is left on the face muddies the colour above it."})
}

// carriers are the families that carry colour in or on the wood.
var carriers = map[string]string{"water": "water-dye", "spirit": "solvent-dye", "oil": "oil-stain", "stain": "water-stain",
	"bound": "binder-stain", "opaque": "solid-base", "airbrush": "airbrush-colour"}

// mainColour is the colour of the field.
func (w *writer) mainColour(l *Layer) {
	on, as := "bare", "dye"
	if w.stands("colour-on") {
		on = w.p.wayOf(l, "colour-on")
	}
	if w.stands("colour-as") || l.carrier() != "" {
		as = w.p.wayOf(l, "colour-as")
	}
	if as == "dye" && l.Family == "" && w.overSeal(l) {
		as = "bound"
		w.doubt("Over a seal a dye cannot penetrate: this colour is bound in clear.")
	}
	school := "colour-on/" + on
	dark := w.overDark(l)
	if dark {
		school = "figure/dark"
	}
	switch {
	case dark && as == "bound":
		w.washcoat("", "It keeps the dark colour where it is while the next one is wiped over it.")
	case on == "washcoat" && w.stands("colour-on"):
		w.washcoat("colour-on/washcoat", "Only the thirsty grain stays sealed once it is sanded back, so the colour takes evenly.")
	}
	c := line{slot: "colour", kind: job.Coat, role: "colour", school: school, family: l.Family, method: l.Method}
	switch as {
	case "bound":
		c.family, c.title, c.coats, c.school = or(c.family, "binder-stain"), "Main colour, bound in clear", 2, "colour-as/bound"
		c.how, c.why = "Thin even coats along the grain, a wet edge all the way; do not go back over it.",
			"Bound in clear it cannot lift when the next coat is wiped."
	case "stain":
		usual := "water-stain"
		if l.Carrier == "oil" || (w.p.clear != nil && !builds(w.p.family())) {
			usual = "oil-stain"
		}
		c.family, c.title, c.coats, c.school = or(c.family, usual), "Pigmented stain", 1, "colour-as/stain"
		c.how, c.why = "Flood it on, wipe it off along the grain within its minutes.", "It marks the pores and hardly fades."
	default:
		c.family, c.title, c.coats = or(c.family, or(carriers[l.Carrier], "water-dye")), "Dye the wood", 2
		c.how, c.why = "Flood it with a cloth and wipe evenly along the grain, centre first, edges last.",
			"Two coats even each other out. Colour can be corrected until it is sealed."
	}
	w.field(l, c, as == "bound")
}

// field writes the coats of a field colour as its blend wants them: even, wiped uneven, or a fade.
func (w *writer) field(l *Layer, c line, bound bool) {
	f := mustFamily(c.family)
	if c.method == "" || !slices.Contains(f.Methods, c.method) {
		if c.method = material.Wipe; bound {
			c.method = w.by(f)
		}
	}
	if l.Coats > 0 {
		c.coats = l.Coats
	}
	if len(l.Colours) > 0 {
		c.title += ", " + phrase.Lower(l.Colours[0])
	}
	switch l.kind() {
	case "wiped":
		c.title += ", wiped uneven"
		c.how = "On with a cloth, off with another before it is even: more stays in hollows and at edges, less where hands would wear it."
		c.coats = max(l.Coats, 1)
	case "fade":
		w.fade(l, c)
		return
	}
	w.put(c)
}

// fade goes from one strength to another along a line; blended while damp it is one sitting.
func (w *writer) fade(l *Layer, c line) {
	pale, strong := "the weak mix", "the strong mix"
	if len(l.Colours) > 1 {
		pale, strong = phrase.Lower(l.Colours[0]), phrase.Lower(l.Colours[1])
	}
	c.title, c.coats = "Fade: "+pale+" over all of it", 1
	c.how = "Flood it and wipe evenly along the grain, the whole face, lighter than you want it."
	w.put(c)
	deep := c
	deep.slot, deep.title = "fade", "Fade: "+strong+" from its end"
	deep.how = "From its end inwards, each stroke ending a little earlier than the last."
	deep.why = "Water re-wets the ground, so the two run into one another along the line."
	deep.coats = max(l.Coats, 1)
	w.blended(l, deep)
}

// blended writes a colour that is drawn into the one below; wet, it is the same attended sitting: edge,
// then water, while damp.
func (w *writer) blended(l *Layer, c line) {
	if !l.Wet && l.kind() != "fade" {
		w.put(c)
		return
	}
	coats := c.coats
	c.coats = 1
	for i := range coats {
		one := c
		if i > 0 {
			one.slot += fmt.Sprintf("-%d", i+1)
		}
		one.terms.Within = &damp
		w.put(one)
		w.add(line{slot: "blend" + blendOf(one.slot), kind: job.Inspect, work: "wet-blend", title: "Draw the edge in with water",
			regions: c.regions,
			how:     "A damp clean cloth along the line, towards the lighter side; water where it went too far.", check: "dye-line",
			why:   "While it is damp the line can be moved; dry it is a line for good.",
			terms: job.Terms{Within: &damp}})
	}
}

// blendOf is what tells one blend from another: what follows the name of the coat, "-2" of "edge-2".
func blendOf(slot string) string {
	_, number, has := strings.Cut(slot, "-")
	if !has {
		return ""
	}
	return "-" + number
}

// damp is how soon a dye is blended: at once, and before it dries (default).
var damp = job.Within{AfterMin: 0, BeforeMin: 10}

// ground is the wood's own colour under a burst; rubbed by hand, the burst is all there is.
func (w *writer) ground(l *Layer) {
	c := line{slot: "colour", kind: job.Coat, title: "Ground colour", role: "colour",
		family: or(l.Family, or(carriers[l.Carrier], "water-dye")),
		method: material.Wipe, coats: max(l.Coats, 1),
		how: "Flood it and wipe evenly, the whole face, lighter than you want it.",
		why: "The centre of a burst is this colour and the clear, nothing else."}
	if f := mustFamily(c.family); !slices.Contains(f.Methods, c.method) {
		c.method = w.by(f)
	}
	w.put(c)
}

// rubbedEdge rubs a burst in by hand, one colour after another from the edge.
func (w *writer) rubbedEdge(l *Layer) {
	c := line{slot: "edge", kind: job.Coat, title: "Rub the edge in", role: "edge",
		family: or(l.Family, or(carriers[l.Carrier], "water-dye")),
		method: material.Wipe, coats: 2, school: "burst/rub",
		how: "A little on the cloth, from the edge inwards while the ground is still damp; strokes towards the lighter side, water to " +
			"blend.",
		why: "Water re-wets the ground, so the two run into one another. Centre first, dark edge last."}
	if l.Coats > 0 {
		c.coats = l.Coats
	}
	if !l.Wet {
		w.put(c)
		return
	}
	inShades(l, c.slot, c.title, 1, func(slot, title string, _ int) {
		one := c
		one.slot, one.title, one.coats = slot, title, 1
		w.blended(l, one)
	})
}

// shades are the colours of a burst, the lightest first; one without a name where none is told.
func shades(l *Layer) []string {
	if len(l.Colours) == 0 {
		return []string{""}
	}
	return l.Colours
}

// inClear writes a layer that lies above the sealer and below or between the coats of clear.
func (w *writer) inClear(l *Layer) {
	one := w.of(l)
	switch {
	case len(one.regions) == 0:
	case l.opaque():
		one.base(l)
	case l.airbrushed():
		one.airbrush(l)
	case w.p.toned(l) && !w.underBurst(l):
		one.tintCoats("tone", "Colour in tinted clear", max(l.Coats, 3), "colour-on/toner",
			"Thin even coats, crossed; stop when the swatch is met under the same lamp.",
			"In the coat the shade can be matched, deepened and faded, and no grain is raised.")
	case l.burst() && !w.p.rubbed(l):
		one.shade(l)
	case l.grain() && w.p.sprays() && builds(w.p.family()):
		one.tintCoats("tone", "Toner over the colour", 1, "", "One thin tinted coat, to draw field, grain and filler together.",
			"Filling leaves colour patchy; a toner evens it without touching the wood.")
	case l.Effect == EffectFlake:
		one.flake(l)
	case l.Effect == EffectCandy:
		one.candy(l)
	case l.Effect == EffectParticles:
		one.particles(l)
	case l.Effect == EffectLeaf:
		one.leaf(l)
	case l.Effect == EffectMark && !onWood(l):
		one.regions = nonNil(only(one.regions, func(z Region) bool { return w.buries(l, z) }))
		one.mark(l, "mark")
	case l.Effect == EffectTint:
		one.tint(l)
	}
	one.unmask()
}

// inShades writes something once for each colour of a layer, numbered from the second on and named where it has
// a name.
func inShades(l *Layer, slot, title string, usual int, write func(slot, title string, coats int)) {
	coats := usual
	if l.Coats > 0 {
		coats = l.Coats
	}
	for i, name := range shades(l) {
		one, said := slot, title
		if i > 0 {
			one = fmt.Sprintf("%s-%d", slot, i+1)
		}
		if name != "" {
			said += ", " + phrase.Lower(name)
		}
		write(one, said, coats)
	}
}

// shade sprays a burst in tinted clear, one colour after another.
func (w *writer) shade(l *Layer) {
	inShades(l, "shade", "Shading coats of the burst", 3, func(slot, title string, coats int) {
		w.tintCoats(slot, title, coats, "burst/spray",
			"Tinted clear from the edge inwards, gun across the edge and never into it, each pass a little further in; the sides with it.",
			"A burst lies in these coats: sprayed thin it fades smoothly and its depth can be watched.")
	})
}

// base is opaque colour.
func (w *writer) base(l *Layer) {
	coats := 3
	if w.p.find(func(o *Layer) bool { return (o.Effect == EffectFlake || o.Effect == EffectCandy) && o.meets(l) }) != nil {
		coats = 2
	}
	if l.Coats > 0 {
		coats = l.Coats
	}
	base := mustFamily(or(l.Family, "solid-base"))
	title := "Base coat"
	if len(l.Colours) > 0 {
		title += ", " + phrase.Lower(l.Colours[0])
	}
	w.put(line{slot: "base", kind: job.Coat, title: title, role: "base", family: base.ID, method: w.by(base), coats: coats,
		how: "Thin crossed coats until it covers; the next system goes on inside its window.",
		why: "Opaque colour hides what lies below and shows every nib."})
}

// airbrush is transparent colour in fogged passes over a sealed face.
func (w *writer) airbrush(l *Layer) {
	f := mustFamily(or(l.Family, "airbrush-colour"))
	inShades(l, "airbrush", "Airbrushed colour", 4, func(slot, title string, coats int) {
		w.put(line{slot: slot, kind: job.Coat, title: title, role: "colour", family: f.ID, method: w.by(f), coats: coats,
			how: "Fogged passes, dry at once, from the edge inwards; look at it from across the room between passes.",
			why: "Depth comes pass by pass, and what is too dark cannot be taken back."})
	})
}
