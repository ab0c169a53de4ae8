package recipe

import (
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
)

// put writes a coat and sees to it that it holds on what lies below: scuffed,
// misted, tried on scrap, or over the barrier that helps.
func (w *writer) put(l line) {
	if l.regions == nil {
		l.regions = w.regions
	}
	for _, under := range w.below(l.regions) {
		if !w.joins(under, l) {
			return
		}
	}
	w.degrease(l)
	w.isolateUnder(l)
	var scuffed []Region
	full := false
	for _, under := range w.below(l.regions) {
		v := layering.Over(under, l.family)
		switch v.Condition {
		case layering.Scuffed:
			scuffed = append(scuffed, w.lying(under, l.regions)...)
		case layering.LightMist:
			l.how += " Open with two light dry mists: " + phrase.Lower(v.Reason)
		case layering.FullCure:
			full = true
		}
		if v.Condition == layering.TestFirst || v.Answer == layering.Untested {
			l.how += " Try the pair on scrap first."
			w.note(v.Text())
		}
	}
	switch {
	case full && l.coats > 1: // the coats among themselves need not wait for it
		w.add(line{slot: "cured-" + l.slot, kind: job.Gate, title: "What lies below cured through", regions: l.regions,
			film: material.FullCure, fixed: 5,
			how: "Smell and thumbnail in a hidden spot, besides the calendar.",
			why: "Shut in before it has cured it wrinkles the next film from below."})
	case full:
		l.film = material.FullCure
	}
	w.scuff(l.slot, scuffed)
	w.add(l)
}

// degrease wipes an oily wood before oil in a colour or a filler comes straight on it.
func (w *writer) degrease(l line) {
	f := mustFamily(l.family)
	greasy := only(l.regions, func(z Region) bool { return oily(timberOf(z)) && w.top(z) == "" })
	if f.Kinetics != material.Oxidative || (f.Group != "colour" && f.Group != "fill") || len(greasy) == 0 || l.slot == "slurry" {
		return
	}
	w.doubt(timberOf(greasy[0]).Name + " is oily and slows " + f.Named() + ": try scrap first.")
	w.wipeWithSpirit(greasy)
}

// wipeWithSpirit takes the oil of a wood off its face just before what it would slow.
func (w *writer) wipeWithSpirit(greasy []Region) {
	how := "Fresh spirit, fresh cloth, until it stays nearly clean; the first coat within the hour."
	if slices.ContainsFunc(greasy, func(z Region) bool { return timberOf(z).Bleed >= 2 }) {
		how += " Never across a seam to a pale wood: it carries the colour over."
	}
	w.add(line{slot: "degrease", kind: job.Inspect, title: "Wipe the oily wood with spirit", regions: greasy, fixed: 10, how: how,
		why: "What is wiped off cannot creep into the oil. It comes up again within hours."})
}

// joins puts a barrier between a coat and what lies below it where they need one, or
// where one takes the doubt away. It reports whether the coat may go on.
func (w *writer) joins(under string, l line) bool {
	v := layering.Over(under, l.family)
	misted := l.method == material.Spray || l.method == material.Aerosol
	doubtful := v.Condition == layering.TestFirst || v.Answer == layering.Untested || (v.Condition == layering.LightMist && !misted)
	barrier, helps := layering.Between(under, l.family)
	switch helps = helps && barrier.Joined() && barrier.Family != under; {
	case (v.Needs() || doubtful) && helps:
		w.barrier(barrier, l, w.lying(under, l.regions), v)
	case v.Needs():
		w.refuse(w.blamed(), "family", v.Text()+" Choose another clear, or another colour or filler below it.", l.family)
		return false
	}
	return true
}

// blamed is the layer that a person would change: the clear, or what is being written.
func (w *writer) blamed() *Layer {
	if w.layer != nil && !w.layer.Effect.ends() && w.layer.Family != "" {
		return w.layer
	}
	return w.p.clear
}

// lying are the regions in which a family lies uppermost.
func (w *writer) lying(family string, regions []Region) []Region {
	return only(regions, func(z Region) bool { return w.top(z) == family })
}

// below lists the families that lie uppermost in some regions.
func (w *writer) below(regions []Region) []string {
	var list []string
	for _, z := range regions {
		if f := w.top(z); f != "" && !slices.Contains(list, f) {
			list = append(list, f)
		}
	}
	return list
}

func (w *writer) barrier(b layering.Barrier, l line, regions []Region, v layering.Verdict) {
	f, err := material.FindFamily(b.Family)
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	w.put(line{slot: "barrier-" + l.slot + "-" + b.Under, kind: job.Coat, title: "Barrier of " + f.Named(), regions: regions,
		role: "barrier", family: b.Family,
		method: w.by(f), coats: b.Coats, how: barrierHow(w.by(f)), why: v.Reason + " " + b.Note})
}

func barrierHow(by material.Method) string {
	if by == material.Spray || by == material.Aerosol {
		return "Thin and even, the first pass a dry mist."
	}
	return "Thin and quick, one pass in one direction, never back over it."
}

// scuff dulls what lies uppermost before a coat that holds on scratches.
func (w *writer) scuff(before string, regions []Region) {
	regions = slices.DeleteFunc(slices.Clone(regions), func(z Region) bool {
		top := w.on(z).Top()
		f, err := material.FindFamily(top.Family)
		return top.Dull || err != nil || !sandable(f)
	})
	if len(regions) == 0 {
		return
	}
	w.add(scuffLine(before, regions))
}

// gripGrits is the paper of a scuff for grip.
var gripGrits = papers(400)

func scuffLine(before string, regions []Region) line {
	slot := "scuff-" + before
	if before == "seal" {
		slot = "scuff-below-seal" // the sealer is scuffed itself afterwards
	}
	return line{slot: slot, kind: job.Scuff, title: "Scuff for grip", regions: regions, ladder: gripGrits,
		how: "An even dull face all over, no shiny spot; a very fine pad on curves. Wipe the dust off.",
		why: "The next film holds on the scratches of this one and on nothing else."}
}

// by is how a material is put on in this piece: like its clear where it can be,
// sprayed where that is sprayed at all, and by hand otherwise.
func (w *writer) by(f material.Family) material.Method {
	own := w.p.method()
	order := []material.Method{own, material.Wipe, material.Brush, material.Pad}
	if w.p.sprays() {
		order = []material.Method{own, material.Spray, material.Aerosol, material.Wipe}
	}
	for _, m := range order {
		if slices.Contains(f.Methods, m) {
			return m
		}
	}
	return f.Methods[0]
}
