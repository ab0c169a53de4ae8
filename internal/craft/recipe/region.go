package recipe

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// RegionWish is a region that differs from its piece, or one that is drawn within another.
type RegionWish struct {
	Name     string  `json:"name" maxLength:"40"`
	Kind     string  `json:"kind,omitempty" enum:"strips,border,bevel,half,shape,inlay,binding,joint-face,cut-out,cavity,round-over" doc:"of one that is drawn; none: a natural region"`
	In       string  `json:"in,omitempty" maxLength:"40" doc:"the region that it lies in, which it is cut out of"`
	Count    int     `json:"count,omitempty" minimum:"0" maximum:"40" doc:"how many strips, bevels, inlays; 0: one"`
	Width    string  `json:"width,omitempty" maxLength:"40" doc:"of a strip, border, bevel, binding or round-over, as typed"`
	Length   string  `json:"length,omitempty" maxLength:"40" doc:"of a bevel or a binding; none: all the way round"`
	Mirrored bool    `json:"mirrored,omitempty" doc:"the strips are there on both sides of the middle"`
	Side     string  `json:"side,omitempty" enum:"left,right" doc:"of a half"`
	Path     string  `json:"path,omitempty" maxLength:"20000" doc:"of a shape, inlay or cut-out: SVG path data in mm from the left and the top of its piece"`
	AreaCm2  float64 `json:"areaCm2,omitempty" minimum:"0" maximum:"20000" doc:"as measured; it overrides the geometry"`
	Wood     string  `json:"wood,omitempty" maxLength:"40"`
	Found    string  `json:"found,omitempty" maxLength:"40" doc:"the surface as it comes; none: as its piece"`
	Sheen    string  `json:"sheen,omitempty" enum:"matte,satin,gloss"`
	Edge     string  `json:"edge,omitempty" enum:"seam,taped,stencil,scored,scraped,soft" doc:"how it meets its neighbours"`
	CutAfter string  `json:"cutAfter,omitempty" maxLength:"40" doc:"the layer after which it is cut: bare wood until then unknown"`
}

// What a drawn region may be, and how regions meet.
var (
	RegionKinds = []string{"strips", "border", "bevel", "half", "shape", "inlay", "binding", "joint-face", "cut-out", "cavity",
		"round-over"}
	Edges = []string{"seam", "taped", "stencil", "scored", "scraped", "soft"}
)

// naturals are the regions that a piece has by itself.
func naturals(kind PieceKind) []string {
	if kind == Neck {
		return []string{"shaft", "headstock"}
	}
	return []string{"top", "back", "sides"}
}

// names are the regions of a piece: its natural ones, then those that are drawn.
func (p *PieceWish) names() []string {
	list := naturals(p.Kind)
	for _, z := range p.Regions {
		if !slices.Contains(list, z.Name) {
			list = append(list, z.Name)
		}
	}
	return list
}

// region is what is wished of a region by its name.
func (p *PieceWish) region(name string) RegionWish {
	if i := slices.IndexFunc(p.Regions, func(z RegionWish) bool { return z.Name == name }); i >= 0 {
		return p.Regions[i]
	}
	return RegionWish{Name: name}
}

// in is the region that a drawn one lies in: as said, or the face that is seen.
func (z RegionWish) in(kind PieceKind) string {
	switch {
	case z.Kind == "":
		return ""
	case z.In != "":
		return z.In
	case kind == Neck:
		return "headstock"
	}
	return "top"
}

// headstock is the area of both faces of a usual headstock (default), until it
// is measured.
const headstock unit.SquareMetre = 0.022

// What is not drawn and not measured (default): the faces of a joint, a cavity.
const (
	jointFace  unit.SquareMetre = 0.006
	cavityFace unit.SquareMetre = 0.012
)

