package recipe

import (
	"slices"
)

// set chooses something of a piece in the words of its former looks, which the stacks of the presets
// answer: a look, a sheen, a clear, schools, texture, wax.
func set(p *PieceWish, field string, value any) {
	*p = p.stacked()
	switch field {
	case "Look":
		*p = p.From(value.(string))
	case "Sheen":
		*p = p.Ending("", value.(string))
	case "Clear":
		*p = p.Ending(value.(string), "")
	case "Ways":
		ways := value.(map[string]string)
		for _, t := range topics {
			if option := ways[t.id]; option != "" {
				*p = p.Chosen(t.id, option)
			}
		}
	case "Texture":
		p.Layers = slices.Insert(p.Layers, 0, Layer{ID: "texture", Effect: EffectTexture})
	case "Wax":
		p.Layers = append(p.Layers, Layer{ID: "wax", Effect: EffectWax})
	}
}
