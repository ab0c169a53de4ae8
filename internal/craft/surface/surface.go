// Package surface knows surfaces as they are found, what has to come off them and where their ladder
// begins, and the mends of what is damaged below a finish.
package surface

import (
	_ "embed"
	"errors"
	"fmt"
	"strings"
	"time"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/glue"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Found is one row of found.csv: a surface as it comes to the finisher.
type Found struct {
	ID       string
	What     string
	Tell     string   // how it shows
	First    string   // the grit by hand; empty: no paper, or none before the tests
	ComesOff string   // what has to go before anything is put on
	Families []string // what it may be, most likely first
	Tests    []string // checks, in their order
	Note     string
}

// Mend is one row of mends.csv: how damage of a kind is put right.
type Mend struct {
	ID      string
	Damage  string
	InFilm  bool // it is a repair of a film, not of what lies below
	Repair  string
	Uses    []string     // glues or families
	Dye     string       // how it takes dye: yes, less, more, no, or tone; empty: it does not matter
	Minutes unit.Minutes // of handwork, each
	Wait    time.Duration
	Ready   string // how one knows that the wait is over
	Flush   string // the grit that takes it level
	Note    string
}

//go:embed found.csv
var foundRows string

//go:embed mends.csv
var mendRows string

var surfaces, foundError = parseFound(foundRows)
var mends, mendError = parseMends(mendRows)

// Check reports what is wrong with the embedded tables, for a start-up check.
func Check() error { return errors.Join(foundError, mendError) }

// Find returns the surface with this id.
func Find(id string) (Found, error) {
	for _, f := range surfaces {
		if f.ID == id {
			return f, nil
		}
	}
	return Found{}, fmt.Errorf("there is no surface as found %q in the table", id)
}

// All lists the surfaces, in the order of the table.
func All() []Found { return append([]Found(nil), surfaces...) }

// FindMend returns the mend with this id.
func FindMend(id string) (Mend, error) {
	for _, m := range mends {
		if m.ID == id {
			return m, nil
		}
	}
	return Mend{}, fmt.Errorf("there is no mend %q in the table", id)
}

// Mends lists those of what lies below a film, in the order of the table.
func Mends() []Mend {
	var list []Mend
	for _, m := range mends {
		if !m.InFilm {
			list = append(list, m)
		}
	}
	return list
}

func parseFound(text string) ([]Found, error) {
	var list []Found
	err := table.Read("found", text, func(r table.Row) {
		f := Found{ID: r.Needed("id"), What: r.Needed("what"), Tell: r.Needed("how_to_tell"), First: r.Text("first_grit_hand"),
			ComesOff: r.Text("comes_off"), Families: strings.Fields(r.Text("families")), Tests: strings.Fields(r.Text("tests")),
			Note: r.Text("note")}
		if _, err := abrasive.Find(f.First); f.First != "" && err != nil {
			r.Complain("first_grit_hand", "a key of abrasives.csv")
		}
		for _, id := range f.Families {
			if _, err := material.FindFamily(id); err != nil {
				r.Complain("families", "families of families.csv")
			}
		}
		for _, id := range f.Tests {
			if _, err := check.Find(id); err != nil {
				r.Complain("tests", "checks of checks.yaml")
			}
		}
		list = append(list, f)
	})
	return list, err
}

func parseMends(text string) ([]Mend, error) {
	var list []Mend
	err := table.Read("mends", text, func(r table.Row) {
		wait, _ := r.Optional("wait_h", 0, 500)
		m := Mend{ID: r.Needed("id"), Damage: r.Needed("damage"), InFilm: r.OneOf("depth", "wood", "film") == "film",
			Repair: r.Needed("repair"), Uses: strings.Fields(r.Text("uses")),
			Dye:     r.OneOf("takes_dye", "", "yes", "less", "more", "no", "tone"),
			Minutes: unit.Minutes(r.Number("minutes", 1, 600)), Wait: time.Duration(wait * float64(time.Hour)), Ready: r.Text("wait_note"),
			Flush: r.Text("flush_grit"), Note: r.Text("note")}
		if _, err := abrasive.Find(m.Flush); m.Flush != "" && err != nil {
			r.Complain("flush_grit", "a key of abrasives.csv")
		}
		for _, id := range m.Uses {
			_, errGlue := glue.Find(id)
			_, errFamily := material.FindFamily(id)
			if errGlue != nil && errFamily != nil {
				r.Complain("uses", "ids of glues.csv or families.csv")
			}
		}
		list = append(list, m)
	})
	return list, err
}
