package recipe

import (
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/wood"
)

// stays are the surfaces that are wanted as they are: brushed or smoothed at most, never sanded.
var stays = []string{"charred", "textured"}

// unsure are the surfaces of which nobody knows for certain what is in them: no flame comes near.
var unsure = []string{"reclaimed", "water-soaked", "stained", "oiled", "waxed", "smoke-grime", "polished-silicone"}

// unknownTreatment reports whether a flame could light what somebody put on before.
func unknownTreatment(found string) bool {
	return slices.Contains(unsure, found) || strings.HasPrefix(found, "old-")
}

// first is the grit at which the ladder of a region begins by how it was found: 0 where its wood says
// it, -1 where it is not sanded.
func (w *writer) first(z Region) int {
	f, err := surface.Find(z.wish.Found)
	switch {
	case err != nil || f.ID == "bare":
		return 0
	case slices.Contains(stays, f.ID):
		return -1
	case gritOf(f.First) > 0:
		return gritOf(f.First)
	}
	return washedGrit
}

// washedGrit begins the ladder where what was on the wood is washed off without paper.
const washedGrit = 180

// asFound writes what a surface needs before its ladder: its tests, and what has to come off. It returns
// the grit at which the ladder may begin.
func (w *writer) asFound(regions []Region, suffix string) int {
	f, err := surface.Find(regions[0].wish.Found)
	if err != nil || f.ID == "bare" {
		return 0
	}
	for _, test := range f.Tests {
		if test == "raking-light-prep" {
			continue // it comes when the wood is sanded
		}
		w.add(line{slot: "found-" + test + suffix, kind: job.Inspect, title: "As found: " + phrase.Lower(f.What), regions: regions,
			check: test,
			how:   phrase.Capital(f.Tell) + ". " + f.Note,
			why:   "What lies on it decides what comes off it, and what holds on it."})
	}
	first := w.first(regions[0])
	if f.ComesOff == "" || f.ID == "pre-sanded" || f.ID == "veneered" {
		return first
	}
	l := line{slot: "strip" + suffix, kind: job.Sand, work: "scuff", title: "Off first: " + strings.TrimSpace(f.ComesOff), regions: regions,
		how: f.Note, why: "Nothing that comes later holds on it, and paper drives it in."}
	if f.First != "" {
		l.ladder = []string{f.First}
		if timberOf(regions[0]).Substrate == wood.Veneer && gritOf(f.First) > 0 {
			l.ladder = papers(max(veneerGrit, gritOf(f.First)))
		}
		l.how = fmt.Sprintf("From %s, the finest that removes it. %s", grit(f.First), f.Note)
	}
	w.add(l)
	return first
}

// grit names a key of the abrasives as it is marked.
func grit(key string) string {
	if g, err := abrasive.Find(key); err == nil {
		return g.String()
	}
	return key
}

// found looks at how a surface is said to come.
func (c *checker) found(path, id string) {
	if id == "" {
		return
	}
	if _, err := surface.Find(id); err != nil {
		c.fault(path, err.Error()+"; choose one such as bare, pre-sanded or factory-sealed", id)
	}
}
