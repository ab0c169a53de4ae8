package demo

import (
	"slices"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
)

// Saltmarsh is the work of the Saltmarsh Room: an instrument for each way of finishing, each in a combination of the
// room's own. What came in first is finished; the last is hardly begun.
var Saltmarsh = Room{Products: append(slices.Clone(Basics), moreProducts...), Clocked: true, Tide: "tide 35", Jobs: []Job{
	{Name: "Snipe", Outline: "offset", Started: 150, Promise: -26, Wish: wornCream(), Serial: "SR 26-003"},
	{Name: "Whimbrel", Outline: "slab", Started: 128, Promise: -40, Wish: oilAndShellac(), Serial: "SR 25-108"},
	{Name: "Greenshank", Outline: "angular", Started: 124, Promise: -70, Wish: airbrushed(), Serial: "SR 25-109"},
	{Name: "Ruff", Outline: "one-horned", Started: 118, Promise: -50, Wish: boardsAndParts(), Serial: "SR 25-111"},
	{Name: "Curlew", Outline: "two-horned", Started: 112, Promise: -30, Wish: wipedBurst(), Serial: "SR 25-112"},
	{Name: "Lapwing", Outline: "slab", Started: 104, Promise: -48, Wish: oiled(), Serial: "SR 25-113"},
	{Name: "Phalarope", Outline: "offset", Started: 98, Promise: -36, Wish: amberResin(), Serial: "SR 26-001"},
	{Name: "Stilt", Outline: "two-horned", Started: 90, Promise: -14, Wish: castTop(), Serial: "SR 26-002"},
	{Name: "Redshank", Outline: "one-horned", Started: 70, Promise: -8, Wish: chippedOld()},
	{Name: "Godwit", Outline: "bass", Started: 30, Promise: 60, Wish: lacquerBurst(), Serial: "SR 26-031", Show: 55},
	{Name: "Sanderling", Outline: "offset", Started: 19, Promise: 21, Wish: fadeBesideLeaf(), Serial: "SR 26-033"},
	{Name: "Dunlin", Outline: "slab", Started: 15, Promise: 20, Wish: charred(), Serial: "SR 26-034",
		Colours: map[string]string{"neck:colour": "Cockle Red"}},
	{Name: "Avocet", Outline: "two-horned", Started: 11, Promise: 55, Wish: twoColourGrain(), Serial: "SR 26-036",
		Colours: map[string]string{"body:dark": "Tidewrack Charcoal", "body:colour": "Samphire Bound"}},
	{Name: "Oystercatcher", Outline: "angular", Started: 8, Promise: 62, Wish: flakeAndGrains(), Serial: "SR 26-037"},
	{Name: "Knot", Outline: "one-horned", Started: 6, Promise: 48, Wish: strips(), Serial: "SR 26-038"},
	{Name: "Turnstone", Outline: "offset", Started: 3, Promise: 75, Wish: twoPart(), Serial: "SR 26-039"},
}, Own: []OwnRecipe{{"Neck, bare to the touch", "Turnstone", recipe.OwnStack, recipe.Neck},
	{"Green in the grain", "Avocet", recipe.OwnStack, recipe.Body},
	{"Level and shine", "Phalarope", recipe.OwnFragment, recipe.Body}}}

// moreProducts are what they take beside what any room has.
var moreProducts = []Product{
	{"Samphire Bound", "binder-stain", `{"colour":"#7F8F4E"}`},
	{"Spindrift Flake", "flake-clear", `{"colour":"#AEBBC4"}`},
	{"Lantern Resin", "polyester-uv", `{}`},
	{"Lantern Amber", "tinted-uv", `{"colour":"#C7842A"}`},
	{"Deep Channel Resin", "cast-epoxy", `{"colour":"#3B6B70"}`},
	{"Strandline Leaf", "metal-leaf", `{}`},
}

func bodyOf(wood, length, width, thickness string, regions []recipe.RegionWish, layers ...recipe.Layer) recipe.PieceWish {
	return recipe.PieceWish{Kind: recipe.Body, Wood: wood, Length: length, Width: width, Thickness: thickness, Regions: regions,
		Layers: layers}
}

func neckOf(wood, length, width string) recipe.PieceWish {
	return recipe.PieceWish{Kind: recipe.Neck, Wood: wood, Length: length, Width: width}
}

func clear(family, sheen string) recipe.Layer {
	return recipe.Layer{ID: "clear", Effect: recipe.EffectClear, Family: family, Sheen: sheen}
}

