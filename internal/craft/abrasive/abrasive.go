// Package abrasive knows the grits of papers, pads and compounds. Grits of all
// scales meet in the mean size of their grain and the depth of their scratch.
package abrasive

import (
	_ "embed"
	"fmt"
	"strings"

	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Grit is one row of abrasives.csv.
type Grit struct {
	Key          string // "fepa:P320"
	Scale        string
	Name         string // as printed on the sheet: "P320"
	Mean         unit.Micron
	Scratch      unit.Micron // in a film; 0 for compounds that leave none to speak of
	Note, Source string
}

// String prints a grit as a finisher says it: papers by their mark alone, all else
// with what it is.
func (m Grit) String() string {
	switch m.Scale {
	case "fepa":
		return m.Name
	default:
		return m.Scale + " " + m.Name
	}
}

//go:embed abrasives.csv
var rows string

var (
	listed, loadError = parse(rows) // in the order of the table
	grits             = byKey(listed)
)

// All lists every abrasive, scale by scale, the coarsest first.
func All() []Grit { return listed }

func byKey(list []Grit) map[string]Grit {
	grits := make(map[string]Grit, len(list))
	for _, g := range list {
		grits[g.Key] = g
	}
	return grits
}

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the grit with this key, "scale:mark".
func Find(key string) (Grit, error) {
	grit, found := grits[key]
	if !found {
		return Grit{}, fmt.Errorf("there is no abrasive %q in the table", key)
	}
	return grit, nil
}

// Ladder is the ordered grits of one stage.
type Ladder []Grit

// LadderOf looks up the keys of a ladder, coarsest first.
func LadderOf(keys ...string) (Ladder, error) {
	ladder := make(Ladder, 0, len(keys))
	for _, key := range keys {
		grit, err := Find(key)
		if err != nil {
			return nil, err
		}
		ladder = append(ladder, grit)
	}
	return ladder, nil
}

// String prints a ladder as "P120, P150, P180".
func (l Ladder) String() string {
	names := make([]string, len(l))
	for i, grit := range l {
		names[i] = grit.String()
	}
	return strings.Join(names, ", ")
}

func parse(text string) (list []Grit, err error) {
	seen := make(map[string]bool)
	err = table.Read("abrasives", text, func(r table.Row) {
		scratch, _ := r.Optional("scratch_um", 0, 200)
		mean, _ := r.Optional("mean_um", 0, 1000)
		grit := Grit{
			Scale:   r.Needed("scale"),
			Name:    r.Needed("mark"),
			Mean:    unit.Micron(mean),
			Scratch: unit.Micron(scratch),
			Note:    r.Text("note"),
			Source:  r.Needed("source"),
		}
		grit.Key = grit.Scale + ":" + grit.Name
		if seen[grit.Key] {
			r.Complain("mark", "listed only once on its scale")
		}
		seen[grit.Key] = true
		list = append(list, grit)
	})
	return list, err
}
