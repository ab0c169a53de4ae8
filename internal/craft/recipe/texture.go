package recipe

import "umberfrost/internal/craft/job"

// textures are the ways to work a relief into the wood.
var textures = map[string]struct{ title, how string }{
	"brushed": {"Brush the grain out", "A wire brush along the grain, soft wood out, hard lines left standing; a nylon brush after it."},
	"struck": {"Strike the texture in", "One tool, marked places first, from the middle outwards; the face supported from below. Loose " +
		"chips off with a nylon brush."},
	"gouged": {"Gouge the texture in", "A sharp gouge down the grain, cuts of one depth, the ends rolled out. Torn fibres cut again, " +
		"never sanded flat."},
	"sawn": {"Saw the texture in", "Light crossing strokes of a coarse saw, depth against a line at the edge. Whiskers off with a " +
		"nylon brush."},
}

// texture works relief into the wood before water raises the grain, and before colour.
func (w *writer) texture() {
	for _, l := range w.p.layers(EffectTexture) {
		w := w.of(l)
		t := textures[l.kind()]
		regions := only(w.regions, func(z Region) bool { return timberOf(z).Drinks() })
		w.add(line{slot: "texture", kind: job.Sand, work: "distress", title: t.title, regions: regions, how: t.how,
			why: "Cut or brushed now it takes the colour with the rest; later it would break the film."})
		if l.kind() != "brushed" {
			w.add(line{slot: "relief", kind: job.Inspect, title: "Relief firm", regions: regions, check: "relief-firm",
				how: "A stiff brush over all of it, and a thumb along the ridges.",
				why: "What is loose now lifts with the first coat, and its bed stays pale."})
		}
	}
}
