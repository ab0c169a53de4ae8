// Package flake knows flake, pearl and grains: how large they are, how high they stand once they
// lie, how much of them goes into a clear or falls on tack, and for how long a tacky coat takes them.
package flake

import (
	_ "embed"
	"errors"
	"fmt"
	"math"

	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Grain is one row of flake.csv. Figures are estimates.
type Grain struct {
	ID         string
	Material   string // "polyester flake"
	Size       unit.Micron
	Sprinkled  bool        // it falls dry on tack; else it lies flat in a flowing coat
	Family     string      // what the coat that carries it is, or particles
	Standing   unit.Micron // what a clear must cover: film.Standing, rounded up
	GramsLeast float64     // per 100 mL of clear ready to spray; of what falls, per dm²
	GramsMost  float64
	CoatsLeast int
	CoatsMost  int
	Nozzle     float64 // the smallest that it goes through, mm; 0 where none is needed
	Note       string
}

// Tack is one row of tack.csv: the minutes after a coat in which it takes grains, at 20 °C and 50 %.
type Tack struct {
	Family        string
	After, Before unit.Minutes
	Tell          string // how it shows
	Note          string
}

//go:embed flake.csv
var grainRows string

//go:embed tack.csv
var tackRows string

var grains, grainError = parseGrains(grainRows)
var tacks, tackError = parseTacks(tackRows)

// Check reports what is wrong with the embedded tables, for a start-up check.
func Check() error { return errors.Join(grainError, tackError) }

// Find returns the grain with this id.
func Find(id string) (Grain, error) {
	for _, g := range grains {
		if g.ID == id {
			return g, nil
		}
	}
	return Grain{}, fmt.Errorf("there is no flake or grain %q in the table", id)
}

// All lists the grains, in the order of the table.
func All() []Grain { return append([]Grain(nil), grains...) }

// TackOf is the window in which a coat of a family takes grains; false where it holds none.
func TackOf(family string) (Tack, bool) {
	for _, t := range tacks {
		if t.Family == family {
			return t, true
		}
	}
	return Tack{}, false
}

// Holders lists the families that take grains.
func Holders() []string {
	list := make([]string, len(tacks))
	for i, t := range tacks {
		list[i] = t.Family
	}
	return list
}

func parseGrains(text string) ([]Grain, error) {
	var list []Grain
	err := table.Read("flake", text, func(r table.Row) {
		g := Grain{ID: r.Needed("id"), Material: r.Needed("material"), Size: unit.Micron(r.Number("size_um", 5, 3000)),
			Sprinkled: r.OneOf("kind", "flat", "sprinkled") == "sprinkled", Family: r.Needed("family"),
			Standing:   unit.Micron(r.Number("standing_height_um", 1, 3000)),
			CoatsLeast: int(r.Number("coats_least", 1, 10)), CoatsMost: int(r.Number("coats_most", 1, 12)), Note: r.Text("note")}
		if _, err := material.FindFamily(g.Family); err != nil || (g.Family == "particles") != g.Sprinkled {
			r.Complain("family", "the coat that carries it, or particles of what is sprinkled")
		}
		if want := math.Ceil(float64(film.Standing(g.Size, g.Sprinkled)) - 1e-9); float64(g.Standing) != want {
			r.Complain("standing_height_um", fmt.Sprintf("size times its share, %g", want))
		}
		weight := [2]string{"g_per_100ml_least", "g_per_100ml_most"}
		if g.Sprinkled {
			weight = [2]string{"g_per_dm2_least", "g_per_dm2_most"}
		}
		g.GramsLeast, g.GramsMost = r.Number(weight[0], 0.1, 60), r.Number(weight[1], 0.1, 60)
		if g.GramsMost < g.GramsLeast || g.CoatsMost < g.CoatsLeast {
			r.Complain("coats_most", "most, not less than least")
		}
		g.Nozzle, _ = r.Optional("nozzle_min_mm", 0.5, 5)
		list = append(list, g)
	})
	return list, err
}

func parseTacks(text string) ([]Tack, error) {
	var list []Tack
	err := table.Read("tack", text, func(r table.Row) {
		t := Tack{Family: r.Needed("family"), After: unit.Minutes(r.Number("tack_after_min", 1, 2880)),
			Before: unit.Minutes(r.Number("tack_before_min", 1, 2880)), Tell: r.Needed("how_to_tell"), Note: r.Text("note")}
		if _, err := material.FindFamily(t.Family); err != nil {
			r.Complain("family", "a family of families.csv")
		}
		if t.Before <= t.After {
			r.Complain("tack_before_min", "later than tack_after_min")
		}
		list = append(list, t)
	})
	return list, err
}
