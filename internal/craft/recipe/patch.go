package recipe

import (
	"time"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/unit"
)

// mend is how long a row of the mends waits.
func mend(id string) time.Duration {
	m, err := surface.FindMend(id)
	if err != nil {
		return 24 * time.Hour
	}
	return m.Wait
}

// patched writes a piece whose old finish stays, and is repaired in places: its tests first, what has to come
// off, then each spot or panel.
func (w *writer) patched() {
	w.asFound(w.regions, "")
	w.mask()
	for _, l := range w.p.layers(EffectPatch) {
		one := w.of(l)
		if len(one.regions) == 0 {
			continue
		}
		switch l.kind() {
		case "touch-up":
			one.touchUp(l)
		case "panel":
			one.respray(l)
		default:
			one.dropFill(l)
		}
	}
	w.tapeOff()
	w.add(line{slot: "verdict", kind: job.Inspect, title: "Closing look", check: "sheen-zones",
		how: "Under the lamp and by the window, region beside region. Write down what stays and why.",
		why: "A small flaw may be accepted with a reason; one that is found by the customer has none."})
}

// patchFamily is the film that a patch is of: as said, or as is likeliest for what was found.
func (p *PieceWish) patchFamily(l *Layer) (material.Family, bool) {
	id := l.Family
	if f, err := surface.Find(p.Found); id == "" && err == nil && len(f.Families) > 0 {
		id = f.Families[0]
	}
	f, err := material.FindFamily(id)
	return f, err == nil
}

// dropFill fills a chip: with the same film where that melts into itself, else with what sets.
func (w *writer) dropFill(l *Layer) {
	f, _ := w.p.patchFamily(l)
	row, coats := "chip-drop-melt", 4
	if !f.MeltsIntoSelf {
		f, row, coats = mustFamily("ca-finish"), "chip-drop-set", 2
	}
	m, _ := surface.FindMend(row)
	w.touchIn(l)
	drop := line{slot: "drop", kind: job.Coat, title: "Drop-fill the spot, proud", role: "clear", family: f.ID, method: material.Brush,
		coats: coats, fixed: 10,
		how: "Clean the bottom, ease the rim. One drop at a time from a fine brush, into the spot and not beside it, until it stands a " +
			"little proud.",
		why: m.Note}
	if f.MeltsIntoSelf {
		drop.terms.PerDay = &job.PerDay{Coats: 1, Reason: "each drop dries through before the next"}
	} else {
		drop.method = material.Drop
	}
	w.add(drop)
	w.add(line{slot: "harden", kind: job.Gate, title: "Let the fill harden", fixed: 5, rest: m.Wait,
		how: "Leave it hanging, the spot upwards: " + m.Ready + ".",
		why: "A fill is soft inside longer than the film round it."})
	w.madeOne(l, m.Flush, int(m.Minutes))
}

// touchIn puts the colour of a spot back, bound so that it stays.
func (w *writer) touchIn(l *Layer) {
	if len(l.Colours) == 0 {
		return
	}
	family := "lacquer-toner"
	if f, _ := w.p.patchFamily(l); !f.MeltsIntoSelf {
		family = "airbrush-colour"
	}
	w.add(line{slot: "colour-test", kind: job.Inspect, title: "Colour tried beside it", check: "swatch-match",
		how: "On scrap that has the old film's tone, clear over it, held beside the spot in daylight and under the lamp.",
		why: "An old film has yellowed: the colour that was put on is not the colour that is seen."})
	w.add(line{slot: "touch-in", kind: job.Coat, title: "Touch the colour in, " + phrase.List(l.Colours), role: "toner", family: family,
		method: material.Spray, coats: 3,
		fixed: 15, how: "Tried on scrap beside the piece first. Dry mists, or dots with a fine brush, never strokes; stop short of dark " +
			"enough.",
		why: "Clear deepens it, and what is too dark cannot be taken back."})
}

