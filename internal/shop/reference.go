package shop

import (
	"context"

	"github.com/google/uuid"

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
		People: append([]store.Person{}, m.people...), Outlines: Outlines}
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
