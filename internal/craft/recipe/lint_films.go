package recipe

import (
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/pore"
	"umberfrost/internal/craft/strata"
)

// layers: every coat holds on what lies below it.
func (l *linter) layers(z Region) {
	var lying strata.Stack[*Step]
	for _, s := range l.on(z.Key) {
		if top := lying.Top(); s.Kind == job.Coat && top.Last == nil {
			l.bare(z, s)
		} else if s.Kind == job.Coat {
			l.over(z, top.Last, s, top.Dull)
		}
		lying.Do(&s.Step, s)
	}
}

// bare: an oily wood keeps some films from curing.
func (l *linter) bare(z Region, s *Step) {
	timber, known := l.timber(z.Key)
	f, err := material.FindFamily(s.Family)
	if !known || err != nil || !oily(timber) || z.Name == "board" { // a board is wiped dry of its oil, and drinks it between plays
		return
	}
	if f.Kinetics == material.Oxidative || f.ID == "polyester-2k" || f.ID == "polyester-uv" {
		o := Objection{Rule: "oily-wood", Slot: s.Slot, Spoils: true,
			Title:  fmt.Sprintf("%s straight on %s", phrase.Capital(f.Named()), phrase.Lower(timber.Name)),
			Reason: "Oil in the wood keeps it from curing: it stays soft just there."}
		if !builds(f) { // practice differs, and goes by a wipe just before
			if slices.ContainsFunc(l.on(z.Key), func(o *Step) bool { return o.name() == "degrease" }) {
				return
			}
			o.Spoils, o.Reason = false, "Oil in the wood slows an oil, or keeps it from drying. Wipe with spirit until the cloth stays "+
				"clean, and coat within the hour."
		}
		if seal := isolators[f.ID]; seal != "" {
			o.Mend = l.insertBarrier("Shut the oil in first",
				layering.Barrier{Under: "", Over: f.ID, Family: seal, Coats: 2, Note: "It shuts the oil in."}, s, l.oilyOf(s.Regions))
		}
		l.object(o)
	}
}

func (l *linter) oilyOf(regions []string) []string {
	return slices.DeleteFunc(slices.Clone(regions), func(key string) bool {
		timber, known := l.timber(key)
		return !known || !oily(timber)
	})
}

// over: one coat on another.
func (l *linter) over(z Region, under, s *Step, dull bool) {
	v := layering.Over(under.Family, s.Family)
	o := Objection{Rule: "goes-over", Slot: s.Slot, Title: fmt.Sprintf("%s on %s", s.Title, phrase.Lower(under.Title)), Reason: v.Text()}
	switch {
	case under.Family == "paste-wax" && s.Family != "paste-wax":
		o.Rule, o.Spoils, o.Title = "wax-last", true, s.Title+" after the wax"
		o.Mend = l.waxLast(z, under)
	case v.Needs():
		o.Spoils = true
		if group(under.Family) == "colour" && group(s.Family) == "fill" {
			o.Rule, o.Title = "seal-before-fill", "The filler would lift the colour"
		}
		if b, helps := layering.Between(under.Family, s.Family); helps && b.Joined() && b.Family != under.Family {
			f := mustFamily(b.Family)
			o.Mend = l.insertBarrier(fmt.Sprintf("Put %s between", f.Named()), b, s, s.Regions)
		}
	case v.Condition == layering.Scuffed && !dull && under.Slot != s.Slot:
		o.Title = s.Title + " on a film that is not scuffed"
		o.Mend = l.insertScuff(s)
	case v.Condition == layering.FullCure && s.Film != material.FullCure && under.Slot != s.Slot && !l.waited(z, under, s):
		o.Title = s.Title + " before what is below has cured"
		o.Mend = &Mend{"Wait for the full cure", func(d *Draft) { d.find(s.Slot).Film = material.FullCure }}
	default:
		return
	}
	l.object(o)
}

// waited reports whether something between two coats waits until the lower has cured through.
func (l *linter) waited(z Region, under, over *Step) bool {
	after := false
	for _, s := range l.on(z.Key) {
		switch {
		case s == under:
			after = true
		case s == over:
			return false
		case after && s.Film == material.FullCure:
			return true
		}
	}
	return false
}

// filled: pores are as full as the look wants them.
func (l *linter) filled(z Region) {
	p := l.wishOf(z)
	timber, known := l.timber(z.Key)
	if p == nil || z.Sheen == "" || !known || !timber.OpenPored() || !p.fills() || z.Name == "fretboard" || len(p.on(z, EffectFill)) == 0 ||
		len(p.on(z, EffectPour)) > 0 || p.region(z.Name).CutAfter != "" ||
		(!builds(p.family()) && p.way("pores") == "half") {
		return
	}
	target, best := 0.0, 0.0
	for _, l := range p.on(z, EffectFill) {
		if l.Coats == 0 { // a count that was chosen is its own target
			target = max(target, poreTargets[p.wayOf(l, "pores")])
		}
	}
	var first *Step
	for _, s := range l.on(z.Key) {
		if s.Kind != job.Coat {
			continue
		}
		if share, err := pore.Filled(s.Family, s.Coats); err == nil {
			best = max(best, share)
		} else if first == nil && group(s.Family) != "colour" {
			first = s
		}
	}
	if best >= target-1e-9 || first == nil || !builds(p.family()) {
		return
	}
	l.object(Objection{Rule: "fill-missing", Slot: first.Slot,
		Title:  fmt.Sprintf("Pores about %.0f %% full, %.0f %% wanted", best*100, target*100),
		Reason: "Open pores sink the finish and drink it unevenly; what is not filled now telegraphs later.",
		Mend:   l.restore("Fill the pores", pieceOf(first.Slot), "fill", first.Slot)})
}

// wishOf is what was wished of the piece that a region is of; nil where that is not known.
func (l *linter) wishOf(z Region) *PieceWish {
	if l.wish == nil {
		return nil
	}
	if l.wish.gluedFirst() {
		return l.wish.glued()
	}
	return l.wish.piece(pieceOf(z.Key))
}

// sheens: the path leads to the sheen that was asked for.
func (l *linter) sheens(z Region) {
	steps := l.on(z.Key)
	if z.Sheen == "" || len(steps) == 0 || !l.coated(steps) {
		return
	}
	got := l.sheen(z.Key)
	if got == z.Sheen {
		return
	}
	last := steps[len(steps)-1]
	for _, s := range steps {
		if s.Kind == job.Coat || s.Kind == job.Level || s.Kind == job.Buff {
			last = s
		}
	}
	o := Objection{Rule: "sheen-path", Slot: last.Slot,
		Title: fmt.Sprintf("%s ends %s, not %s", phrase.Capital(z.Name), or(got, "with its texture"), z.Sheen),
		Reason: "The sheen is chosen before the final coats: gloss is levelled and buffed, satin ends earlier, a flatted coat is touched " +
			"by nothing."}
	if l.wish != nil && len(l.composed.Pieces) > 0 && l.composed.sheen(z.Key) == z.Sheen {
		o.Mend = &Mend{"Finish it as composed", func(d *Draft) { d.takeEnd(l.composed, z.Key) }}
	}
	l.object(o)
}

func (l *linter) coated(steps []*Step) bool {
	return slices.ContainsFunc(steps, func(s *Step) bool {
		return s.Kind == job.Coat && (group(s.Family) == "clear" || (group(s.Family) == "oil-wax" && s.Role == "oil"))
	})
}