// touchUp puts a burn-through right: feathered, sealed, coloured, cleared past it.
func (w *writer) touchUp(l *Layer) {
	f, _ := w.p.patchFamily(l)
	m, _ := surface.FindMend("burn-wood-spot")
	w.add(line{slot: "feather", kind: job.Scuff, title: "Feather the edge of the spot", ladder: papers(800), fixed: 10, check: "dull-gone",
		how: "A small soft block, from the spot outwards, until no step is felt; the rest of the panel just dull.",
		why: "What is new holds on the scratches, and a step in the film is a line for good."})
	w.add(line{slot: "seal-spot", kind: job.Coat, title: "Seal the bared spot", role: "sealer", family: "dewaxed-shellac",
		method: material.Brush, fixed: 10,
		how: "One thin touch on the bare wood alone, feathered with the cloth.",
		why: "Bare wood drinks colour darker than before: sealed, it can be toned up step by step."})
	w.touchIn(l)
	w.add(line{slot: "clear-past", kind: job.Coat, title: "Clear past the spot", role: "clear", family: f.ID, method: f.Methods[0],
		coats: 3,
		how:   "Each coat a little further out than the one before, the last to the next edge.", why: m.Note})
	w.madeOne(l, m.Flush, int(m.Minutes))
}

// respray coats a panel again, from edge to edge, behind a tape line.
func (w *writer) respray(l *Layer) {
	f, _ := w.p.patchFamily(l)
	coats := l.Coats
	if coats == 0 {
		coats = max(f.UsualLeast, 2)
	}
	w.add(line{slot: "tape-line", kind: job.MaskOn, title: "Fine-line tape along the edge of the panel", check: "tape-pressed",
		how: "Along a hard edge or a line of the piece, paper behind it. Where there is none, fold the tape back on itself so that the " +
			"coat fades out.",
		why: "A line that lies on an edge is not seen."})
	w.add(line{slot: "dull", kind: job.Scuff, title: "Scuff the panel", ladder: papers(600), check: "dull-gone",
		how: "Evenly dull, no shiny spot, off the edges; every trace of dust off.", why: "The new film holds on its scratches."})
	w.touchIn(l)
	w.add(line{slot: "clear", kind: job.Coat, title: "Clear again", role: "clear", family: f.ID, method: f.Methods[0], coats: coats,
		how: "From edge to edge, no stop in the middle.", why: "A film that does not melt shows no ring where there is no middle."})
	w.add(line{slot: "tape-line-off", kind: job.MaskOff, title: "Tape off", film: material.TouchDry, check: "tape-lifted",
		how: "Slowly, flat back over itself, while the film is dry to touch and not hard.",
		why: "Too early it smears, too late it tears the edge."})
	w.madeOne(l, "fepa:P1000", 20)
}

// madeOne levels what was filled or coated, blends its sheen into the old, and looks for a witness line.
func (w *writer) madeOne(l *Layer, flush string, minutes int) {
	ladder := append([]string{flush}, upTo(gritOf(flush)+1, 2000, 1000, 1200, 1500, 2000)...)
	level := line{slot: "level", kind: job.Level, title: "Scrape and level it flush", ladder: ladder, film: material.Buff,
		check: "flat-under-block",
		how:   "A blade with taped ends until it is a hair proud, then a small hard block, then up the ladder a palm round it.",
		why:   "A pad follows the hill; a hard block cuts it."}
	if l.kind() != "panel" {
		level.fixed = unit.Minutes(minutes)
	}
	w.add(level)
	blend := line{slot: "blend", kind: job.Buff, title: "Blend the sheen in",
		ladder: []string{"compound:medium", "compound:fine", "compound:swirl"}, film: material.Buff,
		check: "compound-haze", how: "From the spot outwards, with less and less pressure, to an edge or a line of the piece.",
		why: "A sheen that stops somewhere is a border."}
	if l.Sheen == "satin" || l.Sheen == "matte" {
		blend.ladder, blend.check = []string{"nonwoven:ultra-fine"}, "sheen-zones"
	}
	w.add(blend)
	w.add(line{slot: "witness", kind: job.Inspect, title: "Look for a witness line", check: "witness-look",
		how: "A low lamp from two sides, a breath on it, then daylight.",
		why: "A ring that is seen now is a panel; one that is found by the customer is a return."})
}

// patching looks at a layer of patch: the old finish stays, and it must be known what it is.
func (c *checker) patching(at string, p *PieceWish, l *Layer) {
	if _, known := p.patchFamily(l); !known {
		c.fault(at+".family", "say which film it is: the drop test tells it, or the record", l.Family)
	}
	if p.Found == "" || p.Found == "bare" {
		c.fault(at+".as", "only a finish that lies there is patched: say how the surface comes, such as old-thinner", p.Found)
	}
	if other := p.find(func(o *Layer) bool { return o.Effect != EffectPatch }); other != nil {
		c.fault(at+".effect", "where a finish is only patched it stays: leave out "+phrase.Lower(other.Named())+", or the patch", other.ID)
	}
}
