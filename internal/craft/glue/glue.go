// Package glue knows adhesives as adhesives: how long they stay open, how long they are clamped, when
// squeeze-out comes off, and when a joint may be worked on and has its full strength.
package glue

import (
	_ "embed"
	"fmt"

	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Glue is one row of glues.csv, minutes at 20 °C, a started one whole. Figures are estimates; the sheet of a product
// overrides them.
type Glue struct {
	ID                          string
	Name                        string
	Open, Clamp                 unit.Minutes
	SqueezeAfter, SqueezeBefore unit.Minutes // 0: squeeze-out is left until it is hard
	Handle, Full                unit.Minutes
	Dye                         string // how a smear of it takes dye: no, less, yes
	Note                        string
}

//go:embed glues.csv
var rows string

var glues, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the glue with this id.
func Find(id string) (Glue, error) {
	for _, g := range glues {
		if g.ID == id {
			return g, nil
		}
	}
	return Glue{}, fmt.Errorf("there is no glue %q in the table", id)
}

func parse(text string) ([]Glue, error) {
	var list []Glue
	err := table.Read("glues", text, func(r table.Row) {
		minutes := func(column string) unit.Minutes { return unit.Minutes(r.Number(column, 0, 20000) + 0.999) }
		squeeze := func(column string) unit.Minutes {
			m, _ := r.Optional(column, 1, 10000)
			return unit.Minutes(m)
		}
		g := Glue{ID: r.Needed("id"), Name: r.Needed("name"), Open: minutes("open_min"), Clamp: minutes("clamp_min"),
			SqueezeAfter: squeeze("squeeze_after_min"), SqueezeBefore: squeeze("squeeze_before_min"), Handle: minutes("handle_min"),
			Full: minutes("full_min"), Dye: r.Text("takes_dye"), Note: r.Text("note")}
		if g.Full < g.Handle || g.SqueezeBefore < g.SqueezeAfter {
			r.Complain("full_min", "later than what comes before it")
		}
		list = append(list, g)
	})
	return list, err
}
