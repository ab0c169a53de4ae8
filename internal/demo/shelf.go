package demo

// Product is one of the shelf: of an invented maker, with what its sheet says.
type Product struct{ Name, Family, Sheet string }

// Basics are the products that any room has.
var Basics = []Product{
	{"Ebb Gloss", "water-clear", `{"limits":{"recoat":2,"sand":4,"buff":240,"full-cure":504},"coats_per_day":3,"wet_um":90}`},
	{"Slack Water Sealer", "water-sealer", `{"limits":{"recoat":1.5,"sand":2}}`},
	{"Mudflat Filler", "water-filler", `{"limits":{"recoat":2,"sand":4},"coats_per_day":3}`},
	{"Groyne Pale Shellac", "dewaxed-shellac", `{}`},
	{"Sea Lavender Oil", "hardwax-oil", `{"limits":{"recoat":16,"buff":120,"full-cure":336}}`},
	{"Estuary Blue", "water-dye", `{"colour":"#27506B"}`},
	{"Cockle Red", "water-dye", `{"colour":"#8C2F26"}`},
	{"Tidewrack Charcoal", "water-dye", `{"colour":"#38363A"}`},
	{"Samphire Green", "water-dye", `{"colour":"#4A6B4C"}`},
	{"Marsh Honey", "water-dye", `{"colour":"#B4702A"}`},
	{"Marsh Honey Bound", "binder-stain", `{"colour":"#A9682B"}`},
	{"Spartina Lacquer", "nitro", `{"limits":{"buff":480,"full-cure":1200}}`},
	{"Spartina Tie Coat", "vinyl-sealer", `{}`},
	{"Mudlark White", "solid-base", `{"colour":"#E4E2D8"}`},
	{"Breakwater Two-part", "urethane-2k", `{"limits":{"recoat":0.5,"buff":72}}`},
	{"Breakwater Sealer", "sealer-2k", `{}`},
	{"Driftline Varnish", "wipe-varnish", `{"limits":{"recoat":6,"full-cure":600}}`},
	{"Sluice Oil", "finishing-oil", `{}`},
	{"Sandhopper Board Oil", "board-oil", `{}`},
}
