package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// seal writes the sealer of a film, what isolates an oily wood, opaque colour, and
// the colour that lies in coats above the sealer.
func (w *writer) seal() {
	if !builds(w.p.family()) {
		return
	}
	w.isolate()
	regions := only(w.regions, func(z Region) bool { return !z.Plain })
	opaque := w.p.Look == "solid" || w.p.Look == "flake"
	if sealer, has := w.sealer(); has {
		open := only(w.regions, func(z Region) bool { return w.top(z) != sealer.ID })
		w.put(line{slot: "seal", kind: job.Coat, title: "Seal", regions: open, role: "sealer", family: sealer.ID, method: w.by(sealer),
			how: "One even wet coat over everything, edges last.",
			why: "It stops wood and filler drinking the clear unevenly, and raises the last of the grain where it can still be cut."})
		school := ""
		if w.stands("grain") && w.p.way("grain") == "seal" {
			school = "grain/seal"
		}
		w.add(line{slot: "scuff-seal", kind: job.Scuff, title: "Scuff the sealer", regions: open, ladder: papers(320), school: school,
			how: "A light pass until it feels smooth to the back of the hand. Off the edges.",
			why: "The sealer raises the last of the grain: sand lightly after it."})
	}
	switch {
	case opaque:
		w.opaque(regions)
	case w.p.Look == "burst" && w.p.way("burst") == "spray":
		w.tint("shade", "Shading coats of the burst", regions, 3, "burst/spray",
			"Tinted clear from the edge inwards, gun across the edge and never into it, each pass a little further in; the sides with it.",
			"A burst lies in these coats: sprayed thin it fades smoothly and its depth can be watched.")
	case w.p.toned():
		w.tint("tone", "Colour in tinted clear", regions, 3, "colour-on/toner",
			"Thin even coats, crossed; stop when the swatch is met under the same lamp.",
			"In the coat the shade can be matched, deepened and faded, and no grain is raised.")
	case w.p.Look == "grain-colour" && w.p.sprays():
		w.tint("tone", "Toner over the colour", regions, 1, "", "One thin tinted coat, to draw field, grain and filler together.",
			"Filling leaves colour patchy; a toner evens it without touching the wood.")
	}
}

// sealer is what goes under a clear; false where the clear seals for itself.
func (w *writer) sealer() (material.Family, bool) {
	id := map[string]string{"water-clear": "water-sealer", "nitro": "lacquer-sealer", "acrylic-lacquer": "lacquer-sealer",
		"urethane-2k": "sealer-2k", "polyester-2k": "sealer-2k"}[w.p.Clear]
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
	regions := only(w.regions, func(z Region) bool { return oily(timberOf(z)) && group(w.top(z)) != "seal" })
	if id == "" || len(regions) == 0 {
		return
	}
	f := mustFamily(id)
	w.put(line{slot: "isolate", kind: job.Coat, title: "Shut the oily wood in", regions: regions, role: "barrier", family: id,
		method: w.by(f), coats: 2,
		how: "Wipe with fresh solvent until the rag is nearly clean, then two thin coats within the hour.",
		why: timberOf(regions[0]).Name + " is oily: bare it keeps this clear from curing."})
	w.add(line{slot: "isolated", kind: job.Inspect, title: "Barrier set over the oily wood", regions: regions, check: "barrier-set",
		how: "Thumbnail on the dark region and on a plain one.", why: "Where the barrier stays soft the clear above it will."})
}

func (w *writer) opaque(regions []Region) {
	coats := 3
	if w.p.Look == "flake" {
		coats = 2
	}
	base := mustFamily("solid-base")
	w.put(line{slot: "base", kind: job.Coat, title: "Base coat", regions: regions, role: "base", family: base.ID, method: w.by(base),
		coats: coats,
		how:   "Thin crossed coats until it covers; the next system goes on inside its window.",
		why:   "Opaque colour hides what lies below and shows every nib."})
	if w.p.Look == "flake" {
		flake := mustFamily("flake-clear")
		w.put(line{slot: "flake", kind: job.Coat, title: "Flake in clear", regions: regions, role: "flake", family: flake.ID,
			method: w.by(flake), coats: 3,
			how: "A large nozzle, stirred all the time, weighed flake per volume; wet flowing coats so that it lies flat.",
			why: "Thin coverage shows as clouds; flake that stands up pokes through every coat above it."})
	}
}

