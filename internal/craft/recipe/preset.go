package recipe

import (
	"fmt"
	"slices"

	"umberfrost/internal/craft/material"
)

// Preset is a stack to begin from, nothing more.
type Preset struct {
	ID     string  `json:"id"`
	Text   string  `json:"text"`
	Layers []Layer `json:"layers" doc:"from the wood upwards"`
}

// Presets lists them, the plainest first. The clear of each is what many end it in.
var Presets = []Preset{
	{"natural", "Natural", stack(ending("clear", "water-clear", "satin"))},
	{"one-colour", "One colour", stack(colourLayer("colour", "even", ""), ending("clear", "water-clear", "satin"))},
	{"grain-colour", "Dark in the grain", stack(colourLayer("dark", "grain", ""), colourLayer("colour", "even", ""),
		ending("clear", "water-clear", "satin"))},
	{"burst", "Burst", stack(colourLayer("colour", "even", ""), colourLayer("burst", "burst", ""), ending("clear", "nitro", "gloss"))},
	{"solid", "Solid colour", stack(colourLayer("base", "even", "opaque"), ending("clear", "urethane-2k", "gloss"))},
	{"flake", "Flake", stack(colourLayer("base", "even", "opaque"), Layer{ID: "flake", Effect: EffectFlake},
		ending("clear", "urethane-2k", "gloss"))},
	{"charred", "Charred", stack(Layer{ID: "char", Effect: EffectFlame, As: "all"}, ending("clear", "water-clear", "satin"))},
	{"fade", "Fade along a line", stack(colourLayer("colour", "fade", "water"), ending("clear", "hardwax-oil", "satin"))},
	{"wet-burst", "Burst rubbed in by hand", stack(colourLayer("colour", "even", "water"),
		Layer{ID: "burst", Effect: EffectColour, As: "burst", Method: material.Wipe, Wet: true}, ending("clear", "water-clear", "gloss"))},
	{"airbrush", "Airbrushed over a sealed face", stack(colourLayer("airbrush", "burst", "airbrush"),
		ending("clear", "water-clear", "satin"))},
	{"candy", "Candy over a metallic base", stack(colourLayer("base", "even", "opaque"), Layer{ID: "candy", Effect: EffectCandy},
		ending("clear", "urethane-2k", "gloss"))},
	{"strewn", "Flake under strewn grains", stack(colourLayer("base", "even", "opaque"), Layer{ID: "flake", Effect: EffectFlake},
		Layer{ID: "grains", Effect: EffectParticles, As: "stencil", Of: "grain-100"}, ending("clear", "urethane-2k", "gloss"))},
	{"leaf", "Metal leaf", stack(Layer{ID: "leaf", Effect: EffectLeaf, Of: "brass-oil-fast"}, ending("clear", "water-clear", "gloss"))},
	{"oil-shellac", "Oil and shellac in turn", []Layer{{ID: "rounds", Effect: EffectRounds, As: "oil-shellac", Sheen: "satin"},
		{ID: "wax", Effect: EffectWax}}},
	{"amber-resin", "Amber resin to a mirror", stack(Layer{ID: "tint", Effect: EffectTint, Family: "tinted-uv"},
		ending("clear", "polyester-uv", "gloss"))},
	{"cast", "Cast in resin", stack(Layer{ID: "pour", Effect: EffectPour, Of: "medium-epoxy", Depth: "8 mm"},
		ending("clear", "urethane-2k", "gloss"))},
	{"bare", "Bare", []Layer{}},
}

// stack puts the filling of pores where its preset wants it: after colour that goes into the wood,
// tinted where that is dark in the grain, and before any that hides it.
func stack(layers ...Layer) []Layer {
	fill := Layer{ID: "fill", Effect: EffectFill}
	at := 0
	for i, l := range layers {
		if (l.Effect == EffectColour && !l.opaque() && !l.airbrushed()) || l.Effect == EffectFlame {
			at = i + 1
		}
		fill.Tinted = fill.Tinted || l.grain()
	}
	return slices.Insert(slices.Clone(layers), at, fill)
}

func colourLayer(id, as, carrier string) Layer {
	return Layer{ID: id, Effect: EffectColour, As: as, Carrier: carrier}
}

func ending(id, family, sheen string) Layer {
	return Layer{ID: id, Effect: EffectClear, Family: family, Sheen: sheen}
}

// FindPreset returns the preset with this id.
func FindPreset(id string) (Preset, error) {
	for _, p := range Presets {
		if p.ID == id {
			return p, nil
		}
	}
	return Preset{}, fmt.Errorf("there is no preset %q", id)
}

// From is the piece with the stack of a preset; what it ends in, and texture and wax, stay as they were
// where it had a stack before.
func (p PieceWish) From(id string) PieceWish {
	preset, err := FindPreset(id)
	if err != nil {
		return p // the check says so
	}
	before := p.Layers
	p.Preset, p.Layers = id, slices.Clone(preset.Layers)
	for _, l := range before {
		switch {
		case l.Effect == EffectTexture:
			p.Layers = slices.Insert(p.Layers, 0, l)
		case l.Effect == EffectWax && p.layer(EffectWax) == nil:
			p.Layers = append(p.Layers, l)
		case l.Effect == EffectClear:
			for i := range p.Layers {
				if p.Layers[i].Effect == EffectClear {
					l.ID = p.Layers[i].ID
					p.Layers[i] = l
				}
			}
		}
	}
	return p
}

// Ending is the piece with another clear, in a sheen.
func (p PieceWish) Ending(family, sheen string) PieceWish {
	p = p.stacked()
	for i := range p.Layers {
		if l := &p.Layers[i]; l.Effect == EffectClear {
			l.Family, l.Sheen = or(family, l.Family), or(sheen, l.Sheen)
		}
	}
	return p
}

