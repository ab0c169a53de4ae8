package recipe

import (
	"math"
	"slices"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// Wish is what a person wants of an instrument, in looks and ways of working. What
// it leaves open is filled in by rule, the cautious way.
type Wish struct {
	Joint    string            `json:"joint,omitempty" enum:"bolt-on,set" doc:"how body and neck are joined"`
	Standard string            `json:"standard,omitempty" enum:"own,gift,sale,show" doc:"how far the polish goes"`
	Hand     string            `json:"hand,omitempty" enum:"new,practised" doc:"a new hand gets film to spare"`
	MockUp   bool              `json:"mockUp,omitempty" doc:"the whole look is judged before colour is on; always for a show piece"`
	Ways     map[string]string `json:"ways,omitempty" doc:"the school chosen, by topic, of what concerns the whole instrument"`
	Pieces   []PieceWish       `json:"pieces" maxItems:"2" doc:"a body, a neck, or both"`
	Parts    []PartWish        `json:"parts,omitempty" maxItems:"3" doc:"small parts with schedules of their own"`
	Board    *BoardWish        `json:"board,omitempty"`
	Frets    string            `json:"frets,omitempty" enum:"none,mirror,brushed"`
	FretWire string            `json:"fretWire,omitempty" enum:"nickel-silver,stainless,copper-alloy" doc:"the metal of the frets"`
	Cavities string            `json:"cavities,omitempty" enum:"none,paint,foil"`
	Events   []string          `json:"events,omitempty" maxItems:"8" doc:"building events with a place in the schedule: inserts, ferrules, magnets, nut, last-polish"`
	HangDays int               `json:"hangDays,omitempty" minimum:"0" maximum:"60" doc:"how long it hangs under strings before its final set-up; 0: it does not"`
	Fittings string            `json:"fittings,omitempty" maxLength:"200" doc:"hardware, pickups and plastics of the whole look, in words"`
	Arrivals []Arrival         `json:"arrivals,omitempty" maxItems:"8" doc:"what is on order"`
	Own      *OwnUse           `json:"own,omitempty" doc:"the own recipe that all of it began from"`
	outline  outline.Shape     // of its body, where it is known
	areas    map[string]unit.SquareMetre
}

// Of is the wish of an instrument with an outline: its areas come from that. One of its own, as SVG path
// data, goes before the one it is named by.
func (w Wish) Of(named, own string) Wish {
	if shape, err := outline.Parse(own); own != "" && err == nil {
		w.outline = shape
	} else {
		w.outline, _ = outline.Body(named)
	}
	return w
}

// Keeping is the wish for an instrument that there is already. Regions of a piece whose
// size has not changed keep their areas: they were measured so, or reckoned by the rules of their day.
func (w Wish) Keeping(kept Draft) Wish {
	w.areas = make(map[string]unit.SquareMetre)
	for _, old := range kept.Pieces {
		p := w.piece(old.Kind)
		if p != nil && !(sized(old.Length, p.Length) && sized(old.Width, p.Width) && sized(old.Thickness, p.Thickness)) {
			continue
		}
		for _, z := range old.Regions {
			w.areas[z.Key] = z.AreaM2
		}
	}
	return w
}

// sized reports whether a piece has the size that is wished of it.
func sized(kept *job.Size, wished string) bool {
	return kept == nil || math.Abs(kept.Metres*1000-float64(lengthOf(wished))) < 0.01
}

// PieceWish is what a person wants of one piece. Lengths are as typed.
type PieceWish struct {
	Kind      PieceKind         `json:"kind" enum:"body,neck"`
	Wood      string            `json:"wood" doc:"of every region that names no other"`
	Figured   bool              `json:"figured,omitempty" doc:"the wood has figure: hard pads and light pressure"`
	Found     string            `json:"found,omitempty" maxLength:"40" doc:"the surface as it comes; none: bare"`
	Regions   []RegionWish      `json:"regions,omitempty" maxItems:"24" doc:"natural regions that differ, and regions drawn within them"`
	Length    string            `json:"length" doc:"as typed: 480 mm, 18 7/8 in"`
	Width     string            `json:"width"`
	Thickness string            `json:"thickness,omitempty" doc:"of a body"`
	Own       *OwnUse           `json:"own,omitempty" doc:"the own recipe that its stack began from"`
	Preset    string            `json:"preset,omitempty" maxLength:"40" doc:"where its stack began; the rules read the layers only"`
	Layers    []Layer           `json:"layers,omitempty" maxItems:"40" doc:"from the wood upwards; none: those of the preset"`
	Ways      map[string]string `json:"ways,omitempty" doc:"the school chosen, by topic, of what concerns the whole piece"`
	of        *Wish             // what it is a piece of, once that is ready
	clear     *Layer            // the clear that is looked at, once that is ready
}

// BoardWish is the fretboard.
type BoardWish struct {
	Wood   string `json:"wood"`
	ToFret bool   `json:"toFret,omitempty" doc:"the frets go in after its first sanding; else they are in already"`
	Finish string `json:"finish,omitempty" enum:"bare,drying-oil,conditioning-oil,oil-shellac-wax,under-film,hardened"`
}

// Arrival is something on order that a fit waits for.
type Arrival struct {
	What       string        `json:"what" maxLength:"80"`
	Expected   calendar.Day  `json:"expected,omitzero" doc:"the day on which it is expected"`
	SpreadDays int           `json:"spreadDays,omitempty" minimum:"0" maximum:"366" doc:"how much later it may well come"`
	Fallback   *calendar.Day `json:"fallback,omitempty" doc:"the day from which one goes on without it"`
}

// What may be asked for.
var (
	Joints        = []string{"bolt-on", "set"}
	Standards     = []string{"own", "gift", "sale", "show"}
	Hands         = []string{"new", "practised"}
	Sheens        = []string{"matte", "satin", "gloss"}
	Boards        = []string{"bare", "drying-oil", "conditioning-oil", "oil-shellac-wax", "under-film", "hardened"}
	FretLooks     = []string{"none", "mirror", "brushed"}
	FretWires     = []string{"nickel-silver", "stainless", "copper-alloy"}
	CavityLinings = []string{"none", "paint", "foil"}
	Events        = []string{"inserts", "ferrules", "magnets", "nut", "last-polish"}
	// Clears are the families a surface may end in.
	Clears = []string{"water-clear", "nitro", "acrylic-lacquer", "urethane-2k", "polyester-2k", "polyester-uv",
		"wipe-varnish", "brush-varnish", "shellac", "finishing-oil", "hardwax-oil"}
)

// Complete fills in what a wish leaves open, but for the ways, which stay open
// until they are asked for. It does not change the wish it is called on.
func (w Wish) Complete() Wish {
	w.Joint, w.Standard, w.Hand = or(w.Joint, "bolt-on"), or(w.Standard, "sale"), or(w.Hand, "practised")
	w.Frets, w.Cavities = or(w.Frets, "none"), or(w.Cavities, "none")
	w.FretWire = or(w.FretWire, FretWires[0])
	w.MockUp = w.MockUp || w.Standard == "show"
	w.Pieces = slices.Clone(w.Pieces)
	for i := range w.Pieces {
		w.Pieces[i] = w.Pieces[i].stacked()
	}
	if w.Board != nil {
		board := *w.Board
		if board.Finish == "" {
			board.Finish = defaultBoard(board.Wood)
		}
		w.Board = &board
	}
	return w
}

// Stacked is the wish with the layers of each piece: what is kept says what it is, whatever becomes of
// the presets.
func (w Wish) Stacked() Wish {
	w.Pieces = slices.Clone(w.Pieces)
	for i := range w.Pieces {
		w.Pieces[i] = w.Pieces[i].stacked()
	}
	return w
}

// Clone is a copy whose pieces can be changed without changing this wish.
func (w Wish) Clone() Wish {
	w.Pieces = slices.Clone(w.Pieces)
	return w
}

// Text says in a few words what is wished of a kind of piece.
func (w Wish) Text(kind PieceKind) string {
	w = w.ready()
	if p := w.piece(kind); p != nil && p.known() {
		return p.text()
	}
	switch {
	case kind == Board && w.Board != nil:
		return boardTexts[w.Board.Finish]
	case kind == Frets:
		return map[string]string{"mirror": "polished to a mirror", "brushed": "brushed"}[w.Frets]
	case kind == Cavity:
		return map[string]string{"paint": "conductive paint", "foil": "lined with foil"}[w.Cavities]
	}
	return ""
}

var boardTexts = map[string]string{"bare": "Bare", "drying-oil": "Drying oil", "conditioning-oil": "Conditioning oil",
	"oil-shellac-wax": "Oil, shellac and wax", "under-film": "Under the neck's film", "hardened": "Hardened with thin adhesive"}

// Option is something to choose, with the word that stands for it.
type Option struct {
	ID   string `json:"id"`
	Text string `json:"text"`
}

// FretWireTexts names the metals of frets.
var FretWireTexts = map[string]string{"nickel-silver": "Nickel silver", "stainless": "Stainless steel",
	"copper-alloy": "Gold-coloured copper alloy"}

// FretWireOptions lists them in words.
func FretWireOptions() []Option { return options(FretWires, FretWireTexts) }

// BoardOptions lists board finishes in words.
func BoardOptions() []Option { return options(Boards, boardTexts) }

func options(ids []string, texts map[string]string) []Option {
	list := make([]Option, len(ids))
	for i, id := range ids {
		list[i] = Option{id, texts[id]}
	}
	return list
}

// ready is the complete wish, whose pieces know what they are pieces of.
func (w Wish) ready() Wish {
	w = w.Complete()
	of := &w
	for i := range w.Pieces {
		p := &w.Pieces[i]
		p.of = of
		p.clear = p.layer(EffectClear, EffectRounds)
		if p.Kind == Neck && w.boardUnderFilm() { // a region of the neck, then, without its colour
			p.Regions = append(slices.Clone(p.Regions), RegionWish{Name: "fretboard", Wood: w.Board.Wood})
			p.keepOff("fretboard")
		}
	}
	return *of
}

// stacked is a piece with its layers: those of its preset where it has none, and what a layer leaves
// open of what it ends in.
func (p PieceWish) stacked() PieceWish {
	if len(p.Layers) == 0 {
		p = p.From(or(p.Preset, Presets[0].ID))
	}
	p.Layers = slices.Clone(p.Layers)
	for i := range p.Layers {
		if l := &p.Layers[i]; l.Effect.ends() {
			if l.Effect == EffectClear {
				l.Family = or(l.Family, "water-clear")
			}
			l.Sheen = or(l.Sheen, "satin")
		}
	}
	return p
}

// keepOff keeps what colours the wood off a region.
func (p *PieceWish) keepOff(region string) {
	for i := range p.Layers {
		l := &p.Layers[i]
		if !l.Effect.colours() {
			continue
		}
		if len(l.Regions) == 0 {
			l.Regions = p.names()
		}
		l.Regions = slices.DeleteFunc(slices.Clone(l.Regions), func(name string) bool { return name == region })
		l.Off = l.Off || len(l.Regions) == 0
	}
}

// defaultBoard is the finish of a board where none was chosen: pale boards soil bare,
// dark ones are oily and stay open.
func defaultBoard(id string) string {
	timber, err := wood.Find(id)
	switch {
	case err == nil && timber.Pale():
		return "under-film"
	case err == nil && oily(timber):
		return "conditioning-oil" // a drying oil would stay soft on it for weeks
	}
	return "drying-oil"
}

func or(given, usual string) string {
	if given == "" {
		return usual
	}
	return given
}

// piece is what is wished of a kind of piece; nil when it is not part of it.
func (w *Wish) piece(kind PieceKind) *PieceWish {
	for i := range w.Pieces {
		if w.Pieces[i].Kind == kind {
			return &w.Pieces[i]
		}
	}
	return nil
}

// gluedFirst reports whether the neck is glued in before anything is finished.
func (w *Wish) gluedFirst() bool {
	return w.Joint == "set" && w.piece(Body) != nil && w.piece(Neck) != nil && w.way("joining") == "glued-first"
}

// glued is what is wished of body and neck that are finished as one: the body's stack, on the neck
// too; what colours the body goes on the neck where that is coloured as well.
func (w *Wish) glued() *PieceWish {
	body, neck := *w.piece(Body), w.piece(Neck)
	body.Regions, body.Layers = slices.Clone(body.Regions), slices.Clone(body.Layers)
	own := neck.names()
	for _, name := range own {
		z := neck.region(name)
		z.Wood = or(z.Wood, neck.Wood)
		if neck.clear != nil {
			z.Sheen = or(z.Sheen, neck.clear.Sheen)
		}
		body.Regions = append(body.Regions, z)
	}
	for i := range body.Layers {
		l := &body.Layers[i]
		if len(l.Regions) == 0 && !l.Effect.colours() {
			continue
		}
		if len(l.Regions) == 0 {
			l.Regions = w.piece(Body).names()
		}
		for _, name := range own {
			as := neck.on(Region{Region: job.Region{Name: name}}, l.Effect)
			if !l.Effect.colours() || len(as) > 0 || (neck.coloured() && l.Effect == EffectTint) {
				l.Regions = append(slices.Clone(l.Regions), name)
			}
		}
	}
	body.clear = body.layer(EffectClear, EffectRounds)
	return &body
}

// boardUnderFilm reports whether the fretboard is finished with the neck.
func (w *Wish) boardUnderFilm() bool { return w.Board != nil && w.Board.Finish == "under-film" }

// boardApart reports whether the fretboard has a schedule of its own.
func (w *Wish) boardApart() bool {
	return w.Board != nil && !w.boardUnderFilm() && w.Board.Finish != "bare"
}

// builds reports whether a family leaves a film to be levelled, and does not go
// into the wood.
func builds(f material.Family) bool { return f.Group == "clear" }

// oily reports whether a wood keeps oils and polyester from curing.
func oily(w wood.Wood) bool { return w.InhibitsCure >= 2 }

func drinks(w wood.Wood) bool { return w.Drinks() }

// known reports whether what it is made of and ends in is in the tables.
func (p *PieceWish) known() bool {
	_, errWood := wood.Find(p.Wood)
	return errWood == nil && !slices.ContainsFunc(p.layers(EffectClear), func(l *Layer) bool {
		_, err := material.FindFamily(l.Family)
		return err != nil
	})
}

func (p *PieceWish) timber() wood.Wood {
	w, _ := wood.Find(p.Wood) // known by now
	return w
}

// family is the family that it ends in; none where it ends bare.
func (p *PieceWish) family() material.Family { return familyOf(p.clear) }

// familyOf is the family of what ends a stack.
func familyOf(l *Layer) material.Family {
	if l == nil {
		return material.Family{}
	}
	f, _ := material.FindFamily(or(l.Family, "finishing-oil")) // of rounds, where it names none
	return f
}

// ending is its clear seen alone: the piece as far as that reaches.
func (p *PieceWish) ending(l *Layer) *PieceWish {
	one := *p
	one.clear = l
	return &one
}

func (p *PieceWish) method() material.Method { return material.Method(p.way("method")) }

func (p *PieceWish) sprays() bool {
	return p.method() == material.Spray || p.method() == material.Aerosol
}

func (p *PieceWish) drinks() bool { return p.timber().Drinks() }

// watered reports whether water comes on the bare wood.
func (p *PieceWish) watered() bool {
	coloured := slices.ContainsFunc(p.layers(EffectColour), func(l *Layer) bool { return !l.opaque() && !l.airbrushed() })
	return p.family().Kinetics == material.Waterborne || coloured || (p.clear != nil && !builds(p.family()))
}

// charred reports whether its wood is burnt all over, now or before it came.
func (p *PieceWish) charred() bool {
	return p.find(func(l *Layer) bool { return l.Effect == EffectFlame && l.kind() == "all" }) != nil
}

// coloured reports whether there is colour below the clear.
func (p *PieceWish) coloured() bool {
	return p.layer(EffectColour, EffectFlake, EffectCandy, EffectLeaf, EffectParticles, EffectTint) != nil
}

// covered reports whether opaque colour hides the wood.
func (p *PieceWish) covered() bool { return p.find((*Layer).opaque) != nil }

// timbers are the woods of its regions.
func (p *PieceWish) timbers() []wood.Wood {
	list := []wood.Wood{p.timber()}
	for _, z := range p.Regions {
		if w, err := wood.Find(z.Wood); err == nil && z.Wood != p.Wood {
			list = append(list, w)
		}
	}
	return list
}

func (p *PieceWish) openPored() bool { return slices.ContainsFunc(p.timbers(), wood.Wood.OpenPored) }

// fills reports whether its pores are filled with a filler.
func (p *PieceWish) fills() bool {
	return p.openPored() && !p.charred() && (p.way("fill-with") == "filler" || !builds(p.family())) &&
		slices.ContainsFunc(p.layers(EffectFill), func(l *Layer) bool { return p.wayOf(l, "pores") != "open" })
}

// sheens are the sheens of its regions.
func (p *PieceWish) sheens() []string {
	if p.clear == nil {
		return nil
	}
	var list []string
	for _, name := range p.names() {
		z := p.region(name)
		if sheen := or(z.Sheen, p.clear.Sheen); p.clear.reaches(Region{Region: job.Region{Name: name}}) && !slices.Contains(list, sheen) {
			list = append(list, sheen)
		}
	}
	return list
}

func (p *PieceWish) shines() bool { return slices.Contains(p.sheens(), "gloss") }

func (p *PieceWish) dulls() bool {
	return slices.ContainsFunc(p.sheens(), func(s string) bool { return s != "gloss" })
}

// asItIs reports whether nothing is levelled: texture, scales and char stay.
func (p *PieceWish) asItIs() bool { return p.clear != nil && p.clear.As == "as-it-is" }

// flatted reports whether matte and satin are in the last coat, not rubbed.
func (p *PieceWish) flatted() bool {
	return p.dulls() && builds(p.family()) && p.family().ID != "shellac" && (p.asItIs() || p.way("flatting") == "can")
}

// rubsOut reports whether a film is levelled or rubbed after its last coat.
func (p *PieceWish) rubsOut() bool {
	return builds(p.family()) && !p.asItIs() && (p.shines() || (p.dulls() && !p.flatted()))
}

// heatSoft reports whether a buffing wheel would ruin what is below.
func (p *PieceWish) heatSoft() bool {
	return slices.ContainsFunc(p.timbers(), func(w wood.Wood) bool { return w.Softens != nil && *w.Softens < wheelHeat })
}

// wheelHeat is what a buffing wheel easily reaches, in °C (default).
const wheelHeat = 80
