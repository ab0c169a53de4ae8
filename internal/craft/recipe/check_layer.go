package recipe

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/aging"
	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/part"
	"umberfrost/internal/craft/resin"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

var layerID = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,39}$`)

// layer looks at one layer by itself.
func (c *checker) layer(at string, p PieceWish, l *Layer) {
	if !layerID.MatchString(l.ID) {
		c.fault(at+".id", "an id has 1 to 40 small letters, figures and dashes", l.ID)
	}
	kinds, known := kindsOf[l.Effect]
	if !known && !slices.Contains(effects, l.Effect) {
		var names []string
		for _, e := range effects {
			names = append(names, string(e))
		}
		c.fault(at+".effect", "choose one of "+strings.Join(names, ", "), l.Effect)
		return
	}
	if known {
		c.oneOf(at+".as", l.As, kinds)
	} else if l.As != "" {
		c.fault(at+".as", "there is only one kind of "+string(l.Effect), l.As)
	}
	names := p.names()
	for i, name := range l.Regions {
		c.oneOf(fmt.Sprintf("%s.regions[%d]", at, i), name, names)
	}
	if l.Carrier != "" && l.Effect != EffectColour {
		c.fault(at+".carrier", "only a colour has a carrier", l.Carrier)
	}
	c.oneOf(at+".carrier", l.Carrier, slices.Sorted(maps.Keys(carriers)))
	if l.Effect == EffectColour && l.Carrier != "" && l.Family != "" && carriedBy[l.Family] != l.Carrier && carriedBy[l.Family] != "" {
		c.fault(at+".carrier", fmt.Sprintf("%s is carried by %s: leave one of the two open", l.Family, carriedBy[l.Family]), l.Carrier)
	}
	c.oneOf(at+".sheen", l.Sheen, Sheens)
	switch choices := familiesOf[l.Effect]; {
	case l.Effect == EffectClear:
		c.oneOf(at+".family", l.Family, Clears)
	case len(choices) > 0:
		c.oneOf(at+".family", l.Family, choices)
	case l.Family != "":
		c.fault(at+".family", "the rules choose the material of "+string(l.Effect), l.Family)
	}
	if l.Coats < 0 || l.Coats > 50 || l.FilmUm < 0 || l.FilmUm > 3000 || l.FilmUm != l.FilmUm {
		c.fault(at+".coats", "0 to 50 coats, or a film of 0 to 3000 µm", l.Coats)
	}
	if len(l.Places) > 0 && l.Effect != EffectWear {
		c.fault(at+".places", "only wear has places", l.Places)
	}
	c.ways(at+".ways", l.Ways, false, l.Effect)
	c.row(at, l)
	if _, err := abrasive.Find(l.Grit); l.Grit != "" && err != nil {
		c.fault(at+".grit", err.Error(), l.Grit)
	}
}

// row looks at the row of a table that a layer names.
func (c *checker) row(at string, l *Layer) {
	var err error
	switch l.Effect {
	case EffectMend:
		var m surface.Mend
		if m, err = surface.FindMend(l.Of); err == nil && m.InFilm {
			err = fmt.Errorf("%s mends a film that lies there; before a finish, choose a mend of the wood", l.Of)
		}
	case EffectFlake, EffectParticles:
		if l.Of == "" {
			return
		}
		var g flake.Grain
		if g, err = flake.Find(l.Of); err == nil && g.Sprinkled != (l.Effect == EffectParticles) {
			err = fmt.Errorf("%s %s; choose another", l.Of, map[bool]string{true: "falls dry on tack: it is strewn, as particles",
				false: "lies flat in a flowing coat: it is flake"}[g.Sprinkled])
		}
	case EffectLeaf:
		if l.Of != "" {
			_, err = leaf.Find(l.Of)
		}
	case EffectPour:
		if l.Of != "" {
			_, err = resin.Find(l.Of)
		}
		if depth, wrong := unit.ParseLength(l.Depth); wrong != nil {
			c.fault(at+".depth", wrong.Error(), l.Depth)
		} else if depth <= 0 || depth > 100 {
			c.fault(at+".depth", "a pour is more than 0 and at most "+unit.Millimetre(100).String()+" deep", l.Depth)
		}
	case EffectWear:
		_, err = aging.Find(l.Of)
	default:
		if l.Of != "" {
			c.fault(at+".of", "only mends, flake, particles, leaf, pours and wear name a row of a table", l.Of)
		}
	}
	if err != nil {
		c.fault(at+".of", err.Error(), l.Of)
	}
}

// parts looks at the small parts.
func (c *checker) parts(w Wish) {
	seen := make(map[PieceKind]bool)
	for i, p := range w.Parts {
		at := fmt.Sprintf("parts[%d]", i)
		if seen[p.Kind] {
			c.fault(at+".kind", "small parts of a kind are one piece: say all of them in its name", p.Kind)
		}
		seen[p.Kind] = true
		var err error
		switch p.Kind {
		case Hardware:
			_, err = part.FindMetal(p.Of)
		case Plastics:
			_, err = part.FindPlastic(p.Of)
		case Fittings:
			_, err = wood.Find(p.Of)
			if w.piece(Body) == nil {
				c.fault(at+".kind", "wooden fittings follow the finish of a body: choose a body too", p.Kind)
			}
		default:
			c.fault(at+".kind", "choose one of hardware, plastics, fittings", p.Kind)
		}
		if err != nil {
			c.fault(at+".of", err.Error(), p.Of)
		}
		for j, do := range p.Do {
			c.oneOf(fmt.Sprintf("%s.do[%d]", at, j), do, partWork[p.Kind])
		}
		if p.AreaCm2 < 0 || p.AreaCm2 > 5000 || p.AreaCm2 != p.AreaCm2 {
			c.fault(at+".areaCm2", "0 to 5000 cm²", p.AreaCm2)
		}
	}
	for i, e := range w.Events {
		c.oneOf(fmt.Sprintf("events[%d]", i), e, Events)
		if e == "last-polish" && or(w.Frets, "none") == "none" {
			c.fault(fmt.Sprintf("events[%d]", i), "there are no frets to polish: choose how they are finished", e)
		}
	}
	if w.HangDays < 0 || w.HangDays > 60 {
		c.fault("hangDays", "it hangs 0 to 60 days", w.HangDays)
	}
}
