package recipe

import (
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
)

// serves names, by the role of a step, what it is there for: without any of those in its layer it
// serves nothing. Masks serve whatever is put on between them.
var serves = map[string][]string{
	"sand-washcoat": {"washcoat"}, "sand-fill": {"fill"}, "pores": {"fill"}, "barrier-again": {"fill"}, "rub-back": {"dark"},
	"scuff-seal": {"seal"}, "isolated": {"isolate"}, "lift": {"stencil", "strew"}, "stencil": {"strew"}, "loose": {"strew"},
	"lock":   {"strew"},
	"bonded": {"lay"}, "leaf-seal": {"lay"}, "size": {"lay"}, "relief": {"texture"}, "char-clean": {"char"}, "cold": {"accents"},
	"bone-dry":   {"accents"},
	"tape-matte": {"flat-matte"}, "untape-matte": {"flat-matte"}, "tape-satin": {"flat-satin"}, "untape-satin": {"flat-satin"},
	"lay-cloth": {"wet-out"}, "even": {"oil", "oil-1", "shellac-1"},
}

// leftOver: a step that was left out takes along what only served it, and masks go on and off in pairs.
func (l *linter) leftOver(p *Piece) {
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Skipped || s.Done {
			continue
		}
		served, known := serves[s.name()]
		for _, prefix := range []string{"scuff-", "barrier-", "cured-"} {
			if rest, has := strings.CutPrefix(s.name(), prefix); has && !known {
				served, known = l.coatsOf(p, s, rest), true
			}
		}
		switch {
		case known && len(served) > 0 && !l.there(p, s, served):
			l.leftOut(s, "What it was there for is left out: without that it only costs time, and may spoil what lies there.")
		case isMask(s, "mask") && !l.there(p, s, l.coats(p, s)):
			l.leftOut(s, "Nothing is put on that it would keep off: it only pulls at what it lies on.")
		case isMask(s, "mask") && !l.pair(p, s, "unmask"):
			l.object(Objection{Rule: "mask-left-on", Slot: s.Slot, Title: s.Title + ", and nothing takes it off again",
				Reason: "Tape that stays until the film is hard tears its edge, and leaves its glue.",
				Mend:   l.restoreUnmask(p, s)})
		case isMask(s, "unmask") && !l.pair(p, s, "mask"):
			l.leftOut(s, "There is no mask of this layer to take off.")
		}
	}
}

func (l *linter) leftOut(s *Step, reason string) {
	slot := s.Slot
	o := Objection{Rule: "left-over", Slot: slot, Title: s.Title + " serves nothing any more", Reason: reason}
	if !s.Logged {
		o.Mend = &Mend{"Leave it out too", func(d *Draft) { d.drop(slot) }}
	}
	l.object(o)
}

// isMask reports whether a step is a derived mask, of any number.
func isMask(s *Step, name string) bool {
	return s.of() != nil && number.ReplaceAllString(s.name(), "") == name
}

// there reports whether any of some roles is done in the layer of a step.
func (l *linter) there(p *Piece, s *Step, names []string) bool {
	return slices.ContainsFunc(p.Steps, func(o Step) bool {
		return !o.Skipped && sameLayer(&o, s) && slices.Contains(names, o.name())
	})
}

// pair reports whether a mask has its other half.
func (l *linter) pair(p *Piece, s *Step, other string) bool {
	suffix := number.FindString(s.name())
	return l.there(p, s, []string{other + suffix})
}

func (l *linter) restoreUnmask(p *Piece, s *Step) *Mend {
	slot := strings.TrimSuffix(s.Slot, s.name()) + "un" + s.name()
	composed := l.composed.find(slot)
	last := ""
	for i := range p.Steps {
		if o := &p.Steps[i]; o.Kind == job.Coat && sameLayer(o, s) {
			last = o.Slot
		}
	}
	if composed == nil || last == "" {
		return nil
	}
	step := *composed
	return &Mend{"Take it off after the last coat", func(d *Draft) { d.insertAfter(step, last) }}
}

// coats are the roles of the coats in the layer of a step.
func (l *linter) coats(p *Piece, s *Step) []string {
	var names []string
	for i := range p.Steps {
		if o := &p.Steps[i]; o.Kind == job.Coat && sameLayer(o, s) {
			names = append(names, o.name())
		}
	}
	return names
}

// coatsOf are the coats that a step called after one may serve: scuff-clear-2, barrier-fill-water-dye. A name that
// was never one of a coat serves what nobody knows, and is left alone.
func (l *linter) coatsOf(p *Piece, s *Step, rest string) []string {
	composed := l.composed.find(s.Slot)
	if composed == nil {
		return nil
	}
	var names []string
	for i := range l.composed.Pieces {
		for k := range l.composed.Pieces[i].Steps {
			o := &l.composed.Pieces[i].Steps[k]
			if o.Kind == job.Coat && l.composed.Pieces[i].Kind == p.Kind && sameLayer(o, s) &&
				(rest == o.name() || strings.HasPrefix(rest, o.name()+"-")) {
				names = append(names, o.name())
			}
		}
	}
	return names
}

func sameLayer(a, b *Step) bool {
	return (a.of() == nil) == (b.of() == nil) && (a.of() == nil || a.of().ID == b.of().ID)
}
