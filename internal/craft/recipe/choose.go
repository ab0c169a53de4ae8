package recipe

import (
	"fmt"
	"maps"
	"slices"

	"umberfrost/internal/craft/material"
)

// With is the wish with one school chosen. A piece is named where the topic is one
// of a piece.
func (w Wish) With(topic string, piece PieceKind, option string) Wish {
	if piece == "" {
		w.Ways = with(w.Ways, topic, option)
		return w
	}
	w.Pieces = slices.Clone(w.Pieces)
	for i := range w.Pieces {
		if p := &w.Pieces[i]; p.Kind == piece {
			*p = p.stacked()
			p.clear = p.layer(EffectClear, EffectRounds)
			p.choose(topic, option)
			p.clear = nil
		}
	}
	return w
}

// choose follows a school: where the stack itself says it, the stack changes.
func (p *PieceWish) choose(topic, option string) {
	l := p.layerOf(topic)
	switch topic {
	case "grain":
		p.Ways = with(p.Ways, topic, option)
	case "figure":
		p.chooseFigure(option)
	case "colour-as":
		if l != nil {
			l.Carrier, l.Family = map[string]string{"dye": "water", "bound": "bound", "stain": "stain"}[option], ""
		}
	case "burst":
		if l != nil {
			l.Method = map[string]material.Method{"spray": material.Spray, "rub": material.Wipe}[option]
		}
	case "pores":
		if l != nil {
			l.As = option
		}
	case "fill-order":
		if l != nil {
			p.chooseOrder(*l, option)
		}
	case "method":
		if l != nil {
			l.Method = material.Method(option)
		}
	default:
		if l != nil {
			l.Ways = with(l.Ways, topic, option)
		}
	}
}

// chooseFigure lays a dark colour below the main one, warms the wood with amber shellac, or takes
// either away.
func (p *PieceWish) chooseFigure(option string) {
	p.Layers = slices.DeleteFunc(p.Layers, func(l Layer) bool {
		return l.grain() || (l.Effect == EffectSeal && l.kind() == "warm")
	})
	at := slices.IndexFunc(p.Layers, func(l Layer) bool { return l.even() || l.Effect == EffectFill || l.Effect.ends() })
	switch {
	case at < 0:
	case option == "dark":
		p.Layers = slices.Insert(p.Layers, at, colourLayer(p.free("dark"), "grain", ""))
		p.Preset = "grain-colour"
	case option == "warm":
		p.Layers = slices.Insert(p.Layers, at, Layer{ID: p.free("warm"), Effect: EffectSeal, As: "warm"})
	case p.Preset == "grain-colour":
		p.Preset = "one-colour"
	}
}

// chooseOrder puts the filler below the colour in the wood, or above it.
func (p *PieceWish) chooseOrder(fill Layer, option string) {
	p.Layers = slices.DeleteFunc(slices.Clone(p.Layers), func(l Layer) bool { return l.ID == fill.ID })
	fill.Tinted = option == "tinted"
	at := 0
	for i := range p.Layers {
		l := &p.Layers[i]
		if option == "first" && p.inWood(l) {
			at = i
			break
		}
		if p.inWood(l) {
			at = i + 1
		}
	}
	p.Layers = slices.Insert(p.Layers, at, fill)
	p.clear = p.layer(EffectClear, EffectRounds)
}

// free is a layer's id that is not taken yet.
func (p *PieceWish) free(id string) string {
	taken := id
	for n := 2; slices.ContainsFunc(p.Layers, func(l Layer) bool { return l.ID == taken }); n++ {
		taken = fmt.Sprintf("%s-%d", id, n)
	}
	return taken
}

// with is a choice more, without changing what was given.
func with(ways map[string]string, topic, option string) map[string]string {
	next := maps.Clone(ways)
	if next == nil {
		next = make(map[string]string)
	}
	next[topic] = option
	return next
}
