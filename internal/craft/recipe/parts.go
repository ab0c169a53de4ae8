package recipe

import (
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// last is the slot of the last step written for a kind of piece; nil when there is
// none.
func (c *composing) last(kinds ...PieceKind) []string {
	var slots []string
	for _, kind := range kinds {
		for _, p := range c.draft.Pieces {
			if p.Kind == kind && len(p.Steps) > 0 {
				slots = append(slots, p.Steps[len(p.Steps)-1].Slot)
			}
		}
	}
	return slots
}

// part opens a smaller thing with a schedule of its own. Where the neck is glued in
// first it is a stretch of the whole, because it can only follow that.
func (c *composing) part(kind PieceKind, name string, area unit.SquareMetre, timber string, after ...PieceKind) (*writer, []Region,
	[]string) {
	if c.wish.gluedFirst() {
		w := &writer{composing: c, piece: &c.draft.Pieces[len(c.draft.Pieces)-1]}
		z := Region{Key: key(Whole, name), Region: job.Region{Name: name, Wood: timber, AreaM2: area}}
		w.piece.Regions = append(w.piece.Regions, z)
		return w, []Region{z}, nil
	}
	z := Region{Key: key(kind, name), Region: job.Region{Name: name, Wood: timber, AreaM2: area}}
	w := c.begin(kind, nil, []Region{z})
	w.piece.Wood = timber
	return w, []Region{z}, c.last(after...)
}

// cavityArea is the inside of usual control and pickup cavities (default).
const cavityArea unit.SquareMetre = 0.05

// unseen is work that may follow the day of showing: nobody looks into a cavity.
var unseen = job.Terms{Follows: true}

func (c *composing) cavities() {
	body := c.wish.piece(Body)
	w, regions, after := c.part(Cavity, "cavities", cavityArea, body.Wood, Body)
	if c.wish.Cavities == "foil" {
		w.add(line{slot: "foil", kind: job.Gate, title: "Line the cavities with foil", regions: regions, after: after, fixed: 60,
			terms: unseen,
			how:   "Foil laid over the floor and up the walls, every seam overlapped and joined; a tail under a cover screw to ground.",
			why:   "Foil is quick and dry, and touches nothing that is still curing."})
		return
	}
	w.add(line{slot: "shield-tape", kind: job.MaskOn, title: "Tape round the cavities", regions: regions, after: after,
		check: "tape-pressed", terms: unseen,
		how: "Low-tack tape up to the rim, paper over the face.", why: "Carbon paint on a finished face cannot be wiped off."})
	w.put(line{slot: "shield", kind: job.Coat, title: "Conductive paint", regions: regions, role: "shield", family: "conductive-paint",
		method: material.Brush, coats: 2, terms: unseen,
		how: "By its sheet: floor, walls, and over the rim where a cover bears. A meter after each coat; bring it to the ground lug.",
		why: "A gap is heard as hum. The meter tells, the eye does not."})
	w.add(line{slot: "shield-untape", kind: job.MaskOff, title: "Tape off the cavities", regions: regions, check: "tape-lifted",
		terms: unseen,
		how:   "Slowly and back on itself.", why: "Carbon left under the tape is a black rim for ever."})
}

// board writes a fretboard that is not under the neck's film.
func (c *composing) board() {
	neck := c.wish.piece(Neck)
	size := boardArea(lengthOf(neck.Length), lengthOf(neck.Width))
	w, regions, after := c.part(Board, "board", size, c.wish.Board.Wood, Neck)
	timber, _ := wood.Find(c.wish.Board.Wood) // checked
	hard := c.wish.Board.Finish == "hardened"
	l := line{slot: "board-sand", kind: job.Sand, title: "Sand the board", regions: regions, after: after,
		ladder: upTo(320, max(timber.SandBareTo, 400), 320, 400, 600, 800, 1000),
		how:    "With the grain between the frets, a narrow hard block, the neck taped. Vacuum the slots, never a wet rag on black dust.",
		why:    "What a hand plays on for years is judged by touch."}
	if hard {
		w.harden(l, regions)
		return
	}
	w.add(l)
	if oily(timber) && c.wish.Board.Finish != "conditioning-oil" {
		w.note(timber.Name + " is oily and slows a drying oil: a conditioning oil, or more days between coats, is surer on this board.")
	}
	oil := func(slot, family, title string, coats int) {
		w.put(line{slot: slot, kind: job.Coat, title: title, regions: regions, role: "oil", family: family, method: material.Wipe,
			coats: coats,
			how:   boardOilHow,
			why:   boardOilWhy})
	}
	switch c.wish.Board.Finish {
	case "drying-oil":
		if coats := dryingCoats; c.wish.Frets == "none" {
			oil("board-oil", "drying-oil", "Drying oil on the board", coats)
		} else {
			oil("board-oil", "drying-oil", "First drying oil on the board", coats-1)
		}
	case "oil-shellac-wax":
		oil("board-oil", "drying-oil", "Thin oil wash on the board", 1)
	}
}

// dryingCoats are the coats of drying oil on a board (default): the last of them when the frets are done.
const dryingCoats = 2

// boardLast is what goes on a board once the frets are done: what conditions it, and what
// shines. Tape for the fretwork holds on none of it.
func (c *composing) boardLast() {
	if !c.wish.boardApart() {
		return
	}
	w := c.goOn()
	regions := c.regionsIn(Board)
	if c.wish.gluedFirst() {
		regions = only(w.piece.Regions, func(z Region) bool { return z.Name == "board" })
	}
	switch c.wish.Board.Finish {
	case "drying-oil":
		if c.wish.Frets != "none" {
			w.put(line{slot: "board-oil-last", kind: job.Coat, title: "Last drying oil on the board", regions: regions, role: "oil",
				family: "drying-oil", method: material.Wipe, how: boardOilHow, why: boardOilWhy})
		}
	case "conditioning-oil":
		w.put(line{slot: "board-oil", kind: job.Coat, title: "Conditioning oil on the board", regions: regions, role: "oil",
			family: "board-oil", method: material.Wipe, how: boardOilHow, why: boardOilWhy})
	case "oil-shellac-wax":
		w.put(line{slot: "board-shellac", kind: job.Coat, title: "Shellac on the board", regions: regions, role: "shellac",
			family: "dewaxed-shellac", method: material.Pad, coats: 2,
			how: "A nearly dry pad between the frets, no build.", why: "It shuts the oil in and gives the wax something to shine on."})
		w.put(line{slot: "board-wax", kind: job.Coat, title: "Wax on the board", regions: regions, role: "wax", family: "paste-wax",
			method: material.Wipe,
			how:    "As little as will spread; buffed off between the frets.", why: "Wax ends everything: nothing sticks to it."})
	}
}

// How an oil goes on a board, and why so little of it.
const (
	boardOilHow = "Sparingly, along the grain, then wipe off all of it before it turns tacky."
	boardOilWhy = "What stays on top stays sticky, and creeps into the slots."
)

// harden is a board filled with thin adhesive and polished dry.
func (w *writer) harden(sand line, regions []Region) {
	w.add(sand)
	w.add(line{slot: "board-tape", kind: job.MaskOn, title: "Tape slots, edges and side dots", regions: regions, check: "tape-pressed",
		how: "Tape in every slot that is open, along both edges, over the dots.",
		why: "Thin adhesive runs into everything that is not shut."})
	w.put(line{slot: "board-harden", kind: job.Coat, title: "Thin adhesive into the board", regions: regions, role: "harden",
		family: "ca-filler", method: material.Wipe, coats: 3,
		how: "Thin, quick, along the grain with a folded pad of polythene; each coat clear before the next. No accelerator.",
		why: "It fills fine pores and leaves a face as hard as the wood allows."})
	w.add(line{slot: "board-untape", kind: job.MaskOff, title: "Tape off the board", regions: regions, check: "tape-lifted",
		how: "Score along the edge, then pull slowly.", why: "Adhesive bridges the edge of the tape and chips."})
	w.add(line{slot: "board-polish", kind: job.Buff, title: "Polish the board dry", regions: regions, film: material.Sand,
		ladder: append(papers(600, 800, 1200), "cushion:2400", "cushion:3200", "cushion:4000", "cushion:6000", "cushion:8000",
			"cushion:12000"),
		how: "Dry all the way, a narrow soft block, wiped between grits.",
		why: "Water must stay out of the slots, so the ladder is long and dry."})
}

// frets writes fretwork: from levelling to mirror or brushed.
func (c *composing) frets() {
	const area unit.SquareMetre = 0.004 // of the crowns (default)
	w, regions, after := c.part(Frets, "frets", area, c.boardWood(), Neck, Board)
	toFret := c.wish.Board != nil && c.wish.Board.ToFret
	if c.wish.boardUnderFilm() && !toFret {
		w.add(line{slot: "fret-clear", kind: job.Sand, work: "open-holes", title: "Clear the film off the frets", regions: regions,
			after: after,
			how:   "Score along each side, lift it off the crown with a sharpened slip of wood or brass, never towards the board.",
			why:   "Film on a crown wears to a ragged edge and dulls the string."})
		after = nil
	}
	if toFret {
		w.fretting(regions, after)
		after = nil
	}
	w.add(line{slot: "fret-tape", kind: job.MaskOn, title: "Straighten the neck, tape the board", regions: regions, after: after, fixed: 20,
		check: "board-straight",
		how:   "Rod set so that the board is dead straight; tape every gap between frets.",
		why:   "Metal polish blackens bare wood, and filings stay in the slots."})
	for _, l := range []line{
		{slot: "fret-level", kind: job.Level, work: "fret-level", title: "Mark and level the frets", check: "marker-gone",
			ladder: papers(320),
			how:    "Ink every crown, a long true beam with light strokes, until every fret is touched from end to end.",
			why:    "The marks tell where the beam has been; the hand does not."},
		{slot: "fret-rocker", kind: job.Inspect, title: "Three-fret rocker", check: "three-fret-rocker", fixed: 10,
			how: "Over three frets at a time, treble side and bass side; level again where it rocks, until it is still.",
			why: "One high fret buzzes where nobody looked."},
		{slot: "fret-crown", kind: job.Level, work: "fret-crown", title: "Ink and crown them",
			how: "Inked again; to a thin line of ink along the top.",
			why: "A wide flat plays out of tune."},
		{slot: "fret-rocker-again", kind: job.Inspect, title: "Three-fret rocker again", check: "three-fret-rocker", fixed: 5,
			how: "Over three frets at a time, until none moves.",
			why: "A crown that was cut too deep is a low fret, and its neighbour buzzes."},
		{slot: "fret-ends", kind: job.Level, work: "fret-ends", title: "Round the ends", check: "fret-end-finger",
			how: "A small file with a safe edge, bevel and corners, by feel along both sides.",
			why: "A sharp end is felt before it is seen."},
	} {
		l.regions = regions
		w.add(l)
	}
	polish := line{slot: "fret-polish", kind: job.Buff, work: "fret-polish", title: "Polish the frets to a mirror", regions: regions,
		ladder: append(papers(400, 600, 800, 1200), "film:9", "film:5", "film:3", "compound:extra-fine"),
		how:    "Across and along in turn, so that leftover marks show; along the fret at the end.",
		why:    "The finer it ends the less a bend feels it."}
	if c.wish.Frets == "brushed" {
		polish.title, polish.ladder = "Brush the frets", append(papers(400, 600, 800, 1000), "nonwoven:ultra-fine")
		polish.how, polish.why = "Straight along the string path and one way only, never in circles.",
			"One direction of fine lines matches brushed hardware."
	}
	w.add(polish)
	w.add(line{slot: "fret-untape", kind: job.MaskOff, title: "Tape off, slots clean", regions: regions, check: "tape-lifted",
		how: "Pull along the fret; vacuum, then a soft brush.", why: "What stays in a slot comes out on white cloths for years."})
}

// fretting puts the frets in: after the first sanding of the board, and its hardening or first oil.
func (w *writer) fretting(regions []Region, after []string) {
	how := "Sawn to depth, blown out, a touch of a small file along both edges of each slot."
	if w.wish.boardUnderFilm() {
		how = "Each slot scored along both sides, opened through the film, sawn to depth and blown out; a touch of a small file along " +
			"both edges."
	}
	w.add(line{slot: "slots", kind: job.Gate, title: "Slots cleaned and chamfered", regions: regions, after: after, fixed: 20,
		check: "slot-depth",
		how:   how,
		why:   "A full slot holds a fret up, and a sharp edge chips when it is ever drawn."})
	w.add(line{slot: "frets-in", kind: job.Gate, title: "Frets in", regions: regions, fixed: 90,
		how: "Wire cleaned and bent a little tighter than the board, glued or pressed in from one end; ends nipped and bevelled.",
		why: "Straight wire springs up at its ends, and greasy wire takes no glue."})
}

func (c *composing) boardWood() string {
	if c.wish.Board != nil {
		return c.wish.Board.Wood
	}
	return c.wish.piece(Neck).Wood
}