func colour(id, carrier string, said ...string) recipe.Layer {
	return recipe.Layer{ID: id, Effect: recipe.EffectColour, Carrier: carrier, Colours: said}
}

func on(l recipe.Layer, regions ...string) recipe.Layer {
	l.Regions = regions
	return l
}

// a: dark in the grain, green bound above it, half filled, matte out of the last coat.
func twoColourGrain() recipe.Wish {
	dark := recipe.Layer{ID: "dark", Effect: recipe.EffectColour, As: "grain"}
	fill := recipe.Layer{ID: "fill", Effect: recipe.EffectFill, As: "half", Tinted: true}
	b := bodyOf("ash-northern", "478 mm", "328 mm", "43 mm", nil, dark, colour("green", "bound", "moss"), fill,
		clear("water-clear", "matte"))
	n := neckOf("maple-hard", "650 mm", "51 mm").From("natural").Ending("hardwax-oil", "satin")
	return recipe.Wish{Pieces: []recipe.PieceWish{b, n}, Board: &recipe.BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil"},
		Frets: "brushed"}
}

// b: a burst wiped wet on veneer, plain sides, a tinted neck glued in.
func wipedBurst() recipe.Wish {
	burst := recipe.Layer{ID: "burst", Effect: recipe.EffectColour, As: "burst", Method: material.Wipe, Wet: true,
		Colours: []string{"rust", "#3B1F16"}}
	b := bodyOf("alder-red", "465 mm", "332 mm", "44 mm", []recipe.RegionWish{{Name: "top", Wood: "maple-figured-veneer"}},
		on(colour("ground", "water", "ochre"), "top"), on(burst, "top"), clear("water-clear", "gloss"))
	b.Figured = true
	n := neckOf("maple-hard", "640 mm", "52 mm").From("natural").Ending("water-clear", "satin")
	n.Layers = slices.Insert(n.Layers, 1, recipe.Layer{ID: "amber", Effect: recipe.EffectTint, Coats: 1, Colours: []string{"amber"}})
	return recipe.Wish{Joint: "set", Standard: "show", Pieces: []recipe.PieceWish{b, n}}
}

// c: three colours of burst under lacquer, on a bass.
func lacquerBurst() recipe.Wish {
	burst := recipe.Layer{ID: "burst", Effect: recipe.EffectColour, As: "burst", Colours: []string{"#9A4A22", "walnut", "black"}}
	b := bodyOf("alder-red", "505 mm", "340 mm", "45 mm", nil, colour("ground", "spirit", "honey"), burst, clear("nitro", "gloss"))
	n := neckOf("maple-hard", "860 mm", "62 mm").From("natural").Ending("nitro", "satin")
	return recipe.Wish{Pieces: []recipe.PieceWish{b, n}, Board: &recipe.BoardWish{Wood: "maple-hard", Finish: "under-film"}}
}

// d: an opaque base and two-part clear with film to spare, a bare bevel.
func twoPart() recipe.Wish {
	b := bodyOf("basswood", "470 mm", "336 mm", "44 mm", []recipe.RegionWish{{Name: "bevel", Kind: "border", Width: "9 mm", Edge: "taped"}},
		on(colour("base", "opaque", "sea green"), "top", "back", "sides"), on(colour("rim", "opaque", "cream"), "bevel"),
		clear("urethane-2k", "gloss"))
	n := neckOf("maple-roasted", "645 mm", "51 mm").From("natural").Ending("hardwax-oil", "satin")
	return recipe.Wish{Hand: "new", Pieces: []recipe.PieceWish{b, n}, Board: &recipe.BoardWish{Wood: "pau-ferro",
		Finish: "conditioning-oil"},
		Parts: []recipe.PartWish{{Kind: recipe.Plastics, Of: "abs-part", Name: "pickup covers", Do: []string{"dull"}}}}
}

// e: a charred body with one wiped coat beside a dyed neck.
func charred() recipe.Wish {
	one := clear("wipe-varnish", "matte")
	one.As, one.Coats = "as-it-is", 1
	b := bodyOf("ash-swamp", "482 mm", "326 mm", "42 mm", nil, recipe.Layer{ID: "char", Effect: recipe.EffectFlame, As: "all"}, one)
	n := neckOf("maple-hard", "648 mm", "51 mm").From("one-colour").Ending("wipe-varnish", "satin")
	return recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{b, n}}
}

