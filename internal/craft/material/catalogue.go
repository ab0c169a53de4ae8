package material

import (
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
)

// Product is a named material with its data sheets, as a shop has it.
type Product struct {
	ID       uuid.UUID      `json:"id"`
	Name     string         `json:"name"`
	Family   string         `json:"family"`
	Versions []SheetVersion `json:"versions"` // the oldest first
}

// SheetVersion is a data sheet from a moment on, as JSON of the form of Sheet.
type SheetVersion struct {
	ValidFrom time.Time       `json:"validFrom,omitzero"`
	Sheet     json.RawMessage `json:"sheet"`
}

// At is a product as a material, by the sheet that holds at a moment. It fails where its family is not known, or its
// sheet is malformed.
func (p *Product) At(now time.Time) (Material, error) {
	family, err := FindFamily(p.Family)
	if err != nil {
		return Material{}, err
	}
	held := calendar.InForce(p.Versions, now, func(v SheetVersion) time.Time { return v.ValidFrom })
	return OfProduct(family, p.ID.String(), p.Name, p.Versions[held].Sheet)
}

// Check reports what is wrong with any of a product's sheets.
func (p *Product) Check() error {
	family, err := FindFamily(p.Family)
	if err != nil {
		return err
	}
	for _, v := range p.Versions {
		if _, err := OfProduct(family, "", p.Name, v.Sheet); err != nil {
			return err
		}
	}
	return nil
}

// Catalogue is what coats are made of, by the id of a product, or of a family for its usual figures; coats of the same
// product share one.
type Catalogue map[string]*Material

// NewCatalogue is a catalogue of the families alone.
func NewCatalogue() Catalogue {
	c := make(Catalogue)
	for _, family := range Families() {
		made := OfFamily(family)
		c[family.ID] = &made
	}
	return c
}

// Product is what a product is; nil where none is named, or known.
func (c Catalogue) Product(id *uuid.UUID) *Material {
	if id == nil {
		return nil
	}
	return c[id.String()]
}

// Of is what is put on: a product of a family, or its usual figures where no product is named; nil where there is no
// family, and so no film.
func (c Catalogue) Of(family string, product *uuid.UUID) (*Material, error) {
	if family == "" {
		return nil, nil
	}
	if product == nil {
		made, known := c[family]
		if !known {
			_, err := FindFamily(family)
			return nil, err
		}
		return made, nil
	}
	made, known := c[product.String()]
	if !known {
		return nil, fmt.Errorf("its product %s is not among the products", product)
	}
	if made.Family.ID != family {
		return nil, fmt.Errorf("%s is of the family %s, not %s", made.Name, made.Family.ID, family)
	}
	return made, nil
}
