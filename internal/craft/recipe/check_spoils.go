package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/wood"
)

// possible refuses what would spoil the work for certain. What practice differs on is composed,
// with a word on it (see disputed).
func (c *checker) possible(path string, p *PieceWish) {
	for i := range p.Layers {
		l := &p.Layers[i]
		if l.Off {
			continue
		}
		at := fmt.Sprintf("%s.layers[%d]", path, i)
		switch {
		case l.Effect == EffectClear:
			c.ends(at, p.ending(l))
		case l.Effect == EffectRounds && l.kind() == "oil":
			c.oils(at, p.ending(l))
		case l.Effect == EffectFlame:
			c.flames(at, p, l)
		case l.Effect == EffectColour:
			c.coloured(at, p, l)
		case l.Effect == EffectWear:
			c.wearing(at, p, l)
		case l.Effect == EffectPatch:
			c.patching(at, p, l)
		case l.Effect == EffectParticles && l.Family != "" && !slices.Contains(flake.Holders(), l.Family):
			c.fault(at+".family", "it holds no grains; choose one of "+strings.Join(flake.Holders(), ", "), l.Family)
		}
		if sprayedOnly(l) && p.clear != nil && !p.sprays() && l.Effect != EffectColour {
			c.fault(at+".effect", fmt.Sprintf("%s is sprayed: spray the clear above it, or choose another effect", l.Effect),
				string(p.method()))
		}
	}
	c.covered(path, p)
	c.uncovered(path, p)
}

// uncovered refuses what lies above the last clear of a region, and would be levelled and rubbed away
// with it.
func (c *checker) uncovered(path string, p *PieceWish) {
	for _, name := range p.names() {
		z := Region{Region: job.Region{Name: name}}
		last := -1
		for i := range p.Layers {
			l := &p.Layers[i]
			switch {
			case l.Off || !p.reaches(l, z):
			case l.Effect.ends():
				last = i
			case last >= 0 && l.Effect.colours() && l.Effect != EffectTexture && l.Effect != EffectFlame &&
				!slices.ContainsFunc(p.Layers[i:], func(o Layer) bool {
					return o.Effect.ends() && !o.Off && p.reaches(&o, z)
				}):
				c.fault(fmt.Sprintf("%s.layers[%d].effect", path, i),
					fmt.Sprintf("it lies above the last clear of the %s and would be rubbed away: move it below, or lay a clear over it",
						name),
					l.Effect)
				return
			}
		}
	}
}

// sprayedOnly reports whether what a layer is goes on from a gun or a can only.
func sprayedOnly(l *Layer) bool {
	return l.opaque() || l.airbrushed() || l.Effect == EffectFlake || l.Effect == EffectCandy
}

// ends looks at a clear with what it lies on.
func (c *checker) ends(at string, p *PieceWish) {
	clear := p.family()
	if by := p.method(); !slices.Contains(clear.Methods, by) {
		c.fault(at+".method", fmt.Sprintf("%s is not put on like that; choose one of %s", clear.Named(), methodsText(clear)),
			string(by))
	}
	for _, w := range p.timbers() {
		if !w.Drinks() && !builds(clear) && p.layer(EffectPour) == nil {
			c.fault(at+".family", fmt.Sprintf("%s takes up no oil; choose a clear that builds a film, such as water-clear or urethane-2k",
				w.Name), clear.ID)
		}
	}
	if !builds(clear) {
		c.oils(at, p)
	}
	over := func(effects ...Effect) bool {
		return slices.ContainsFunc(p.layers(effects...), func(l *Layer) bool { return l.meets(p.clear) })
	}
	opaque := p.find(func(l *Layer) bool { return l.opaque() && l.Family == "" && l.meets(p.clear) }) != nil
	switch {
	case over(EffectFlake) && clear.ID != "urethane-2k":
		c.fault(at+".family", "rough flake cannot be scuffed without slicing it: bury it in the two-part clear it lies in, urethane-2k",
			clear.ID)
	case opaque &&
		!slices.Contains([]string{"nitro", "acrylic-lacquer", "urethane-2k", "water-clear", "polyester-uv"}, clear.ID):
		c.fault(at+".family",
			fmt.Sprintf("%s does not go over a solid base coat; choose nitro, acrylic-lacquer, urethane-2k, water-clear or polyester-uv",
				clear.Named()), clear.ID)
	case p.charred() && !builds(clear):
		c.fault(at+".family",
			"char is sealed before anything is wiped on, and oil does not soak into a sealed face; choose a clear that builds a film",
			clear.ID)
	case clear.ID == "shellac" && slices.Contains(p.sheens(), "matte"):
		c.fault(at+".sheen", "padded shellac ends glossy and is rubbed to satin at most; choose satin or gloss", p.clear.Sheen)
	case p.asItIs() && clear.ID == "shellac" && p.dulls():
		c.fault(at+".sheen", "padded shellac dries glossy; left as it is it stays so: choose gloss", p.clear.Sheen)
	case p.asItIs() && !builds(clear):
		c.fault(at+".as", "an oil builds no film to be left as it is: leave this open", p.clear.As)
	case p.heatSoft() && (clear.Kinetics == material.UV || clear.ID == "polyester-2k"):
		c.fault(at+".family", fmt.Sprintf("%s softens from %s, and this resin heats as it sets; choose water-clear or urethane-2k",
			p.softest().Name, p.softest().Softens.String()), clear.ID)
	}
}

