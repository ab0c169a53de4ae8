package recipe

import (
	"fmt"
	"strings"

	"umberfrost/internal/craft/colour"
	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// Look is how a piece will look, as far as its colours are known: what a page needs to draw it, and no more.
// Lengths are mm on the piece, from the left and the top of the box round it.
type Look struct {
	Piece   PieceKind    `json:"piece" enum:"body,neck"`
	Length  float64      `json:"lengthMm"`
	Width   float64      `json:"widthMm"`
	Regions []RegionLook `json:"regions" doc:"natural ones first, then those that are drawn within them"`
}

// RegionLook is a region as it is drawn.
type RegionLook struct {
	Name    string  `json:"name"`
	Face    string  `json:"face" enum:"front,back,side"`
	Path    string  `json:"path,omitempty" doc:"where it lies on its face: SVG path data; none: all of the face, or a band along its edge"`
	Band    float64 `json:"bandMm,omitempty" doc:"a band of this width along the edge of the piece"`
	Along   float64 `json:"alongMm,omitempty" doc:"how far the band runs; none: all the way round"`
	Hole    bool    `json:"hole,omitempty" doc:"what is drawn is cut out, and its rim is finished"`
	Hidden  bool    `json:"hidden,omitempty" doc:"it lies where no face shows it: a joint, a cavity"`
	Wood    string  `json:"wood"`
	Ground  string  `json:"ground" doc:"#RRGGBB, the wood, wetted once anything lies on it"`
	Pores   bool    `json:"pores,omitempty" doc:"its pores show"`
	Figured bool    `json:"figured,omitempty"`
	Paints  []Paint `json:"paints" doc:"from the wood upwards"`
	Sheen   string  `json:"sheen,omitempty" enum:"matte,satin,gloss"`
}

// Paint is what one layer adds to the picture.
type Paint struct {
	Layer   string   `json:"layer"`
	As      string   `json:"as" enum:"even,grain,fade,burst,wiped,flake,particles,stencil,leaf,torn,char,accents,texture,pour,cloth,mark"`
	Colours []string `json:"colours" doc:"#RRGGBB; of a burst from the middle to the edge, of a fade along its line"`
	Cover   float64  `json:"cover" doc:"the share that it covers of what lies below, 0 to 1"`
	Guessed bool     `json:"guessed,omitempty" doc:"no colour was chosen: drawn as one that is often used"`
}

// How much of what lies below a colour covers, by what carries it (default).
var covers = map[string]float64{"": 0.8, "water": 0.8, "spirit": 0.8, "oil": 0.7, "stain": 0.75,
	"bound": 0.85, "opaque": 1, "airbrush": 0.9, "toner": 0.6}

// What is drawn where nobody has chosen a colour.
const (
	guessedColour = "#8A5A32"
	guessedDark   = "#33281F"
	guessedEdge   = "#3E2417"
	guessedBase   = "#B9B6AE"
	guessedCandy  = "#8C2F26"
	guessedResin  = "#3D6A73"
)

// Colours that things have by themselves.
const (
	amber       = "#C98B2C"
	charColour  = "#211C1A"
	flakeColour = "#C2C6C9"
	grainColour = "#8F867A"
	whiteMetal  = "#C6C8C8"
	fibre       = "#3A3B3D"
	relief      = "#33281F"
)

// Looks are how body and neck will look. The colours of a layer are those of the product chosen for it, which
// tint knows, else those that it names in words. Only what lies there is drawn; nil draws everything.
func (w Wish) Looks(tint func(PieceKind, string) string, lies func(PieceKind, string) bool) []Look {
	w = w.ready()
	var looks []Look
	for i := range w.Pieces {
		p := &w.Pieces[i]
		if !p.known() {
			continue
		}
		l := Look{Piece: p.Kind, Length: float64(lengthOf(p.Length)), Width: float64(lengthOf(p.Width))}
		d := drawing{p, p, l.Length, l.Width, tint, lies}
		if w.gluedFirst() {
			d.stack = w.glued()
		}
		for _, name := range p.names() {
			wish := p.region(name)
			l.Regions = append(l.Regions, d.region(Region{Region: job.Region{Name: name, Wood: or(wish.Wood, p.Wood)}, wish: wish}))
		}
		if p.Kind == Neck && w.boardApart() {
			l.Regions = append(l.Regions, boardLook(w.Board))
		}
		looks = append(looks, l)
	}
	return looks
}

// boardLook is a fretboard that is finished by itself, seen beside the neck.
func boardLook(b *BoardWish) RegionLook {
	look := RegionLook{Name: "fretboard", Face: "front", Wood: b.Wood, Ground: guessedColour, Paints: []Paint{}}
	if timber, err := wood.Find(b.Wood); err == nil {
		look.Ground, look.Pores = timber.WetColour, timber.OpenPored()
	}
	return look
}

// drawing draws the regions of a piece.
type drawing struct {
	p, stack      *PieceWish // the piece, and the one whose layers lie on it
	length, width float64
	tint          func(PieceKind, string) string
	lies          func(PieceKind, string) bool
}

func (d drawing) region(z Region) RegionLook {
	timber := timberOf(z)
	look := RegionLook{Name: z.Name, Face: face(d.p.Kind, z), Wood: z.Wood, Ground: timber.BareColour, Pores: timber.OpenPored(),
		Figured: d.p.Figured && timber.Drinks(), Paints: []Paint{}}
	d.place(&look, z)
	for _, l := range d.stack.on(z) {
		if d.lies != nil && !d.lies(d.stack.Kind, l.ID) {
			continue
		}
		if l.Effect != EffectTexture && l.Effect != EffectMend && l.Effect != EffectFlame {
			look.Ground = timber.WetColour
		}
		if paint, shows := d.paint(l); shows {
			look.Paints = append(look.Paints, paint)
		}
		if l.Effect == EffectFill && d.stack.wayOf(l, "pores") == "full" || l.opaque() {
			look.Pores = false
		}
		if l.Effect.ends() {
			look.Sheen = or(z.wish.Sheen, l.Sheen)
		}
	}
	return look
}

// face is the face of a piece that shows a region.
func face(kind PieceKind, z Region) string {
	name := z.Name
	if z.wish.Kind != "" {
		name = z.wish.in(kind)
	}
	switch name {
	case "back", "shaft":
		return "back"
	case "sides":
		return "side"
	}
	return "front"
}

// place says where on its face a drawn region lies.
func (d drawing) place(look *RegionLook, z Region) {
	wide, long := float64(lengthOf(z.wish.Width)), float64(lengthOf(z.wish.Length))
	switch z.wish.Kind {
	case "strips":
		for _, band := range stripBands(unit.Millimetre(d.width), max(z.wish.Count, 1), lengthOf(z.wish.Width), z.wish.Mirrored) {
			look.Path += rectangle(float64(band[0]), float64(band[1]), d.length)
		}
	case "half":
		look.Path = rectangle(0, d.width/2, d.length)
		if z.wish.Side == "right" {
			look.Path = rectangle(d.width/2, d.width, d.length)
		}
	case "shape", "inlay":
		look.Path = z.wish.Path
	case "cut-out":
		look.Path, look.Hole = z.wish.Path, true
	case "border", "bevel", "binding", "round-over":
		look.Band, look.Along = wide, long
	case "joint-face", "cavity":
		look.Hidden = true
	}
	if z.wish.Kind != "" && look.Path == "" && look.Band == 0 {
		look.Hidden = true
	}
}

func rectangle(left, right, length float64) string {
	return fmt.Sprintf("M%.1f 0H%.1fV%.1fH%.1fZ", left, right, length, left)
}

// paint is what a layer adds to the picture; false where it adds nothing that shows.
func (d drawing) paint(l *Layer) (Paint, bool) {
	p := Paint{Layer: l.ID, As: "even", Cover: 1}
	switch l.Effect {
	case EffectColour:
		return d.coloured(l, p), true
	case EffectTint:
		return p.known(d.of(l), amber, 0.35), true
	case EffectCandy:
		return p.in(d.of(l), guessedCandy, 0.75), true
	case EffectFlake:
		p.As = "flake"
		return p.known(d.of(l), flakeColour, 0.75), true
	case EffectParticles:
		p.As = map[string]string{"stencil": "stencil", "free": "particles"}[l.kind()]
		return p.known(d.of(l), grainsOf(l), 0.9), true
	case EffectLeaf:
		p.As = map[bool]string{false: "leaf", true: "torn"}[l.Torn]
		return p.known(d.of(l), leafOf(l), 1), true
	case EffectPour:
		p.As = "pour"
		return p.in(d.of(l), guessedResin, 0.9), true
	case EffectFlame:
		p.As = map[string]string{"all": "char", "accents": "accents"}[l.kind()]
		return p.known(nil, charColour, 0.92), true
	case EffectTexture:
		p.As = "texture"
		return p.known(nil, relief, 0.25), true
	case EffectMark:
		p.As = "mark"
		return p.known(d.of(l), relief, 0.9), true
	case EffectCloth:
		p.As = "cloth"
		return p.known(d.of(l), fibre, 0.8), true
	case EffectSeal:
		if l.kind() == "warm" {
			return p.known(nil, amber, 0.3), true
		}
	}
	return p, false
}

// coloured is a layer of colour, by how it is blended.
func (d drawing) coloured(l *Layer, p Paint) Paint {
	p.As = l.kind()
	carrier := l.carrier()
	switch {
	case l.opaque():
		if p.As == "grain" {
			p.As = "even"
		}
		return p.in(d.of(l), guessedBase, 1)
	case l.grain():
		return p.in(d.of(l), guessedDark, 0.85)
	case l.burst():
		return p.in(d.of(l), guessedEdge, 0.92)
	case l.kind() == "wiped":
		return p.in(d.of(l), guessedColour, covers[carrier]-0.1)
	}
	return p.in(d.of(l), guessedColour, covers[carrier])
}

// in is the paint in the colours that were chosen, or in one that is often used.
func (p Paint) in(chosen []string, usual string, cover float64) Paint {
	p.Colours, p.Cover = chosen, cover
	if len(chosen) == 0 {
		p.Colours, p.Guessed = []string{usual}, true
	}
	return p
}

// known is the paint of something that has a colour of its own, unless another was chosen.
func (p Paint) known(chosen []string, own string, cover float64) Paint {
	p = p.in(chosen, own, cover)
	p.Guessed = false
	return p
}

// of are the colours of a layer: those of the product that was chosen for it, where it has one colour, else those it names.
func (d drawing) of(l *Layer) []string {
	if d.tint != nil && len(l.Colours) < 2 {
		if hex := d.tint(d.stack.Kind, l.ID); hex != "" {
			return []string{hex}
		}
	}
	var list []string
	for _, said := range l.Colours {
		if c, known := colour.Find(said); known {
			list = append(list, c.Hex())
		}
	}
	return list
}

// Metals of leaf that are not white.
var leafColours = map[string]string{"gold": "#CDA64B", "brass": "#BF9B4A", "copper": "#B87345", "variegated": "#8F7A55"}

// leafOf is the colour of a metal leaf.
func leafOf(l *Layer) string {
	metal, _, _ := strings.Cut(or(l.Of, "brass-oil-fast"), "-")
	return or(leafColours[metal], whiteMetal)
}

// grainsOf is the colour of strewn grains.
func grainsOf(l *Layer) string {
	if row, err := flake.Find(l.Of); err == nil && !strings.Contains(row.Material, "sand") {
		return flakeColour
	}
	return grainColour
}
