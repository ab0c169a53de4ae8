// Package abrasive knows the marks on papers, pads and compounds. Marks of all
// scales meet in the mean size of their grain and the depth of their scratch.
package abrasive

import (
	_ "embed"
	"fmt"
	"strings"

	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Mark is one row of abrasives.csv.
type Mark struct {
	Key          string // "fepa:P320"
	Scale        string
	Name         string // as printed on the sheet: "P320"
	Mean         unit.Micron
	Scratch      unit.Micron // in a film; 0 for compounds that leave none to speak of
	Note, Source string
}

// Text prints a mark as a finisher says it: papers by their mark alone, all else
// with what it is.
func (m Mark) Text() string {
	switch m.Scale {
	case "fepa":
		return m.Name
	default:
		return m.Scale + " " + m.Name
	}
}

//go:embed abrasives.csv
var rows string

var marks, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the mark with this key, "scale:mark".
func Find(key string) (Mark, error) {
	mark, found := marks[key]
	if !found {
		return Mark{}, fmt.Errorf("there is no abrasive %q in the table", key)
	}
	return mark, nil
}

// Ladder is the ordered marks of one stage.
type Ladder []Mark

// LadderOf looks up the keys of a ladder, coarsest first.
func LadderOf(keys ...string) (Ladder, error) {
	ladder := make(Ladder, 0, len(keys))
	for _, key := range keys {
		mark, err := Find(key)
		if err != nil {
			return nil, err
		}
		ladder = append(ladder, mark)
	}
	return ladder, nil
}

// Text prints a ladder as "P120, P150, P180".
func (l Ladder) Text() string {
	names := make([]string, len(l))
	for i, mark := range l {
		names[i] = mark.Text()
	}
	return strings.Join(names, ", ")
}

func parse(text string) (map[string]Mark, error) {
	marks := make(map[string]Mark)
	err := table.Read("abrasives", text, func(r table.Row) {
		scratch, _ := r.Optional("scratch_um", 0, 200)
		mean, _ := r.Optional("mean_um", 0, 1000)
		mark := Mark{
			Scale:   r.Needed("scale"),
			Name:    r.Needed("mark"),
			Mean:    unit.Micron(mean),
			Scratch: unit.Micron(scratch),
			Note:    r.Text("note"),
			Source:  r.Needed("source"),
		}
		mark.Key = mark.Scale + ":" + mark.Name
		if _, twice := marks[mark.Key]; twice {
			r.Complain("mark", "listed only once on its scale")
		}
		marks[mark.Key] = mark
	})
	return marks, err
}
