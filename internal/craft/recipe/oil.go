package recipe

import (
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// oil writes a finish that goes into the wood: sheen by coats, glossier with each.
func (w *writer) oil() {
	f := w.p.family()
	if w.p.fills() && !w.p.coloured() {
		regions := only(w.regions, w.fillsRegion)
		w.put(line{slot: "slurry", kind: job.Coat, title: "Oil wet-sanded into the pores", regions: regions, role: "slurry",
			family: "oil-slurry", method: material.Wipe, coats: 3,
			terms: job.Terms{Repeat: &job.Repeat{Least: 2, Most: 5}},
			how:   "P400 with plenty of oil until a paste forms, leave it to haze, wipe across the grain.",
			why:   "Dust and oil fill small pores with the wood's own colour."})
	}
	w.disputed(f)
	w.put(line{slot: "oil-1", kind: job.Coat, title: "First coat of oil", role: "oil", family: f.ID, method: w.p.method(),
		how: "Saturate, wait, then wipe every trace off within its minutes. Nothing wet may stay on the surface.",
		why: "The first coat goes into the wood and takes the most. What is left on top stays greasy."})
	w.add(line{slot: "scuff", kind: job.Scuff, title: "Scuff between coats", ladder: papers(400),
		how: "P400 or a fine pad, a few strokes, wipe the dust off.", why: "It takes off the nibs that the first coat raised."})
	done := 1
	for _, sheen := range Sheens { // from matte to gloss: the glossier regions get more
		if len(only(w.regions, func(z Region) bool { return z.Sheen == sheen })) == 0 {
			continue
		}
		regions := only(w.regions, func(z Region) bool { return slices.Index(Sheens, z.Sheen) >= slices.Index(Sheens, sheen) })
		if n := oilCoats(f, sheen) - done; n > 0 && len(regions) > 0 {
			w.put(line{slot: "oil-" + sheen, kind: job.Coat, title: "Oil, up to " + sheen, regions: regions, role: "oil", family: f.ID,
				method: w.p.method(), coats: n,
				how: "Thinner than the first: a few drops on the cloth, rubbed in, wiped dry.",
				why: "Sheen comes with each coat. Thick coats never harden."})
			done += n
		}
	}
	w.tapeOff()
	for _, sheen := range Sheens {
		regions := only(w.regions, func(z Region) bool { return z.Sheen == sheen })
		if sheen != "gloss" {
			w.rub(sheen, regions)
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
		w.note(name + " is oily and slows an oil, or keeps it from drying: practice differs. Waterborne clear, lacquer, two-part and shellac " +
			"cure on it for certain; with oil, try scrap first, and count on more days between coats.")
		w.add(line{slot: "degrease", kind: job.Inspect, title: "Wipe the oily wood with spirit", regions: greasy, fixed: 10,
			how: "Fresh spirit, fresh cloth, until it stays nearly clean; the first coat within the hour.",
			why: "What is wiped off cannot creep into the oil. It comes up again within hours."})
	}
	if f.ID == "hardwax-oil" && w.p.shines() {
		w.note("Hard-wax oil seldom ends glossier than satin: practice differs. A finishing oil shines more, and more coats of this one look greasy before they shine.")
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

// wax ends everything: nothing sticks to it.
func (w *writer) wax() {
	if !w.p.Wax {
		return
	}
	w.put(line{slot: "wax", kind: job.Coat, title: "Wax", role: "wax", family: "paste-wax", method: material.Wipe,
		how: "As little as will spread, left to haze, wiped off with a clean cloth. Free of silicone.",
		why: "Wax too soon stops a film curing, and nothing sticks to it afterwards: it is the last."})
}
