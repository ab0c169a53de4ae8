package recipe

import (
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// sealBelow writes a sealing layer at its place below the sealer: a washcoat, an amber first coat, a
// barrier, or a sealer that colour is still to come over.
func (w *writer) sealBelow(l *Layer) {
	switch l.kind() {
	case "washcoat":
		w.washcoat("colour-on/washcoat", "Only the thirsty grain stays sealed once it is sanded back, so the colour takes evenly.")
	case "warm":
		w.warm()
	case "barrier":
		f := mustFamily(or(l.Family, "dewaxed-shellac"))
		w.put(line{slot: "barrier", kind: job.Coat, title: "Barrier of " + f.Named(), role: "barrier", family: f.ID, method: w.by(f),
			coats: max(l.Coats, 1), how: barrierHow(w.by(f)),
			why: "It keeps what lies below from what comes next, and the other way round."})
	case "sealer":
		if w.belowColour(l) {
			w.sealed(l)
		}
	}
}

// belowColour reports whether colour that goes into the wood stands above a layer.
func (w *writer) belowColour(l *Layer) bool {
	above := false
	for _, o := range w.p.layers() {
		if o == l {
			above = true
		} else if above && w.p.inWood(o) && o.meets(l) {
			return true
		}
	}
	return false
}

// washcoat is a thin sealing coat, sanded back so that only the thirsty grain
// stays sealed.
func (w *writer) washcoat(school, why string) {
	shellac := mustFamily("dewaxed-shellac")
	w.put(line{slot: "washcoat", kind: job.Coat, title: "Thin washcoat", role: "washcoat", family: shellac.ID,
		method: w.by(shellac), school: school,
		how: "One light pass of a thin cut, no runs.", why: why})
	w.add(line{slot: "sand-washcoat", kind: job.Sand, work: "scuff", title: "Sand the washcoat back", ladder: papers(320),
		how: "Lightly and evenly, with the grain, off the edges.", why: "A full film would shed the colour in beads and streaks."})
}

func (w *writer) warm() {
	w.put(line{slot: "warm", kind: job.Coat, title: "Warm with thin amber shellac", regions: w.drinking(), role: "warm",
		family: "dewaxed-shellac", method: w.by(mustFamily("dewaxed-shellac")),
		school: "figure/warm", how: "One thin pass, no build.", why: "It gives the wood its glow without any sanding back."})
}

// seal writes the sealers of what is filmed, and what isolates an oily wood.
func (w *writer) seal() {
	for _, e := range w.endings(EffectClear) {
		if builds(e.p.family()) {
			e.sealUnder()
			e.unmask()
		}
	}
	for _, l := range w.p.layers(EffectSeal) {
		if l.kind() == "sealer" && !w.belowColour(l) {
			w.of(l).sealed(l)
		}
	}
}

// sealUnder seals what a clear lies on, where nothing else was wished.
func (w *writer) sealUnder() {
	w.regions = only(w.regions, func(z Region) bool { // the lowest clear of a region is the one that is sealed for
		ends := w.p.on(z, EffectClear, EffectRounds)
		return len(ends) > 0 && ends[0] == w.layer
	})
	w.isolate()
	sealer, has := w.sealer()
	if !has {
		return
	}
	own := only(w.regions, func(z Region) bool {
		return !slices.ContainsFunc(w.p.on(z, EffectSeal), func(l *Layer) bool { return l.kind() == "sealer" })
	})
	w.sealWith(sealer, own)
}

// sealed writes a sealer that was wished.
func (w *writer) sealed(l *Layer) {
	sealer, has := w.sealer()
	if l.Family != "" {
		sealer = mustFamily(l.Family)
	} else if !has {
		sealer = mustFamily("dewaxed-shellac")
	}
	w.sealWith(sealer, w.regions)
}

// sealWith writes a sealer and its scuff, where it does not lie already.
func (w *writer) sealWith(sealer material.Family, regions []Region) {
	open := only(regions, func(z Region) bool { return w.top(z) != sealer.ID && !w.poured(z) })
	w.put(line{slot: "seal", kind: job.Coat, title: "Seal", regions: nonNil(open), role: "sealer", family: sealer.ID, method: w.by(sealer),
		how: "One even wet coat over everything, edges last.",
		why: "It stops wood and filler drinking the clear unevenly, and raises the last of the grain where it can still be cut."})
	if !sandable(sealer) {
		return
	}
	school := ""
	if w.stands("grain") && w.p.way("grain") == "seal" {
		school = "grain/seal"
	}
	w.add(line{slot: "scuff-seal", kind: job.Scuff, title: "Scuff the sealer", regions: nonNil(open), ladder: papers(320), school: school,
		how: "A light pass until it feels smooth to the back of the hand. Off the edges.",
		why: "The sealer raises the last of the grain: sand lightly after it."})
}

// sandable reports whether paper may ever come to a film of a family.
func sandable(f material.Family) bool { return f.Limits[material.Sand] != material.Never }

// poured reports whether a region is cast in resin before its clear.
func (w *writer) poured(z Region) bool { return len(w.p.on(z, EffectPour)) > 0 }

// nonNil are regions as they are, none where there are none: nil would mean all of the piece.
func nonNil(regions []Region) []Region {
	if regions == nil {
		return []Region{}
	}
	return regions
}

// sealer is what goes under a clear; false where the clear seals for itself.
func (w *writer) sealer() (material.Family, bool) {
	if w.p.clear == nil {
		return material.Family{}, false
	}
	id := map[string]string{"water-clear": "water-sealer", "nitro": "lacquer-sealer", "acrylic-lacquer": "lacquer-sealer",
		"urethane-2k": "sealer-2k", "polyester-2k": "sealer-2k"}[w.p.clear.Family]
	burst := w.p.find(func(l *Layer) bool { return l.burst() && !l.airbrushed() }) != nil
	switch {
	case id == "":
		return material.Family{}, false
	case id == "lacquer-sealer" && burst:
		id = "vinyl-sealer" // tough and clear under shading coats, where a stearated one would whiten
	}
	f := mustFamily(id)
	return f, slices.Contains(f.Methods, w.p.method()) || id == "sealer-2k"
}

// isolators shut the oil of a wood in under what it would keep from curing.
var isolators = map[string]string{"polyester-2k": "sealer-2k", "polyester-uv": "sealer-2k", "tinted-uv": "sealer-2k",
	"wipe-varnish":  "dewaxed-shellac",
	"brush-varnish": "dewaxed-shellac"}

// isolate shuts in oil that would keep the clear from curing.
func (w *writer) isolate() {
	id := isolators[w.p.clear.Family]
	regions := only(w.regions, func(z Region) bool { return oily(timberOf(z)) && group(w.top(z)) != "seal" })
	if id == "" || len(regions) == 0 {
		return
	}
	w.isolateWith(id, "isolate", "isolated", regions)
}

// isolateUnder does so for a coat that comes straight on bare oily wood: where a region was cut since
// then, or where it is no clear that needs it.
func (w *writer) isolateUnder(l line) {
	id := isolators[l.family]
	regions := only(l.regions, func(z Region) bool { return oily(timberOf(z)) && w.top(z) == "" })
	if id != "" && id != l.family && len(regions) > 0 {
		w.isolateWith(id, "isolate-"+l.slot, "isolated-"+l.slot, regions)
	}
}

func (w *writer) isolateWith(id, slot, looked string, regions []Region) {
	f := mustFamily(id)
	w.put(line{slot: slot, kind: job.Coat, title: "Shut the oily wood in", regions: regions, role: "barrier", family: id,
		method: w.by(f), coats: 2,
		how: "Wipe with fresh solvent until the rag is nearly clean, then two thin coats within the hour.",
		why: timberOf(regions[0]).Name + " is oily: bare it keeps what comes next from curing."})
	w.add(line{slot: looked, kind: job.Inspect, title: "Barrier set over the oily wood", regions: regions, check: "barrier-set",
		how: "Thumbnail on the dark region and on a plain one.", why: "Where the barrier stays soft the clear above it will."})
}