// f: finishing oil to a soft shine, on two woods.
func oiled() recipe.Wish {
	oil := clear("finishing-oil", "satin")
	b := bodyOf("walnut-black", "460 mm", "322 mm", "41 mm", []recipe.RegionWish{{Name: "back", Wood: "cherry-black"}}, oil)
	n := neckOf("walnut-black", "630 mm", "52 mm").From("natural").Ending("finishing-oil", "satin")
	return recipe.Wish{Standard: "own", Pieces: []recipe.PieceWish{b, n}}
}

// g: a fade under hard-wax oil, a border of torn copper leaf under clear, inserts first.
func fadeBesideLeaf() recipe.Wish {
	fade := recipe.Layer{ID: "fade", Effect: recipe.EffectColour, As: "fade", Carrier: "water", Colours: []string{"teal", "slate"}}
	leaf := recipe.Layer{ID: "leaf", Effect: recipe.EffectLeaf, Of: "copper-oil-fast", Torn: true}
	oil := recipe.Layer{ID: "oil", Effect: recipe.EffectClear, Family: "hardwax-oil", Sheen: "satin"}
	sealer := recipe.Layer{ID: "sealer", Effect: recipe.EffectSeal, As: "sealer", Family: "dewaxed-shellac",
		Because: "it keeps the fade from lifting"}
	most := []string{"top", "back", "sides"}
	b := bodyOf("ash-northern", "470 mm", "330 mm", "42 mm", []recipe.RegionWish{{Name: "panel", Kind: "border", Width: "26 mm"}},
		on(fade, most...), on(sealer, most...), on(leaf, "panel"), on(oil, most...), on(clear("water-clear", "gloss"), "panel"))
	return recipe.Wish{Pieces: []recipe.PieceWish{b}, Events: []string{"inserts", "ferrules"}}
}

// h: oil and shellac in turn, wax last.
func oilAndShellac() recipe.Wish {
	b := bodyOf("koa", "455 mm", "318 mm", "40 mm", nil).From("oil-shellac")
	n := neckOf("mahogany-african", "628 mm", "53 mm").From("natural").Ending("hardwax-oil", "matte")
	return recipe.Wish{Standard: "own", Pieces: []recipe.PieceWish{b, n}}
}

// i: amber resin brushed on and cured by lamp to a mirror, a mark and an inlay buried in it.
func amberResin() recipe.Wish {
	last := clear("polyester-uv", "gloss")
	last.Method = material.Brush
	b := bodyOf("maple-bigleaf", "468 mm", "330 mm", "43 mm",
		[]recipe.RegionWish{{Name: "moon", Kind: "inlay", Path: "M150 330a18 18 0 1 0 36 0a18 18 0 1 0 -36 0Z", Wood: "wenge",
			Edge: "seam"}},
		on(recipe.Layer{ID: "inlay", Effect: recipe.EffectMark, As: "inlaid", Over: "a low moon"}, "moon"),
		recipe.Layer{ID: "amber", Effect: recipe.EffectTint, Family: "tinted-uv", Coats: 2, Colours: []string{"amber"}},
		on(recipe.Layer{ID: "logo", Effect: recipe.EffectMark, As: "film", Over: "the tide table"}, "back"), last)
	b.Figured = true
	return recipe.Wish{Standard: "show", Pieces: []recipe.PieceWish{b}}
}

// j: flake over a dark base, a pale line, grains through a stencil, deep clear.
func flakeAndGrains() recipe.Wish {
	deep := clear("urethane-2k", "gloss")
	deep.Method = material.Spray
	b := bodyOf("basswood", "474 mm", "334 mm", "44 mm",
		[]recipe.RegionWish{{Name: "line", Kind: "shape", Path: "M20 300L314 210V228L20 318Z", Edge: "stencil"}},
		colour("base", "opaque", "indigo"), recipe.Layer{ID: "flake", Effect: recipe.EffectFlake, Of: "flake-200"},
		on(colour("line", "opaque", "bone"), "line"),
		on(recipe.Layer{ID: "grains", Effect: recipe.EffectParticles, As: "stencil", Of: "grain-100", Colours: []string{"straw"}}, "top"),
		deep)
	return recipe.Wish{Standard: "show", Pieces: []recipe.PieceWish{b}}
}

// k: an airbrushed burst on veneer, taped sides, few coats, nothing levelled.
func airbrushed() recipe.Wish {
	burst := recipe.Layer{ID: "burst", Effect: recipe.EffectColour, As: "burst", Carrier: "airbrush", Colours: []string{"violet", "ink"}}
	last := clear("water-clear", "satin")
	last.As = "as-it-is"
	b := bodyOf("poplar-tulip", "462 mm", "324 mm", "43 mm", []recipe.RegionWish{{Name: "top", Wood: "maple-figured-veneer"}},
		on(burst, "top"), last)
	return recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{b}}
}

