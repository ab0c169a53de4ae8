package recipe

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"umberfrost/internal/craft/calendar"
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
	c.ways("ways", w.Ways, true, "")
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
	c.parts(w)
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
	if w.gluedFirst() {
		for i, z := range w.piece(Neck).Regions {
			if z.Name != "fretboard" && slices.Contains(w.piece(Body).names(), z.Name) {
				c.fault(fmt.Sprintf("pieces[%d].regions[%d].name", slices.IndexFunc(w.Pieces,
					func(p PieceWish) bool { return p.Kind == Neck }), i),
					"body and neck are finished as one: give each region a name of its own", z.Name)
				return
			}
		}
	}
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

// ways looks at schools that were chosen: of the instrument, of a piece, or of a layer with an effect.
func (c *checker) ways(path string, ways map[string]string, whole bool, of Effect) {
	for _, id := range slices.Sorted(maps.Keys(ways)) {
		option := ways[id]
		if t, found := findTopic(id); !found || t.whole != whole || t.of != of || structural(id) {
			c.fault(path+"."+id, "there is no such choice between schools here", id)
			continue
		}
		var options []string
		for _, s := range SchoolsOf(id) {
			options = append(options, s.Option)
		}
		c.oneOf(path+"."+id, option, options)
	}
}

// structural reports whether a topic is chosen by the stack itself.
func structural(id string) bool {
	switch id {
	case "figure", "colour-as", "burst", "pores", "fill-order", "method":
		return true
	}
	return false
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
			c.fault(path+"."+size.field, fmt.Sprintf("the %s of a %s is from %s to %s", size.field, p.Kind, limit[0].String(),
				limit[1].String()), size.entered)
		}
	}
	c.ways(path+".ways", p.Ways, false, "")
	c.wood(path+".wood", p.Wood)
	c.found(path+".found", p.Found)
	c.regions(path, p)
	if len(p.Layers) == 0 {
		if _, err := FindPreset(or(p.Preset, Presets[0].ID)); err != nil {
			var ids []string
			for _, known := range Presets {
				ids = append(ids, known.ID)
			}
			c.oneOf(path+".preset", p.Preset, ids)
		}
	}
	seen := make(map[string]bool)
	for i := range p.Layers {
		at := fmt.Sprintf("%s.layers[%d]", path, i)
		if l := &p.Layers[i]; seen[l.ID] {
			c.fault(at+".id", "each layer of a piece has an id of its own", l.ID)
		} else {
			c.layer(at, p, l)
		}
		seen[p.Layers[i].ID] = true
	}
	for i, z := range p.Regions {
		if z.CutAfter != "" && !seen[z.CutAfter] {
			c.fault(fmt.Sprintf("%s.regions[%d].cutAfter", path, i), "it is cut after a layer of its piece: say its id", z.CutAfter)
		}
	}
}