// oils looks at the coats of an oil: its gloss is in them.
func (c *checker) oils(at string, p *PieceWish) {
	f := p.family()
	if n := p.clear.Coats; n > 0 && p.shines() && n < oilCoats(f, "gloss") {
		c.fault(at+".coats", fmt.Sprintf("an oil shines by its coats: %s for gloss, or choose satin or matte",
			phrase.Plural(oilCoats(f, "gloss"), "coat")), n)
	}
}

// flames looks at a flame: on wood only, before anything else is on it, and never where nobody knows what is in it.
func (c *checker) flames(at string, p *PieceWish, l *Layer) {
	for _, name := range p.names() {
		z := p.region(name)
		if len(l.Regions) > 0 && !slices.Contains(l.Regions, name) {
			continue
		}
		found := or(z.Found, p.Found)
		if unknownTreatment(found) {
			c.fault(at+".regions", fmt.Sprintf("no flame on a surface found %s: nobody knows what was put on it, and it may burn or poison",
				found), name)
			return
		}
		if w, err := wood.Find(or(z.Wood, p.Wood)); err == nil && !w.Drinks() && len(l.Regions) > 0 {
			c.fault(at+".regions", fmt.Sprintf("%s does not char, it burns or melts: leave %s out", w.Name, name), name)
			return
		}
	}
	if !p.drinks() {
		c.fault(at+".effect", fmt.Sprintf("%s takes no flame; choose another effect", p.timber().Name), l.Effect)
	}
	for _, below := range p.layers() {
		if below == l || below.ID == l.ID {
			return
		}
		dye := below.Effect == EffectColour && p.inWood(below) && !slices.Contains([]string{"spirit", "oil", "bound"}, below.carrier())
		switch {
		case !below.meets(l) || below.Effect == EffectMend || below.Effect == EffectTexture || below.Effect == EffectFlame || onWood(below):
		case dye && l.kind() == "accents" && l.Because != "":
		case dye && l.kind() == "accents":
			c.fault(at+".because", "accents over a water dye are burnt only when that is bone dry and unbound: say why it is wished on "+
				"purpose, or move the flame below", l.Because)
			return
		default:
			c.fault(at+".effect", "a flame comes before spirit, oil and film: move it below "+below.ID, l.Effect)
			return
		}
	}
}

// coloured looks at a colour on what cannot take it up.
func (c *checker) coloured(at string, p *PieceWish, l *Layer) {
	for _, w := range p.timbers() {
		switch {
		case w.Drinks():
		case l.even() && w.ID == p.Wood && p.find(func(o *Layer) bool { return o.burst() }) == nil, l.grain() && w.ID == p.Wood:
			c.fault(at+".effect", fmt.Sprintf("%s takes up no colour; choose natural, burst, solid or flake", w.Name), l.Effect)
		case l.burst() && !l.airbrushed() && w.ID == p.Wood && !p.sprays():
			c.fault(at+".method", fmt.Sprintf("a burst is sprayed on %s, which takes up no colour; spray the clear, or choose another "+
				"effect",
				w.Name), l.Effect)
		}
	}
	if l.grain() && l.Family != "" && !soaks(l.Family) {
		c.fault(at+".family", "what stays in the grain is rubbed back: choose water-dye, solvent-dye, water-stain or oil-stain", l.Family)
	}
	if sprayedOnly(l) && p.clear != nil && !p.sprays() {
		c.fault(at+".method", "base coat and airbrushed colour are sprayed; choose spray or aerosol for the clear above",
			string(p.method()))
	}
}

// covered looks at what lies over wax, and over what ends a region.
func (c *checker) covered(path string, p *PieceWish) {
	for i := range p.Layers {
		l := &p.Layers[i]
		if l.Off || l.Effect != EffectWax {
			continue
		}
		for k := i + 1; k < len(p.Layers); k++ {
			if over := &p.Layers[k]; !over.Off && over.Effect != EffectWax && over.meets(l) {
				c.fault(fmt.Sprintf("%s.layers[%d].effect", path, k), "nothing holds on wax: move it below the wax", over.Effect)
				return
			}
		}
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
