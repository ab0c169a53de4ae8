package recipe

import (
	"slices"

	"umberfrost/internal/craft/aging"
	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/part"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/resin"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/wood"
)

// Offer is an effect that a layer may have, with what may be chosen of it.
type Offer struct {
	Effect   Effect   `json:"effect" enum:"mend,texture,flame,mark,colour,fill,seal,flake,candy,particles,leaf,pour,cloth,tint,clear,rounds,wear,wax,patch"`
	Text     string   `json:"text"`
	Hint     string   `json:"hint" doc:"what it is, in a sentence"`
	Kinds    []Option `json:"kinds" doc:"of it; the usual one first"`
	Carriers []Option `json:"carriers"`
	Families []Option `json:"families"`
	Of       []Option `json:"of" doc:"rows of its table"`
	Fields   []string `json:"fields" doc:"what else may be said of it: sheen, coats, filmUm, depth, grit, colours, tinted, wet, torn, over, places"`
	New      Layer    `json:"new" doc:"one to begin with, without an id"`
}

// offers are the effects in words, in the order in which they usually lie, from the wood upwards.
var offers = []Offer{
	{Effect: EffectMend, Text: "Mend",
		Hint: "What is put right in the wood before it is sanded.", Fields: []string{"coats"}, New: Layer{Of: "dent-steam"}},
	{Effect: EffectTexture, Text: "Texture", Hint: "A relief in bare wood, before water and colour."},
	{Effect: EffectFlame, Text: "Flame", Hint: "Burnt all over, or accents here and there, before tape and anything that burns."},
	{Effect: EffectMark, Text: "Mark",
		Hint: "Burnt, engraved, inlaid or signed, in the wood or buried in the clear.", Fields: []string{"over", "colours"}},
	{Effect: EffectColour, Text: "Colour", Hint: "In the wood, in the clear, or over it.", Fields: []string{"colours", "wet"}},
	{Effect: EffectFill, Text: "Pores filled", Hint: "As full as wanted, clear or tinted.", Fields: []string{"tinted"}},
	{Effect: EffectSeal, Text: "Seal", Hint: "A washcoat, a sealer or a barrier of one's own choice; what the rules need they add " +
		"themselves."},
	{Effect: EffectFlake, Text: "Flake",
		Hint:   "Flat flake or pearl in a flowing coat, over a base, buried deep.",
		Fields: []string{"colours", "coats"}, New: Layer{Of: "flake-100"}},
	{Effect: EffectCandy, Text: "Candy",
		Hint: "Transparent colour over a metallic base; it darkens with each coat.", Fields: []string{"colours", "coats"}},
	{Effect: EffectParticles, Text: "Strewn grains",
		Hint: "On a tacky coat, through a stencil or freely; within minutes.", Fields: []string{"colours"}, New: Layer{Of: "grain-100"}},
	{Effect: EffectLeaf, Text: "Metal leaf",
		Hint: "On size at its tack, whole or torn, sealed.", Fields: []string{"torn"}, New: Layer{Of: "brass-oil-fast"}},
	{Effect: EffectPour, Text: "Pour",
		Hint:   "Resin in lifts over a level bed, behind a dam.",
		Fields: []string{"depth", "colours", "over"}, New: Layer{Of: "medium-epoxy", Depth: "8 mm"}},
	{Effect: EffectCloth, Text: "Cloth in resin", Hint: "Fibre for strength; never sanded into the weave."},
	{Effect: EffectTint, Text: "Tinted clear", Hint: "Amber or colour in some coats of the clear.", Fields: []string{"colours", "coats"}},
	{Effect: EffectClear, Text: "Clear",
		Hint: "What it ends in: film or oil, its sheen, its coats.", Fields: []string{"sheen", "coats", "filmUm", "grit"},
		New: Layer{Family: "water-clear", Sheen: "satin"}},
	{Effect: EffectRounds, Text: "Rounds",
		Hint: "Oil, or oil and shellac in turn, until it is even.", Fields: []string{"sheen"}, New: Layer{Sheen: "satin"}},
	{Effect: EffectWear, Text: "Worn on purpose", Hint: "Once it has cured: by a map of places, down to the layer that is wished.",
		Fields: []string{"places"},
		New:    Layer{Of: "wear-clear"}},
	{Effect: EffectWax, Text: "Wax", Hint: "The end of the stack."},
	{Effect: EffectPatch, Text: "Patch", Hint: "The old finish stays, and is repaired in a spot or on a panel.",
		Fields: []string{"colours", "sheen", "coats"}},
}

