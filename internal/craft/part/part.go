// Package part knows what small parts are made of: metals with what strips, brushes and darkens them,
// plastics with what dulls and stains them.
package part

import (
	_ "embed"
	"errors"
	"fmt"
	"strings"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Metal is one row of metals.csv. Figures are estimates.
type Metal struct {
	ID                  string
	Name                string
	Kind                string // solid, coated or plated
	Strip               string // what comes off before anything else
	Brush               []string
	Agent               string       // the class of what darkens it, not a recipe; empty: nothing does
	EtchLeast, EtchMost unit.Minutes // 0 where it is not etched
	Neutralise          string
	Seal                string // the family that keeps it so; empty: it is left
	Note                string
}

// Plastic is one row of plastics.csv. Figures are estimates.
type Plastic struct {
	ID                    string
	Name                  string
	Kind                  string // part, binding or body
	Dull                  []string
	Stain                 string       // what colours it; empty: nothing does
	StainLeast, StainMost unit.Minutes // 0 where no time is known
	WipeBack              string
	HeatMost              unit.Celsius // where to stay below
	Prime                 string       // the family that grips; empty: none is known
	Note                  string
}

//go:embed metals.csv
var metalRows string

//go:embed plastics.csv
var plasticRows string

var metals, metalError = parseMetals(metalRows)
var plastics, plasticError = parsePlastics(plasticRows)

// Check reports what is wrong with the embedded tables, for a start-up check.
func Check() error { return errors.Join(metalError, plasticError) }

// FindMetal returns the metal with this id.
func FindMetal(id string) (Metal, error) {
	for _, m := range metals {
		if m.ID == id {
			return m, nil
		}
	}
	return Metal{}, fmt.Errorf("there is no metal %q in the table", id)
}

// FindPlastic returns the plastic with this id.
func FindPlastic(id string) (Plastic, error) {
	for _, p := range plastics {
		if p.ID == id {
			return p, nil
		}
	}
	return Plastic{}, fmt.Errorf("there is no plastic %q in the table", id)
}

// Metals and Plastics list them, in the order of their tables.
func Metals() []Metal     { return append([]Metal(nil), metals...) }
func Plastics() []Plastic { return append([]Plastic(nil), plastics...) }

func parseMetals(text string) ([]Metal, error) {
	var list []Metal
	err := table.Read("metals", text, func(r table.Row) {
		m := Metal{ID: r.Needed("id"), Name: r.Needed("name"), Kind: r.OneOf("kind", "solid", "coated", "plated"), Strip: r.Needed("strip"),
			Brush: grits(r, "brush_grits"), Neutralise: r.Needed("neutralise"), Seal: family(r, "seal_family"), Note: r.Text("note")}
		if agent := r.Needed("etch_agent"); agent != "none" {
			m.Agent = agent
			m.EtchLeast, m.EtchMost = span(r, "etch_min_least", "etch_min_most")
		}
		list = append(list, m)
	})
	return list, err
}

func parsePlastics(text string) ([]Plastic, error) {
	var list []Plastic
	err := table.Read("plastics", text, func(r table.Row) {
		p := Plastic{ID: r.Needed("id"), Name: r.Needed("name"), Kind: r.OneOf("kind", "part", "binding", "body"),
			Dull:     grits(r, "dull_grits"),
			WipeBack: r.Text("wipe_back"), HeatMost: unit.Celsius(r.Number("heat_most_c", 30, 300)), Prime: family(r, "prime_family"),
			Note: r.Text("note")}
		if stain := r.Needed("stain_class"); !strings.HasPrefix(stain, "none") {
			p.Stain = stain
		}
		if r.Text("stain_min_least") != "" {
			p.StainLeast, p.StainMost = span(r, "stain_min_least", "stain_min_most")
		}
		list = append(list, p)
	})
	return list, err
}

func span(r table.Row, least, most string) (unit.Minutes, unit.Minutes) {
	a, b := unit.Minutes(r.Number(least, 1, 2880)), unit.Minutes(r.Number(most, 1, 2880))
	if b < a {
		r.Complain(most, "not less than "+least)
	}
	return a, b
}

func grits(r table.Row, column string) []string {
	list := strings.Fields(r.Needed(column))
	for _, id := range list {
		if _, err := abrasive.Find(id); err != nil {
			r.Complain(column, "keys of abrasives.csv")
		}
	}
	return list
}

// family is a family that may be left open.
func family(r table.Row, column string) string {
	id := r.Text(column)
	if _, err := material.FindFamily(id); id != "" && err != nil {
		r.Complain(column, "a family of families.csv")
	}
	return id
}
