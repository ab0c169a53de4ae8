// Package looks is what became of wishes that were kept in looks, in databases (migration 11) and in files of version 2:
// a piece had one look out of seven, texture and wax or not, and regions that stayed plain. It becomes a stack of
// layers, as the rules of that time had it. The package is frozen: it reads and writes JSON and calls no rule of today,
// so that what was kept then comes up to date in the same way for ever.
package looks

import (
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
)

// layer is a layer as migration 11 writes it.
type layer struct {
	ID      string            `json:"id"`
	Effect  string            `json:"effect"`
	Regions []string          `json:"regions,omitempty"`
	Off     bool              `json:"off,omitempty"`
	As      string            `json:"as,omitempty"`
	Carrier string            `json:"carrier,omitempty"`
	Family  string            `json:"family,omitempty"`
	Method  string            `json:"method,omitempty"`
	Sheen   string            `json:"sheen,omitempty"`
	Tinted  bool              `json:"tinted,omitempty"`
	Ways    map[string]string `json:"ways,omitempty"`
}

// former is what was kept of a piece.
type former struct {
	Kind    string            `json:"kind"`
	Look    string            `json:"look"`
	Texture bool              `json:"texture"`
	Wax     bool              `json:"wax"`
	Sheen   string            `json:"sheen"`
	Clear   string            `json:"clear"`
	Ways    map[string]string `json:"ways"`
	Regions []map[string]any  `json:"regions"`
	Preset  string            `json:"preset"`
	Layers  []json.RawMessage `json:"layers"`
	stack   []layer           // what it becomes
	chosen  map[string]string // what was chosen of the whole piece
}

// Wish is a wish in layers.
type Wish struct {
	JSON []byte
	dark map[string]bool // kinds of pieces with a colour in the grain
}

// Translate turns a wish in looks into one in layers. One that has layers already stays as it is.
func Translate(kept []byte) (Wish, error) {
	var wish map[string]json.RawMessage
	var pieces []map[string]json.RawMessage
	if err := json.Unmarshal(kept, &wish); err != nil {
		return Wish{}, fmt.Errorf("a wish in looks: %w", err)
	}
	if list, has := wish["pieces"]; has {
		if err := json.Unmarshal(list, &pieces); err != nil {
			return Wish{}, fmt.Errorf("the pieces of a wish in looks: %w", err)
		}
	}
	out := Wish{dark: make(map[string]bool)}
	for _, piece := range pieces {
		if err := out.translate(piece); err != nil {
			return Wish{}, err
		}
	}
	var err error
	if wish["pieces"], err = json.Marshal(pieces); err != nil {
		return Wish{}, err
	}
	out.JSON, err = json.Marshal(wish)
	return out, err
}

// translate turns one piece into a stack, in place.
func (w *Wish) translate(piece map[string]json.RawMessage) error {
	data, err := json.Marshal(piece)
	if err != nil {
		return err
	}
	var p former
	if err := json.Unmarshal(data, &p); err != nil {
		return fmt.Errorf("a piece of a wish in looks: %w", err)
	}
	if len(p.Layers) > 0 || p.Preset != "" {
		for _, kept := range p.Layers {
			var l layer
			if json.Unmarshal(kept, &l) == nil && l.grain() {
				w.dark[p.Kind] = true
			}
		}
		return nil
	}
	p.lay()
	w.dark[p.Kind] = slices.ContainsFunc(p.stack, func(l layer) bool { return l.grain() })
	for _, key := range []string{"look", "texture", "wax", "sheen", "clear", "ways", "regions"} {
		delete(piece, key)
	}
	for key, value := range map[string]any{"preset": p.Preset, "layers": p.stack, "ways": p.chosen, "regions": p.regions()} {
		if text, err := json.Marshal(value); err != nil {
			return err
		} else if string(text) != "null" {
			piece[key] = text
		}
	}
	return nil
}

// looks are the stacks of the seven, from the wood upwards.
var looks = map[string][]layer{
	"natural":      {fill, clear},
	"one-colour":   {colour, fill, clear},
	"grain-colour": {{ID: "dark", Effect: "colour", As: "grain"}, colour, {ID: "fill", Effect: "fill", Tinted: true}, clear},
	"burst":        {colour, {ID: "burst", Effect: "colour", As: "burst"}, fill, clear},
	"solid":        {fill, base, clear},
	"flake":        {fill, base, {ID: "flake", Effect: "flake"}, clear},
	"charred":      {{ID: "char", Effect: "flame", As: "all"}, fill, clear},
}

