package recipe

import (
	"fmt"
	"math"
	"slices"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
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
	Board    *BoardWish        `json:"board,omitempty"`
	Frets    string            `json:"frets,omitempty" enum:"none,mirror,brushed"`
	FretWire string            `json:"fretWire,omitempty" enum:"nickel-silver,stainless,copper-alloy" doc:"the metal of the frets"`
	Cavities string            `json:"cavities,omitempty" enum:"none,paint,foil"`
	Fittings string            `json:"fittings,omitempty" maxLength:"200" doc:"hardware, pickups and plastics of the whole look, in words"`
	Arrivals []Arrival         `json:"arrivals,omitempty" maxItems:"8" doc:"what is on order"`
	outline  string            // of its body, where it is known
	areas    map[string]unit.SquareMetre
}

// Of is the wish of an instrument with an outline: its areas come from that.
func (w Wish) Of(outline string) Wish {
	w.outline = outline
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
	Regions   []RegionWish      `json:"regions,omitempty" maxItems:"8" doc:"what differs by region"`
	Length    string            `json:"length" doc:"as typed: 480 mm, 18 7/8 in"`
	Width     string            `json:"width"`
	Thickness string            `json:"thickness,omitempty" doc:"of a body"`
	Look      string            `json:"look,omitempty" enum:"natural,one-colour,grain-colour,burst,solid,flake,charred"`
	Texture   bool              `json:"texture,omitempty" doc:"the grain is brushed out before colour"`
	Sheen     string            `json:"sheen,omitempty" enum:"matte,satin,gloss"`
	Clear     string            `json:"clear,omitempty" doc:"the family of the clear"`
	Wax       bool              `json:"wax,omitempty" doc:"a last coat of wax"`
	Ways      map[string]string `json:"ways,omitempty" doc:"the school chosen, by topic"`
	of        *Wish             // what it is a piece of, once that is ready
}

// RegionWish is what differs in one region.
type RegionWish struct {
	Name  string `json:"name"`
	Wood  string `json:"wood,omitempty"`
	Sheen string `json:"sheen,omitempty" enum:"matte,satin,gloss"`
	Plain bool   `json:"plain,omitempty" doc:"stays without the colour of its piece"`
}

// BoardWish is the fretboard.
type BoardWish struct {
	Wood   string `json:"wood"`
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
	Looks         = []string{"natural", "one-colour", "grain-colour", "burst", "solid", "flake", "charred"}
	Sheens        = []string{"matte", "satin", "gloss"}
	Boards        = []string{"bare", "drying-oil", "conditioning-oil", "oil-shellac-wax", "under-film", "hardened"}
	FretLooks     = []string{"none", "mirror", "brushed"}
	FretWires     = []string{"nickel-silver", "stainless", "copper-alloy"}
	CavityLinings = []string{"none", "paint", "foil"}
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
		p := &w.Pieces[i]
		p.Look, p.Sheen, p.Clear = or(p.Look, "natural"), or(p.Sheen, "satin"), or(p.Clear, "water-clear")
	}
	if w.Board != nil {
		board := *w.Board
		if board.Finish == "" {
			board.Finish = usualBoard(board.Wood)
		}
		w.Board = &board
	}
	return w
}

// Text says in a few words what is wished of a kind of piece.
func (w Wish) Text(kind PieceKind) string {
	w = w.ready()
	if p := w.piece(kind); p != nil && p.known() {
		return fmt.Sprintf("%s, %s, %s", lookTexts[p.Look], p.Sheen, p.family().Named())
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

var lookTexts = map[string]string{"natural": "Natural", "one-colour": "One colour", "grain-colour": "Dark in the grain", "burst": "Burst",
	"solid": "Solid colour", "flake": "Flake", "charred": "Charred"}

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

// LookOptions and BoardOptions list looks and board finishes in words.
func LookOptions() []Option  { return options(Looks, lookTexts) }
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
		if p.of = of; p.Kind == Neck && w.boardUnderFilm() { // a region of the neck, then
			p.Regions = append(slices.Clone(p.Regions), RegionWish{Name: "fretboard", Wood: w.Board.Wood, Plain: true})
		}
	}
	return *of
}

