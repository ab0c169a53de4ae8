package recipe

import (
	"errors"
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/strata"
)

// Compose turns a wish into a schedule. It returns every fault it finds, and a
// draft only when there is none. An error means that a rule itself is wrong.
func Compose(wish Wish) (Draft, []Fault, error) {
	if faults := checkWish(wish); len(faults) > 0 {
		return Draft{}, faults, nil
	}
	w := wish.ready()
	c := composing{wish: &w, lying: make(map[string]*strata.Stack[string]), masked: make(map[string]string),
		maskings: make(map[string]int)}
	for _, kind := range Kinds {
		c.compose(kind)
	}
	if len(c.faults) > 0 || len(c.errs) > 0 {
		return Draft{}, c.faults, errors.Join(c.errs...)
	}
	return c.draft, nil, nil
}

// composing is a schedule while it is written, piece by piece.
type composing struct {
	wish     *Wish
	draft    Draft
	lying    map[string]*strata.Stack[string] // by region, with slots
	masked   map[string]string                // by region, the layer whose mask covers it now
	maskings map[string]int                   // by layer, how often it has masked
	faults   []Fault
	errs     []error
}

// on is what lies on a region so far.
func (c *composing) on(z Region) *strata.Stack[string] {
	if c.lying[z.Key] == nil {
		c.lying[z.Key] = &strata.Stack[string]{}
	}
	return c.lying[z.Key]
}

// top is the family that lies uppermost on a region; none on bare wood.
func (c *composing) top(z Region) string { return c.on(z).Top().Family }

func (c *composing) compose(kind PieceKind) {
	w := c.wish
	glued := w.gluedFirst() // then the smaller things follow the finish of the whole
	switch kind {
	case Body, Neck:
		if p := w.piece(kind); p != nil {
			c.surface(p)
		}
	case Hardware, Plastics, Fittings:
		c.smallParts(kind)
	case Cavity:
		if w.Cavities != "none" && !glued {
			c.cavities()
		}
	case Board:
		if w.boardApart() && !glued {
			c.board()
		}
	case Frets:
		if w.Frets != "none" && !glued {
			c.frets()
		}
		if !glued {
			c.boardLast()
			c.waxLast()
		}
	case Whole:
		if w.piece(Body) != nil && w.piece(Neck) != nil {
			c.whole()
		}
	}
}

// writer writes the steps of one piece.
type writer struct {
	*composing
	piece   *Piece
	regions []Region // of the whole instrument where the piece is the whole
	all     []Region // … those too that a layer does not reach
	p       *PieceWish
	layer   *Layer // what is being written; nil: the piece itself
}

// of is the writer of a layer, on the regions that it reaches.
func (w *writer) of(l *Layer) *writer {
	one := *w
	one.layer = l
	one.regions = only(w.regions, func(z Region) bool { return w.p.reaches(l, z) })
	return &one
}

// endings are the writers of each clear or rounds in turn, the lowest first.
func (w *writer) endings(effects ...Effect) []*writer {
	if len(effects) == 0 {
		effects = []Effect{EffectClear, EffectRounds}
	}
	var list []*writer
	for _, l := range w.p.layers(effects...) {
		one := w.of(l)
		one.p = w.p.ending(l)
		list = append(list, one)
	}
	return list
}

// over is what ends the stack of a region above a layer; nil where it is the last.
func (w *writer) over(z Region, l *Layer) *Layer {
	ends := w.p.on(z, EffectClear, EffectRounds)
	if i := slices.Index(ends, l); i >= 0 && i+1 < len(ends) {
		return ends[i+1]
	}
	return nil
}

// waxLast waxes a neck whose board and frets have been worked on since its finish.
func (c *composing) waxLast() {
	if p := c.wish.piece(Neck); p != nil && (c.wish.Frets != "none" || c.wish.boardApart()) {
		w := c.goOn()
		w.p, w.regions = p, c.regionsIn(Neck)
		w.wax()
	}
}

// goOn goes on writing the piece that was begun last.
func (c *composing) goOn() *writer {
	piece := &c.draft.Pieces[len(c.draft.Pieces)-1]
	return &writer{composing: c, piece: piece, regions: piece.Regions, all: piece.Regions}
}

// regionsIn are the regions of a piece that has been begun.
func (c *composing) regionsIn(kind PieceKind) []Region {
	for _, p := range c.draft.Pieces {
		if p.Kind == kind {
			return p.Regions
		}
	}
	return nil
}

// begin opens a piece.
func (c *composing) begin(kind PieceKind, p *PieceWish, regions []Region) *writer {
	c.draft.Pieces = append(c.draft.Pieces, Piece{Kind: kind, Regions: regions})
	return &writer{composing: c, piece: &c.draft.Pieces[len(c.draft.Pieces)-1], regions: regions, all: regions, p: p}
}

// add writes a step.
func (w *writer) add(l line) {
	if l.regions == nil {
		l.regions = w.regions
	}
	if len(l.regions) == 0 {
		return
	}
	if l.kind == job.Coat {
		w.maskFor(l)
	}
	step, err := l.step(w.piece.Kind, w.layer)
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	if l.kind == job.Coat {
		step.NoReturn = w.seals(l)
	}
	for _, z := range l.regions {
		w.on(z).Do(&step.Step, step.Slot)
	}
	w.piece.Steps = append(w.piece.Steps, step)
}

// seals reports whether a coat is the first that shuts colour in: the first point
// of no return.
func (w *writer) seals(l line) bool {
	over := group(l.family)
	return over != "colour" && over != "fill" && slices.ContainsFunc(l.regions, func(z Region) bool {
		return w.on(z).Open()
	})
}

func group(family string) string {
	f, err := material.FindFamily(family)
	if err != nil {
		return ""
	}
	return f.Group
}

func (w *writer) note(text string) {
	if !slices.Contains(w.draft.Notes, text) {
		w.draft.Notes = append(w.draft.Notes, text)
	}
}

// refuse says that a layer cannot be had as it is wished.
func (w *writer) refuse(l *Layer, field, message string, value any) {
	w.faults = append(w.faults, Fault{w.path(l) + "." + field, message, value})
}

// path is where a layer of the piece stands in the wish; where that has none, its piece.
func (w *writer) path(l *Layer) string {
	for i := range w.wish.Pieces {
		if p := &w.wish.Pieces[i]; p.Kind == w.p.Kind {
			at := fmt.Sprintf("pieces[%d]", i)
			if k := slices.IndexFunc(p.Layers, func(o Layer) bool { return l != nil && o.ID == l.ID }); k >= 0 {
				at += fmt.Sprintf(".layers[%d]", k)
			}
			return at
		}
	}
	return "pieces"
}

// mustFamily is a family that the rules name; TestRulesNameWhatIsThere proves it.
func mustFamily(id string) material.Family {
	f, err := material.FindFamily(id)
	if err != nil {
		panic(err)
	}
	return f
}

// papers are FEPA grits as keys.
func papers(grits ...int) []string {
	keys := make([]string, len(grits))
	for i, m := range grits {
		keys[i] = fmt.Sprintf("fepa:P%d", m)
	}
	return keys
}

// upTo is the part of a ladder of FEPA papers from one grit to another.
func upTo(from, stop int, grits ...int) []string {
	return papers(slices.DeleteFunc(slices.Clone(grits), func(m int) bool { return m < from || m > stop })...)
}
