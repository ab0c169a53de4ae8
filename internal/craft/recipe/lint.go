package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/wood"
)

// Objection is what a schedule gets wrong: where, why, and what would mend it.
type Objection struct {
	Rule   string // "mask-missing"
	Slot   string // of the step at which it shows
	Spoils bool   // the work would be spoilt; else practice warns
	Title  string
	Reason string
	Mend   *Mend // nil: only the person can
}

// Mend is a change of the schedule that ends an objection.
type Mend struct {
	Text  string
	apply func(*Draft)
}

// Apply is the draft mended; the one given is left as it is.
func (m Mend) Apply(d Draft) Draft {
	next := d.clone()
	m.apply(&next)
	return next
}

func (d Draft) clone() Draft {
	d.Pieces = slices.Clone(d.Pieces)
	for p := range d.Pieces {
		d.Pieces[p].Steps = slices.Clone(d.Pieces[p].Steps)
	}
	return d
}

// Lint looks a schedule over for mistakes that can still be mended: what is done is
// not objected to. The wish says what was wanted; without pieces it is not known,
// and what depends on it is not looked for.
func Lint(d Draft, wish Wish) []Objection {
	l := linter{Draft: d.clone()}
	if len(wish.Pieces) > 0 {
		w := wish.ready()
		l.wish = &w
		l.composed, _, _ = Compose(wish) // what cannot be composed any more has nothing to restore from
	}
	for p := range l.Pieces {
		piece := &l.Pieces[p]
		piece.Steps = slices.DeleteFunc(piece.Steps, func(s Step) bool { return s.Out != "" })
		l.leftOver(piece)
		l.masked(piece)
		l.drilled(piece)
		l.flame(piece)
		l.texture(piece)
		l.sanding(piece)
		l.rest(piece)
		l.wet(piece)
		l.frets(piece)
		l.strings(piece)
	}
	l.tested()
	l.mockUp()
	for p := range l.Pieces {
		for _, z := range l.Pieces[p].Regions {
			l.layers(z)
			l.filled(z)
			l.sheens(z)
		}
	}
	return l.found
}

type linter struct {
	Draft
	wish     *Wish // nil: not known
	composed Draft
	found    []Objection
}

// object notes an objection once for each rule and step.
func (l *linter) object(o Objection) {
	step := l.find(o.Slot)
	if step != nil && (step.Done || (!o.Spoils && l.onPurpose(step))) {
		return
	}
	if !slices.ContainsFunc(l.found, func(other Objection) bool { return other.Rule == o.Rule && other.Slot == o.Slot }) {
		l.found = append(l.found, o)
	}
}

// onPurpose reports whether the layer of a step says why it is wished so.
func (l *linter) onPurpose(s *Step) bool {
	of := s.of()
	if of == nil || l.wish == nil {
		return false
	}
	return slices.ContainsFunc(l.wish.Pieces, func(p PieceWish) bool {
		return slices.ContainsFunc(p.Layers, func(w Layer) bool { return w.ID == of.ID && w.Because != "" })
	})
}

// name is what a step is of its layer or its piece: the last part of its slot.
func (s *Step) name() string { return s.Slot[strings.LastIndex(s.Slot, ":")+1:] }

// of is the layer that a step is of; nil where it is of its piece.
func (s *Step) of() *Layer {
	if parts := strings.Split(s.Slot, ":"); len(parts) == 3 {
		return &Layer{ID: parts[1]}
	}
	return nil
}

// firstCoat is the index of a piece's first coat that shows or is soaked up: barriers
// and primers lie where they are needed only. -1 when there is none.
func (p *Piece) firstCoat() int {
	return slices.IndexFunc(p.Steps, Step.shows)
}

func (s Step) shows() bool {
	return s.Kind == job.Coat && s.Role != "barrier" && s.Role != "primer" && s.Family != "sealed-char" // a flame puts nothing on
}

func (p *Piece) surface() bool { return p.Kind == Body || p.Kind == Neck || p.Kind == Whole }

