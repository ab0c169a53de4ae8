// Package resin knows the grades of casting resin: how deep one lift may be, how long the pot lasts,
// when the next lift goes on, and what it must not touch bare. What a pour takes is in package mix.
package resin

import (
	_ "embed"
	"fmt"
	"math"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Resin is one row of resin.csv. Figures are estimates; the sheet of a product overrides them.
type Resin struct {
	ID                    string
	Name                  string
	Family                string
	DepthLeast, DepthMost unit.Millimetre // of one lift
	PotLife               unit.Minutes    // the least; 0: it does not set in the cup
	LiftAfter, LiftBefore time.Duration   // the next lift on tacky resin; later it is scuffed
	SandAfter             time.Duration
	TempMin, TempMax      unit.Celsius
	HeatSoft              unit.Celsius // where a set casting begins to give
	Mix, MixBy            string       // "2:1" by "volume"
	PowderLeast           float64      // grams per 100 mL of mix
	PowderMost            float64
	UnderStop             string // the family between it and wood or inclusion that might stop its cure; empty: none is known
	HeatNote, Note        string
}

//go:embed resin.csv
var rows string

var resins, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the resin with this id.
func Find(id string) (Resin, error) {
	for _, r := range resins {
		if r.ID == id {
			return r, nil
		}
	}
	return Resin{}, fmt.Errorf("there is no resin %q in the table", id)
}

// All lists the grades, in the order of the table.
func All() []Resin { return append([]Resin(nil), resins...) }

// Lifts is in how many pours a depth is filled, none deeper than the resin bears (heat). Rules §6.
func (r Resin) Lifts(depth unit.Millimetre) int {
	return max(1, int(math.Ceil(float64(depth/r.DepthMost)-1e-9)))
}

func parse(text string) ([]Resin, error) {
	var list []Resin
	err := table.Read("resin", text, func(r table.Row) {
		hours := func(column string) time.Duration {
			h, _ := r.Optional(column, 0, 1000)
			return time.Duration(h * float64(time.Hour))
		}
		pot, _ := r.Optional("pot_life_min_least", 1, 2000)
		mix := r.OneOf("mix_by", "volume", "weight", "none")
		s := Resin{ID: r.Needed("id"), Name: r.Needed("name"), Family: r.Needed("family"),
			DepthLeast: unit.Millimetre(r.Number("depth_least_mm", 0.05, 50)),
			DepthMost:  unit.Millimetre(r.Number("depth_most_mm", 0.1, 200)),
			PotLife:    unit.Minutes(pot), LiftAfter: hours("lift_after_h"), LiftBefore: hours("lift_before_h"),
			SandAfter: hours("sand_after_h"),
			TempMin:   unit.Celsius(r.Number("temp_min_c", 0, 40)), TempMax: unit.Celsius(r.Number("temp_max_c", 10, 60)),
			HeatSoft: unit.Celsius(r.Number("heat_soft_c", 30, 300)), MixBy: mix,
			PowderLeast: r.Number("powder_g_per_100ml_least", 0, 20), PowderMost: r.Number("powder_g_per_100ml_most", 0, 20),
			UnderStop: r.Text("under_stop"), HeatNote: r.Needed("heat_note"), Note: r.Text("note")}
		if mix != "none" {
			s.Mix = r.Needed("mix")
		}
		for column, id := range map[string]string{"family": s.Family, "under_stop": s.UnderStop} {
			if _, err := material.FindFamily(id); err != nil && (id != "" || column == "family") {
				r.Complain(column, "a family of families.csv")
			}
		}
		if s.DepthMost < s.DepthLeast || s.LiftBefore < s.LiftAfter || s.TempMax < s.TempMin || s.PowderMost < s.PowderLeast {
			r.Complain("depth_most_mm", "a row whose most is not less than its least")
		}
		list = append(list, s)
	})
	return list, err
}
