package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// Building events that cut or fit, each at its place.

func (w *Wish) event(id string) bool { return slices.Contains(w.Events, id) }

// inserts go into bare wood, sunk so that wood meets wood.
func (w *writer) inserts() {
	if w.wish.event("inserts") {
		w.add(line{slot: "inserts", kind: job.Gate, title: "Threaded inserts in", fixed: 40, tool: "drill-press",
			check: "strap-button-depth",
			how: "Straight in a drill press by hand, waxed, sunk a hair below the face so that wood meets wood. Plugged while film goes " +
				"on.",
			why: "Turned in later they lift the film in a ring; proud of the wood they keep a joint apart."})
	}
}

// seated writes what is pressed in after buffing: ferrules and bushings, then magnets.
func (w *writer) seated() {
	if w.wish.event("ferrules") {
		w.add(line{slot: "ferrules", kind: job.Gate, title: "Ferrules and bushings in", film: material.Handle, fixed: 30,
			check: "hole-gauge",
			how:   "Each seat eased by hand until it takes a light press; never a hammer on film. Straight, on paper.",
			why:   "Film narrows every seat, and a ferrule that is forced chips it in a ring."})
	}
	if w.wish.event("magnets") {
		w.add(line{slot: "magnets", kind: job.Gate, title: "Magnets in", film: material.Handle, fixed: 20, check: "pickups-away",
			how: "Poles marked first, seats clean and dry, a drop of adhesive. No metal is filed near them any more.",
			why: "Filings creep to a magnet and stay, and a pole that is turned cannot be taken out."})
	}
}

// uncut are the regions that are there from the beginning.
func uncut(regions []Region) []Region {
	return only(regions, func(z Region) bool { return z.wish.CutAfter == "" })
}

// cuts writes the building events that cut a region after a layer: it is bare wood then.
func (w *writer) cuts(l *Layer) {
	for _, z := range w.all {
		if z.wish.CutAfter == l.ID && !w.there(z) {
			w.cut(z)
		}
	}
}

// cutRest cuts what was to be cut after a layer that is not written.
func (w *writer) cutRest() {
	for _, z := range w.all {
		if z.wish.CutAfter != "" && !w.there(z) {
			w.cut(z)
		}
	}
}

func (w *writer) there(z Region) bool {
	return slices.ContainsFunc(w.regions, func(o Region) bool { return o.Key == z.Key })
}

func (w *writer) cut(z Region) {
	w.regions = append(slices.Clone(w.regions), z)
	name := strings.ReplaceAll(z.Name, " ", "-")
	w.add(line{slot: "cut-" + name, kind: job.Gate, title: "Cut the " + z.Name, regions: []Region{z}, fixed: 60, film: material.Handle,
		terms: job.Terms{Bares: true},
		how:   "The film scored along its line first; a sharp cutter, light cuts, tape over what stays.",
		why:   "What is cut shows bare wood, and the film beside it must not chip."})
	timber := timberOf(z)
	w.add(line{slot: "sand-" + name, kind: job.Sand, title: fmt.Sprintf("Sand the %s", z.Name), regions: []Region{z},
		ladder: upTo(max(lateGrit, coarsest(timber, w.p)), max(lateGrit, w.stop(timber, []Region{z})), bareMarks...),
		how:    "Along it, on a hard block, the neighbours taped.", why: "A crisp edge is cut by a hard block; a soft pad rounds it."})
}