var kindTexts = map[string]string{
	"brushed": "brushed out", "struck": "struck", "gouged": "gouged", "sawn": "sawn", "all": "all over", "accents": "accents",
	"burnt":    "burnt",
	"engraved": "engraved", "inlaid": "inlaid", "film": "printed or film", "signed": "signed", "serial": "a serial", "even": "even",
	"grain": "left in the grain", "fade": "fade along a line", "burst": "burst", "wiped": "wiped uneven", "open": "left open",
	"half": "part of the way",
	"full": "flat", "sealer": "sanding sealer", "washcoat": "washcoat", "barrier": "barrier", "warm": "warm amber coat", "free": "freely",
	"drop": "a spot filled", "touch-up": "a burn-through touched in", "panel": "a panel coated again",
	"stencil": "through a stencil", "as-it-is": "as it is, nothing levelled", "oil": "oil", "oil-shellac": "oil and shellac in turn",
}

var carrierTexts = []Option{{"", "as the rules choose"}, {"water", "in water"}, {"spirit", "in spirit"}, {"oil", "in oil"},
	{"stain", "stain"},
	{"bound", "bound in clear"}, {"opaque", "opaque base"}, {"airbrush", "airbrushed over a seal"}}

// Offers lists the effects that a layer may have.
func Offers() []Offer {
	list := slices.Clone(offers)
	for i := range list {
		o := &list[i]
		o.New.Effect = o.Effect
		o.Kinds, o.Carriers, o.Families, o.Of, o.Fields = []Option{}, []Option{}, []Option{}, []Option{}, append([]string{}, o.Fields...)
		for _, kind := range kindsOf[o.Effect] {
			text := kindTexts[kind]
			if kind == "" {
				text = map[Effect]string{EffectClear: "levelled and rubbed", EffectFill: "as the rules choose"}[o.Effect]
			}
			o.Kinds = append(o.Kinds, Option{kind, text})
		}
		families := familiesOf[o.Effect]
		switch o.Effect {
		case EffectColour:
			o.Carriers, families = carrierTexts, nil // the carrier says it
		case EffectClear:
			families = Clears
		}
		if len(families) > 0 && o.Effect != EffectClear {
			o.Families = append(o.Families, Option{"", "as the rules choose"})
		}
		for _, id := range families {
			if f, err := material.FindFamily(id); err == nil {
				o.Families = append(o.Families, Option{id, f.Name})
			}
		}
		o.Of = rowsOf(o.Effect)
	}
	return list
}

// rowsOf are the rows of an effect's table, in words.
func rowsOf(e Effect) []Option {
	list := []Option{}
	switch e {
	case EffectMend:
		for _, m := range surface.Mends() {
			if !m.InFilm {
				list = append(list, Option{m.ID, phrase.Capital(m.Damage) + ": " + phrase.Lower(m.Repair)})
			}
		}
	case EffectWear:
		for _, w := range aging.All() {
			list = append(list, Option{w.ID, w.Effect})
		}
	case EffectFlake, EffectParticles:
		for _, g := range flake.All() {
			if g.Sprinkled == (e == EffectParticles) {
				list = append(list, Option{g.ID, phrase.Capital(g.Material) + ", " + g.Size.String()})
			}
		}
	case EffectLeaf:
		for _, l := range leaf.All() {
			list = append(list, Option{l.ID, l.Name + ", on " + sizeTexts[l.Size]})
		}
	case EffectPour:
		for _, r := range resin.All() {
			list = append(list, Option{r.ID, r.Name})
		}
	}
	return list
}

var sizeTexts = map[string]string{"size-oil-slow": "slow oil size", "size-oil-fast": "fast oil size", "size-water": "water size"}

