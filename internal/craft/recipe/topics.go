package recipe

import (
	"slices"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// topic is a choice between schools, and the layer whose choice it is.
type topic struct {
	id    string
	whole bool   // of the instrument, not of a piece
	of    Effect // of a layer of this effect; none: of the piece
}

// topics in the order in which they come up in the work. The board's topic is
// the choice of its finish, and the margin's a setting of the shop.
var topics = []topic{
	{"joining", true, ""}, {"holes", true, ""}, {"grain", false, ""}, {"figure", false, EffectColour}, {"colour-as", false, EffectColour},
	{"colour-on", false, EffectColour}, {"burst", false, EffectColour}, {"pores", false, EffectFill}, {"fill-with", false, EffectFill},
	{"fill-order", false, EffectFill}, {"method", false, EffectClear}, {"build", false, EffectClear}, {"flatting", false, EffectClear},
	{"cure-by", false, EffectClear}, {"levelling", false, EffectClear}, {"pads", false, EffectClear}, {"shine", false, EffectClear},
}

func findTopic(id string) (topic, bool) {
	for _, t := range topics {
		if t.id == id {
			return t, true
		}
	}
	return topic{}, false
}

// layerOf is the layer whose choice a topic is; nil where it is the piece's, or there is none.
func (p *PieceWish) layerOf(id string) *Layer {
	switch t, _ := findTopic(id); {
	case id == "burst":
		return p.find(func(l *Layer) bool { return l.burst() && !l.airbrushed() })
	case id == "figure":
		return p.find((*Layer).grain)
	case t.of == EffectColour:
		return p.find((*Layer).even)
	case t.of == EffectClear:
		return p.clear
	case t.of != "":
		return p.layer(t.of)
	}
	return nil
}

// single reports whether one even colour lies on the bare wood, alone.
func (p *PieceWish) single() bool {
	return p.find((*Layer).even) != nil && p.find((*Layer).grain) == nil && p.find((*Layer).burst) == nil && !p.covered()
}

// dark reports whether a colour in the grain lies below an even one.
func (p *PieceWish) dark() bool { return p.find((*Layer).grain) != nil && !p.covered() }

// warmed is its amber first coat; nil where there is none.
func (p *PieceWish) warmed() *Layer {
	return p.find(func(l *Layer) bool { return l.Effect == EffectSeal && l.kind() == "warm" })
}

// stands reports whether a topic is open in a wish, of a piece where it is one of
// a piece.
func stands(id string, w *Wish, p *PieceWish) bool {
	switch id {
	case "joining":
		return w.Joint == "set" && w.piece(Body) != nil && w.piece(Neck) != nil
	case "holes":
		return w.piece(Body) != nil
	case "grain":
		return p.drinks() && p.watered() && !p.charred()
	}
	if p.clear == nil || p.clear.Effect != EffectClear {
		return false
	}
	switch id {
	case "method":
		return true
	case "figure":
		return p.drinks() && builds(p.family()) && !p.charred() && (p.single() || p.dark() || !p.coloured())
	case "colour-as":
		return p.dark() || (p.single() && !p.toned(p.layerOf(id)))
	case "colour-on":
		return p.single() && builds(p.family())
	case "burst":
		return p.layerOf("burst") != nil && p.drinks()
	case "pores":
		return p.layer(EffectFill) != nil && p.openPored() && !p.charred() && (builds(p.family()) || !p.coloured())
	case "fill-with":
		return stands("pores", w, p) && p.way("pores") != "open" && builds(p.family())
	case "fill-order":
		return p.fills() && builds(p.family()) && !p.covered() && p.colourInWood() != nil
	case "build":
		return builds(p.family())
	case "flatting":
		return p.dulls() && builds(p.family()) && p.family().ID != "shellac" && !p.asItIs()
	case "pads":
		return p.dulls() && !p.flatted() && !p.asItIs()
	case "shine":
		return p.shines() && builds(p.family()) && !p.asItIs()
	}
	return p.rubsOut() // cure-by, levelling
}

// colourInWood is the first colour that goes into the wood.
func (p *PieceWish) colourInWood() *Layer { return p.find(p.inWood) }

// defaultOption is what is done in a topic where nobody has chosen: the cautious way.
func defaultOption(id string, w *Wish, p *PieceWish) string {
	switch id {
	case "joining":
		return "apart"
	case "holes":
		return "before"
	case "grain":
		return "wet"
	case "figure":
		return "none"
	case "colour-as":
		if p.dark() && builds(p.family()) {
			return "bound" // it goes over the washcoat that keeps the dark colour in the grain
		}
		return "dye"
	case "colour-on":
		if p.timber().BlotchRisk >= 3 {
			return "washcoat"
		}
		return "bare"
	case "burst":
		if p.sprays() {
			return "spray"
		}
		return "rub"
	case "pores":
		switch {
		case !stands("pores", w, p):
			return "open"
		case p.shinesMostly() && builds(p.family()), p.covered():
			return "full"
		case p.dark() && p.clear != nil && p.clear.Sheen == "satin":
			return "half"
		}
		return "open"
	case "fill-with":
		return "filler"
	case "fill-order":
		if p.dark() {
			return "tinted"
		}
		return "after"
	case "method":
		if f := p.family(); len(f.Methods) > 0 {
			return string(f.Methods[0])
		}
		return ""
	case "build":
		if p.shines() || w.Hand == "new" {
			return "margin"
		}
		return "few"
	case "flatting":
		if p.clear != nil && p.clear.Sheen == "matte" && p.sprays() {
			return "can"
		}
		return "rub"
	case "cure-by":
		return "calendar"
	case "levelling":
		return "dry"
	case "pads":
		return "synthetic"
	}
	if p.heatSoft() {
		return "papers"
	}
	return "compounds"
}

// shinesMostly reports whether its clear is wished to shine, whatever some region is.
func (p *PieceWish) shinesMostly() bool { return p.clear != nil && p.clear.Sheen == "gloss" }

// way is the school of the whole instrument in a topic: as chosen, or as is usual.
func (w *Wish) way(id string) string {
	if chosen := w.Ways[id]; chosen != "" {
		return chosen
	}
	return defaultOption(id, w, nil)
}

// way is the school of a piece in a topic: as chosen, or as is usual.
func (p *PieceWish) way(id string) string { return p.wayOf(p.layerOf(id), id) }

// wayOf is the school of a layer in a topic.
func (p *PieceWish) wayOf(l *Layer, id string) string {
	if chosen := p.chosen(l, id); chosen != "" {
		return chosen
	}
	return defaultOption(id, p.of, p)
}

// chosen is the school that somebody has chosen in a topic: what the stack itself says where that is
// how it is chosen, else the layer's or the piece's ways; empty where nobody has.
func (p *PieceWish) chosen(l *Layer, id string) string {
	switch id {
	case "figure":
		if l != nil {
			return "dark"
		} else if p.warmed() != nil {
			return "warm"
		}
	case "colour-as":
		if l != nil {
			return map[string]string{"water": "dye", "spirit": "dye", "bound": "bound", "stain": "stain", "oil": "stain"}[l.carrier()]
		}
	case "burst":
		if l != nil && l.Method != "" {
			return map[bool]string{true: "spray", false: "rub"}[l.Method == material.Spray || l.Method == material.Aerosol]
		}
	case "pores":
		if l != nil {
			return l.As
		}
	case "fill-order":
		return p.fillOrder(l)
	case "method":
		if l != nil {
			return string(l.Method)
		}
	case "grain":
		return p.Ways[id]
	default:
		if l != nil {
			return l.Ways[id]
		}
	}
	return ""
}

// fillOrder is where a filler lies to the colour in the wood.
func (p *PieceWish) fillOrder(fill *Layer) string {
	if fill == nil {
		return ""
	}
	for _, l := range p.layers() {
		switch {
		case l == fill:
			return "first"
		case p.inWood(l) && fill.Tinted:
			return "tinted"
		case p.inWood(l):
			return "after"
		}
	}
	return ""
}

// Choice is a topic that stands open in a wish, with the school that is followed.
type Choice struct {
	Topic  string
	Piece  PieceKind // empty: of the whole instrument
	Layer  string    // the layer whose choice it is; empty: the piece's
	Chosen string
	Usual  bool // it is what is done where nobody chooses
	Open   bool // nobody has chosen
	Ways   []School
}

// Choices lists the topics that stand open, in the order of the work.
func (w Wish) Choices() []Choice {
	w = w.ready()
	var list []Choice
	for _, t := range topics {
		if t.whole {
			if stands(t.id, &w, nil) {
				list = append(list, Choice{Topic: t.id, Chosen: w.way(t.id), Usual: w.way(t.id) == defaultOption(t.id, &w, nil),
					Open: w.Ways[t.id] == "",
					Ways: SchoolsOf(t.id)})
			}
			continue
		}
		for i := range w.Pieces {
			if p := &w.Pieces[i]; p.known() && stands(t.id, &w, p) {
				c := Choice{Topic: t.id, Piece: p.Kind, Chosen: p.way(t.id), Usual: p.way(t.id) == defaultOption(t.id, &w, p),
					Open: p.chosen(p.layerOf(t.id), t.id) == ""}
				if l := p.layerOf(t.id); l != nil {
					c.Layer = l.ID
				}
				for _, s := range SchoolsOf(t.id) {
					if p.can(s) {
						c.Ways = append(c.Ways, s)
					}
				}
				list = append(list, c)
			}
		}
	}
	return list
}

// can reports whether a school can be followed with what else was chosen.
func (p *PieceWish) can(s School) bool {
	switch s.Topic {
	case "method":
		return slices.Contains(p.family().Methods, material.Method(s.Option))
	case "figure":
		return (s.Option == "dark") == p.coloured() || s.Option == "none"
	case "colour-on":
		return s.Option != "toner" || p.sprays()
	case "burst":
		return s.Option != "spray" || p.sprays()
	case "colour-as":
		return s.Option != "bound" || builds(p.family())
	case "fill-with":
		return s.Option != "clear" || p.fineEnough()
	}
	return true
}

// fineEnough reports whether its pores are level with clear alone in few coats:
// shallow ones, or a resin that builds fast.
func (p *PieceWish) fineEnough() bool {
	deepest := unit.Micron(0)
	for _, w := range p.timbers() {
		deepest = max(deepest, w.PoreDepth)
	}
	return deepest <= 95 || p.family().TargetLeast >= 150
}
