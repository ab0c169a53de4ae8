package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/part"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// PartWish is small parts of one kind, a piece with a schedule of its own.
type PartWish struct {
	Kind    PieceKind `json:"kind" enum:"hardware,plastics,fittings"`
	Of      string    `json:"of" maxLength:"40" doc:"the metal, the plastic, or the wood"`
	Name    string    `json:"name,omitempty" maxLength:"80" doc:"in words: tuners and bridge"`
	Do      []string  `json:"do,omitempty" maxItems:"6" doc:"of metal: strip, brush, etch, seal; of plastics: dull, stain; of wood: nothing, they follow the body"`
	AreaCm2 float64   `json:"areaCm2,omitempty" minimum:"0" maximum:"5000"`
}

// partWork is what may be done to small parts.
var partWork = map[PieceKind][]string{Hardware: {"strip", "brush", "etch", "seal"}, Plastics: {"dull", "stain"}, Fittings: {}}

// partFaces is the surface of usual hardware, plastics or fittings of one instrument (default).
const partFaces unit.SquareMetre = 0.02

// smallParts writes small parts of a kind.
func (c *composing) smallParts(kind PieceKind) {
	for _, p := range c.wish.Parts {
		if p.Kind != kind {
			continue
		}
		area := partFaces
		if p.AreaCm2 > 0 {
			area = unit.SquareMetre(p.AreaCm2 / 1e4)
		}
		z := Region{Key: key(kind, "parts"), Region: job.Region{Name: "parts", AreaM2: area}}
		if kind == Fittings {
			z.Wood = p.Of
		}
		w := c.begin(kind, nil, []Region{z})
		switch kind {
		case Hardware:
			w.metal(p)
		case Plastics:
			w.plastic(p)
		case Fittings:
			w.fittings(p)
		}
		w.add(line{slot: "fits-again", kind: job.Inspect, title: "Parts fit again", check: "part-fits-again", fixed: 15,
			how: "Every part on its own screw and shaft, moved through all of its way.",
			why: "Film and burrs take the play that a part needs."})
	}
}

func (p PartWish) does(work string) bool { return len(p.Do) == 0 || slices.Contains(p.Do, work) }

func (p PartWish) title(work string) string {
	if p.Name == "" {
		return work
	}
	return work + ": " + phrase.Lower(p.Name)
}

// metal strips, brushes, darkens and seals metal.
func (w *writer) metal(p PartWish) {
	m, err := part.FindMetal(p.Of)
	if err != nil {
		return // refused by the check
	}
	w.add(line{slot: "known", kind: job.Inspect, title: p.title("What metal it is"), check: "metal-known", fixed: 10,
		how: m.Note, why: "Plating hides what lies below it, and what darkens one metal eats another."})
	if p.does("strip") {
		w.add(line{slot: "strip", kind: job.Gate, work: "strip-parts", title: p.title("Strip the metal"), check: "metal-clean",
			how: phrase.Capital(m.Strip) + ". Gloves, air, a tray with a lid.",
			why: "What lies on it keeps brush and etch off in patches."})
	}
	if p.does("brush") {
		w.add(line{slot: "brush", kind: job.Buff, title: p.title("Brush the metal one way"), ladder: m.Brush,
			how: "Straight, one direction, every part the same; magnets and pickups out of the room.",
			why: "One direction of fine lines matches from part to part; metal dust never meets film or a magnet."})
	}
	if p.does("etch") && m.Agent != "" {
		w.add(line{slot: "etch", kind: job.Gate, work: "etch", title: p.title("Darken the metal"), check: "etch-stopped",
			how: fmt.Sprintf("%s, %s to %s, looked at each few minutes; a spare part first. Outdoors or in a box, gloves and eyes covered.",
				phrase.Capital(strings.ReplaceAll(m.Agent, "-", " ")), m.EtchLeast.String(), m.EtchMost.String()),
			why: "It goes on darkening for a while after it is taken out."})
		w.add(line{slot: "neutralise", kind: job.Gate, title: p.title("Stop and rinse"), fixed: 10,
			terms: job.Terms{Within: &job.Within{BeforeMin: 5}},
			how:   phrase.Capital(m.Neutralise) + ".", why: "What is left in a thread goes on eating, and blooms under a seal."})
	}
	if p.does("seal") && m.Seal != "" {
		f := mustFamily(m.Seal)
		w.add(line{slot: "seal", kind: job.Coat, title: p.title("Keep it so"), role: "metal", family: f.ID, method: thinly(f),
			how: "Thin, warm and dry metal, threads and bearings masked.", why: "Bare metal goes on changing under hands."})
	}
}

