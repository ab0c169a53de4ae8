package recipe

import (
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// oil writes the coats of a finish that goes into the wood: sheen by coats, glossier with each.
func (w *writer) oil() {
	f := w.p.family()
	w.slurry()
	w.disputed(f)
	w.put(line{slot: "oil-1", kind: job.Coat, title: "First coat of oil", role: "oil", family: f.ID, method: w.p.method(),
		how: "Saturate, wait, then wipe every trace off within its minutes. Nothing wet may stay on the surface.",
		why: "The first coat goes into the wood and takes the most. What is left on top stays greasy."})
	w.add(line{slot: "scuff", kind: job.Scuff, title: "Scuff between coats", ladder: papers(400),
		how: "P400 or a fine pad, a few strokes, wipe the dust off.", why: "It takes off the nibs that the first coat raised."})
	if w.layer.Coats > 0 {
		if w.layer.Coats > 1 {
			w.oilCoats("oil", "Oil, coat upon coat", w.regions, w.layer.Coats-1, job.Terms{})
		}
		return
	}
	done := 1
	for _, sheen := range Sheens { // from matte to gloss: the glossier regions get more
		if len(only(w.regions, func(z Region) bool { return z.Sheen == sheen })) == 0 {
			continue
		}
		regions := only(w.regions, func(z Region) bool { return slices.Index(Sheens, z.Sheen) >= slices.Index(Sheens, sheen) })
		if n := oilCoats(f, sheen) - done; n > 0 && len(regions) > 0 {
			w.oilCoats("oil-"+sheen, "Oil, up to "+sheen, regions, n, job.Terms{})
			done += n
		}
	}
}

func (w *writer) oilCoats(slot, title string, regions []Region, n int, terms job.Terms) {
	f := w.p.family()
	w.put(line{slot: slot, kind: job.Coat, title: title, regions: regions, role: "oil", family: f.ID,
		method: w.p.method(), coats: n, terms: terms,
		how: "Thinner than the first: a few drops on the cloth, rubbed in, wiped dry.",
		why: "Sheen comes with each coat. Thick coats never harden."})
}

// polishOil leaves the last sheen of an oil, or of oil and shellac in turn.
func (w *writer) polishOil() {
	for _, sheen := range Sheens {
		regions := only(w.regions, func(z Region) bool { return z.Sheen == sheen })
		if sheen != "gloss" {
			if len(regions) > 0 {
				w.rub(sheen, regions)
			}
			continue
		}
		if len(regions) == 0 {
			continue
		}
		if w.layer.Effect == EffectRounds && w.layer.kind() == "oil-shellac" {
			w.add(line{slot: "polish", kind: job.Buff, title: "Bring it up by hand", regions: regions, film: material.Buff,
				ladder: []string{"compound:swirl"}, check: "sheen-zones",
				how: "A soft cloth and a fine polish, small circles, light.",
				why: "Thin shellac shines under a hand; a wheel would melt it."})
			continue
		}
		w.add(line{slot: "polish", kind: job.Buff, title: "Polish with a cloth", regions: regions, film: material.Buff,
			ladder: []string{"nonwoven:white-nonabrasive"}, check: "sheen-zones",
			how: "A clean lint-free cloth, brisk and light.", why: "The gloss is in the coats; a cloth only clears it."})
	}
}

// disputed says what practice differs on: some do it and are content, others have seen it fail.
func (w *writer) disputed(f material.Family) {
	if greasy := only(w.regions, func(z Region) bool { return oily(timberOf(z)) }); len(greasy) > 0 {
		name := timberOf(greasy[0]).Name
		w.doubt(name + " is oily and slows an oil, or keeps it from drying: practice differs. Waterborne clear, lacquer, two-part and " +
			"shellac " +
			"cure on it for certain; with oil, try scrap first, and count on more days between coats.")
		w.wipeWithSpirit(greasy)
	}
	if f.ID == "hardwax-oil" && w.p.shines() {
		w.doubt("Hard-wax oil seldom ends glossier than satin: practice differs. A finishing oil shines more, and more coats of this one " +
			"look greasy before they shine.")
	}
}

// doubt notes what practice differs on, unless the layer says that it is wished on purpose.
func (w *writer) doubt(text string) {
	if w.layer == nil || w.layer.Because == "" {
		w.note(text)
	}
}

// oilCoats is how many coats of an oil bring a sheen.
func oilCoats(f material.Family, sheen string) int {
	switch sheen {
	case "gloss":
		return max(f.UsualMost, oilCoats(f, "satin")+1) // one that is not meant to shine takes a coat more
	case "satin":
		return (f.UsualLeast + f.UsualMost + 1) / 2
	}
	return f.UsualLeast
}

// Rounds of oil and shellac in turn: how many are usual, and how many more or fewer it may take (default).
const (
	usualRounds = 4
	roundsSway  = 2
)

// rounds repeats until it is even: oil alone, or oil and shellac in turn.
func (w *writer) rounds() {
	f := w.p.family()
	w.slurry()
	w.disputed(f)
	n := usualRounds
	if w.layer.Coats > 0 {
		n = w.layer.Coats
	}
	if w.layer.kind() == "oil" {
		if w.layer.Coats == 0 {
			n = 0
			for _, z := range w.regions {
				n = max(n, oilCoats(f, z.Sheen))
			}
		}
		w.oilCoats("oil", "Oil until it is even", w.regions, n, job.Terms{Repeat: &job.Repeat{Least: max(1, n-roundsSway), Most: n +
			roundsSway}})
	} else {
		for i := 1; i <= n; i++ {
			w.put(line{slot: fmt.Sprintf("oil-%d", i), kind: job.Coat, title: fmt.Sprintf("Oil, round %d", i), role: "oil", family: f.ID,
				method: material.Wipe,
				how:    "A few drops on the cloth, rubbed in along the grain, wiped nearly dry.",
				why:    "The oil feeds the figure; what stays on top would keep the shellac soft."})
			w.put(line{slot: fmt.Sprintf("shellac-%d", i), kind: job.Coat, title: fmt.Sprintf("Shellac over it, round %d", i),
				role: "shellac", family: "shellac",
				method: material.Pad,
				how:    "A nearly dry pad, straight strokes, never still; a thin cut.",
				why:    "It shuts the oil in and gives the next round something to shine on."})
		}
	}
	w.add(line{slot: "even", kind: job.Inspect, title: "Even all over", check: "rounds-even",
		how: "Turned in the light: one sheen from edge to edge. If not, one round more where it is dull.",
		why: "Thirsty spots take a round more than their neighbours; the eye decides, not the count."})
}