// tint writes coats of clear with colour in it.
func (w *writer) tint(slot, title string, regions []Region, coats int, school, how, why string) {
	id := w.p.Clear
	if id == "polyester-2k" || id == "polyester-uv" {
		id = "airbrush-colour" // resin this thick is not tinted
	}
	f := mustFamily(id)
	w.put(line{slot: slot, kind: job.Coat, title: title, regions: regions, role: "toner", family: id, method: w.by(f), coats: coats,
		school: school, how: how, why: why})
}

// build is how a clear is built up and levelled.
type build struct {
	coats   int
	halfway int // coats before an interim levelling; 0: there is none
	last    int // flatted coats at the end, in the regions that are matte or satin by their last coat
	why     string
}

// halfGrits is the ladder of an interim levelling.
var halfGrits = papers(600)

// plan works out how many coats keep the film that the school wants on faces, sides and
// round-overs, once it has settled and what levelling takes is gone. Rules §3.
func (w *writer) plan() (build, error) {
	f := w.p.family()
	layers, err := w.layers()
	if err != nil {
		return build{}, err
	}
	target := w.target()
	needed, enough := layers.Needed(target)
	if !enough {
		w.note(fmt.Sprintf("%s put on like this never builds %s: another way to put it on, or another clear, does.",
			phrase.Capital(f.Named()), target.Text()))
	}
	b := build{coats: max(needed, f.UsualLeast)}
	b.why = fmt.Sprintf("Each coat leaves about %s on a face once settled. %d of them leave about %s on faces and %s on round-overs after levelling.",
		layers.Film(film.Face, 1).Text(), b.coats, left(layers, film.Face, b.coats), left(layers, film.RoundOver, b.coats))
	if b.coats > f.UsualMost || layers.Left(film.Face, b.coats) > f.TargetMost {
		w.note(tooMany(f, layers, target, b.coats))
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

func left(b film.Build, r film.Region, coats int) string {
	return max(0, b.Left(r, coats)).Text()
}

// tooMany says that more coats are needed than are usual, and what would need fewer.
func tooMany(f material.Family, b film.Build, target unit.Micron, coats int) string {
	text := fmt.Sprintf("%d coats of %s are more than the usual %d", coats, f.Named(), f.UsualMost)
	if coats <= f.UsualMost {
		text = fmt.Sprintf("%d coats of %s leave more than the usual %s on faces, for the edges' sake", coats, f.Named(),
			f.TargetMost.Text())
	}
	var ways []string
	for _, way := range b.WaysOut(target, coats) {
		ways = append(ways, fmt.Sprintf("%s (%d coats)", way.Text, way.Coats))
	}
	if few := f.TargetLeast; few < target {
		if n, found := b.Needed(few); found && n < coats {
			ways = append(ways, fmt.Sprintf("a film of %s instead of %s (%d coats)", few.Text(), target.Text(),
				max(n, f.UsualLeast)))
		}
	}
	if len(f.Methods) > 1 {
		ways = append(ways, "another way to put it on")
	}
	if len(ways) == 0 {
		return text + "."
	}
	return text + ". Fewer would do with " + strings.Join(ways, ", or ") + "."
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

// layers is how the clear of the piece is built up and levelled.
func (w *writer) layers() (film.Build, error) {
	f := w.p.family()
	b := film.Build{Coat: film.Dry(f.Wet[w.p.method()], f.Solids, f.Thin), Settling: film.Settling(f.Kinetics)}
	if w.wish.Hand == "new" {
		b.Hand = film.New
	}
	if onScratches(f) {
		grip, err := abrasive.LadderOf(gripGrits...)
		if err != nil {
			return b, err
		}
		b.Scuff = grip[0].Scratch
	}
	var ladders [][]string
	if w.levelledHalfway() {
		ladders = append(ladders, halfGrits)
	}
	switch {
	case w.p.shines():
		ladders = append(ladders, w.levelGrits("gloss"))
	case !w.p.flatted():
		ladders = append(ladders, w.levelGrits("satin"))
	}
	for _, keys := range ladders {
		ladder, err := abrasive.LadderOf(keys...)
		if err != nil {
			return b, err
		}
		b.Levellings = append(b.Levellings, film.Levelling{Texture: w.texture(), Ladder: ladder})
	}
	return b, nil
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
	for _, z := range w.regions {
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
		w.coats("clear", "Clear", w.regions, gloss, school, b.why)
	} else {
		w.coats("clear-1", "Clear, to the levelling", w.regions, b.halfway, school, b.why)
		if w.p.Look == "flake" {
			w.add(line{slot: "buried", kind: job.Inspect, title: "Flake buried", check: "flake-buried",
				how: "A nylon cloth over the dry clear before any paper touches it.",
				why: "A point that stands up is cut by the first stroke and goes grey."})
		}
		w.add(line{slot: "level-half", kind: job.Level, title: "Level part of the way", ladder: halfGrits, film: material.Sand,
			how: "Dry, on a hard block, until the texture is dull all over. Keep off the round-overs.", why: halfWhy(b)})
		if gloss > b.halfway {
			w.coats("clear-2", "Clear, to the end", w.regions, gloss-b.halfway, school,
				"This is the film that the last levelling takes from: spare it nothing.")
		}
	}
	if b.last > 0 {
		w.flat()
	}
}

func halfWhy(b build) string {
	if b.last > 0 {
		return "A flatted coat is never levelled afterwards, so it has to lie on a level one."
	}
	return "Texture taken out now is not built up by the coats that follow, and leaves more film for the last levelling."
}

// coats writes coats of the clear; where it holds on itself by scratches only, each
// with a scuff before it.
func (w *writer) coats(slot, title string, regions []Region, n int, school, why string) {
	f := w.p.family()
	l := line{slot: slot, kind: job.Coat, title: title, regions: regions, role: "clear", family: f.ID, method: w.p.method(), coats: n,
		school: school, how: clearHow(w.p.method(), f), why: why}
	if !onScratches(f) || n == 1 {
		w.put(l)
		return
	}
	for i := 1; i <= n; i++ {
		one := l
		one.slot, one.title, one.coats = fmt.Sprintf("%s-%d", slot, i), fmt.Sprintf("%s, coat %d of %d", title, i, n), 1
		w.put(one)
	}
}

// onScratches reports whether a coat of a family holds on the one below only by its
// scratches.
func onScratches(f material.Family) bool {
	return layering.Over(f.ID, f.ID).Condition == layering.Scuffed
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

// flat writes the flatted coats, each sheen in its own regions.
func (w *writer) flat() {
	for _, sheen := range []string{"satin", "matte"} {
		regions := only(w.regions, func(z Region) bool { return z.Sheen == sheen })
		if len(regions) == 0 {
			continue
		}
		parted := len(regions) < len(w.regions)
		if parted {
			w.add(line{slot: "tape-" + sheen, kind: job.MaskOn, title: "Tape off the neighbours", regions: w.regions, check: "tape-pressed",
				how: "A fine line tape along the edge between the sheens.", why: "A line between two sheens is seen from across the room."})
		}
		title, how := "Flatted clear, "+sheen, "Stirred, strained, one even wet coat; the same distance and the same speed all over."
		if w.p.method() == material.Aerosol {
			title, how = phrase.Capital(sheen)+" coat from the can",
				"Shaken well, the can warm, one even wet coat; the same distance and the same speed all over."
		}
		w.put(line{slot: "flat-" + sheen, kind: job.Coat, title: title, regions: regions, role: "flat", family: w.p.Clear,
			method: w.p.method(), sheen: sheen,
			school: "flatting/can", how: how,
			why: "Nothing may level or buff it afterwards: it shines where it is rubbed."})
		if parted {
			w.add(line{slot: "untape-" + sheen, kind: job.MaskOff, title: "Tape off the neighbours again", regions: w.regions,
				check: "tape-lifted",
				how:   "Back on itself, low and slow, once the coat is dry to touch.", why: "Left on until it is hard it tears the edge."})
		}
	}
}