// thinly is how a family goes on small parts: from a can where there is one, else by cloth.
func thinly(f material.Family) material.Method {
	for _, m := range []material.Method{material.Aerosol, material.Wipe} {
		if slices.Contains(f.Methods, m) {
			return m
		}
	}
	return f.Methods[0]
}

// plastic dulls and stains plastics.
func (w *writer) plastic(p PartWish) {
	m, err := part.FindPlastic(p.Of)
	if err != nil {
		return // refused by the check
	}
	w.add(line{slot: "tried", kind: job.Inspect, title: p.title("What plastic it is"), check: "plastic-tried", fixed: 10,
		how: m.Note, why: "A solvent that one plastic shrugs off crazes another at once."})
	if p.does("dull") {
		w.add(line{slot: "dull", kind: job.Buff, title: p.title("Dull the plastic"), ladder: m.Dull,
			how:  fmt.Sprintf("Cool and slow, by hand; below %s. Letters and edges least.", m.HeatMost.String()),
			why:  "New plastic shines where a worn one does not, and the stain holds in fine scratches.",
			work: "scuff"})
	}
	if p.does("stain") && m.Stain != "" {
		how := phrase.Capital(m.Stain)
		if m.StainMost > 0 {
			how += fmt.Sprintf(", %s to %s, looked at each few minutes", m.StainLeast.String(), m.StainMost.String())
		}
		w.add(line{slot: "stain", kind: job.Gate, work: "etch", title: p.title("Stain the plastic"), how: how + "; a spare part first.",
			why: "Plastics of one colour differ from batch to batch."})
		if m.WipeBack != "" {
			w.add(line{slot: "wipe-back", kind: job.Gate, title: p.title("Wipe it back"), fixed: 10,
				terms: job.Terms{Within: &job.Within{BeforeMin: 5}},
				how:   phrase.Capital(m.WipeBack) + ".", why: "What is left on the face looks painted; age sits in corners."})
		}
	}
}

// fittings are wooden covers and knobs that follow the finish of the body.
func (w *writer) fittings(p PartWish) {
	body := *w.wish.piece(Body)
	body.Wood, body.Figured, body.Regions = p.Of, false, nil
	body.Layers = slices.Clone(body.Layers)
	for i := range body.Layers {
		body.Layers[i].Regions = nil
	}
	body.clear = body.layer(EffectClear, EffectRounds)
	timber, _ := wood.Find(p.Of) // checked
	if body.clear != nil {
		for i := range w.regions {
			w.regions[i].Sheen = body.clear.Sheen
		}
		w.piece.Regions, w.all = w.regions, w.regions
	}
	w.p = &body
	w.add(line{slot: "sand-bare", kind: job.Sand, title: p.title("Sand the wooden fittings"),
		ladder: upTo(120, timber.SandBareTo, bareMarks...),
		how:    "By hand on a flat block, edges eased; each marked on its back.",
		why:    "They are seen beside the body: the same scratch, the same colour."})
	for _, l := range body.layers(EffectColour) {
		if body.inWood(l) {
			w.of(l).colour(l)
		}
	}
	w.seal()
	w.upwards()
	w.lastSheens()
}
