package views

import (
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/colour"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// Reference is what a person may choose from.
type Reference struct {
	Shop       string             `json:"shop"`
	ShopID     uuid.UUID          `json:"shopId" doc:"the shop's own, wherever it is served: what a device keeps is for one shop"`
	Zone       string             `json:"zone" doc:"the shop's IANA time zone"`
	Today      string             `json:"today" format:"date"`
	Notation   unit.Notation      `json:"notation" doc:"how the shop is used to having figures written"`
	People     []Person           `json:"people"`
	Outlines   []string           `json:"outlines"`
	Archetypes []ArchetypeView    `json:"archetypes" doc:"wishes to begin from"`
	Woods      []WoodView         `json:"woods"`
	Clears     []ClearView        `json:"clears"`
	Presets    []recipe.Preset    `json:"presets" doc:"stacks to begin from"`
	Boards     []recipe.Option    `json:"boards"`
	Effects    []recipe.Offer     `json:"effects" doc:"what a layer may be, in the order in which they usually lie"`
	Kinds      []recipe.Option    `json:"regionKinds" doc:"what kinds of region may be drawn"`
	Extras     []recipe.Extra     `json:"extras" doc:"steps that may be added to a schedule by hand"`
	Own        []OwnBegin         `json:"own" doc:"recipes of the shop's own to begin with: stacks and whole schedules"`
	Grits      []GritView         `json:"grits" doc:"abrasives that a ladder may have"`
	WearPlaces []recipe.WearPlace `json:"wearPlaces" doc:"the map of places where wear may be"`
	Edges      []recipe.Option    `json:"edges" doc:"how regions may meet"`
	Found      []recipe.Option    `json:"found" doc:"surfaces as they come to the finisher"`
	Parts      []recipe.PartOffer `json:"parts" doc:"small parts that may have schedules of their own"`
	Events     []recipe.Option    `json:"events" doc:"building events that may have a place in the schedule"`
	Colours    []ColourView       `json:"colours" doc:"colours that have a name here"`
	FretWires  []recipe.Option    `json:"fretWires" doc:"metals of frets"`
	Places     []PlaceHead        `json:"places"`
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

// ArchetypeView is a wish to begin from.
type ArchetypeView struct {
	ID      string      `json:"id"`
	Title   string      `json:"title"`
	Summary string      `json:"summary"`
	Wish    recipe.Wish `json:"wish"`
}

// OwnBegin is an own recipe to begin a piece or an instrument with, as it was saved last.
type OwnBegin struct {
	ID      uuid.UUID         `json:"id"`
	Version int               `json:"version"`
	Name    string            `json:"name"`
	Stack   *recipe.PieceWish `json:"stack,omitempty"`
	Wish    *recipe.Wish      `json:"wish,omitempty"`
}

// GritView is an abrasive as it is marked.
type GritView struct {
	ID    string `json:"id"`
	Text  string `json:"text"`
	Scale string `json:"scale" doc:"papers that are marked alike, films, pads, wools, compounds"`
}

// ColourView is a colour with its name.
type ColourView struct {
	Name string `json:"name"`
	Hex  string `json:"hex"`
}

// WoodView is a wood to choose, or what else a surface may be made of.
type WoodView struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Kind   string `json:"kind" enum:"wood,veneer,composite,plastic,resin,metal"`
	Colour string `json:"colour"`
	Open   bool   `json:"open" doc:"its pores are deep enough to be filled"`
	Advice string `json:"advice"`
}

// ClearView is a family that a surface may end in.
type ClearView struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Methods []string `json:"methods"`
	Room    string   `json:"room,omitempty" doc:"why it cannot be put on here now, and until when; absent when it can"`
	Note    string   `json:"note"`
}

// RoleView is a material slot with the products that fit it.
type RoleView struct {
	ID       string        `json:"id"`
	Title    string        `json:"title"`
	Piece    string        `json:"piece"`
	Layer    string        `json:"layer,omitempty" doc:"the first layer that takes it; absent: the rules add it"`
	Family   string        `json:"family"`
	Products []ProductView `json:"products"`
}

// ProductView is a product on the shelf.
type ProductView struct {
	ID     uuid.UUID `json:"id"`
	Name   string    `json:"name"`
	Colour string    `json:"colour,omitempty"`
}