// masked: no colour and no film before the tape; a glue face stays bare.
func (l *linter) masked(p *Piece) {
	first := p.firstCoat()
	if !p.surface() || first < 0 || slices.ContainsFunc(p.Steps[:first], func(s Step) bool { return s.Kind == job.MaskOn }) {
		return
	}
	at := p.Steps[first]
	o := Objection{Rule: "mask-missing", Slot: at.Slot, Spoils: true, Title: at.Title + " comes before the tape",
		Reason: "Forgetting the tape until colour is on is a classic: colour and film creep onto joint faces, board and binding.",
		Mend:   l.restore("Tape first", p.Kind, "tape-on", at.Slot)}
	if l.glued() && p.Kind != Whole {
		o.Rule, o.Title = "film-on-glue-face", at.Title+" would lie on a glue face"
		o.Reason = "The neck is glued in later, and glue holds on bare wood only."
	}
	l.object(o)
}

func (l *linter) glued() bool {
	for _, p := range l.Pieces {
		if slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Terms.Glue != nil }) {
			return true
		}
	}
	return false
}

// drilled: a drill that meets a finished face needs a stop.
func (l *linter) drilled(p *Piece) {
	first := p.firstCoat()
	for i := range p.Steps {
		if s := p.Steps[i]; first >= 0 && i > first && s.Kind == job.Gate && s.Tool == "drill-press" && s.Check != depthCheck {
			l.object(Objection{Rule: "depth-stop", Slot: s.Slot, Spoils: true, Title: s.Title + " without a depth stop",
				Reason: "A hole too deep, or on the wrong side, cannot be taken back in a finished face.",
				Mend:   &Mend{"Check the depth stop first", func(d *Draft) { d.find(s.Slot).Check = depthCheck }}})
		}
	}
}

// flame: nothing burns once tape, paper, dye, solvent or finish is about.
func (l *linter) flame(p *Piece) {
	for i, s := range p.Steps {
		if s.Family != "sealed-char" {
			continue
		}
		before := slices.IndexFunc(p.Steps[:i], func(s Step) bool {
			return s.Kind == job.MaskOn || (s.Kind == job.Coat && s.Family != "sealed-char")
		})
		if before >= 0 && p.Steps[before].Kind == job.MaskOn {
			l.object(Objection{Rule: "flame-late", Slot: s.Slot, Spoils: true, Title: "A flame over tape and paper",
				Reason: "Paper in a cavity catches fire out of sight, and tape melts into the grain.",
				Mend:   l.move("Char first", s.Slot, p.Steps[before].Slot)})
		} else if before >= 0 {
			l.object(Objection{Rule: "flame-late", Slot: s.Slot, Spoils: true,
				Title:  "A flame after " + phrase.Lower(p.Steps[before].Title),
				Reason: "Dye, solvent and finish burn, and what they have soaked into burns with them.",
				Mend:   l.move("Char first", s.Slot, p.Steps[before].Slot)})
		}
	}
}

// texture is cut before there is anything to break, and before water raises the grain.
func (l *linter) texture(p *Piece) {
	first := slices.IndexFunc(p.Steps, func(s Step) bool { return s.shows() || s.name() == "wet" })
	for i, s := range p.Steps {
		if first >= 0 && i > first && s.Kind == job.Sand && s.name() == "texture" {
			l.object(Objection{Rule: "texture-late", Slot: s.Slot, Spoils: true,
				Title:  "Texture is cut after " + phrase.Lower(p.Steps[first].Title),
				Reason: "It breaks colour and film, and what it bares drinks and rises differently.",
				Mend:   l.move("Texture first", s.Slot, p.Steps[first].Slot)})
		}
	}
}

// Grits that bare sanding may not leave the ladder for, and those that come too late.
const (
	veneerGrit = 150
	lateGrit   = 180
)

