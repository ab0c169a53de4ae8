package recipe

import (
	"umberfrost/internal/craft/job"
)

// surface writes a body or a neck: from the surface as found to the last rub. Where the neck
// is glued in first, only as far as the glue.
func (c *composing) surface(p *PieceWish) {
	regions := c.regionsOf(p)
	w := c.begin(p.Kind, p, regions)
	w.regions = uncut(regions)
	w.piece.Wood = p.Wood
	w.piece.Length, w.piece.Width, w.piece.Thickness = sizeOf(p.Length), sizeOf(p.Width), sizeOf(p.Thickness)
	if p.layer(EffectPatch) != nil {
		w.patched()
		return
	}
	if c.wish.gluedFirst() {
		w.mends()
		w.sand(0, splitAt)
		w.dryFit()
		return
	}
	if p.Kind == Neck && !p.flamed() {
		w.mask() // a board is taped before the neck beside it is sanded
	}
	w.mends()
	w.sand(0, finest)
	w.dryFit()
	w.finish()
}

// flamed reports whether a flame comes to the piece.
func (p *PieceWish) flamed() bool { return p.layer(EffectFlame) != nil }

// finish writes everything from the bare, sanded surface on.
func (w *writer) finish() {
	w.woodMarks()
	w.texture()
	w.flame(false) // before tape and paper are near, and before any spirit, oil or film
	if w.piece.Kind != Neck || w.p.flamed() {
		w.mask()
	}
	w.prime()
	w.castings()
	w.wetGrain()
	w.belowSeal()
	w.seal()
	w.upwards()
	w.cutRest()
	w.tapeOff()
	w.lastSheens()
	w.marksOnTop()
	w.wear()
	if !w.fretworkFollows() {
		w.wax()
	}
	w.fit()
}

// lastSheens levels, rubs and polishes what each region ends in.
func (w *writer) lastSheens() {
	for _, e := range w.endings() {
		e.regions = only(e.regions, func(z Region) bool { return w.over(z, e.layer) == nil })
		if builds(e.p.family()) && e.layer.Effect == EffectClear {
			e.rubOut()
		} else {
			e.polishOil()
		}
	}
}

// castings writes what is cast or laid in resin, before the wood beside it is coloured.
func (w *writer) castings() {
	for _, l := range w.p.layers(EffectPour, EffectCloth) {
		if one := w.of(l); l.Effect == EffectPour {
			one.pour(l)
		} else {
			one.cloth(l)
			one.unmask()
		}
		w.cuts(l)
	}
}

// upwards writes the rest of the stack, from the sealer to its end, layer by layer. Oil beside film that
// is still to come would creep under it: it waits until that is on.
func (w *writer) upwards() {
	var oils []*Layer
	for _, l := range w.p.layers() {
		switch {
		case l.Effect.ends() && w.creeps(l):
			oils = append(oils, l)
			continue
		case l.Effect.ends():
			w.endWith(l)
		default:
			w.inClear(l)
		}
		w.cuts(l)
	}
	for _, l := range oils {
		w.endWith(l)
		w.cuts(l)
	}
}

func (w *writer) endWith(l *Layer) {
	if one := w.of(l); len(one.regions) > 0 {
		one.p = w.p.ending(l)
		one.end()
		one.unmask()
	}
}

// creeps reports whether a layer is oil that ends its regions, nothing else coming over it.
func (w *writer) creeps(l *Layer) bool {
	if l.Effect == EffectClear && builds(familyOf(l)) {
		return false
	}
	above := false
	for _, o := range w.p.layers() {
		if o == l {
			above = true
		} else if above && o.meets(l) && o.Effect != EffectWax && o.Effect != EffectMark {
			return false
		}
	}
	return true
}

// end writes the coats of what a region ends in.
func (w *writer) end() {
	w.groupGrit()
	switch {
	case w.layer.Effect == EffectRounds:
		w.rounds()
	case builds(w.p.family()):
		w.clear()
	default:
		w.oil()
	}
}

// groupGrit sands the group of coats below before another group, where that was wished.
func (w *writer) groupGrit() {
	on := only(w.regions, func(z Region) bool { return w.top(z) != "" && group(w.top(z)) == "clear" })
	if w.layer.Grit == "" || len(on) == 0 {
		return
	}
	w.add(line{slot: "between", kind: job.Scuff, title: "Sand between the groups of coats", regions: on, ladder: []string{w.layer.Grit},
		how: "Evenly dull, no shiny spot, off the edges; every trace of dust off.",
		why: "The coats that follow lie as flat as this, and hold on its scratches."})
}

// fretworkFollows reports whether board or frets are worked on after the finish: no tape
// holds on wax, and none of it may come near a board that is still to be oiled.
func (w *writer) fretworkFollows() bool {
	return w.piece.Kind != Body && (w.wish.Frets != "none" || w.wish.boardApart())
}