func ReferenceOf(m *snapshot.Snapshot) Reference {
	out := Reference{Shop: m.Setting.Name, ShopID: m.ShopID, Zone: m.Setting.TimeZone, Notation: m.Setting.Notation,
		Today:  m.Now.In(m.Plan.Zone).Format("2006-01-02"),
		People: hands(m), Outlines: changes.Outlines}
	out.Materials, out.Places = materialViews(m), []PlaceHead{}
	for _, p := range m.Input.Shop.Places {
		out.Places = append(out.Places, PlaceHead{p.ID, p.Name})
	}
	out.Archetypes, out.Presets, out.Boards = []ArchetypeView{}, recipe.Presets, recipe.BoardOptions()
	out.FretWires = recipe.FretWireOptions()
	out.Effects, out.Kinds, out.Edges, out.Found = recipe.Offers(), recipe.RegionKindOptions(), recipe.EdgeOptions(), recipe.FoundOptions()
	out.Extras, out.WearPlaces = recipe.Extras(), recipe.WearPlaces()
	out.Own = []OwnBegin{}
	for _, r := range m.Workshop.Recipes {
		switch v := r.Latest(); {
		case r.Retired:
		case r.Kind == recipe.OwnFragment:
			out.Extras = append(out.Extras, recipe.Extra{ID: changes.OwnPrefix + r.ID.String(), Text: r.Name,
				Hint: fmt.Sprintf("Our own, version %d: %s.", v.Version, LineOf(m, r).About)})
		default:
			out.Own = append(out.Own, OwnBegin{r.ID, v.Version, r.Name, v.Content.Stack, v.Content.Wish})
		}
	}
	for _, g := range abrasive.All() {
		out.Grits = append(out.Grits, GritView{g.Key, g.String(), g.Scale})
	}
	out.Parts, out.Events = recipe.PartOffers(), recipe.EventOptions()
	for _, w := range colour.Words() {
		out.Colours = append(out.Colours, ColourView{w.Name, w.RGB.Hex()})
	}
	for _, a := range recipe.Archetypes() {
		out.Archetypes = append(out.Archetypes, ArchetypeView{a.ID, a.Title, a.Summary, a.Wish})
	}
	for _, w := range wood.All() {
		out.Woods = append(out.Woods, WoodView{w.ID, w.Name, string(w.Substrate), w.BareColour, w.OpenPored(), w.Advice})
	}
	for _, id := range recipe.Clears {
		out.Clears = append(out.Clears, clear(m, id))
	}
	return out
}

// clear is a family to end in, with what this room says to it.
func clear(m *snapshot.Snapshot, id string) ClearView {
	f, err := material.FindFamily(id)
	if err != nil {
		return ClearView{ID: id, Name: id, Methods: []string{}}
	}
	view := ClearView{ID: id, Name: f.Name, Methods: []string{}, Note: f.Note}
	for _, by := range f.Methods {
		view.Methods = append(view.Methods, string(by))
	}
	view.Room = roomFor(m, f)
	return view
}

// roomFor says why a family cannot be put on here now, and until when; empty when it
// can within two weeks.
func roomFor(m *snapshot.Snapshot, f material.Family) string {
	made := material.OfFamily(f)
	step := schedule.Step{Material: &made, Step: job.Step{Kind: schedule.Coat, Method: f.Methods[0]}}
	place := m.Input.Shop.PlaceOf(&step)
	sprayed := f.Methods[0] == material.Spray
	if sprayed && f.VOC >= 2 && place.Kind != settings.Booth {
		return "no booth here: it is sprayed, and its vapour needs one"
	}
	if place.Room == nil {
		return ""
	}
	limits, long := climate.LimitsOf(made), time.Hour+time.Duration(f.Flash)*time.Minute
	if _, found := place.Room.NextFit(limits, m.Now, long, 14*24*time.Hour); found {
		return ""
	}
	air, _ := place.Room.At(m.Now)
	return notBefore(m, limits, place.Room, long) + ": " + limits.Judge(air, place.Room.Surface(m.Now)).Reason
}

// Person is somebody who works in the shop, by name.
type Person struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
}

// hands are the people who have not left.
func hands(m *snapshot.Snapshot) []Person {
	list := []Person{}
	for _, p := range m.People {
		if !p.Left {
			list = append(list, Person{p.ID, p.Name})
		}
	}
	return list
}

// roles are the materials that a draft takes, with the products that fit each.
func roles(m *snapshot.Snapshot, draft recipe.Draft) []RoleView {
	list := []RoleView{}
	for _, role := range draft.Roles() {
		piece, _, _ := strings.Cut(role.ID, ":")
		slot := RoleView{ID: role.ID, Title: role.Title, Piece: piece, Layer: role.Layer, Family: role.Family, Products: []ProductView{}}
		for _, p := range m.Products {
			if p.Family == role.Family {
				slot.Products = append(slot.Products, ProductView{p.ID, p.Name, m.Catalogue.Product(&p.ID).Colour()})
			}
		}
		list = append(list, slot)
	}
	return list
}

// materials lists the products on the shelf, then the families.
func materialViews(m *snapshot.Snapshot) []MaterialView {
	list := []MaterialView{}
	for _, p := range m.Products {
		list = append(list, MaterialView{p.ID.String(), p.Name, p.Family, m.Catalogue.Product(&p.ID).Family.Group})
	}
	for _, f := range material.Families() {
		list = append(list, MaterialView{f.ID, f.Name + ", usual figures", f.ID, f.Group})
	}
	return list
}
