package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// Fault is one choice that cannot be accepted: where, and what would be.
type Fault struct {
	Path    string // "pieces[0].wood"
	Message string
	Value   any
}

// checker gathers the faults of a wish. What is refused would spoil the work, or
// says nothing that could be done; where practice only differs there are schools.
type checker struct {
	faults []Fault
}

func (c *checker) fault(path, message string, value any) {
	c.faults = append(c.faults, Fault{path, message, value})
}

func (c *checker) oneOf(path, value string, list []string) {
	if value != "" && !slices.Contains(list, value) {
		c.fault(path, "choose one of "+strings.Join(list, ", "), value)
	}
}

// checkWish looks at a wish, before it is completed.
func checkWish(w Wish) []Fault {
	var c checker
	c.oneOf("joint", w.Joint, Joints)
	c.oneOf("standard", w.Standard, Standards)
	c.oneOf("hand", w.Hand, Hands)
	c.oneOf("frets", w.Frets, FretLooks)
	c.oneOf("fretWire", w.FretWire, FretWires)
	c.oneOf("cavities", w.Cavities, CavityLinings)
	c.ways("ways", w.Ways, true)
	if len(w.Pieces) == 0 {
		c.fault("pieces", "choose at least a body or a neck", nil)
	}
	seen := make(map[PieceKind]bool)
	for i, p := range w.Pieces {
		path := fmt.Sprintf("pieces[%d]", i)
		switch {
		case p.Kind != Body && p.Kind != Neck:
			c.fault(path+".kind", "choose body or neck", p.Kind)
		case seen[p.Kind]:
			c.fault(path+".kind", "an instrument has one body and one neck at most", p.Kind)
		default:
			c.piece(path, p)
		}
		seen[p.Kind] = true
	}
	if b := w.Board; b != nil {
		c.wood("board.wood", b.Wood)
		c.oneOf("board.finish", b.Finish, Boards)
		if !seen[Neck] {
			c.fault("board", "a fretboard goes with a neck: choose a neck too", b.Wood)
		}
	}
	if w.Frets != "" && w.Frets != "none" && !seen[Neck] {
		c.fault("frets", "frets go with a neck: choose a neck too", w.Frets)
	}
	if w.Cavities != "" && w.Cavities != "none" && !seen[Body] {
		c.fault("cavities", "cavities go with a body: choose a body too", w.Cavities)
	}
	for i, a := range w.Arrivals {
		if strings.TrimSpace(a.What) == "" || a.Expected == (calendar.Day{}) || a.SpreadDays < 0 || a.SpreadDays > 366 {
			c.fault(fmt.Sprintf("arrivals[%d]", i),
				"say what is on order, the day it is expected, and how many days later it may come, 0 to 366", a.What)
		}
	}
	if len(c.faults) == 0 {
		c.whole(w.ready())
	}
	return c.faults
}

// whole looks at what is finished in one go: each piece, or body and neck as one.
func (c *checker) whole(w Wish) {
	for i := range w.Pieces {
		p := &w.Pieces[i]
		if w.gluedFirst() {
			if p.Kind == Neck {
				continue
			}
			p = w.glued()
		}
		c.possible(fmt.Sprintf("pieces[%d]", i), p)
	}
}

func (c *checker) wood(path, id string) {
	if _, err := wood.Find(id); err != nil {
		c.fault(path, err.Error()+"; choose one of its ids, such as ash-swamp or maple-hard", id)
	}
}

func (c *checker) ways(path string, ways map[string]string, whole bool) {
	for id, option := range ways {
		if t, found := findTopic(id); !found || t.whole != whole {
			c.fault(path+"."+id, "there is no such choice between schools here", id)
			continue
		}
		var options []string
		for _, s := range SchoolsOf(id) {
			options = append(options, s.Option)
		}
		if id == "method" {
			options = append(options, string(material.Pad))
		}
		c.oneOf(path+"."+id, option, options)
	}
}

// limits of the sizes that make sense, in mm.
var limits = map[PieceKind]map[string][2]unit.Millimetre{
	Body: {"length": {250, 800}, "width": {150, 600}, "thickness": {10, 150}},
	Neck: {"length": {200, 1200}, "width": {30, 120}},
}

