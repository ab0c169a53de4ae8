package recipe

import (
	"errors"
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/strata"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// Compose turns a wish into a schedule. It returns every fault it finds, and a
// draft only when there is none. An error means that a rule itself is wrong.
func Compose(wish Wish) (Draft, []Fault, error) {
	if faults := checkWish(wish); len(faults) > 0 {
		return Draft{}, faults, nil
	}
	w := wish.ready()
	c := composing{wish: &w, lying: make(map[string]*strata.Lying[string])}
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
	wish   *Wish
	draft  Draft
	lying  map[string]*strata.Lying[string] // by region, with slots
	faults []Fault
	errs   []error
}

// on is what lies on a region so far.
func (c *composing) on(z Region) *strata.Lying[string] {
	if c.lying[z.Key] == nil {
		c.lying[z.Key] = &strata.Lying[string]{}
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
	p       *PieceWish
}

// waxLast waxes a neck whose board and frets have been worked on since its finish.
func (c *composing) waxLast() {
	if p := c.wish.piece(Neck); p != nil && p.Wax && (c.wish.Frets != "none" || c.wish.boardApart()) {
		w := c.goOn()
		w.p, w.regions = p, c.regionsIn(Neck)
		w.wax()
	}
}

// goOn goes on writing the piece that was begun last.
func (c *composing) goOn() *writer {
	piece := &c.draft.Pieces[len(c.draft.Pieces)-1]
	return &writer{composing: c, piece: piece, regions: piece.Regions}
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
	return &writer{composing: c, piece: &c.draft.Pieces[len(c.draft.Pieces)-1], regions: regions, p: p}
}

// add writes a step.
func (w *writer) add(l line) {
	if l.regions == nil {
		l.regions = w.regions
	}
	if len(l.regions) == 0 {
		return
	}
	step, err := l.step(w.piece.Kind)
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

// path is where the wish of the piece stands in the wish.
func (w *writer) path() string {
	for i := range w.wish.Pieces {
		if w.wish.Pieces[i].Kind == w.p.Kind {
			return fmt.Sprintf("pieces[%d]", i)
		}
	}
	return "pieces"
}

// headstock is the area of both faces of a usual headstock (default), until it
// is measured.
const headstock unit.SquareMetre = 0.022

func regionNames(kind PieceKind) []string {
	if kind == Neck {
		return []string{"shaft", "headstock"}
	}
	return []string{"top", "back", "sides"}
}

// regionsOf are the regions of a body or a neck, with their areas and what was wished
// of each.
func (c *composing) regionsOf(p *PieceWish) []Region {
	length, width, thickness := lengthOf(p.Length), lengthOf(p.Width), lengthOf(p.Thickness)
	areas := map[string]unit.SquareMetre{"headstock": headstock}
	if p.Kind == Neck {
		areas["shaft"] = mix.Shaft(length, width)
	} else {
		face, rim := mix.Face(length, width), mix.Rim(length, width, thickness)
		if shape, known := outline.Body(c.wish.outline); known {
			shape = shape.Scaled(length, width)
			face, rim = shape.Area(), unit.SquareMetre(float64(shape.Rim())*float64(thickness)/1e6)
		}
		areas["top"], areas["back"], areas["sides"] = face, face, rim
	}
	names := regionNames(p.Kind)
	if p.Kind == Neck && c.wish.boardUnderFilm() {
		names, areas["fretboard"] = append(names, "fretboard"), boardArea(length, width)
	}
	var regions []Region
	for _, name := range names {
		z := Region{key(p.Kind, name), job.Region{Name: name, Wood: p.Wood, AreaM2: areas[name], Sheen: p.Sheen}}
		if kept, known := c.wish.areas[z.Key]; known && kept > 0 {
			z.AreaM2 = kept
		}
		for _, wish := range p.Regions {
			if wish.Name == name {
				z.Wood, z.Sheen, z.Plain = or(wish.Wood, p.Wood), or(wish.Sheen, p.Sheen), wish.Plain
			}
		}
		regions = append(regions, z)
	}
	return regions
}

// boardArea is the face of a fretboard: about three quarters of the neck's length,
// slightly wider than the nut.
func boardArea(length, width unit.Millimetre) unit.SquareMetre {
	return unit.SquareMetre(0.75 * float64(length) * 1.08 * float64(width) / 1e6)
}

func timberOf(z Region) wood.Wood {
	w, _ := wood.Find(z.Wood) // checked
	return w
}

// only are the regions that something holds of.
func only(regions []Region, holds func(Region) bool) []Region {
	return slices.DeleteFunc(slices.Clone(regions), func(z Region) bool { return !holds(z) })
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