// sanding: nothing coarse on a veneer, nothing too fine before a dye, nothing coarse
// once there is a film.
func (l *linter) sanding(p *Piece) {
	for i := range p.Steps {
		s := p.Steps[i]
		first := slices.IndexFunc(p.Steps, func(o Step) bool {
			return o.shows() && slices.ContainsFunc(o.Regions, func(z string) bool { return slices.Contains(s.Regions, z) })
		})
		if (s.Kind != job.Sand && s.Kind != job.Scuff) || len(s.Ladder) == 0 {
			continue
		}
		for _, key := range s.Regions {
			timber, known := l.timber(key)
			switch {
			case known && timber.Substrate == wood.Veneer &&
				slices.ContainsFunc(s.Ladder, func(m string) bool { return gritOf(m) > 0 && gritOf(m) < veneerGrit }):
				l.object(Objection{Rule: "coarse-on-veneer", Slot: s.Slot, Spoils: true, Title: s.Title + " is too coarse for a veneer",
					Reason: "Half a millimetre is one or two strokes of coarse paper from the core.",
					Mend:   l.ladder("Begin at P150", s.Slot, func(m int) bool { return m >= veneerGrit })})
			case known && s.Kind == job.Sand && first > i && s.fine() && l.dyed(p.Steps[first:], key) &&
				gritOf(s.Ladder[len(s.Ladder)-1]) > timber.SandBareTo && gritOf(s.Ladder[0]) <= timber.SandBareTo && timber.Drinks():
				l.object(Objection{Rule: "too-fine", Slot: s.Slot,
					Title:  fmt.Sprintf("%s ends finer than P%d before colour", s.Title, timber.SandBareTo),
					Reason: "Wood that is burnished takes less colour: it goes thin and patchy.",
					Mend: l.ladder(fmt.Sprintf("Stop at P%d", timber.SandBareTo), s.Slot,
						func(m int) bool { return m <= timber.SandBareTo })})
			}
		}
		if first >= 0 && i > first && slices.ContainsFunc(s.Ladder, func(m string) bool { return gritOf(m) > 0 && gritOf(m) < lateGrit }) {
			l.object(Objection{Rule: "too-coarse", Slot: s.Slot, Title: s.Title + " is coarse for this late",
				Reason: "Its scratches go through colour and film and come back as lines.",
				Mend:   &Mend{"P320 instead", func(d *Draft) { d.find(s.Slot).Ladder = papers(320) }}})
		}
	}
}

// fine reports whether a step sands the wood finer: what only takes off what was found there does not.
func (s *Step) fine() bool {
	return !strings.HasPrefix(s.name(), "strip") && !strings.HasPrefix(s.name(), "flatten")
}

// dyed reports whether the first coat on a region colours the bare wood.
func (l *linter) dyed(steps []Step, region string) bool {
	for _, s := range steps {
		if s.Kind == job.Coat && slices.Contains(s.Regions, region) {
			return group(s.Family) == "colour"
		}
	}
	return false
}

func (l *linter) timber(region string) (wood.Wood, bool) {
	for _, p := range l.Pieces {
		for _, z := range p.Regions {
			if z.Key == region {
				w, err := wood.Find(z.Wood)
				return w, err == nil
			}
		}
	}
	return wood.Wood{}, false
}

// rest: a gloss is levelled on a film that is hard enough for it.
func (l *linter) rest(p *Piece) {
	for _, s := range p.Steps {
		gloss := sheenAfter("", s.Ladder) == "gloss" ||
			(s.Kind == job.Level && len(s.Ladder) > 0 && gritOf(s.Ladder[len(s.Ladder)-1]) >= 1500)
		if (s.Kind != job.Level && s.Kind != job.Buff) || !gloss || s.Film == material.Buff || s.Film == material.FullCure ||
			!l.filmed(s.Regions) {
			continue
		}
		l.object(Objection{Rule: "no-rest", Slot: s.Slot, Spoils: true, Title: "No rest before " + phrase.Lower(s.Title),
			Reason: "A gloss that is levelled soft sinks back and shows every mark.",
			Mend:   &Mend{"Wait until the film may be buffed", func(d *Draft) { d.find(s.Slot).Film = material.Buff }}})
	}
}

// filmed reports whether any of some regions gets a film that is rubbed out.
func (l *linter) filmed(regions []string) bool {
	for _, z := range regions {
		for _, s := range l.on(z) {
			if s.Kind == job.Coat && group(s.Family) == "clear" {
				return true
			}
		}
	}
	return false
}

