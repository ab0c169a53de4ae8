package recipe

import (
	"fmt"
	"strings"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// longestSitting is the most that a window within a sitting may last, in minutes: a working day.
const longestSitting unit.Minutes = 480

// leaf is metal leaf on size at its tack, never sanded, sealed where it would tarnish.
func (w *writer) leaf(l *Layer) {
	kind, err := leaf.Find(or(l.Of, "brass-oil-fast"))
	if err != nil {
		return // refused by the check
	}
	if bare := only(w.regions, func(z Region) bool { return w.top(z) == "" }); len(bare) > 0 {
		ground := mustFamily("dewaxed-shellac")
		w.put(line{slot: "ground", kind: job.Coat, title: "Smooth ground for the leaf", regions: bare, role: "sealer", family: ground.ID,
			method: w.by(ground),
			coats:  2, how: "Two thin coats, each dead flat; leaf shows every pore and every hair.",
			why: "Bare wood drinks the size unevenly, and the leaf with it."})
		w.add(line{slot: "ground-even", kind: job.Inspect, title: "Ground even", regions: bare, check: "ground-even",
			how: "A lamp held low over it, and the back of a hand.", why: "Leaf is a tenth of a micron thick: it hides nothing."})
	}
	size := mustFamily(kind.Size)
	w.put(line{slot: "size", kind: job.Coat, title: "Size for the leaf", role: "size", family: size.ID, method: w.by(size),
		how: "Thin, even, no puddle at an edge; still air, no dust. Leaf, cushion and brush stand ready.",
		why: fmt.Sprintf("It takes leaf from %s to %s after it was put on.", kind.After.String(), kind.Before.String())})
	how := "Sheet over sheet by a finger's width, tamped with a soft brush, gloves on; skewings kept for holes."
	if l.Torn {
		how = "Torn by hand, the pieces overlapping as they fall, tamped with a soft brush, gloves on."
	}
	c := line{slot: "lay", kind: job.Coat, work: "leaf", title: "Lay the leaf: " + phrase.Lower(kind.Name), role: "leaf",
		family: "metal-leaf",
		check:  "tack-leaf", how: how + " " + kind.Note,
		why: "On size too wet it drowns and dulls, on size too dry it does not stick. Nothing sands it afterwards.", rest: kind.SealAfter}
	if kind.After < longestSitting {
		c.terms.Within = &job.Within{AfterMin: kind.After, BeforeMin: min(kind.Before, longestSitting)}
	} else {
		c.film = material.TouchDry // the tack of a slow size: overnight, and no sitting lasts so long
	}
	w.put(c)
	w.add(line{slot: "bonded", kind: job.Inspect, work: "brush-off", title: "Skewings off, leaf bonded", check: "leaf-bonded",
		how: "A soft brush, then cotton without pressure; holes sized and patched.",
		why: "What is loose under the seal is a blister later."})
	if kind.Seal != "" {
		f := mustFamily(kind.Seal)
		why := "The metal in it tarnishes under fingers and in air."
		if strings.HasPrefix(kind.ID, "brass") || strings.HasPrefix(kind.ID, "copper") {
			why += " Waterborne clear and amines turn bare copper and brass dark or green."
		}
		w.put(line{slot: "leaf-seal", kind: job.Coat, title: "Shut the leaf in", role: "barrier", family: f.ID, method: w.by(f),
			coats: kind.SealCoats,
			check: "leaf-shut", how: "Thin and quick, one pass in one direction, never back over it; gloves until it is dry.", why: why})
	}
}