// Named says in a few words what a layer is.
func (l Layer) Named() string {
	at := slices.IndexFunc(offers, func(o Offer) bool { return o.Effect == l.Effect })
	if at < 0 {
		return string(l.Effect)
	}
	text := offers[at].Text
	if kind := kindTexts[l.kind()]; kind != "" && l.kind() != "even" {
		text += ", " + kind
	}
	switch {
	case l.opaque():
		text = "Opaque base"
	case l.airbrushed():
		text = "Airbrushed colour, " + kindTexts[l.kind()]
	case l.Effect == EffectClear:
		if f := familyOf(&l); f.Name != "" {
			text = f.Name
		}
		if l.Sheen != "" {
			text += ", " + l.Sheen
		}
		if l.As == "as-it-is" {
			text += ", as it is"
		}
	case l.Effect == EffectWear:
		if work, err := aging.Find(l.Of); err == nil {
			text = work.Effect
		}
	case l.Effect == EffectRounds:
		text = phrase.Capital(kindTexts[l.kind()]) + ", " + l.Sheen
	}
	return text
}

// WearPlace is a place on the map of wear.
type WearPlace struct {
	ID     string `json:"id"`
	Text   string `json:"text"`
	Region string `json:"region" doc:"the natural region that it lies on"`
}

// WearPlaces lists the map of places where wear may be.
func WearPlaces() []WearPlace {
	var list []WearPlace
	for _, p := range aging.Places() {
		list = append(list, WearPlace{p.ID, p.Text, p.Region})
	}
	return list
}

// Kinds of drawn region, and edges, in words.
var regionKindTexts = map[string]string{"strips": "Strips", "border": "A border", "bevel": "A bevel", "half": "One half",
	"shape": "A shape",
	"inlay": "An inlay", "binding": "A binding", "joint-face": "The face of a joint", "cut-out": "A cut-out or sound hole",
	"cavity":     "A cavity",
	"round-over": "A round-over"}

var edgeTexts = map[string]string{"seam": "a seam of the wood", "taped": "taped", "stencil": "stencilled", "scored": "scored",
	"scraped": "scraped clean",
	"soft":    "soft, blended"}

// RegionKindOptions lists kinds of drawn region in words.
func RegionKindOptions() []Option { return options(RegionKinds, regionKindTexts) }

// EdgeOptions lists how regions may meet, in words.
func EdgeOptions() []Option { return options(Edges, edgeTexts) }

// FoundOptions lists surfaces as they come to the finisher, in words.
func FoundOptions() []Option {
	list := []Option{}
	for _, f := range surface.All() {
		list = append(list, Option{f.ID, f.What})
	}
	return list
}

// PartOffer is a kind of small part that may have a schedule of its own.
type PartOffer struct {
	Kind PieceKind `json:"kind" enum:"hardware,plastics,fittings"`
	Text string    `json:"text"`
	Of   []Option  `json:"of" doc:"what they are made of"`
	Do   []Option  `json:"do" doc:"what may be done to them; none chosen: all of it"`
}

var partTexts = map[string]string{"strip": "strip", "brush": "brush", "etch": "etch dark", "seal": "seal", "dull": "dull",
	"stain": "stain, wipe back"}

// PartOffers lists small parts with what may be chosen of them.
func PartOffers() []PartOffer {
	metals, plastics, woods := []Option{}, []Option{}, []Option{}
	for _, m := range part.Metals() {
		metals = append(metals, Option{m.ID, m.Name})
	}
	for _, p := range part.Plastics() {
		plastics = append(plastics, Option{p.ID, p.Name})
	}
	for _, w := range wood.All() {
		if w.Drinks() {
			woods = append(woods, Option{w.ID, w.Name})
		}
	}
	return []PartOffer{{Hardware, "Hardware of metal", metals, options(partWork[Hardware], partTexts)},
		{Plastics, "Plastics", plastics, options(partWork[Plastics], partTexts)},
		{Fittings, "Wooden fittings, finished like the body", woods, []Option{}}}
}

var eventTexts = map[string]string{"inserts": "threaded inserts", "ferrules": "ferrules and bushings", "magnets": "magnets", "nut": "nut",
	"last-polish": "a last polish of the frets after the play test"}

// EventOptions lists building events that may have a place in the schedule.
func EventOptions() []Option { return options(Events, eventTexts) }
