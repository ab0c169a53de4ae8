package material

import (
	"encoding/json"
	"fmt"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Sheet is what a product's data sheet says where it differs from its family.
// Absent figures are the family's.
type Sheet struct {
	Limits      map[Milestone]Limit `json:"limits,omitempty"`
	CoatsPerDay int                 `json:"coats_per_day,omitempty"`
	WetUm       float64             `json:"wet_um,omitempty"`
	Solids      float64             `json:"solids,omitempty"`
	Colour      string              `json:"colour,omitempty"` // #RRGGBB, of a colour
}

// Material is what a coat is made of: a family, and the product where one was
// chosen. It answers with the product's figures before its family's.
type Material struct {
	Family  Family
	Product string // the product's id; empty when only the family is known
	Name    string // the product's name, else the family's
	sheet   Sheet
}

// OfFamily is a material of which only the family is known.
func OfFamily(f Family) Material { return Material{Family: f, Name: f.Named()} }

// OfProduct is a named product with its sheet, read from its JSON (which may be
// empty). It fails on a sheet that is malformed or names a milestone there is not.
func OfProduct(f Family, id, name string, sheet []byte) (Material, error) {
	m := Material{Family: f, Product: id, Name: name}
	if len(sheet) > 0 {
		if err := json.Unmarshal(sheet, &m.sheet); err != nil {
			return Material{}, fmt.Errorf("data sheet of %s: %w", name, err)
		}
	}
	for milestone := range m.sheet.Limits {
		if milestone.column() == "" {
			return Material{}, fmt.Errorf("data sheet of %s: there is no milestone %q", name, milestone)
		}
	}
	return m, nil
}

// Key tells products apart: coats with the same key are coats of the same product.
func (m Material) Key() string {
	if m.Product != "" {
		return m.Product
	}
	return m.Family.ID
}

// Limit is when the film reaches a milestone, and what that rests on.
func (m Material) Limit(milestone Milestone) (Limit, working.Source) {
	if limit, given := m.sheet.Limits[milestone]; given && limit != Unknown {
		return limit, working.DataSheet
	}
	return m.Family.Limits[milestone], working.Family
}

// CoatsPerDay is the most coats a film can breathe through in a shop's day.
func (m Material) CoatsPerDay() int {
	if m.sheet.CoatsPerDay > 0 {
		return m.sheet.CoatsPerDay
	}
	return m.Family.CoatsPerDay
}

// Wet is the wet film of one coat by this method, and what that rests on.
func (m Material) Wet(method Method) (unit.Micron, working.Source) {
	if m.sheet.WetUm > 0 {
		return unit.Micron(m.sheet.WetUm), working.DataSheet
	}
	return m.Family.Wet[method], working.Family
}

// Solids is the share by volume of the unthinned material that stays, and what
// that rests on.
func (m Material) Solids() (float64, working.Source) {
	if m.sheet.Solids > 0 {
		return m.sheet.Solids, working.DataSheet
	}
	return m.Family.Solids, working.Family
}

// Colour is the product's own colour as #RRGGBB, or empty.
func (m Material) Colour() string { return m.sheet.Colour }

// Figures is what a coat was resolved to, kept with its log entry so that
// history does not rewrite itself when a sheet or a family changes.
type Figures struct {
	Family  string               `json:"family"`
	Product string               `json:"product,omitempty"`
	Name    string               `json:"name"`
	Limits  map[Milestone]Figure `json:"limits"`
	Margin  float64              `json:"margin"`
}

// Figure is one limit and what it rests on.
type Figure struct {
	Limit  Limit          `json:"limit"`
	Source working.Source `json:"source"`
}

// Resolve gathers the figures that hold for this material under a shop's margin.
func (m Material) Resolve(margin float64) Figures {
	f := Figures{Family: m.Family.ID, Product: m.Product, Name: m.Name, Margin: margin, Limits: make(map[Milestone]Figure)}
	for _, milestone := range Milestones {
		limit, source := m.Limit(milestone)
		f.Limits[milestone] = Figure{limit, source}
	}
	return f
}
