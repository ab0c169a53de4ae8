// Package leaf knows which leaf lies on which size, when the size takes it, and what shuts it in.
package leaf

import (
	_ "embed"
	"fmt"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Leaf is one row of leaf.csv: a kind of leaf on a kind of size. Figures are estimates; a pair that
// is not listed is untested.
type Leaf struct {
	ID            string
	Name          string
	Size          string       // the family of its size
	After, Before unit.Minutes // the tack, from sizing
	Seal          string       // the family that shuts it in; empty: none is needed
	MustSeal      bool         // what is not sealed tarnishes
	SealCoats     int
	SealAfter     time.Duration // from laying
	Note          string
}

//go:embed leaf.csv
var rows string

var leaves, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the leaf with this id.
func Find(id string) (Leaf, error) {
	for _, l := range leaves {
		if l.ID == id {
			return l, nil
		}
	}
	return Leaf{}, fmt.Errorf("there is no leaf %q in the table", id)
}

// All lists the kinds of leaf, in the order of the table.
func All() []Leaf { return append([]Leaf(nil), leaves...) }

func parse(text string) ([]Leaf, error) {
	var list []Leaf
	err := table.Read("leaf", text, func(r table.Row) {
		need := r.OneOf("seal_needed", "no", "advised", "yes")
		after, _ := r.Optional("seal_after_h", 0, 500)
		l := Leaf{ID: r.Needed("id"), Name: r.Needed("leaf"), Size: r.Needed("size_family"),
			After: unit.Minutes(r.Number("tack_after_min", 1, 2880)), Before: unit.Minutes(r.Number("tack_before_min", 1, 2880)),
			MustSeal: need == "yes", SealCoats: int(r.Number("seal_coats", 0, 4)),
			SealAfter: time.Duration(after * float64(time.Hour)), Note: r.Text("note")}
		if l.Before <= l.After {
			r.Complain("tack_before_min", "later than tack_after_min")
		}
		families := map[string]string{"size_family": l.Size}
		if need != "no" {
			l.Seal = r.Needed("seal_family")
			families["seal_family"] = l.Seal
		}
		for column, id := range families {
			if _, err := material.FindFamily(id); err != nil {
				r.Complain(column, "a family of families.csv")
			}
		}
		if (need == "no") != (l.SealCoats == 0) {
			r.Complain("seal_coats", "some where it is sealed, none elsewhere")
		}
		list = append(list, l)
	})
	return list, err
}
