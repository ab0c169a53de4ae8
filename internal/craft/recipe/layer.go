package recipe

import (
	"maps"
	"slices"

	"umberfrost/internal/craft/material"
)

// Effect is what a layer does.
type Effect string

// The effects, from the wood upwards as they usually lie.
const (
	EffectMend      Effect = "mend"
	EffectTexture   Effect = "texture"
	EffectFlame     Effect = "flame"
	EffectMark      Effect = "mark"
	EffectColour    Effect = "colour"
	EffectFill      Effect = "fill"
	EffectSeal      Effect = "seal"
	EffectFlake     Effect = "flake"
	EffectCandy     Effect = "candy"
	EffectParticles Effect = "particles"
	EffectLeaf      Effect = "leaf"
	EffectPour      Effect = "pour"
	EffectCloth     Effect = "cloth"
	EffectTint      Effect = "tint"
	EffectClear     Effect = "clear"
	EffectRounds    Effect = "rounds"
	EffectWear      Effect = "wear"
	EffectWax       Effect = "wax"
	EffectPatch     Effect = "patch"
)

// Layer is one thing that is wanted, on some regions, in its place between wood and air. What it
// leaves open is chosen by rule, the cautious way.
type Layer struct {
	ID      string            `json:"id" pattern:"^[a-z0-9][a-z0-9-]{0,39}$" doc:"for life, within its piece"`
	Effect  Effect            `json:"effect" enum:"mend,texture,flame,mark,colour,fill,seal,flake,candy,particles,leaf,pour,cloth,tint,clear,rounds,wear,wax,patch"`
	Regions []string          `json:"regions,omitempty" maxItems:"24" doc:"names; none: every region of its piece"`
	Off     bool              `json:"off,omitempty" doc:"switched off: kept, and not composed"`
	As      string            `json:"as,omitempty" maxLength:"40" doc:"which kind of it: a burst, a washcoat, brushed, as it is"`
	Carrier string            `json:"carrier,omitempty" enum:"water,spirit,oil,stain,bound,opaque,airbrush" doc:"of a colour"`
	Of      string            `json:"of,omitempty" maxLength:"40" doc:"the row of its table: a mend, a grain, a leaf, a resin, a way of aging"`
	Places  []string          `json:"places,omitempty" maxItems:"12" doc:"of wear: where on the map of places; none: all over its regions"`
	Family  string            `json:"family,omitempty" maxLength:"40" doc:"of a clear, or where another is wanted than the rules take"`
	Method  material.Method   `json:"method,omitempty" enum:"spray,aerosol,brush,wipe,pad,pour,drop"`
	Sheen   string            `json:"sheen,omitempty" enum:"matte,satin,gloss" doc:"of a clear; a region's own overrides it"`
	Coats   int               `json:"coats,omitempty" minimum:"0" maximum:"50" doc:"0: by rule; of a mend, how many there are"`
	FilmUm  float64           `json:"filmUm,omitempty" minimum:"0" maximum:"3000" doc:"of a clear: coats by the film that stays on a face"`
	Depth   string            `json:"depth,omitempty" maxLength:"40" doc:"of a pour, as typed: 12 mm"`
	Grit    string            `json:"grit,omitempty" maxLength:"40" doc:"what the coats below are sanded with before this group"`
	Colours []string          `json:"colours,omitempty" maxItems:"3" doc:"in words, the lightest first"`
	Tinted  bool              `json:"tinted,omitempty" doc:"of a filler: coloured as the grain"`
	Wet     bool              `json:"wet,omitempty" doc:"blended while damp, in one attended sitting"`
	Torn    bool              `json:"torn,omitempty" doc:"of leaf: laid in torn pieces"`
	Over    string            `json:"over,omitempty" maxLength:"80" doc:"of a pour or a mark: what lies in it, in words"`
	Ways    map[string]string `json:"ways,omitempty" doc:"the school chosen, by topic"`
	Because string            `json:"because,omitempty" maxLength:"200" doc:"why practice that others warn of is wished on purpose"`
}

// kindsOf lists what As may say of an effect, the usual one first.
var kindsOf = map[Effect][]string{
	EffectTexture:   {"brushed", "struck", "gouged", "sawn"},
	EffectFlame:     {"all", "accents"},
	EffectMark:      {"burnt", "engraved", "inlaid", "film", "signed", "serial"},
	EffectColour:    {"even", "grain", "fade", "burst", "wiped"},
	EffectFill:      {"", "open", "half", "full"},
	EffectSeal:      {"sealer", "washcoat", "barrier", "warm"},
	EffectParticles: {"free", "stencil"},
	EffectClear:     {"", "as-it-is"},
	EffectRounds:    {"oil", "oil-shellac"},
	EffectPatch:     {"drop", "touch-up", "panel"},
}

// families that a layer may name, where its effect lets one choose.
var familiesOf = map[Effect][]string{
	EffectColour: slices.Sorted(maps.Keys(carriedBy)),
	EffectFill:   {"water-filler", "oil-filler", "epoxy-filler", "ca-filler"},
	EffectSeal: {"water-sealer", "lacquer-sealer", "vinyl-sealer", "sealer-2k", "dewaxed-shellac", "lam-epoxy", "char-fix",
		"wood-hardener"},
	EffectParticles: {"urethane-2k", "water-clear", "nitro", "acrylic-lacquer", "sealer-2k", "dewaxed-shellac", "polyester-uv",
		"lam-epoxy"},
	EffectTint:   {"nitro", "acrylic-lacquer", "water-clear", "urethane-2k", "lacquer-toner", "tinted-shellac", "tinted-uv", "shellac"},
	EffectRounds: {"finishing-oil", "drying-oil"},
	EffectPatch: {"nitro", "acrylic-lacquer", "shellac", "water-clear", "urethane-2k", "polyester-2k", "polyester-uv", "wipe-varnish",
		"brush-varnish"},
}

