package recipe

import (
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// tint writes amber or colour in the clear. Where colour shades the lamp, each thin coat is tested
// before the next.
func (w *writer) tint(l *Layer) {
	title := "Tinted clear"
	if len(l.Colours) > 0 {
		title += ", " + l.Colours[0]
	}
	coats := 2
	if l.Coats > 0 {
		coats = l.Coats
	}
	f := w.tinted()
	if f.Lamp == 0 {
		w.tintCoats("tint", title, coats, "", "Thin even coats, crossed where they are sprayed; stop at the swatch.",
			"Colour in a coat deepens with every pass, and a run of it is a stripe.")
		return
	}
	for i := 1; i <= coats; i++ {
		w.put(line{slot: fmt.Sprintf("tint-%d", i), kind: job.Coat, title: fmt.Sprintf("%s, coat %d of %d", title, i, coats), role: "toner",
			family: f.ID,
			method: w.by(f), how: "Thinner than a clear coat, left to level, then the lamp on every face, twice as long as for clear.",
			why: "Amber and colour shade the lamp: what is thick stays soft at its bottom."})
		w.add(line{slot: fmt.Sprintf("cured-%d", i), kind: job.Inspect, title: "Cured right through", check: "lamp-through",
			how: "On the test strip that was coated with it: thumbnail, then scrape to the bottom.",
			why: "A soft coat under a hard one wrinkles weeks later."})
	}
}

// tinted is the family that colour is put into under a clear.
func (w *writer) tinted() material.Family {
	id := "airbrush-colour"
	if w.p.clear != nil && w.p.clear.Effect == EffectClear && builds(w.p.family()) {
		id = w.p.clear.Family
	}
	switch {
	case w.layer != nil && w.layer.Family != "" && (w.layer.Effect == EffectTint || w.layer.carrier() == "toner"):
		id = w.layer.Family
	case w.layer != nil && w.layer.Effect == EffectTint && id == "polyester-uv":
		id = "tinted-uv"
	case id == "polyester-2k" || id == "polyester-uv":
		id = "airbrush-colour" // resin this thick is not tinted
	}
	return mustFamily(id)
}

// tintCoats writes coats of clear with colour in it.
func (w *writer) tintCoats(slot, title string, coats int, school, how, why string) {
	f := w.tinted()
	by := w.by(f)
	if w.layer != nil && slices.Contains(f.Methods, w.layer.Method) {
		by = w.layer.Method
	}
	w.put(line{slot: slot, kind: job.Coat, title: title, role: "toner", family: f.ID, method: by, coats: coats,
		school: school, how: how, why: why})
}
