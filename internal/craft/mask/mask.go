// Package mask knows what keeps a layer off the rest: tapes, stencils, liquid masks and plugs, what
// they stand, and how long they may stay.
package mask

import (
	_ "embed"
	"fmt"
	"time"

	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Mask is one row of masks.csv. Grades are from 0 to 3, more is more. Figures are estimates.
type Mask struct {
	ID       string
	Name     string
	Kind     string // tape, stencil, liquid, plug, dam, cover, or a line that only stops dye
	Solvent  int    // what it stands
	Water    int
	HeatMost unit.Celsius  // 0: no limit that matters here
	StayMost time.Duration // at room warmth
	Lift     string        // when and how it comes off
	Bleed    int           // the risk that the edge bleeds
	EdgeStep int           // how high a step it leaves
	Note     string
}

//go:embed masks.csv
var rows string

var masks, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the mask with this id.
func Find(id string) (Mask, error) {
	for _, m := range masks {
		if m.ID == id {
			return m, nil
		}
	}
	return Mask{}, fmt.Errorf("there is no mask %q in the table", id)
}

func parse(text string) ([]Mask, error) {
	var list []Mask
	err := table.Read("masks", text, func(r table.Row) {
		grade := func(column string) int {
			g, _ := r.Optional(column, 0, 3)
			return int(g)
		}
		heat, _ := r.Optional("heat_most_c", 20, 600)
		list = append(list, Mask{ID: r.Needed("id"), Name: r.Needed("name"),
			Kind:    r.OneOf("kind", "tape", "stencil", "liquid", "plug", "dam", "cover", "line"),
			Solvent: grade("solvent_resist"), Water: grade("water_resist"), HeatMost: unit.Celsius(heat),
			StayMost: time.Duration(r.Number("stay_most_h", 0.1, 2000) * float64(time.Hour)), Lift: r.Needed("lift_window"),
			Bleed: grade("edge_bleed_risk"), EdgeStep: grade("edge_step"), Note: r.Text("note")})
	})
	return list, err
}