func (c *checker) piece(path string, p PieceWish) {
	for _, size := range []struct{ field, entered string }{{"length", p.Length}, {"width", p.Width}, {"thickness", p.Thickness}} {
		limit, asked := limits[p.Kind][size.field]
		if !asked {
			continue
		}
		length, err := unit.ParseLength(size.entered)
		switch {
		case err != nil:
			c.fault(path+"."+size.field, err.Error(), size.entered)
		case length < limit[0] || length > limit[1]:
			c.fault(path+"."+size.field, fmt.Sprintf("the %s of a %s is from %s to %s", size.field, p.Kind, limit[0].Text(),
				limit[1].Text()), size.entered)
		}
	}
	c.oneOf(path+".look", p.Look, Looks)
	c.oneOf(path+".sheen", p.Sheen, Sheens)
	c.oneOf(path+".clear", p.Clear, Clears)
	c.ways(path+".ways", p.Ways, false)
	names := regionNames(p.Kind)
	for i, z := range p.Regions {
		at := fmt.Sprintf("%s.regions[%d]", path, i)
		c.oneOf(at+".name", z.Name, names)
		c.oneOf(at+".sheen", z.Sheen, Sheens)
		if z.Wood != "" {
			c.wood(at+".wood", z.Wood)
		}
	}
	c.wood(path+".wood", p.Wood)
}

// possible refuses what would spoil the work for certain. What practice differs on is composed,
// with a word on it (see disputed).
func (c *checker) possible(path string, p *PieceWish) {
	clear := p.family()
	if by := p.method(); !slices.Contains(clear.Methods, by) {
		c.fault(path+".ways.method", fmt.Sprintf("%s is not put on like that; choose one of %s", clear.Named(), methodsText(clear)),
			string(by))
	}
	for _, w := range p.timbers() {
		switch {
		case !w.Drinks() && !builds(clear):
			c.fault(path+".clear", fmt.Sprintf("%s takes up no oil; choose a clear that builds a film, such as water-clear or urethane-2k",
				w.Name), p.Clear)
		case !w.Drinks() && slices.Contains([]string{"one-colour", "grain-colour", "charred"}, p.Look):
			c.fault(path+".look", fmt.Sprintf("%s takes up no colour; choose natural, burst, solid or flake", w.Name), p.Look)
		case !w.Drinks() && p.Look == "burst" && !p.sprays():
			c.fault(path+".look", fmt.Sprintf("a burst is sprayed on %s, which takes up no colour; spray the clear, or choose another look",
				w.Name), p.Look)
		}
	}
	switch {
	case p.Look == "flake" && p.Clear != "urethane-2k":
		c.fault(path+".clear", "rough flake cannot be scuffed without slicing it: bury it in the two-part clear it lies in, urethane-2k",
			p.Clear)
	case (p.Look == "flake" || p.Look == "solid") &&
		!slices.Contains([]string{"nitro", "acrylic-lacquer", "urethane-2k", "water-clear", "polyester-uv"}, p.Clear):
		c.fault(path+".clear",
			fmt.Sprintf("%s does not go over a solid base coat; choose nitro, acrylic-lacquer, urethane-2k, water-clear or polyester-uv",
				clear.Named()), p.Clear)
	case p.charred() && !builds(clear):
		c.fault(path+".clear",
			"char is sealed before anything is wiped on, and oil does not soak into a sealed face; choose a clear that builds a film",
			p.Clear)
	case slices.Contains([]string{"solid", "flake"}, p.Look) && !p.sprays():
		c.fault(path+".ways.method", "base coat and flake are sprayed; choose spray or aerosol", string(p.method()))
	case p.Clear == "shellac" && slices.Contains(p.sheens(), "matte"):
		c.fault(path+".sheen", "padded shellac ends glossy and is rubbed to satin at most; choose satin or gloss", p.Sheen)
	case p.heatSoft() && (clear.Kinetics == material.UV || p.Clear == "polyester-2k"):
		c.fault(path+".clear", fmt.Sprintf("%s softens from %s, and this resin heats as it sets; choose water-clear or urethane-2k",
			p.softest().Name, p.softest().Softens.Text()), p.Clear)
	}
}

// softest is the first of its woods that a wheel's heat softens.
func (p *PieceWish) softest() wood.Wood {
	for _, w := range p.timbers() {
		if w.Softens != nil && *w.Softens < wheelHeat {
			return w
		}
	}
	return wood.Wood{}
}

func methodsText(f material.Family) string {
	var names []string
	for _, m := range f.Methods {
		names = append(names, string(m))
	}
	return strings.Join(names, ", ")
}