// regionsOf are the regions of a body or a neck, with their areas and what was wished of each.
func (c *composing) regionsOf(p *PieceWish) []Region {
	length, width, thickness := lengthOf(p.Length), lengthOf(p.Width), lengthOf(p.Thickness)
	g := geometry{length: length, width: width, thickness: thickness, areas: make(map[string]unit.SquareMetre)}
	if p.Kind == Neck {
		g.areas["shaft"], g.areas["headstock"] = mix.Shaft(length, width), headstock
		if c.wish.boardUnderFilm() {
			g.areas["fretboard"] = boardArea(length, width)
		}
	} else {
		face, rim := mix.Face(length, width), mix.Rim(length, width, thickness)
		if c.wish.outline.Area() > 0 {
			g.shape = c.wish.outline.Scaled(length, width)
			face, rim = g.shape.Area(), unit.SquareMetre(float64(g.shape.Rim())*float64(thickness)/1e6)
			g.round = g.shape.Rim()
		} else {
			g.round = unit.Millimetre(float64(rim) * 1e6 / math.Max(1, float64(thickness)))
		}
		g.areas["top"], g.areas["back"], g.areas["sides"] = face, face, rim
	}
	for _, z := range p.Regions {
		if z.AreaCm2 > 0 {
			g.areas[z.Name] = unit.SquareMetre(z.AreaCm2 / 1e4)
		} else if z.Kind != "" {
			g.areas[z.Name] = g.drawn(z, g.areas[z.in(p.Kind)])
		}
	}
	for _, z := range p.Regions { // what is drawn in another is cut out of it
		if parent := z.in(p.Kind); z.Kind != "" && z.Kind != "cavity" {
			g.areas[parent] = max(g.areas[parent]-g.areas[z.Name], leastArea)
		}
	}
	var regions []Region
	for _, name := range p.names() {
		wish := p.region(name)
		z := Region{Key: key(p.Kind, name), Region: job.Region{Name: name, Wood: or(wish.Wood, p.Wood), AreaM2: g.areas[name]}, wish: wish}
		z.wish.Found = or(wish.Found, p.Found)
		if kept, known := c.wish.areas[z.Key]; known && kept > 0 && wish.AreaCm2 == 0 {
			z.AreaM2 = max(kept-c.newIn(p, name, g.areas), leastArea)
		}
		if ends := p.on(z, EffectClear, EffectRounds); len(ends) > 0 {
			z.Sheen = or(wish.Sheen, ends[len(ends)-1].Sheen)
		}
		regions = append(regions, z)
	}
	return regions
}

// newIn is what is drawn in a region that was not there when its area was kept.
func (c *composing) newIn(p *PieceWish, name string, areas map[string]unit.SquareMetre) (sum unit.SquareMetre) {
	for _, z := range p.Regions {
		_, kept := c.wish.areas[key(p.Kind, z.Name)]
		if z.Kind != "" && z.Kind != "cavity" && z.in(p.Kind) == name && !kept {
			sum += areas[z.Name]
		}
	}
	return sum
}

// leastArea is what stays of a region of which others are cut out.
const leastArea unit.SquareMetre = 0.0005

// geometry is a piece in its size.
type geometry struct {
	length, width, thickness unit.Millimetre
	shape                    outline.Shape   // of a body whose outline is known
	round                    unit.Millimetre // its rim
	areas                    map[string]unit.SquareMetre
}

// drawn is the area of a region that is drawn in another.
func (g geometry) drawn(z RegionWish, within unit.SquareMetre) unit.SquareMetre {
	wide, long, count := lengthOf(z.Width), lengthOf(z.Length), max(z.Count, 1)
	var area unit.SquareMetre
	switch z.Kind {
	case "strips":
		area = g.strips(count, wide, z.Mirrored)
	case "border":
		area = unit.SquareMetre((float64(g.round)*float64(wide) - math.Pi*float64(wide)*float64(wide)) / 1e6) // Steiner's formula, inwards
	case "half":
		area = within / 2
		if known := g.shape.Area(); known > 0 {
			left, right := 0.0, 0.5
			if z.Side == "right" {
				left, right = 0.5, 1
			}
			area = g.shape.Between(g.width*unit.Millimetre(left), g.width*unit.Millimetre(right)) * within / known
		}
	case "shape", "inlay", "cut-out":
		if drawn, err := outline.Parse(z.Path); err == nil {
			area = drawn.Area() * unit.SquareMetre(count)
			if z.Kind == "cut-out" { // its inner rim is what is finished
				area = unit.SquareMetre(float64(drawn.Rim()) * float64(g.thickness) * float64(count) / 1e6)
			}
		}
	case "bevel", "binding":
		if long == 0 {
			long = g.round
		}
		area = unit.SquareMetre(float64(long) * float64(wide) * float64(count) / 1e6)
	case "round-over": // a quarter of a circle, all the way round
		area = unit.SquareMetre(float64(g.round) * float64(wide) * math.Pi / 2 / 1e6)
	case "joint-face":
		area = jointFace
	case "cavity":
		return cavityFace * unit.SquareMetre(count)
	}
	return min(max(area, leastArea), max(within-leastArea, leastArea))
}

// strips is what so many strips cover.
func (g geometry) strips(count int, wide unit.Millimetre, mirrored bool) unit.SquareMetre {
	var area unit.SquareMetre
	for _, band := range stripBands(g.width, count, wide, mirrored) {
		if g.shape.Area() > 0 {
			area += g.shape.Between(band[0], band[1])
		} else {
			area += unit.SquareMetre(float64(band[1]-band[0]) * float64(g.length) * 0.72 / 1e6) // as a face, rules §6
		}
	}
	return area
}