var (
	fill   = layer{ID: "fill", Effect: "fill"}
	clear  = layer{ID: "clear", Effect: "clear"}
	colour = layer{ID: "colour", Effect: "colour", As: "even"}
	base   = layer{ID: "base", Effect: "colour", As: "even", Carrier: "opaque"}
)

// topics are what was chosen among schools, in the order in which the choices were followed.
var topics = []string{"grain", "figure", "colour-as", "colour-on", "burst", "pores", "fill-with", "fill-order", "method", "build",
	"flatting",
	"cure-by", "levelling", "pads", "shine"}

func (l *layer) grain() bool { return l.Effect == "colour" && l.As == "grain" }

// even is a colour of the field.
func (l *layer) even() bool { return l.Effect == "colour" && l.As == "even" && l.Carrier != "opaque" }

// inWood is a colour that soaks into the wood: not one in coats above the sealer, nor a burst that is sprayed.
func (l *layer) inWood() bool {
	switch {
	case l.grain():
		return true
	case l.even():
		return l.Ways["colour-on"] != "toner"
	}
	return l.Effect == "colour" && l.As == "burst" && l.Method == "wipe"
}

// lay makes the stack of a look.
func (p *former) lay() {
	p.Preset = p.Look
	if looks[p.Preset] == nil {
		p.Preset = "natural"
	}
	p.stack = slices.Clone(looks[p.Preset])
	end := &p.stack[len(p.stack)-1]
	end.Family, end.Sheen = p.Clear, p.Sheen
	if end.Family == "" {
		end.Family = "water-clear"
	}
	if end.Sheen == "" {
		end.Sheen = "satin"
	}
	if p.Texture {
		p.stack = slices.Insert(p.stack, 0, layer{ID: "texture", Effect: "texture"})
	}
	if p.Wax {
		p.stack = append(p.stack, layer{ID: "wax", Effect: "wax"})
	}
	for _, topic := range topics {
		if option := p.Ways[topic]; option != "" && (topic != "figure" || p.Preset == "natural") {
			p.choose(topic, option)
		}
	}
	for _, region := range p.Regions {
		if plain, _ := region["plain"].(bool); plain {
			p.keepOff(fmt.Sprint(region["name"]))
		}
	}
}

// find is the first layer of which something holds; nil where there is none.
func (p *former) find(holds func(*layer) bool) *layer {
	for i := range p.stack {
		if holds(&p.stack[i]) {
			return &p.stack[i]
		}
	}
	return nil
}

// of is the first layer of an effect.
func (p *former) of(effect string) *layer {
	return p.find(func(l *layer) bool { return l.Effect == effect })
}

// choose follows a school, where there is what it speaks of.
func (p *former) choose(topic, option string) {
	if topic == "grain" {
		p.chosen = map[string]string{topic: option}
		return
	}
	l := p.of("clear")
	switch topic {
	case "figure":
		p.figure(option)
		return
	case "colour-as", "colour-on":
		l = p.find((*layer).even)
	case "burst":
		l = p.find(func(l *layer) bool { return l.Effect == "colour" && l.As == "burst" })
	case "pores", "fill-with", "fill-order":
		l = p.of("fill")
	}
	if l == nil {
		return
	}
	switch topic {
	case "colour-as":
		l.Carrier = map[string]string{"dye": "water", "bound": "bound", "stain": "stain"}[option]
	case "burst":
		l.Method = map[string]string{"spray": "spray", "rub": "wipe"}[option]
	case "pores":
		l.As = option
	case "method":
		l.Method = option
	case "fill-order":
		p.order(*l, option)
	default:
		ways := maps.Clone(l.Ways)
		if ways == nil {
			ways = make(map[string]string)
		}
		ways[topic] = option
		l.Ways = ways
	}
}

// figure lays a dark colour below the rest, or an amber first coat.
func (p *former) figure(option string) {
	at := slices.IndexFunc(p.stack, func(l layer) bool { return l.Effect == "fill" || l.Effect == "clear" })
	switch option {
	case "dark":
		p.stack = slices.Insert(p.stack, at, layer{ID: "dark", Effect: "colour", As: "grain"})
		p.Preset = "grain-colour"
	case "warm":
		p.stack = slices.Insert(p.stack, at, layer{ID: "warm", Effect: "seal", As: "warm"})
	}
}

// order puts the filler below the colour in the wood, or above it.
func (p *former) order(filler layer, option string) {
	p.stack = slices.DeleteFunc(slices.Clone(p.stack), func(l layer) bool { return l.ID == filler.ID })
	filler.Tinted = option == "tinted"
	at := 0
	for i := range p.stack {
		if !p.stack[i].inWood() {
			continue
		}
		if option == "first" {
			at = i
			break
		}
		at = i + 1
	}
	p.stack = slices.Insert(p.stack, at, filler)
}

