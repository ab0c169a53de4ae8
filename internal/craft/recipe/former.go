package recipe

import (
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
)

// Wishes were kept in looks before they had layers: a piece had one look out of seven, texture and wax
// or not, and regions that stayed plain. Those are translated once, where they are kept or read: the same
// stack, with layers whose ids follow from what their steps were called.

// formerPiece is what was kept of a piece then; what has stayed the same is read as it is.
type formerPiece struct {
	Look    string            `json:"look"`
	Texture bool              `json:"texture"`
	Wax     bool              `json:"wax"`
	Sheen   string            `json:"sheen"`
	Clear   string            `json:"clear"`
	Ways    map[string]string `json:"ways"`
	Regions []struct {
		Name  string `json:"name"`
		Plain bool   `json:"plain"`
	} `json:"regions"`
}

// FromLooks translates a wish that was kept in looks. One that has layers already stays as it is.
func FromLooks(kept []byte) (Wish, error) {
	var w Wish
	var former struct {
		Pieces []formerPiece `json:"pieces"`
	}
	if err := json.Unmarshal(kept, &former); err != nil {
		return Wish{}, fmt.Errorf("a wish in looks: %w", err)
	}
	if err := json.Unmarshal(kept, &w); err != nil {
		return Wish{}, fmt.Errorf("a wish: %w", err)
	}
	for i := range w.Pieces {
		if p := &w.Pieces[i]; len(p.Layers) == 0 && p.Preset == "" && i < len(former.Pieces) {
			p.fromLook(former.Pieces[i])
		}
	}
	return w, nil
}

func (p *PieceWish) fromLook(f formerPiece) {
	ways := f.Ways
	p.Ways = nil
	*p = p.From(or(f.Look, "natural"))
	*p = p.Ending(or(f.Clear, "water-clear"), or(f.Sheen, "satin"))
	if f.Texture {
		p.Layers = slices.Insert(p.Layers, 0, Layer{ID: "texture", Effect: EffectTexture})
	}
	if f.Wax {
		p.Layers = append(p.Layers, Layer{ID: "wax", Effect: EffectWax})
	}
	for _, t := range topics {
		if option := ways[t.id]; option != "" && (t.id != "figure" || p.Preset == "natural") {
			p.clear = p.layer(EffectClear, EffectRounds)
			p.choose(t.id, option)
		}
	}
	p.clear = nil
	kept := p.Regions
	for _, z := range f.Regions {
		if z.Plain {
			p.keepOff(z.Name)
		}
	}
	p.Regions = slices.DeleteFunc(slices.Clone(kept), func(z RegionWish) bool { return z.Wood == "" && z.Sheen == "" && z.Kind == "" })
}

// formerSlots are the layers that steps belong to by what they were called; those of the clear and
// of the piece itself are told apart below.
var formerSlots = map[string]string{
	"texture": "texture", "char": "char", "char-clean": "char", "seal-char": "char", "dark": "dark", "rub-back": "dark",
	"washcoat": "colour", "sand-washcoat": "colour", "colour": "colour", "edge": "burst", "shade": "burst", "fill": "fill",
	"sand-fill": "fill",
	"pores":     "fill", "barrier-again": "fill", "slurry": "fill", "warm": "warm", "base": "base", "flake": "flake", "wax": "wax",
	"isolate": "clear", "isolated": "clear", "seal": "clear", "scuff-seal": "clear", "buried": "clear", "cure-test": "clear",
	"plug":       "clear",
	"level-half": "clear", "level": "clear", "buff": "clear", "degrease": "clear", "scuff": "clear", "polish": "clear",
}

// What the steps of a clear were called, with a number or a sheen.
var formerClear = regexp.MustCompile(`^(clear(-\d+)*|flat-\w+|tape-(satin|matte)|untape-\w+|level-(satin|matte)|rub-\w+|oil-\w+)$`)

// number is what is put behind a slot that was taken.
var number = regexp.MustCompile(`-\d+$`)

// FormerSlot is the slot of a step as it is now: piece, layer and role, of one that was called without
// its layer. The wish, as translated, tells whose a toner was.
func FormerSlot(slot string, w *Wish) string {
	kind, name, found := strings.Cut(slot, ":")
	if !found || strings.Contains(name, ":") {
		return slot
	}
	inner := ""
	if i := strings.LastIndex(kind, " "); i >= 0 { // a wait that somebody put before a step carries its slot
		inner, kind = kind[:i+1], kind[i+1:]
	}
	if layer := formerLayer(PieceKind(kind), name, w); layer != "" {
		return inner + kind + ":" + layer + ":" + name
	}
	return slot
}

func formerLayer(kind PieceKind, name string, w *Wish) string {
	if kind != Body && kind != Neck && kind != Whole && name != "wax" { // the wax of a neck may stand with its frets
		return ""
	}
	for _, prefix := range []string{"barrier-", "scuff-"} { // these were called after the coat that they serve
		rest, has := strings.CutPrefix(name, prefix)
		if !has || formerSlots[name] != "" {
			continue
		}
		for end := len(rest); end > 0; end = strings.LastIndex(rest[:end], "-") {
			if layer := formerLayer(kind, rest[:end], w); layer != "" {
				return layer
			}
		}
		return ""
	}
	switch {
	case name == "tone":
		return w.tonedBy(kind)
	case formerSlots[name] != "":
		return formerSlots[name]
	case formerClear.MatchString(name):
		return "clear"
	case number.MatchString(name):
		return formerLayer(kind, number.ReplaceAllString(name, ""), w)
	}
	return ""
}

// tonedBy is the layer whose toner a former look had.
func (w *Wish) tonedBy(kind PieceKind) string {
	if kind == Whole {
		kind = Body
	}
	if w != nil {
		if p := w.piece(kind); p != nil && p.find((*Layer).grain) != nil {
			return "dark"
		}
	}
	return "colour"
}