// Chosen is the piece with a school chosen, of a topic that is one of a piece.
func (p PieceWish) Chosen(topic, option string) PieceWish {
	w := Wish{Pieces: []PieceWish{p}}
	return w.With(topic, p.Kind, option).Pieces[0]
}

// Archetype is a wish to begin from: a way that many finishers know by its look.
type Archetype struct {
	ID      string
	Title   string
	Summary string
	Wish    Wish
}

func body(timber string) PieceWish {
	return PieceWish{Kind: Body, Wood: timber, Length: "480 mm", Width: "330 mm", Thickness: "44 mm"}
}

func neck(timber string) PieceWish {
	return PieceWish{Kind: Neck, Wood: timber, Length: "650 mm", Width: "51 mm"}
}

// Archetypes lists them: the six of the job, each as a whole instrument.
func Archetypes() []Archetype {
	grain := body("ash-swamp").From("grain-colour").Ending("water-clear", "satin")
	bare := neck("maple-hard").From("natural").Ending("hardwax-oil", "satin")

	burst := body("alder-red").From("burst").Ending("nitro", "gloss")
	amber := neck("maple-hard").From("natural").Ending("nitro", "gloss")

	oiled := body("walnut-black").From("natural").Ending("finishing-oil", "satin")
	waxed := neck("walnut-black").From("natural").Ending("hardwax-oil", "matte")

	solid := body("basswood").From("solid").Ending("urethane-2k", "gloss")
	fast := neck("maple-roasted").From("natural").Ending("urethane-2k", "satin")

	dyed := neck("maple-hard").From("one-colour").Ending("wipe-varnish", "satin")
	dyed.Figured = true
	varnished := body("sapele").From("one-colour").Ending("wipe-varnish", "satin")

	glassy := body("mahogany-genuine").From("one-colour").Ending("water-clear", "gloss")

	return []Archetype{
		{"grain-colour", "Dark in the grain, colour above it, waterborne",
			"Dark colour rubbed back so that it stays in pores and figure, a washcoat, the main colour, tinted filler, a toner and " +
				"waterborne clear. The neck bare to the touch.",
			Wish{Pieces: []PieceWish{grain, bare}, Board: &BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil"}, Frets: "brushed"}},
		{"lacquer-burst", "A burst under lacquer",
			"Sealer, a burst of shading coats, lacquer with a long cure, levelled and brought up with compounds.",
			Wish{Pieces: []PieceWish{burst, amber}, Board: &BoardWish{Wood: "maple-hard", Finish: "under-film"}, Frets: "mirror"}},
		{"oil", "Oil, sheen by coats",
			"Finishing oil in the body, hard-wax oil on the neck; open pores, nothing sprayed, glossier with each coat.",
			Wish{Pieces: []PieceWish{oiled, waxed}, Board: &BoardWish{Wood: "rosewood-indian", Finish: "conditioning-oil"}}},
		{"two-part", "Solid colour under two-part clear",
			"Base coat and two-part clear in a shared booth, with film to spare for a new hand.",
			Wish{Hand: "new", Pieces: []PieceWish{solid, fast}, Board: &BoardWish{Wood: "pau-ferro", Finish: "oil-shellac-wax"},
				Frets: "mirror", Cavities: "paint"}},
		{"wiped-varnish", "Wiped varnish over dyed wood",
			"Dye, then thin coats of varnish wiped on; no gun, no booth. Side dots are scraped clear.",
			Wish{Pieces: []PieceWish{varnished, dyed}, Board: &BoardWish{Wood: "ebony-gaboon", Finish: "hardened"}, Frets: "brushed",
				Cavities: "foil"}},
		{"filled-gloss", "Dyed, filled flat, waterborne gloss",
			"Dye on open-pored wood, pores filled flat, waterborne clear levelled half-way and buffed.",
			Wish{Pieces: []PieceWish{glassy, bare}}},
	}
}

// text says in a few words what is wished of a piece: what shows first, its sheen, what it ends in.
func (p *PieceWish) text() string {
	look := "Natural"
	for _, known := range []struct {
		text  string
		holds func(*Layer) bool
	}{
		{"Charred", func(l *Layer) bool { return l.Effect == EffectFlame && l.kind() == "all" }},
		{"Strewn grains", func(l *Layer) bool { return l.Effect == EffectParticles }},
		{"Metal leaf", func(l *Layer) bool { return l.Effect == EffectLeaf }},
		{"Cast", func(l *Layer) bool { return l.Effect == EffectPour }},
		{"Candy", func(l *Layer) bool { return l.Effect == EffectCandy }},
		{"Flake", func(l *Layer) bool { return l.Effect == EffectFlake }},
		{"Burst", (*Layer).burst},
		{"Fade", func(l *Layer) bool { return l.Effect == EffectColour && l.kind() == "fade" }},
		{"Dark in the grain", (*Layer).grain},
		{"Solid colour", (*Layer).opaque},
		{"One colour", (*Layer).even},
		{"Airbrushed", (*Layer).airbrushed},
	} {
		if p.find(known.holds) != nil {
			look = known.text
			break
		}
	}
	if even := slices.DeleteFunc(p.layers(EffectColour), func(l *Layer) bool { return !l.even() }); look == "One colour" && len(even) > 1 {
		look = fmt.Sprintf("%d colours", len(even))
	}
	switch {
	case p.clear == nil:
		return look + ", bare"
	case p.clear.Effect == EffectRounds:
		return fmt.Sprintf("%s, %s, %s", look, p.clear.Sheen, map[string]string{"oil": "oil until it is even",
			"oil-shellac": "oil and shellac in turn"}[p.clear.kind()])
	}
	return fmt.Sprintf("%s, %s, %s", look, p.clear.Sheen, p.family().Named())
}