// usualBoard is the finish of a board where none was chosen: pale boards soil bare,
// dark ones are oily and stay open.
func usualBoard(id string) string {
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

// glued is what is wished of body and neck that are finished as one: the body's wish,
// with the regions of the neck as they differ.
func (w *Wish) glued() *PieceWish {
	body, neck := *w.piece(Body), w.piece(Neck)
	body.Regions = slices.Clone(body.Regions)
	names := regionNames(Neck)
	if w.boardUnderFilm() {
		names = append(names, "fretboard")
	}
	for _, name := range names {
		z := RegionWish{Name: name, Wood: neck.Wood, Sheen: neck.Sheen, Plain: !neck.coloured()}
		for _, own := range neck.Regions {
			if own.Name == name {
				z.Wood, z.Sheen, z.Plain = or(own.Wood, neck.Wood), or(own.Sheen, neck.Sheen), z.Plain || own.Plain
			}
		}
		body.Regions = append(body.Regions, z)
	}
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

// known reports whether what it is made of and ends in is in the tables.
func (p *PieceWish) known() bool {
	_, errWood := wood.Find(p.Wood)
	_, errClear := material.FindFamily(p.Clear)
	return errWood == nil && errClear == nil
}

func (p *PieceWish) timber() wood.Wood {
	w, _ := wood.Find(p.Wood) // known by now
	return w
}

func (p *PieceWish) family() material.Family {
	f, _ := material.FindFamily(p.Clear) // known by now
	return f
}

func (p *PieceWish) method() material.Method { return material.Method(p.way("method")) }

func (p *PieceWish) sprays() bool {
	return p.method() == material.Spray || p.method() == material.Aerosol
}

func (p *PieceWish) drinks() bool { return p.timber().Drinks() }

// watered reports whether water comes on the bare wood.
func (p *PieceWish) watered() bool {
	return p.family().Kinetics == material.Waterborne || slices.Contains([]string{"one-colour", "grain-colour", "burst"}, p.Look) ||
		!builds(p.family())
}

// charred reports whether its wood is burnt.
func (p *PieceWish) charred() bool { return p.Look == "charred" }

// coloured reports whether there is colour below the clear.
func (p *PieceWish) coloured() bool { return p.Look != "natural" && !p.charred() }

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
	return p.openPored() && !p.charred() && p.way("pores") != "open" && (p.way("fill-with") == "filler" || !builds(p.family()))
}

// sheens are the sheens of its regions.
func (p *PieceWish) sheens() []string {
	list := []string{p.Sheen}
	for _, z := range p.Regions {
		if z.Sheen != "" && !slices.Contains(list, z.Sheen) {
			list = append(list, z.Sheen)
		}
	}
	return list
}

func (p *PieceWish) shines() bool { return slices.Contains(p.sheens(), "gloss") }

func (p *PieceWish) dulls() bool {
	return slices.ContainsFunc(p.sheens(), func(s string) bool { return s != "gloss" })
}

// flatted reports whether matte and satin are in the last coat, not rubbed.
func (p *PieceWish) flatted() bool {
	return p.dulls() && builds(p.family()) && p.family().ID != "shellac" && p.way("flatting") == "can"
}

// rubsOut reports whether a film is levelled or rubbed after its last coat.
func (p *PieceWish) rubsOut() bool {
	return builds(p.family()) && (p.shines() || (p.dulls() && !p.flatted()))
}

// heatSoft reports whether a buffing wheel would ruin what is below.
func (p *PieceWish) heatSoft() bool {
	return slices.ContainsFunc(p.timbers(), func(w wood.Wood) bool { return w.Softens != nil && *w.Softens < wheelHeat })
}

// wheelHeat is what a buffing wheel easily reaches, in °C (default).
const wheelHeat = 80
