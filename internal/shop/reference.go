package shop

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/store"
)

// Reference is what a person may choose from.
type Reference struct {
	Shop     string         `json:"shop"`
	Zone     string         `json:"zone" doc:"the shop's IANA time zone"`
	Today    string         `json:"today" format:"date"`
	People   []store.Person `json:"people"`
	Outlines []string       `json:"outlines"`
	Recipes  []RecipeView   `json:"recipes"`
	Places   []PlaceHead    `json:"places"`
	// Materials are what a step may be put on with instead, by group.
	Materials []MaterialView `json:"materials"`
}

// MaterialView is a product on the shelf, or a family with its usual figures.
type MaterialView struct {
	ID     string `json:"id" doc:"of the product, or of the family"`
	Name   string `json:"name"`
	Family string `json:"family"`
	Group  string `json:"group" doc:"colour, fill, seal, clear, oil-wax or other"`
}

// RecipeView is a recipe with its open choices.
type RecipeView struct {
	ID      string     `json:"id"`
	Title   string     `json:"title"`
	Piece   string     `json:"piece" enum:"body,neck"`
	Summary string     `json:"summary"`
	Woods   []WoodView `json:"woods" doc:"the woods it suits"`
	Roles   []RoleView `json:"roles"`
}

// WoodView is a wood to choose.
type WoodView struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Colour string `json:"colour"`
	Advice string `json:"advice"`
}

// RoleView is a material slot with the products that fit it.
type RoleView struct {
	ID       string        `json:"id"`
	Title    string        `json:"title"`
	Products []ProductView `json:"products"`
}

// ProductView is a product on the shelf.
type ProductView struct {
	ID     uuid.UUID `json:"id"`
	Name   string    `json:"name"`
	Colour string    `json:"colour,omitempty"`
}

// Reference lists the choices for a new instrument.
func (s *Service) Reference(ctx context.Context) (Reference, error) {
	var out Reference
	err := s.look(ctx, func(m *moment) error {
		out = m.reference()
		return nil
	})
	return out, err
}

func (m *moment) reference() Reference {
	out := Reference{Shop: m.setting.Name, Zone: m.setting.TimeZone, Today: m.now.In(m.plan.Zone).Format("2006-01-02"),
		People: slices.DeleteFunc(append([]store.Person{}, m.people...), func(p store.Person) bool { return p.Left }), Outlines: Outlines}
	out.Materials, out.Places = m.materials(), []PlaceHead{}
	for _, p := range m.input.Shop.Places {
		out.Places = append(out.Places, PlaceHead{p.ID, p.Name})
	}
	for _, r := range recipe.All() {
		view := RecipeView{ID: r.ID, Title: r.Title, Piece: string(r.Piece), Summary: r.Summary}
		for _, w := range wood.All() {
			if r.Suits == nil || r.Suits(w) == nil {
				view.Woods = append(view.Woods, WoodView{w.ID, w.Name, w.BareColour, w.Advice})
			}
		}
		for _, role := range r.Roles {
			slot := RoleView{ID: role.ID, Title: role.Title, Products: []ProductView{}}
			for _, p := range m.products {
				if p.Family == role.Family {
					slot.Products = append(slot.Products, ProductView{p.ID, p.Name, p.material.Colour()})
				}
			}
			view.Roles = append(view.Roles, slot)
		}
		out.Recipes = append(out.Recipes, view)
	}
	return out
}

// materials lists the products on the shelf, then the families.
func (m *moment) materials() []MaterialView {
	list := []MaterialView{}
	for _, p := range m.products {
		list = append(list, MaterialView{p.ID.String(), p.Name, p.Family, p.material.Family.Group})
	}
	for _, f := range material.Families() {
		list = append(list, MaterialView{f.ID, f.Name + ", usual figures", f.ID, f.Group})
	}
	return list
}
