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
	target := w.target() + w.burying(layers.Removed(film.Face))
	if n, set := w.byCount(); set {
		return w.counted(n, layers), nil
	}
	needed, enough := layers.Needed(target)
	if !enough {
		w.note(fmt.Sprintf("%s put on like this never builds %s: another way to put it on, or another clear, does.",
			phrase.Capital(f.Named()), target.String()))
	}
	b := build{coats: max(needed, f.UsualLeast)}
	if w.layer.FilmUm > 0 {
		b.coats = max(needed, 1)
	}
	b.why = fmt.Sprintf("Each coat leaves about %s on a face once settled. %d of them leave about %s on faces and %s on round-overs "+
		"after levelling.",
		layers.Film(film.Face, 1).String(), b.coats, left(layers, film.Face, b.coats), left(layers, film.RoundOver, b.coats))
	if b.coats > f.UsualMost || layers.Left(film.Face, b.coats) > f.TargetMost {
		w.note(tooMany(f, layers, target, b.coats))
	}
	w.divide(&b)
	return b, nil
}

// divide keeps the last coat for the flatted one, and puts a levelling part of the way.
func (w *writer) divide(b *build) {
	if w.p.flatted() {
		b.last = 1
		if w.p.shines() {
			b.coats = max(b.coats, 2) // what stays glossy gets no flatted one
		}
	}
	if clear := b.coats - b.last; w.levelledHalfway() && clear >= 3 {
		b.halfway = clear
		if w.p.shines() {
			b.halfway = (clear + 1) / 2
		}
	}
}

// byCount is how many coats there are where film does not decide it: as wished, few under a group that
// lies over it, few where the surface stays as it is.
func (w *writer) byCount() (int, bool) {
	switch {
	case w.layer.Coats > 0:
		return w.layer.Coats, true
	case w.layer.FilmUm > 0:
		return 0, false
	case w.buriedBelow(), w.p.asItIs():
		return w.p.family().UsualLeast, true
	}
	return 0, false
}

// buriedBelow reports whether another group of coats lies over this one everywhere: what levels and
// finishes is that.
func (w *writer) buriedBelow() bool {
	return !slices.ContainsFunc(w.regions, func(z Region) bool { return w.over(z, w.layer) == nil })
}

// counted is a build of so many coats, with what they leave.
func (w *writer) counted(n int, layers film.Build) build {
	b := build{coats: n}
	if w.buriedBelow() {
		b.why = fmt.Sprintf("Each coat leaves about %s on a face once settled; %d of them leave about %s below the next group.",
			layers.Film(film.Face, 1).String(), n, layers.Film(film.Face, n).String())
		return b
	}
	b.why = fmt.Sprintf("Each coat leaves about %s on a face once settled. %d of them leave about %s on faces and %s on round-overs "+
		"after levelling.",
		layers.Film(film.Face, 1).String(), n, left(layers, film.Face, n), left(layers, film.RoundOver, n))
	if risk := layers.Risk(film.RoundOver, n); risk > 0.03 && len(layers.Levellings) > 0 {
		w.note(fmt.Sprintf("With %s of %s the chance of going through on a round-over is about %.0f %%. More coats, a finer start, or "+
			"none of it levelled would lower it.",
			phrase.Plural(n, "coat"), w.p.family().Named(), risk*100))
	}
	w.divide(&b)
	return b
}

func left(b film.Build, r film.Region, coats int) string {
	return max(0, b.Left(r, coats)).String()
}

// tooMany says that more coats are needed than are usual, and what would need fewer.
func tooMany(f material.Family, b film.Build, target unit.Micron, coats int) string {
	text := fmt.Sprintf("%d coats of %s are more than the usual %d", coats, f.Named(), f.UsualMost)
	if coats <= f.UsualMost {
		text = fmt.Sprintf("%d coats of %s leave more than the usual %s on faces, for the edges' sake", coats, f.Named(),
			f.TargetMost.String())
	}
	var ways []string
	for _, way := range b.WaysOut(target, coats) {
		ways = append(ways, fmt.Sprintf("%s (%d coats)", way.Text, way.Coats))
	}
	if few := f.TargetLeast; few < target {
		if n, found := b.Needed(few); found && n < coats {
			ways = append(ways, fmt.Sprintf("a film of %s instead of %s (%d coats)", few.String(), target.String(),
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
	if w.layer.FilmUm > 0 {
		target = unit.Micron(w.layer.FilmUm)
	}
	return target
}

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
	case w.p.asItIs() || w.buriedBelow():
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
		b.Levellings = append(b.Levellings, film.Levelling{Texture: w.coatTexture(), Ladder: ladder})
	}
	return b, nil
}

// levelledHalfway reports whether a film is levelled part of the way: before a gloss,
// and before a last coat that is not levelled afterwards. Wiped films are too thin for it.
func (w *writer) levelledHalfway() bool {
	by := w.p.method()
	return !w.p.asItIs() && !w.buriedBelow() && by != material.Wipe && by != material.Pad && (w.p.shines() || w.p.flatted())
}

// coatTexture is what the clear leaves to be levelled; up to twice as much under a new
// hand.
func (w *writer) coatTexture() unit.Micron {
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
		if gloss > 0 {
			w.coats("clear", "Clear", w.regions, gloss, school, b.why)
		}
	} else {
		w.coats("clear-1", "Clear, to the levelling", w.regions, b.halfway, school, b.why)
		if w.p.layer(EffectFlake, EffectParticles) != nil {
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
	if w.p.asItIs() {
		l.sheen = "gloss" // as the product leaves it: nothing is levelled or rubbed, and what dulls comes over it
		l.why += " It stays as it dries: texture, scales and char show."
	}
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
			others := only(w.regions, func(z Region) bool { return z.Sheen != sheen })
			w.add(line{slot: "tape-" + sheen, kind: job.MaskOn, title: "Tape off the neighbours", regions: others, check: "tape-pressed",
				how: "A fine line tape along the edge between the sheens.", why: "A line between two sheens is seen from across the room."})
		}
		title, how := "Flatted clear, "+sheen, "Stirred, strained, one even wet coat; the same distance and the same speed all over."
		if w.p.method() == material.Aerosol {
			title, how = phrase.Capital(sheen)+" coat from the can",
				"Shaken well, the can warm, one even wet coat; the same distance and the same speed all over."
		}
		w.put(line{slot: "flat-" + sheen, kind: job.Coat, title: title, regions: regions, role: "flat", family: w.p.family().ID,
			method: w.p.method(), sheen: sheen,
			school: "flatting/can", how: how,
			why: "Nothing may level or buff it afterwards: it shines where it is rubbed."})
		if parted {
			w.add(line{slot: "untape-" + sheen, kind: job.MaskOff, title: "Tape off the neighbours again", regions: regions,
				check: "tape-lifted",
				how:   "Back on itself, low and slow, once the coat is dry to touch.", why: "Left on until it is hard it tears the edge."})
		}
	}
}
