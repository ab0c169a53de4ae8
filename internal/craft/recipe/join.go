package recipe

import (
	"slices"
	"strings"

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
	var scuffed []Region
	for _, under := range w.below(l.regions) {
		v := layering.Over(under, l.family)
		switch v.Condition {
		case layering.Scuffed:
			scuffed = append(scuffed, w.lying(under, l.regions)...)
		case layering.LightMist:
			l.how += " Open with two light dry mists: " + phrase.Lower(v.Reason)
		case layering.FullCure:
			l.film = material.FullCure
		}
		if v.Condition == layering.TestFirst || v.Answer == layering.Untested {
			l.how += " Try the pair on scrap first."
			w.note(v.Text())
		}
	}
	w.scuff(l.slot, scuffed)
	w.add(l)
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
		w.faults = append(w.faults, Fault{w.path() + ".clear", v.Text() + " Choose another clear, or another colour or filler below it.",
			l.family})
		return false
	}
	return true
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

// barrierAgain puts on anew what kept colour from the filler, where the sanding that levelled
// the filler has taken it off the face and the next coat would wake the colour too.
func (w *writer) barrierAgain(regions []Region) {
	next := w.p.Clear
	if sealer, has := w.sealer(); has {
		next = sealer.ID
	}
	for _, z := range regions {
		lying := *w.on(z)
		if len(lying) < 3 || !strings.Contains(lying[len(lying)-2].Last, ":barrier-fill-") {
			continue
		}
		barrier, colour := lying[len(lying)-2].Family, lying[len(lying)-3].Family
		v := layering.Over(colour, next)
		wakes := v.Needs() || v.Condition == layering.TestFirst || v.Condition == layering.LightMist || v.Answer == layering.Untested
		if barrier != next && wakes {
			f := mustFamily(barrier)
			same := func(o Region) bool { l := *w.on(o); return len(l) > 1 && l[len(l)-2].Last == lying[len(lying)-2].Last }
			w.put(line{slot: "barrier-again", kind: job.Coat, title: "Barrier of " + f.Named() + " again", regions: only(regions, same),
				role: "barrier", family: barrier, method: w.by(f), how: barrierHow(w.by(f)),
				why: "Levelling the filler took the first one off the face. " + v.Reason})
			return
		}
	}
}

func barrierHow(by material.Method) string {
	if by == material.Spray || by == material.Aerosol {
		return "Thin and even, the first pass a dry mist."
	}
	return "Thin and quick, one pass in one direction, never back over it."
}

// scuff dulls what lies uppermost before a coat that holds on scratches.
func (w *writer) scuff(before string, regions []Region) {
	regions = slices.DeleteFunc(slices.Clone(regions), func(z Region) bool { return w.on(z).Top().Dull })
	if len(regions) == 0 {
		return
	}
	w.add(scuffLine(before, regions))
}

// gripGrits is the paper of a scuff for grip.
var gripGrits = papers(400)

func scuffLine(before string, regions []Region) line {
	return line{slot: "scuff-" + before, kind: job.Scuff, title: "Scuff for grip", regions: regions, ladder: gripGrits,
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
