package recipe

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"umberfrost/internal/craft/aging"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// wear makes a finish look used on purpose, once it has cured: by a map of places, down to the layer that is
// wished. What lies under covers is left, and bared wood is sealed unless it is left bare on purpose.
func (w *writer) wear() {
	layers := w.p.layers(EffectWear)
	slices.SortStableFunc(layers, func(a, b *Layer) int { return aging.Rank(a.Of) - aging.Rank(b.Of) })
	for _, l := range layers {
		if work, err := aging.Find(l.Of); err == nil {
			w.of(l).worn(l, work)
		}
	}
}

// wearTools are the tools that cautions know, by a word of the table.
var wearTools = map[string]string{"razor-blade": "blade", "cold-spray": "cold air"}

// wearSetUp is how long it takes to lay a piece out for wear, with the look at the picture that is followed (default).
const wearSetUp = 10

func (w *writer) worn(l *Layer, work aging.Work) {
	where, regions, area := w.placesOf(l)
	if len(regions) == 0 {
		return
	}
	made := line{slot: "wear", kind: job.Gate, title: work.Effect + where, regions: regions, film: material.FullCure,
		fixed: unit.Minutes(wearSetUp + upToFive(float64(area)*100*(work.Least+work.Most)/2)),
		how: fmt.Sprintf("With %s. %s. Look at it from two metres after every few strokes, and stop early. What lies under plates and "+
			"covers is left.",
			strings.Join(work.Tools, ", "), strings.TrimSuffix(work.Note, ".")),
		why: "Years wear where hands, clothes and floors come to it, in the order in which it was put on: even wear looks false."}
	if work.After == "buff_after" {
		made.film = material.Buff
	}
	for tool, words := range wearTools {
		if slices.ContainsFunc(work.Tools, func(t string) bool { return strings.Contains(t, words) }) {
			made.tool = tool
		}
	}
	if slices.ContainsFunc(work.Grits, func(g string) bool { return strings.HasPrefix(g, "wool:") }) {
		made.tool = "steel-wool"
	}
	if len(work.Grits) > 0 {
		made.kind, made.ladder = job.Sand, work.Grits
	}
	w.add(made)
	if work.Down() != "wood" {
		return
	}
	if l.Because != "" {
		w.note(fmt.Sprintf("Wood that is worn bare is left bare, because %s: it greys and takes up sweat.", phrase.Lower(l.Because)))
		return
	}
	w.add(line{slot: "wear-seal", kind: job.Gate, title: "Seal the bared wood", regions: regions, fixed: 15, rest: mend("spot-patch"),
		how: "A trace of thin shellac on the bare spots alone with a rag, rubbed dull when it is dry. No edge of it on the film.",
		why: "Bare wood greys, and takes up sweat and water at the border of the film."})
}

// placesOf are the places that a layer wears, in words, with the regions that they lie on and their area; the whole
// regions where no place is named.
func (w *writer) placesOf(l *Layer) (words string, regions []Region, area unit.SquareMetre) {
	if len(l.Places) == 0 {
		for _, z := range w.regions {
			area += z.AreaM2
		}
		return "", w.regions, area
	}
	var texts []string
	for _, id := range l.Places {
		p, err := aging.FindPlace(id)
		if err != nil {
			continue // refused by the check
		}
		for _, z := range w.regions {
			if z.Name == p.Region {
				texts = append(texts, p.Text)
				area += z.AreaM2 * unit.SquareMetre(p.Share)
				if !slices.ContainsFunc(regions, func(o Region) bool { return o.Key == z.Key }) {
					regions = append(regions, z)
				}
			}
		}
	}
	return ": " + strings.Join(texts, ", "), regions, area
}

func upToFive(minutes float64) int { return int(math.Ceil(minutes/5)) * 5 }

// wearing looks at a layer of wear: whether what it wears down to lies there, and whether the film bears it.
func (c *checker) wearing(at string, p *PieceWish, l *Layer) {
	work, err := aging.Find(l.Of)
	if err != nil {
		return
	}
	natural := p.names()
	for i, id := range l.Places {
		place, err := aging.FindPlace(id)
		if err != nil || !slices.Contains(natural, place.Region) {
			c.fault(fmt.Sprintf("%s.places[%d]", at, i), "choose a place that this piece has", id)
		}
	}
	if p.clear == nil || !builds(familyOf(p.clear)) {
		c.fault(at+".of", "only a film is worn: oil and bare wood wear by themselves", l.Of)
		return
	}
	if family := familyOf(p.clear); !work.Bears(family.ID) {
		c.fault(at+".of", fmt.Sprintf("%s does not do this: %s", family.Named(), phrase.Lower(work.Note)), l.Of)
	}
	if work.Down() == "colour" && p.find(func(o *Layer) bool { return o.Effect.colours() && o.meets(l) }) == nil {
		c.fault(at+".of", "no colour lies there that could be worn through", l.Of)
	}
}
