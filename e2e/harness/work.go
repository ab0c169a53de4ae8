package harness

import (
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/demo"
)

// filled is the room's bread and butter: dyed, filled flat, waterborne gloss, on a
// neck that is bare to the touch.
func filled(body *recipe.PieceWish, neck *recipe.PieceWish) recipe.Wish {
	w := recipe.Wish{Standard: "gift"}
	if body != nil {
		b := *body
		b.Kind = recipe.Body
		w.Pieces = append(w.Pieces, b.From("one-colour").Ending("water-clear", "gloss"))
	}
	if neck != nil {
		n := *neck
		n.Kind = recipe.Neck
		w.Pieces = append(w.Pieces, n.From("natural").Ending("hardwax-oil", "satin"))
	}
	return w
}

func body(wood, length, width, thickness string) *recipe.PieceWish {
	return &recipe.PieceWish{Wood: wood, Length: length, Width: width, Thickness: thickness}
}

func neck(wood, length, width string) *recipe.PieceWish {
	return &recipe.PieceWish{Wood: wood, Length: length, Width: width}
}

// archetype is one of the six ways of the job, as it comes.
func archetype(id string) recipe.Wish {
	for _, a := range recipe.Archetypes() {
		if a.ID == id {
			return a.Wish
		}
	}
	return recipe.Wish{}
}

func dyed(product string) map[string]string { return map[string]string{"body:colour": product} }

// Work is what the room of the browser tests has to do. It stands still, so that the demo can grow.
var Work = demo.Room{Products: demo.Basics, Tide: "tide 35", Jobs: []demo.Job{
	{Name: "Ruff", Outline: "slab", Started: 40, Promise: 2, Wish: filled(nil, neck("walnut-black", "640 mm", "52 mm"))},
	{Name: "Curlew", Outline: "two-horned", Started: 34, Promise: 21,
		Wish: filled(body("ash-swamp", "480 mm", "330 mm", "44 mm"), neck("maple-hard", "650 mm", "51 mm")), Colours: dyed("Estuary Blue")},
	{Name: "Godwit", Outline: "bass", Started: 27, Promise: 60, Wish: archetype("lacquer-burst"), Colours: dyed("Marsh Honey"),
		Serial: "SR 26-031", Show: 55},
	{Name: "Whimbrel", Outline: "one-horned", Started: 24, Promise: 9,
		Wish:    filled(body("mahogany-genuine", "460 mm", "335 mm", "45 mm"), neck("mahogany-genuine", "628 mm", "53 mm")),
		Colours: dyed("Cockle Red")},
	{Name: "Lapwing", Outline: "slab", Started: 13, Promise: 35, Wish: archetype("oil"), Serial: "SR 26-034"},
	{Name: "Knot", Outline: "angular", Started: 11, Promise: 44, Wish: filled(body("ash-northern", "18 7/8 in", "13 in", "1 3/4 in"), nil),
		Colours: dyed("Samphire Green")},
	{Name: "Avocet", Outline: "two-horned", Started: 8, Promise: 60, Wish: archetype("grain-colour"),
		Colours: map[string]string{"body:dark": "Tidewrack Charcoal", "body:colour": "Marsh Honey Bound"}, Serial: "SR 26-036"},
	{Name: "Dunlin", Outline: "slab", Started: 6, Promise: 45, Wish: varnishedNeck(),
		Colours: map[string]string{"neck:colour": "Cockle Red"}},
	{Name: "Sanderling", Outline: "slab", Started: 5, Promise: 75,
		Wish: filled(body("sapele", "445 mm", "320 mm", "40 mm"), neck("walnut-black", "625 mm", "50 mm")), Colours: dyed("Marsh Honey")},
	{Name: "Turnstone", Outline: "one-horned", Started: 2, Promise: 80, Wish: archetype("two-part"), Serial: "SR 26-038"},
}}

// varnishedNeck is a neck alone: wiped varnish over dyed wood.
func varnishedNeck() recipe.Wish {
	w := archetype("wiped-varnish")
	w.Pieces, w.Board, w.Frets, w.Cavities = w.Pieces[1:], nil, "none", "none"
	return w
}