// wet: no water near open holes and slots.
func (l *linter) wet(p *Piece) {
	for i, s := range p.Steps {
		papery := slices.ContainsFunc(s.Ladder, func(m string) bool { return gritOf(m) > 0 })
		if !s.Kind.Handwork() || !s.Terms.Clean || !papery ||
			slices.ContainsFunc(p.Steps[:i], func(s Step) bool { return s.Kind == job.MaskOn && s.name() == "plug" }) {
			continue
		}
		l.object(Objection{Rule: "wet-open", Slot: s.Slot, Spoils: true, Title: s.Title + ": wet, with holes or slots open",
			Reason: "Water in a hole, a slot or bare end grain swells the wood and lifts the film round it.",
			Mend: &Mend{"Level it dry", func(d *Draft) {
				step := d.find(s.Slot)
				step.Terms.Clean = false
				step.How += " Dry, with stearated paper."
			}}})
	}
}

// frets: metal polish blackens a bare pale board.
func (l *linter) frets(p *Piece) {
	for i, s := range p.Steps {
		if s.name() != "fret-polish" || slices.ContainsFunc(p.Steps[:i], func(s Step) bool { return s.Kind == job.MaskOn }) {
			continue
		}
		if timber, known := l.timber(s.Regions[0]); known && timber.Pale() {
			l.object(Objection{Rule: "polish-on-board", Slot: s.Slot, Spoils: true, Title: "Metal polish over a bare pale board",
				Reason: "It blackens the wood for good, and what lies in the slots comes out for years.",
				Mend:   l.restore("Tape the board first", p.Kind, "fret-tape", s.Slot)})
		}
	}
}

// strings: they go on a film that may be buffed and handled, and into a case on one
// that has cured through.
func (l *linter) strings(p *Piece) {
	for _, s := range p.Steps {
		switch {
		case s.Kind != job.Gate:
		case s.name() == "strings" && !s.Terms.Strings && s.Film != material.FullCure:
			l.object(Objection{Rule: "no-cure", Slot: s.Slot, Spoils: true, Title: "Strings before the film may be handled",
				Reason: "A film that is still soft prints under hands, and a joint without its full strength creeps under the pull.",
				Mend:   &Mend{"Wait until it may be buffed and handled", func(d *Draft) { d.find(s.Slot).Terms.Strings = true }}})
		case s.name() == "hand-over" && s.Film != material.FullCure:
			l.object(Objection{Rule: "no-cure", Slot: s.Slot, Spoils: true, Title: "Into the case before the film has cured",
				Reason: "A film that has not cured through prints under straps, stands and the lining of a case.",
				Mend:   &Mend{"Wait for the full cure", func(d *Draft) { d.find(s.Slot).Film = material.FullCure }}})
		}
	}
}

// tested: colour is tried on scrap before it is on the piece.
func (l *linter) tested() {
	tried := false
	for _, p := range l.Pieces {
		for _, s := range p.Steps {
			tried = tried || (s.Kind == job.Inspect && s.Check == "swatch-match")
			if s.Kind == job.Coat && group(s.Family) == "colour" && !tried {
				l.object(Objection{Rule: "colour-test", Slot: s.Slot, Title: s.Title + " without a colour test",
					Reason: "Bare dye lies and the jar hides the hue; only scrap of the same wood tells.",
					Mend:   l.restore("Test on scrap first", p.Kind, "colour-test", s.Slot)})
				return
			}
		}
	}
}

// mockUp: the whole look is judged before colour is on.
func (l *linter) mockUp() {
	if l.wish == nil || !l.wish.MockUp {
		return
	}
	for _, p := range l.Pieces {
		for _, s := range p.Steps {
			if s.name() == "mock-up" {
				return
			}
			if s.shows() && p.surface() {
				l.object(Objection{Rule: "mock-up", Slot: s.Slot, Title: "The whole look is not mocked up before " + phrase.Lower(s.Title),
					Reason: "Hardware, pickups and plastics are judged beside the colour while it can still be chosen.",
					Mend:   l.restore("Mock it up first", p.Kind, "mock-up", s.Slot)})
				return
			}
		}
	}
}
