// Package aging knows how a finish is made to look used on purpose: what is done to it, with what, how long
// that takes, which films bear it, and where on an instrument years leave their marks.
package aging

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
)

// Work is one row of aging.csv.
type Work struct {
	ID       string
	Effect   string
	Tools    []string
	Grits    []string // in order, by key
	Least    float64  // minutes per dm² that is worked on
	Most     float64
	Films    []string // families that bear it; empty: all
	After    string   // what must be done or reached before it: a milestone's name, or other work
	Cautions []string
	Note     string
}

// Bears reports whether a film of a family can be worked like that.
func (w Work) Bears(family string) bool { return len(w.Films) == 0 || slices.Contains(w.Films, family) }

// Down is the layer that it wears down to: "clear", "colour", "wood"; empty where it wears nothing off.
func (w Work) Down() string {
	down, worn := strings.CutPrefix(w.ID, "wear-")
	if !worn {
		return ""
	}
	return down
}

//go:embed aging.csv
var rows string

var works, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// order is the order in which what is done to a film follows one another: dents before wear, so that dirt
// finds them; fine scratches and dulling over wear; dirt last.
var order = []string{"dents", "buckle", "chips-edge", "check-cold", "check-cut", "check-rub", "wear-clear", "wear-colour", "wear-wood",
	"arm",
	"neck-play", "swirl-fine", "dull-all", "haze-hand", "dirt"}

// All lists what may be done to a film, in the order in which it is done.
func All() []Work {
	var list []Work
	for _, id := range order {
		if w, err := Find(id); err == nil {
			list = append(list, w)
		}
	}
	return list
}

// Find returns the work with this id.
func Find(id string) (Work, error) {
	for _, w := range works {
		if w.ID == id {
			return w, nil
		}
	}
	return Work{}, fmt.Errorf("there is no aging %q in the table", id)
}

// Rank is where work stands in that order.
func Rank(id string) int { return slices.Index(order, id) }

// Place is somewhere on an instrument that years leave marks on.
type Place struct {
	ID     string
	Text   string
	Region string  // the natural region that it lies on
	Share  float64 // of that region (default)
}

// places are where hands, clothes and floors come to an instrument. Shares are estimates.
var places = []Place{
	{"forearm", "under the forearm", "top", 0.08}, {"upper-edge", "along the upper edge", "top", 0.05},
	{"strum", "beside the strings", "top", 0.06},
	{"controls", "round the controls", "top", 0.04}, {"lower-edge", "where it stands on the floor", "sides", 0.06},
	{"horns", "tips of the horns", "sides", 0.05},
	{"belt", "at the belt", "back", 0.08}, {"ribs", "against the ribs", "back", 0.06}, {"edges", "all edges, a little", "sides", 0.10},
	{"neck-back", "where the hand slides", "shaft", 0.35}, {"head-tip", "tip of the headstock", "headstock", 0.08},
}

// Places lists where wear may be.
func Places() []Place { return slices.Clone(places) }

// FindPlace returns the place with this id.
func FindPlace(id string) (Place, error) {
	for _, p := range places {
		if p.ID == id {
			return p, nil
		}
	}
	return Place{}, fmt.Errorf("there is no place %q in the map of wear", id)
}

func parse(text string) ([]Work, error) {
	var list []Work
	err := table.Read("aging", text, func(r table.Row) {
		w := Work{ID: r.Needed("id"), Effect: r.Needed("effect"), Grits: strings.Fields(r.Text("grits")),
			Least: r.Number("min_per_dm2_least", 0, 60),
			Most:  r.Number("min_per_dm2_most", 0, 60), Films: strings.Fields(r.Text("films")), After: r.Text("after"),
			Cautions: strings.Fields(r.Text("cautions")), Note: r.Text("note")}
		for tool := range strings.SplitSeq(r.Text("tools"), ",") {
			w.Tools = append(w.Tools, strings.TrimSpace(tool))
		}
		if slices.Equal(w.Films, []string{"all"}) {
			w.Films = nil
		}
		if w.Most < w.Least {
			r.Complain("min_per_dm2_most", "no less than the least")
		}
		for _, key := range w.Grits {
			if _, err := abrasive.Find(key); err != nil && !strings.HasPrefix(key, "compound:") {
				r.Complain("grits", err.Error())
			}
		}
		for _, id := range w.Films {
			if _, err := material.FindFamily(id); err != nil {
				r.Complain("films", err.Error())
			}
		}
		list = append(list, w)
	})
	return list, err
}
