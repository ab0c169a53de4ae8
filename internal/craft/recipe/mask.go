package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/mask"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// Masks are derived: before the first coat of a layer whose region meets another at a taped,
// stencilled or scored edge, what it must stay off is covered; after its last one that is bared again.

// maskFor covers what a coat of a layer must stay off.
func (w *writer) maskFor(l line) {
	if w.layer == nil || !masks(w.layer.Effect) {
		return
	}
	var cover []Region
	edges := make(map[string]bool)
	open := append(slices.Clone(w.regions), l.regions...)
	for _, z := range w.all {
		if w.masked[z.Key] != "" || w.p.reaches(w.layer, z) || slices.ContainsFunc(open, func(o Region) bool { return o.Key == z.Key }) {
			continue
		}
		for _, o := range open {
			if kind := pieceOf(z.Key); kind == pieceOf(o.Key) && adjoin(z, o, kind) && taped(edge(z, o)) && w.spoils(z) {
				edges[edge(z, o)] = true
				cover = append(cover, z)
				break
			}
		}
	}
	if len(cover) == 0 {
		return
	}
	bare := slices.ContainsFunc(l.regions, func(z Region) bool { return w.top(z) == "" })
	with := w.maskWith(edges, bare)
	w.maskings[key(w.piece.Kind, w.layer.ID)]++
	m := line{slot: w.again("mask"), kind: job.MaskOn, title: "Tape off " + named(cover), regions: cover, check: "tape-pressed",
		how: fmt.Sprintf("%s, pressed down along its edge; paper over the rest. It may stay %s: renewed where paper has worn it through, "+
			"or the coats take longer.",
			with.Name, unit.Minutes(with.StayMost.Minutes()).String()),
		why: "What is put on next must not reach " + named(cover) + "."}
	switch {
	case edges["stencil"]:
		m.title, m.work, m.check = "Lay the stencil over "+named(cover), "stencil", "stencil-pressed"
	case edges["scored"]:
		m.how = "The line scored with a sharp knife along a straight edge, then " + phrase.Lower(with.Name) + " up to it."
	case bare && soaks(l.family):
		m.how += " Tape alone does not stop a dye in bare grain: score the line, or seal it narrowly, and go to it with a nearly dry cloth."
	}
	for _, z := range cover {
		w.masked[z.Key] = key(w.piece.Kind, w.layer.ID)
	}
	w.add(m)
}

// masks reports whether a layer of an effect is kept off its neighbours.
func masks(e Effect) bool {
	switch e {
	case EffectColour, EffectFlake, EffectCandy, EffectParticles, EffectLeaf, EffectTint, EffectClear, EffectRounds, EffectCloth:
		return true
	}
	return false
}

func taped(edge string) bool { return edge == "taped" || edge == "stencil" || edge == "scored" }

// spoils reports whether what is written now would harm a neighbour: a dye wipes off what is no wood.
func (w *writer) spoils(z Region) bool {
	return timberOf(z).Drinks() || !w.p.inWood(w.layer)
}

// soaks reports whether a family goes into bare grain and creeps along it.
func soaks(family string) bool {
	switch family {
	case "water-dye", "solvent-dye", "oil-stain", "water-stain":
		return true
	}
	return false
}

// maskWith is what covers: the mildest that stands what is put on.
func (w *writer) maskWith(edges map[string]bool, bare bool) mask.Mask {
	id := "fine-line"
	switch {
	case edges["stencil"]:
		id = "vinyl-stencil"
	case w.p.layer(EffectTexture) != nil && !bare:
		id = "liquid-mask" // tape bridges a relief
	case bare:
		id = "paper-low-tack"
	}
	m, err := mask.Find(id)
	if err != nil {
		w.errs = append(w.errs, err)
	}
	return m
}

// unmask bares again what a layer has covered: its film dry to touch and not yet hard. The step is done to
// the edge of that film, whose window it stands in, not to what lay safe below the mask.
func (w *writer) unmask() {
	if w.layer == nil {
		return
	}
	id := key(w.piece.Kind, w.layer.ID)
	off := only(w.all, func(z Region) bool { return w.masked[z.Key] == id })
	if len(off) == 0 {
		return
	}
	for _, z := range off {
		delete(w.masked, z.Key)
	}
	w.add(line{slot: w.again("unmask"), kind: job.MaskOff, title: "Tape off " + named(off) + " again",
		check: "mask-in-time",
		how:   "Back on itself, low and slow, once the last coat is dry to touch; then a thumb along the line.",
		why:   "Too early it smears, too late it tears the edge."})
}

// again numbers the masks of a layer from its second on.
func (w *writer) again(slot string) string {
	if n := w.maskings[key(w.piece.Kind, w.layer.ID)]; n > 1 {
		return fmt.Sprintf("%s-%d", slot, n)
	}
	return slot
}

// tapeOff takes the tape of a piece off.
func (w *writer) tapeOff() {
	how := "Back on itself, low and slow, once the last coat is dry to touch."
	if w.piece.Kind != Body {
		how += " Scrape the side dots clear."
	}
	w.add(line{slot: "tape-off", kind: job.MaskOff, title: "Tape off", check: "tape-lifted", how: how,
		why: "Too early it smears, too late it tears the film."})
}

// mask covers joint faces, board and cavities before colour and film.
func (w *writer) mask() {
	l := line{slot: "tape-on", kind: job.MaskOn, title: "Tape the pocket, line the cavities", check: "tape-pressed",
		how: "Low-tack tape pressed down along its edge; paper in the cavities.",
		why: "No film belongs on a glue or joint face. Colour creeps under a lifted edge."}
	board := "Tape along the edge of the board, over the frets and over the joint faces."
	if w.wish.boardUnderFilm() {
		board = "Tape over the joint faces, the nut slot and the side dots; the board stays open, it goes under film."
	}
	switch w.piece.Kind {
	case Neck:
		l.title, l.how, l.why = "Tape the fretboard and the heel", board,
			"Oil and colour darken a bare board, and nothing glues or beds on a coated face."
		if w.wish.boardUnderFilm() {
			l.title = "Tape the heel and the nut slot"
		}
	case Whole:
		l.title, l.how = "Tape the board, line the cavities", board+" Paper in the cavities."
	}
	w.add(l)
}

// pieceOf is the kind of piece that a slot or a region's key is of.
func pieceOf(key string) PieceKind {
	kind, _, _ := strings.Cut(key, ":")
	return PieceKind(kind)
}