// natural are the regions that every piece of a kind has.
var natural = map[string][]string{"body": {"top", "back", "sides"}, "whole": {"top", "back", "sides"}, "neck": {"shaft", "headstock"}}

// keepOff keeps what colours the wood off a region.
func (p *former) keepOff(region string) {
	for i := range p.stack {
		l := &p.stack[i]
		if !slices.Contains([]string{"texture", "flame", "colour", "flake"}, l.Effect) {
			continue
		}
		if len(l.Regions) == 0 {
			l.Regions = slices.Clone(natural[p.Kind])
			for _, z := range p.Regions {
				if name := fmt.Sprint(z["name"]); !slices.Contains(l.Regions, name) {
					l.Regions = append(l.Regions, name)
				}
			}
		}
		l.Regions = slices.DeleteFunc(slices.Clone(l.Regions), func(name string) bool { return name == region })
		l.Off = l.Off || len(l.Regions) == 0
	}
}

// regions are those of which more is said than that they stay plain.
func (p *former) regions() []map[string]any {
	var list []map[string]any
	for _, z := range p.Regions {
		delete(z, "plain")
		if z["wood"] != nil || z["sheen"] != nil || z["kind"] != nil {
			list = append(list, z)
		}
	}
	return list
}

// slots are the layers that steps belong to by what they were called; those of the clear and of the piece itself are
// told apart below.
var slots = map[string]string{
	"texture": "texture", "char": "char", "char-clean": "char", "seal-char": "char", "dark": "dark", "rub-back": "dark",
	"washcoat": "colour", "sand-washcoat": "colour", "colour": "colour", "edge": "burst", "shade": "burst", "fill": "fill",
	"sand-fill": "fill",
	"pores":     "fill", "barrier-again": "fill", "slurry": "fill", "warm": "warm", "base": "base", "flake": "flake", "wax": "wax",
	"isolate": "clear", "isolated": "clear", "seal": "clear", "scuff-seal": "clear", "buried": "clear", "cure-test": "clear",
	"plug":       "clear",
	"level-half": "clear", "level": "clear", "buff": "clear", "degrease": "clear", "scuff": "clear", "polish": "clear",
}

// What the steps of a clear were called, with a number or a sheen.
var clearSlot = regexp.MustCompile(`^(clear(-\d+)*|flat-\w+|tape-(satin|matte)|untape-\w+|level-(satin|matte)|rub-\w+|oil-\w+)$`)

// number is what is put behind a slot that was taken.
var number = regexp.MustCompile(`-\d+$`)

// Slot is the slot of a step in layers: piece, layer and role, of one that was called without its layer. The wish, where
// there was one, tells whose a toner was.
func (w *Wish) Slot(slot string) string {
	kind, name, found := strings.Cut(slot, ":")
	if !found || strings.Contains(name, ":") {
		return slot
	}
	inner := ""
	if i := strings.LastIndex(kind, " "); i >= 0 { // a wait that somebody put before a step carries its slot
		inner, kind = kind[:i+1], kind[i+1:]
	}
	if layer := w.layerOf(kind, name); layer != "" {
		return inner + kind + ":" + layer + ":" + name
	}
	return slot
}

func (w *Wish) layerOf(kind, name string) string {
	if natural[kind] == nil && name != "wax" { // the wax of a neck may stand with its frets
		return ""
	}
	for _, prefix := range []string{"barrier-", "scuff-"} { // these were called after the coat that they serve
		rest, has := strings.CutPrefix(name, prefix)
		if !has || slots[name] != "" {
			continue
		}
		for end := len(rest); end > 0; end = strings.LastIndex(rest[:end], "-") {
			if layer := w.layerOf(kind, rest[:end]); layer != "" {
				return layer
			}
		}
		return ""
	}
	switch {
	case name == "tone":
		return w.tonedBy(kind)
	case slots[name] != "":
		return slots[name]
	case clearSlot.MatchString(name):
		return "clear"
	case number.MatchString(name):
		return w.layerOf(kind, number.ReplaceAllString(name, ""))
	}
	return ""
}

// tonedBy is the layer whose toner a look had.
func (w *Wish) tonedBy(kind string) string {
	if kind == "whole" {
		kind = "body"
	}
	if w != nil && w.dark[kind] {
		return "dark"
	}
	return "colour"
}