// l: strips of three colours in a glued-up face, scorched here and there, matte.
func strips() recipe.Wish {
	strip := func(name string, count int, width, wood string) recipe.RegionWish {
		return recipe.RegionWish{Name: name, Kind: "strips", Count: count, Width: width, Wood: wood, Edge: "scored"}
	}
	b := bodyOf("poplar-tulip", "466 mm", "330 mm", "42 mm",
		[]recipe.RegionWish{strip("ochre strips", 2, "28 mm", ""), strip("rust strips", 3, "24 mm", "ash-northern")},
		on(recipe.Layer{ID: "accents", Effect: recipe.EffectFlame, As: "accents"}, "top"),
		on(colour("ochre", "water", "ochre"), "ochre strips"), on(colour("rust", "spirit", "rust"), "rust strips"),
		clear("water-clear", "matte"))
	return recipe.Wish{Pieces: []recipe.PieceWish{b}, Cavities: "paint"}
}

// m: a cast top with shells in it, on a printed body.
func castTop() recipe.Wish {
	pour := recipe.Layer{ID: "pour", Effect: recipe.EffectPour, Of: "medium-epoxy", Depth: "22 mm", Over: "razor shells", Tinted: true,
		Colours: []string{"teal"}}
	b := bodyOf("plastic-printed", "450 mm", "320 mm", "46 mm", nil, on(pour, "top"),
		on(colour("base", "opaque", "graphite"), "back", "sides"), clear("urethane-2k", "gloss"))
	return recipe.Wish{Pieces: []recipe.PieceWish{b}}
}

// p: a board fretted and polished, lined cavities, etched brass, dulled plastics.
func boardsAndParts() recipe.Wish {
	b := bodyOf("sapele", "464 mm", "336 mm", "44 mm", nil).From("one-colour").Ending("wipe-varnish", "satin")
	b.Layers[0].Colours = []string{"brick"}
	n := neckOf("maple-hard", "640 mm", "51 mm").From("natural").Ending("wipe-varnish", "satin")
	return recipe.Wish{Pieces: []recipe.PieceWish{b, n}, Frets: "brushed", Cavities: "foil", Events: []string{"nut"}, HangDays: 4,
		Board: &recipe.BoardWish{Wood: "ebony-macassar", Finish: "oil-shellac-wax", ToFret: true},
		Parts: []recipe.PartWish{{Kind: recipe.Hardware, Of: "brass-bare", Name: "bridge and tuners"},
			{Kind: recipe.Plastics, Of: "abs-part", Name: "knobs and covers", Do: []string{"dull"}}}}
}

// n: cream lacquer worn to the wood where an arm and a belt would, dents, dulled, dirt in them; aged covers and screws.
func wornCream() recipe.Wish {
	worn := func(id, of string, places ...string) recipe.Layer {
		return recipe.Layer{ID: id, Effect: recipe.EffectWear, Of: of, Places: places}
	}
	b := bodyOf("alder-red", "472 mm", "331 mm", "44 mm", nil, colour("base", "opaque", "cream"), clear("nitro", "gloss"),
		worn("dents", "dents", "lower-edge", "horns"), worn("worn", "wear-wood", "forearm", "belt"), worn("dull", "dull-all"),
		worn("dirt", "dirt", "edges"))
	return recipe.Wish{Pieces: []recipe.PieceWish{b}, Parts: []recipe.PartWish{{Kind: recipe.Plastics, Of: "abs-part",
		Name: "covers and knobs", Do: []string{"dull", "stain"}},
		{Kind: recipe.Hardware, Of: "brass-bare", Name: "bridge plate"}}}
}

// o: an old lacquer that stays: a chip at the edge filled, its back sprayed again.
func chippedOld() recipe.Wish {
	patch := func(id, as, region string) recipe.Layer {
		return recipe.Layer{ID: id, Effect: recipe.EffectPatch, As: as, Family: "nitro", Regions: []string{region},
			Colours: []string{"amber"}}
	}
	b := bodyOf("mahogany-genuine", "452 mm", "326 mm", "46 mm", nil, patch("chip", "drop", "sides"), patch("back", "panel", "back"))
	b.Found = "old-thinner"
	return recipe.Wish{Pieces: []recipe.PieceWish{b}}
}