// effects lists them all.
var effects = []Effect{EffectMend, EffectTexture, EffectFlame, EffectMark, EffectColour, EffectFill, EffectSeal, EffectFlake, EffectCandy,
	EffectParticles, EffectLeaf, EffectPour, EffectCloth, EffectTint, EffectClear, EffectRounds, EffectWear, EffectWax, EffectPatch}

// colours reports whether an effect changes how the wood looks, and so stays off what keeps the
// wood's own colour.
func (e Effect) colours() bool {
	switch e {
	case EffectTexture, EffectFlame, EffectColour, EffectFlake, EffectCandy, EffectParticles, EffectLeaf, EffectTint:
		return true
	}
	return false
}

// ends reports whether a layer of an effect is what a region ends in.
func (e Effect) ends() bool { return e == EffectClear || e == EffectRounds }

// kind is what As says, or the usual one.
func (l *Layer) kind() string {
	if list := kindsOf[l.Effect]; l.As == "" && len(list) > 0 {
		return list[0]
	}
	return l.As
}

// reaches reports whether a layer is wished on a region.
func (l *Layer) reaches(z Region) bool {
	return len(l.Regions) == 0 || slices.Contains(l.Regions, z.Name)
}

// meets reports whether two layers share a region.
func (l *Layer) meets(other *Layer) bool {
	return len(l.Regions) == 0 || len(other.Regions) == 0 ||
		slices.ContainsFunc(l.Regions, func(name string) bool { return slices.Contains(other.Regions, name) })
}

// layers are those of a piece that are on, from the wood upwards.
func (p *PieceWish) layers(effects ...Effect) []*Layer {
	var list []*Layer
	for i := range p.Layers {
		if l := &p.Layers[i]; !l.Off && (len(effects) == 0 || slices.Contains(effects, l.Effect)) {
			list = append(list, l)
		}
	}
	return list
}

// layer is the first layer of an effect; nil where there is none.
func (p *PieceWish) layer(effects ...Effect) *Layer {
	if list := p.layers(effects...); len(list) > 0 {
		return list[0]
	}
	return nil
}

// on are the layers of some effects that reach a region.
func (p *PieceWish) on(z Region, effects ...Effect) []*Layer {
	return slices.DeleteFunc(p.layers(effects...), func(l *Layer) bool { return !p.reaches(l, z) })
}

// reaches reports whether a layer lies on a region: it is wished there, and the region is not cut only
// after it.
func (p *PieceWish) reaches(l *Layer, z Region) bool {
	if !l.reaches(z) {
		return false
	}
	cut := p.region(z.Name).CutAfter
	if cut == "" {
		return true
	}
	for i := range p.Layers {
		switch {
		case p.Layers[i].ID == l.ID:
			return false // it comes first, or is the one itself
		case p.Layers[i].ID == cut:
			return true
		}
	}
	return true
}

// What a colour layer is, by where it lies and what it does.

// carrier is what carries a colour: as its family says where it names one, else as wished; empty where the
// rules choose.
func (l *Layer) carrier() string {
	if l.Family != "" {
		return carriedBy[l.Family]
	}
	return l.Carrier
}

// carriedBy are the carriers of families of colour; a toner is clear with colour in it.
var carriedBy = map[string]string{"water-dye": "water", "solvent-dye": "spirit", "oil-stain": "oil", "water-stain": "stain",
	"binder-stain": "bound",
	"solid-base":   "opaque", "water-base": "opaque", "pigmented-lacquer": "opaque", "water-pigmented": "opaque",
	"airbrush-colour": "airbrush",
	"lacquer-toner":   "toner", "tinted-shellac": "toner"}

func (l *Layer) opaque() bool { return l.Effect == EffectColour && l.carrier() == "opaque" }
func (l *Layer) airbrushed() bool {
	return l.Effect == EffectColour && l.carrier() == "airbrush"
}
func (l *Layer) grain() bool { return l.Effect == EffectColour && l.kind() == "grain" }
func (l *Layer) burst() bool { return l.Effect == EffectColour && l.kind() == "burst" }

// even is a colour of the field: neither in the grain only, nor a burst, nor opaque.
func (l *Layer) even() bool {
	return l.Effect == EffectColour && !l.grain() && !l.burst() && !l.opaque() && !l.airbrushed()
}

// find is the first layer of which something holds; nil where there is none.
func (p *PieceWish) find(holds func(*Layer) bool) *Layer {
	list := p.layers()
	if i := slices.IndexFunc(list, holds); i >= 0 {
		return list[i]
	}
	return nil
}

// toned reports whether a colour is in coats above the sealer only.
func (p *PieceWish) toned(l *Layer) bool {
	return l.even() && (l.carrier() == "toner" || (builds(p.family()) && p.wayOf(l, "colour-on") == "toner"))
}

// inWood reports whether a layer of colour goes into or onto the bare wood, below any sealer.
func (p *PieceWish) inWood(l *Layer) bool {
	switch {
	case l.Effect != EffectColour || l.opaque() || l.airbrushed() || p.toned(l):
		return false
	case l.burst():
		return p.rubbed(l)
	}
	return true
}

// rubbed reports whether a burst is rubbed in by hand, not sprayed in tinted clear.
func (p *PieceWish) rubbed(l *Layer) bool {
	return p.wayOf(l, "burst") == "rub" && slices.ContainsFunc(p.timbers(), drinks)
}