// stripBands are where strips begin and end across a piece: spread evenly across it, or across each half where
// they are mirrored; as wide as the gaps between them where no width is wished.
func stripBands(across unit.Millimetre, count int, wide unit.Millimetre, mirrored bool) [][2]unit.Millimetre {
	if wide == 0 {
		wide = across / unit.Millimetre(2*count)
	}
	span, sides := across, 1
	if mirrored {
		span, sides = across/2, 2
	}
	var bands [][2]unit.Millimetre
	for side := range sides {
		for i := range count {
			middle := span*unit.Millimetre(side) + span*unit.Millimetre(float64(i)+0.5)/unit.Millimetre(count)
			bands = append(bands, [2]unit.Millimetre{middle - wide/2, middle + wide/2})
		}
	}
	return bands
}

// adjoin reports whether two regions of a piece have an edge in common: natural ones as a body and a
// neck are built, a drawn one with what it lies in and what lies in that beside it.
func adjoin(a, b Region, kind PieceKind) bool {
	inA, inB := a.wish.in(kind), b.wish.in(kind)
	switch {
	case inA == "" && inB == "":
		pair := []string{a.Name, b.Name}
		slices.Sort(pair)
		return slices.Contains([]string{"sides top", "back sides", "headstock shaft", "fretboard shaft", "fretboard headstock"},
			strings.Join(pair, " "))
	case inA == b.Name || inB == a.Name:
		return true
	}
	return inA == inB
}

// edge is how two regions meet: as the drawn one of them says, or taped.
func edge(a, b Region) string {
	if a.wish.Kind == "" {
		a, b = b, a
	}
	return or(or(a.wish.Edge, b.wish.Edge), "taped")
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

// region faults.

// checkRegions looks at the regions of a piece.
func (c *checker) regions(path string, p PieceWish) {
	seen := make(map[string]bool)
	known := p.names()
	for i, z := range p.Regions {
		at := fmt.Sprintf("%s.regions[%d]", path, i)
		switch natural := slices.Contains(naturals(p.Kind), z.Name); {
		case strings.TrimSpace(z.Name) == "" || len([]rune(z.Name)) > 40 || strings.ContainsAny(z.Name, ":\n") || seen[z.Name] ||
			z.Name == "fretboard":
			c.fault(at+".name", "give each region a name of its own, of 1 to 40 characters without a colon", z.Name)
		case z.Kind == "" && !natural:
			c.fault(at+".name", "choose one of "+strings.Join(naturals(p.Kind), ", ")+", or say what kind of region is drawn", z.Name)
		case z.Kind != "" && natural:
			c.fault(at+".name", "a region that is drawn needs a name of its own", z.Name)
		}
		seen[z.Name] = true
		c.oneOf(at+".kind", z.Kind, RegionKinds)
		c.oneOf(at+".edge", z.Edge, Edges)
		c.oneOf(at+".sheen", z.Sheen, Sheens)
		c.oneOf(at+".side", z.Side, []string{"left", "right"})
		c.found(at+".found", z.Found)
		if z.Wood != "" {
			c.wood(at+".wood", z.Wood)
		}
		if parent := z.In; parent != "" && (!slices.Contains(known, parent) || parent == z.Name || p.region(parent).Kind != "") {
			c.fault(at+".in", "it lies in a natural region: "+strings.Join(naturals(p.Kind), ", "), parent)
		}
		c.drawing(at, z)
	}
}

// mostAcross is the widest that a drawn part of a region may be, in mm.
const mostAcross unit.Millimetre = 600

func (c *checker) drawing(at string, z RegionWish) {
	for field, entered := range map[string]string{"width": z.Width, "length": z.Length} {
		if entered == "" {
			continue
		}
		most := mostAcross
		if field == "length" {
			most = 5000
		}
		if length, err := unit.ParseLength(entered); err != nil {
			c.fault(at+"."+field, err.Error(), entered)
		} else if length <= 0 || length > most {
			c.fault(at+"."+field, "it is more than 0 and at most "+most.String(), entered)
		}
	}
	if slices.Contains([]string{"border", "bevel", "binding", "round-over"}, z.Kind) && z.Width == "" && z.AreaCm2 == 0 {
		c.fault(at+".width", "say how wide it is, such as 8 mm, or its area", z.Width)
	}
	if z.Kind == "shape" && z.Path == "" && z.AreaCm2 == 0 {
		c.fault(at+".path", "draw it as SVG path data, or say its area", z.Path)
	}
	if z.Path != "" {
		if _, err := outline.Parse(z.Path); err != nil {
			c.fault(at+".path", err.Error(), nil)
		}
	}
	if z.Count < 0 || z.Count > 40 || z.AreaCm2 < 0 || z.AreaCm2 > 20000 || math.IsNaN(z.AreaCm2) {
		c.fault(at+".count", "there are 1 to 40 of them, of up to 20000 cm²", z.Count)
	}
}
