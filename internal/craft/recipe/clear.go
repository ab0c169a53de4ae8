package recipe

import (
	"fmt"
	"math"
	"slices"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// seal writes the sealer of a film, what isolates an oily wood, opaque colour, and
// the colour that lies in coats above the sealer.
func (w *writer) seal() {
	if !builds(w.p.family()) {
		return
	}
	w.isolate()
	zones := only(w.zones, func(z Zone) bool { return !z.Plain })
	opaque := w.p.Look == "solid" || w.p.Look == "flake"
	if sealer, has := w.sealer(); has {
		open := only(w.zones, func(z Zone) bool { return group(w.tops[z.Key].family) != "seal" || w.tops[z.Key].family != sealer.ID })
		w.put(line{slot: "seal", kind: schedule.Coat, title: "Seal", zones: open, role: "sealer", family: sealer.ID, method: w.by(sealer),
			how: "One even wet coat over everything, edges last.",
			why: "It stops wood and filler drinking the clear unevenly, and raises the last of the grain where it can still be cut."})
		school := ""
		if w.stands("grain") && w.p.way("grain") == "seal" {
			school = "grain/seal"
		}
		w.add(line{slot: "scuff-seal", kind: schedule.Scuff, title: "Scuff the sealer", zones: open, ladder: papers(320), school: school,
			how: "A light pass until it feels smooth to the back of the hand. Off the edges.",
			why: "The sealer raises the last of the grain: sand lightly after it."})
	}
	switch {
	case opaque:
		w.opaque(zones)
	case w.p.Look == "burst" && w.p.way("burst") == "spray":
		w.tint("shade", "Shading coats of the burst", zones, 3, "burst/spray",
			"Tinted clear from the edge inwards, gun across the edge and never into it, each pass a little further in; the sides with it.",
			"A burst lies in these coats: sprayed thin it fades smoothly and its depth can be watched.")
	case w.p.toned():
		w.tint("tone", "Colour in tinted clear", zones, 3, "colour-on/toner",
			"Thin even coats, crossed; stop when the swatch is met under the same lamp.", "In the coat the shade can be matched, deepened and faded, and no grain is raised.")
	case w.p.Look == "grain-colour" && w.p.sprays():
		w.tint("tone", "Toner over the colour", zones, 1, "", "One thin tinted coat, to draw field, grain and filler together.", "Filling leaves colour patchy; a toner evens it without touching the wood.")
	}
}

// sealer is what goes under a clear; false where the clear seals for itself.
func (w *writer) sealer() (material.Family, bool) {
	id := map[string]string{"water-clear": "water-sealer", "nitro": "lacquer-sealer", "acrylic-lacquer": "lacquer-sealer", "urethane-2k": "sealer-2k", "polyester-2k": "sealer-2k"}[w.p.Clear]
	switch {
	case id == "":
		return material.Family{}, false
	case id == "lacquer-sealer" && w.p.Look == "burst":
		id = "vinyl-sealer" // tough and clear under shading coats, where a stearated one would whiten
	}
	f := mustFamily(id)
	return f, slices.Contains(f.Methods, w.p.method()) || id == "sealer-2k"
}

// isolate shuts in oil that would keep the clear from curing.
func (w *writer) isolate() {
	id := isolators[w.p.Clear]
	zones := only(w.zones, func(z Zone) bool { return oily(timberOf(z)) && group(w.tops[z.Key].family) != "seal" })
	if id == "" || len(zones) == 0 {
		return
	}
	f := mustFamily(id)
	w.put(line{slot: "isolate", kind: schedule.Coat, title: "Shut the oily wood in", zones: zones, role: "barrier", family: id, method: w.by(f), coats: 2,
		how: "Wipe with fresh solvent until the rag is nearly clean, then two thin coats within the hour.",
		why: timberOf(zones[0]).Name + " is oily: bare it keeps this clear from curing."})
	w.add(line{slot: "isolated", kind: schedule.Inspect, title: "Barrier set over the oily wood", zones: zones, check: "barrier-set",
		how: "Thumbnail on the dark zone and on a plain one.", why: "Where the barrier stays soft the clear above it will."})
}

func (w *writer) opaque(zones []Zone) {
	coats := 3
	if w.p.Look == "flake" {
		coats = 2
	}
	base := mustFamily("solid-base")
	w.put(line{slot: "base", kind: schedule.Coat, title: "Base coat", zones: zones, role: "base", family: base.ID, method: w.by(base), coats: coats,
		how: "Thin crossed coats until it covers; the next system goes on inside its window.", why: "Opaque colour hides what lies below and shows every nib."})
	if w.p.Look == "flake" {
		flake := mustFamily("flake-clear")
		w.put(line{slot: "flake", kind: schedule.Coat, title: "Flake in clear", zones: zones, role: "flake", family: flake.ID, method: w.by(flake), coats: 3,
			how: "A large nozzle, stirred all the time, weighed flake per volume; wet flowing coats so that it lies flat.",
			why: "Thin coverage shows as clouds; flake that stands up pokes through every coat above it."})
	}
}

// tint writes coats of clear with colour in it.
func (w *writer) tint(slot, title string, zones []Zone, coats int, school, how, why string) {
	id := w.p.Clear
	if id == "polyester-2k" || id == "polyester-uv" {
		id = "airbrush-colour" // resin this thick is not tinted
	}
	f := mustFamily(id)
	w.put(line{slot: slot, kind: schedule.Coat, title: title, zones: zones, role: "toner", family: id, method: w.by(f), coats: coats, school: school, how: how, why: why})
}

// build is how a clear is built up and levelled.
type build struct {
	coats   int
	halfway int // coats before an interim levelling; 0: there is none
	last    int // flatted coats at the end, in the zones that come matte or satin from the can
	why     string
}

// halfMarks is the ladder of an interim levelling.
var halfMarks = papers(600)

// plan works out how many coats leave the film that the school wants, once it has
// settled and what levelling takes is gone. Rules §3.
func (w *writer) plan() (build, error) {
	f := w.p.family()
	taken, err := w.taken()
	if err != nil {
		return build{}, err
	}
	dry := float64(film.Dry(f.Wet[w.p.method()], f.Solids, f.Thin)) * (1 - film.Settling(f.Kinetics))
	b := build{coats: min(max(int(math.Ceil(float64(w.target()+taken)/dry)), f.UsualLeast), 50)}
	b.why = fmt.Sprintf("Each coat leaves about %.0f µm once settled. %d of them leave about %.0f µm after levelling takes about %.0f.", dry, b.coats, float64(b.coats)*dry-float64(taken), taken)
	if b.coats > f.UsualMost {
		w.note(fmt.Sprintf("%d coats of %s are more than the usual %d: a finer start, a softer edge or another way to put it on would need fewer.", b.coats, f.Named(), f.UsualMost))
	}
	if w.p.flatted() {
		b.last = 1
	}
	if clear := b.coats - b.last; w.levelledHalfway() && clear >= 3 {
		b.halfway = clear
		if w.p.shines() {
			b.halfway = (clear + 1) / 2
		}
	}
	return b, nil
}

// target is the settled film that the school wants on a face.
func (w *writer) target() unit.Micron {
	f := w.p.family()
	target := f.TargetLeast
	if w.p.way("build") == "margin" {
		target = (f.TargetLeast + f.TargetMost) / 2
	}
	if w.stands("fill-with") && w.p.way("fill-with") == "clear" {
		target += unit.Micron(poreTargets[w.p.way("pores")]) * w.deepest()
	}
	if w.p.Look == "flake" {
		target += buried
	}
	return target
}

// buried is the clear that flake of a usual size needs above it (default): its
// standing height, and what levels there. Rules §3.
const buried unit.Micron = 60

// taken is the mean film that all levelling takes.
func (w *writer) taken() (unit.Micron, error) {
	var ladders [][]string
	switch {
	case w.p.shines():
		ladders = append(ladders, w.levelMarks("gloss"))
	case !w.p.flatted():
		ladders = append(ladders, w.levelMarks("satin"))
	}
	if w.levelledHalfway() {
		ladders = append(ladders, halfMarks)
	}
	taken := unit.Micron(0)
	for _, keys := range ladders {
		ladder, err := abrasive.LadderOf(keys...)
		if err != nil {
			return 0, err
		}
		taken += film.Removed(w.texture(), ladder)
	}
	return taken, nil
}

// levelledHalfway reports whether a film is levelled part of the way: before a gloss,
// and before a last coat that is not levelled afterwards. Wiped films are too thin for it.
func (w *writer) levelledHalfway() bool {
	by := w.p.method()
	return by != material.Wipe && by != material.Pad && (w.p.shines() || w.p.flatted())
}

// texture is what the clear leaves to be levelled; up to twice as much under a new
// hand.
func (w *writer) texture() unit.Micron {
	f := w.p.family()
	a := film.Texture(w.p.method(), f.SelfLevel > 0)
	if w.wish.Hand == "new" {
		a *= 2
	}
	return a
}

// deepest is the depth of its deepest pores.
func (w *writer) deepest() unit.Micron {
	deepest := unit.Micron(0)
	for _, z := range w.zones {
		deepest = max(deepest, timberOf(z).PoreDepth)
	}
	return deepest
}

// clear writes the coats of a clear that builds a film.
func (w *writer) clear() {
	b, err := w.plan()
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	school := "build/" + w.p.way("build")
	gloss := b.coats - b.last
	if b.halfway == 0 {
		w.coats("clear", "Clear", w.zones, gloss, school, b.why)
	} else {
		w.coats("clear-1", "Clear, to the levelling", w.zones, b.halfway, school, b.why)
		if w.p.Look == "flake" {
			w.add(line{slot: "buried", kind: schedule.Inspect, title: "Flake buried", check: "flake-buried",
				how: "A nylon cloth over the dry clear before any paper touches it.", why: "A point that stands up is cut by the first stroke and goes grey."})
		}
		w.add(line{slot: "level-half", kind: schedule.Level, title: "Level part of the way", ladder: halfMarks, film: material.Sand,
			how: "Dry, on a hard block, until the texture is dull all over. Keep off the round-overs.", why: halfWhy(b)})
		if gloss > b.halfway {
			w.coats("clear-2", "Clear, to the end", w.zones, gloss-b.halfway, school, "This is the film that the last levelling takes from: spare it nothing.")
		}
	}
	if b.last > 0 {
		w.flat()
	}
}

func halfWhy(b build) string {
	if b.last > 0 {
		return "A coat that is matte from the can is never levelled afterwards, so it has to lie on a level one."
	}
	return "Texture taken out now is not built up by the coats that follow, and leaves more film for the last levelling."
}

// coats writes coats of the clear; where it holds on itself by scratches only, each
// with a scuff before it.
func (w *writer) coats(slot, title string, zones []Zone, n int, school, why string) {
	f := w.p.family()
	l := line{slot: slot, kind: schedule.Coat, title: title, zones: zones, role: "clear", family: f.ID, method: w.p.method(), coats: n, school: school, how: clearHow(w.p.method(), f), why: why}
	if layering.Over(f.ID, f.ID).Condition != layering.Scuffed || n == 1 {
		w.put(l)
		return
	}
	for i := 1; i <= n; i++ {
		one := l
		one.slot, one.title, one.coats = fmt.Sprintf("%s-%d", slot, i), fmt.Sprintf("%s, coat %d of %d", title, i, n), 1
		w.put(one)
	}
}

func clearHow(by material.Method, f material.Family) string {
	switch by {
	case material.Spray:
		return "Medium wet, half-overlapping passes; edges first and lightly, faces last. Look for shiny nibs after the tack cloth."
	case material.Aerosol:
		return "Warm the can, short strokes past both ends, thin crossed passes; turn the can and clear the nozzle after each."
	case material.Brush:
		if f.Lamp > 0 {
			return "Brush it full, leave it some minutes to level itself, then the lamp on every face; shade in a cutaway stays soft."
		}
		return "A full brush, laid on and tipped off once along the grain, then left alone."
	case material.Pad:
		return "Light straight strokes, then small circles, the pad never still; a drop of oil when it drags."
	}
	return "Thin, with the grain, a folded cloth nearly dry; keep a wet edge and never go back."
}

// flat writes the flatted coats, each sheen in its own zones.
func (w *writer) flat() {
	for _, sheen := range []string{"satin", "matte"} {
		zones := only(w.zones, func(z Zone) bool { return z.Sheen == sheen })
		if len(zones) == 0 {
			continue
		}
		parted := len(zones) < len(w.zones)
		if parted {
			w.add(line{slot: "tape-" + sheen, kind: schedule.MaskOn, title: "Tape off the neighbours", zones: w.zones, check: "tape-pressed",
				how: "A fine line tape along the edge between the sheens.", why: "A line between two sheens is seen from across the room."})
		}
		w.put(line{slot: "flat-" + sheen, kind: schedule.Coat, title: upperFirst(sheen) + " coat from the can", zones: zones, role: "flat", family: w.p.Clear, method: w.p.method(), sheen: sheen,
			school: "flatting/can", how: "Stirred, strained, one even wet coat; the same distance and the same speed all over.",
			why: "Nothing may level or buff it afterwards: it shines where it is rubbed."})
		if parted {
			w.add(line{slot: "untape-" + sheen, kind: schedule.MaskOff, title: "Tape off the neighbours again", zones: w.zones, check: "tape-lifted",
				how: "Back on itself, low and slow, once the coat is dry to touch.", why: "Left on until it is hard it tears the edge."})
		}
	}
}

// levelMarks is the ladder that takes the texture out and leaves the scratch that a
// sheen wants.
func (w *writer) levelMarks(sheen string) []string {
	start := 1200
	switch a := w.texture(); {
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
// finished from the can.
func (w *writer) rubOut() {
	if !w.p.rubsOut() {
		return
	}
	if by := w.p.way("cure-by"); by != "calendar" {
		w.cureTest(by)
	}
	w.plug()
	for _, sheen := range []string{"gloss", "satin", "matte"} {
		zones := only(w.zones, func(z Zone) bool { return z.Sheen == sheen })
		if len(zones) == 0 || (sheen != "gloss" && w.p.flatted()) {
			continue
		}
		if sheen == "gloss" {
			w.gloss(zones)
		} else {
			w.dullDown(sheen, zones)
		}
	}
}

func (w *writer) cureTest(by string) {
	checkID := map[string]string{"smell": "smell", "thumbnail": "thumbnail-pocket", "weight": "weight-steady"}[by]
	w.add(line{slot: "cure-test", kind: schedule.Inspect, title: "Is it cured? Tested by " + by, film: material.Buff, check: checkID, school: "cure-by/" + by,
		how: "In a hidden spot, or on the test board that was coated with it.", why: "The calendar is blind to cold spells and heavy coats."})
}

// plug closes holes and slots before anything wet comes near them.
func (w *writer) plug() {
	if !w.wet() {
		return
	}
	w.add(line{slot: "plug", kind: schedule.MaskOn, title: "Plug the holes, tape the slots", film: material.Handle,
		how: "Wax or dowel in every hole, tape over slots, pocket and cavities.", why: "Water in a hole or a slot swells the wood and lifts the film round it."})
}

func (w *writer) wet() bool {
	return builds(w.p.family()) && slices.Contains([]string{"wet", "spirit"}, w.p.way("levelling"))
}

func (w *writer) gloss(zones []Zone) {
	l := line{slot: "level", kind: schedule.Level, title: "Level for gloss", zones: zones, film: material.Buff, ladder: w.levelMarks("gloss"), check: "dull-gone", school: "levelling/" + w.p.way("levelling"),
		how: "The first mark until no shiny speck is left, then only scratches. A hard block on faces, by hand round horns; keep it off the edges.",
		why: "A gloss that is levelled soft sinks back and shows every mark. Edges are thinnest and pressed hardest."}
	if w.wet() {
		l.terms.Clean = true
		l.how += " A damp block, never a soaked piece; wipe and change the water between marks."
	} else {
		l.how += " Stearated paper, dry; blow it off between marks."
	}
	if w.piece.Kind != Neck && !w.p.heatSoft() {
		l.tool = "orbital-sander"
	}
	w.add(l)
	b := line{slot: "buff", kind: schedule.Buff, title: "Buff", zones: zones, film: material.Buff, check: "compound-haze", tool: "buffing-wheel", ladder: []string{"compound:medium", "compound:fine", "compound:swirl"},
		school: "shine/" + w.p.way("shine"), how: "One compound at a time, a clean pad for each. Keep it moving and cool.", why: "Each compound only clears the marks of the one before; the first clears P2000."}
	if w.p.way("shine") == "papers" {
		b.title, b.tool, b.ladder = "Polish by hand", "", []string{"compound:swirl"}
		b.how, b.why = "A soft cloth and a fine polish, small circles, light.", "The papers have done the work; a hand keeps edges cool and covered."
	}
	if w.p.heatSoft() {
		b.how += fmt.Sprintf(" By hand only: %s softens from %s.", w.p.softest().Name, w.p.softest().Softens.Text(unit.Metric))
		b.tool = ""
	}
	w.add(b)
}

// dullDown rubs a film to matte or satin.
func (w *writer) dullDown(sheen string, zones []Zone) {
	if by := w.p.method(); by != material.Wipe && by != material.Pad {
		l := line{slot: "level-" + sheen, kind: schedule.Level, title: "Level for " + sheen, zones: zones, film: material.Buff, ladder: w.levelMarks(sheen), check: "scratch-one-way",
			school: "levelling/" + w.p.way("levelling"), how: "Until no shiny speck is left, then only scratches; the last strokes long and with the grain.",
			why: "A satin ends earlier than a gloss, but on as level a film."}
		if w.wet() {
			l.terms.Clean = true
			l.how += " A damp block, never a soaked piece."
		}
		w.add(l)
	}
	w.rub(sheen, zones)
}

// rub leaves the last scratch of matte or satin, all one way.
func (w *writer) rub(sheen string, zones []Zone) {
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
	w.add(line{slot: "rub-" + sheen, kind: schedule.Buff, title: "Rub to " + sheen, zones: zones, film: material.Buff, ladder: []string{pad}, check: "sheen-zones", school: school,
		how: how, why: "It evens the sheen and lets the hand slide. Earlier the film smears."})
}

// oil writes a finish that goes into the wood: sheen by coats, glossier with each.
func (w *writer) oil() {
	f := w.p.family()
	if w.p.fills() && !w.p.coloured() {
		zones := only(w.zones, w.fillsZone)
		w.put(line{slot: "slurry", kind: schedule.Coat, title: "Oil wet-sanded into the pores", zones: zones, role: "slurry", family: "oil-slurry", method: material.Wipe, coats: 3,
			terms: schedule.Terms{Repeat: &schedule.Repeat{Least: 2, Most: 5}},
			how:   "P400 with plenty of oil until a paste forms, leave it to haze, wipe across the grain.", why: "Dust and oil fill small pores with the wood's own colour."})
	}
	w.put(line{slot: "oil-1", kind: schedule.Coat, title: "First coat of oil", role: "oil", family: f.ID, method: w.p.method(),
		how: "Saturate, wait, then wipe every trace off within its minutes. Nothing wet may stay on the surface.",
		why: "The first coat goes into the wood and takes the most. What is left on top stays greasy."})
	w.add(line{slot: "scuff", kind: schedule.Scuff, title: "Scuff between coats", ladder: papers(400),
		how: "P400 or a fine pad, a few strokes, wipe the dust off.", why: "It takes off the nibs that the first coat raised."})
	done := 1
	for _, sheen := range Sheens { // from matte to gloss: the glossier zones get more
		if len(only(w.zones, func(z Zone) bool { return z.Sheen == sheen })) == 0 {
			continue
		}
		zones := only(w.zones, func(z Zone) bool { return slices.Index(Sheens, z.Sheen) >= slices.Index(Sheens, sheen) })
		if n := oilCoats(f, sheen) - done; n > 0 && len(zones) > 0 {
			w.put(line{slot: "oil-" + sheen, kind: schedule.Coat, title: "Oil, up to " + sheen, zones: zones, role: "oil", family: f.ID, method: w.p.method(), coats: n,
				how: "Thinner than the first: a few drops on the cloth, rubbed in, wiped dry.", why: "Sheen comes with each coat. Thick coats never harden."})
			done += n
		}
	}
	w.tapeOff()
	for _, sheen := range Sheens {
		zones := only(w.zones, func(z Zone) bool { return z.Sheen == sheen })
		if sheen != "gloss" {
			w.rub(sheen, zones)
			continue
		}
		w.add(line{slot: "polish", kind: schedule.Buff, title: "Polish with a cloth", zones: zones, film: material.Buff, ladder: []string{"nonwoven:white-nonabrasive"}, check: "sheen-zones",
			how: "A clean lint-free cloth, brisk and light.", why: "The gloss is in the coats; a cloth only clears it."})
	}
}

// oilCoats is how many coats of an oil bring a sheen.
func oilCoats(f material.Family, sheen string) int {
	switch sheen {
	case "gloss":
		return f.UsualMost
	case "satin":
		return (f.UsualLeast + f.UsualMost + 1) / 2
	}
	return f.UsualLeast
}

// wax ends everything: nothing sticks to it.
func (w *writer) wax() {
	if !w.p.Wax {
		return
	}
	w.put(line{slot: "wax", kind: schedule.Coat, title: "Wax", role: "wax", family: "paste-wax", method: material.Wipe,
		how: "As little as will spread, left to haze, wiped off with a clean cloth. Free of silicone.", why: "Wax too soon stops a film curing, and nothing sticks to it afterwards: it is the last."})
}
