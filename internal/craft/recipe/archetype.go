package recipe

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
	grain := body("ash-swamp")
	grain.Look, grain.Sheen, grain.Clear = "grain-colour", "satin", "water-clear"
	bare := neck("maple-hard")
	bare.Sheen, bare.Clear = "satin", "hardwax-oil"

	burst := body("alder-red")
	burst.Look, burst.Sheen, burst.Clear = "burst", "gloss", "nitro"
	amber := neck("maple-hard")
	amber.Sheen, amber.Clear = "gloss", "nitro"

	oiled := body("walnut-black")
	oiled.Sheen, oiled.Clear = "satin", "finishing-oil"
	waxed := neck("walnut-black")
	waxed.Sheen, waxed.Clear = "matte", "hardwax-oil"

	solid := body("basswood")
	solid.Look, solid.Sheen, solid.Clear = "solid", "gloss", "urethane-2k"
	fast := neck("maple-roasted")
	fast.Sheen, fast.Clear = "satin", "urethane-2k"

	dyed := neck("maple-hard")
	dyed.Look, dyed.Sheen, dyed.Clear, dyed.Figured = "one-colour", "satin", "wipe-varnish", true
	varnished := body("sapele")
	varnished.Look, varnished.Sheen, varnished.Clear = "one-colour", "satin", "wipe-varnish"

	glassy := body("mahogany-genuine")
	glassy.Look, glassy.Sheen, glassy.Clear = "one-colour", "gloss", "water-clear"

	return []Archetype{
		{"grain-colour", "Dark in the grain, colour above it, waterborne",
			"Dark colour rubbed back so that it stays in pores and figure, a washcoat, the main colour, tinted filler, a toner and waterborne clear. The neck bare to the touch.",
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
