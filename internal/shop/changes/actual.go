package changes

import (
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// ActualForm is what was true of work, as it is entered. What is empty was as planned, or nobody looked.
type ActualForm struct {
	With        []uuid.UUID    `json:"with,omitempty" maxItems:"10" doc:"who worked on it besides the one who logs"`
	PlaceID     uuid.UUID      `json:"placeId,omitzero" doc:"where it was done"`
	ProductID   uuid.UUID      `json:"productId,omitzero" doc:"what was used instead: another product of the same family"`
	Lot         string         `json:"lot,omitempty" maxLength:"60" doc:"as it is marked on the container"`
	Thin        string         `json:"thin,omitempty" maxLength:"20" doc:"thinner by volume of the unthinned material: 10 %"`
	Passes      int            `json:"passes,omitempty" minimum:"0" maximum:"50"`
	Wet         string         `json:"wet,omitempty" maxLength:"20" doc:"wet film by the comb: 90 µm, 3.5 mil"`
	Temperature string         `json:"temperature,omitempty" maxLength:"20" doc:"of the air: 18.6, 65 °F"`
	Humidity    string         `json:"humidity,omitempty" maxLength:"20" doc:"of the air: 52 %"`
	TestedBy    job.TestMethod `json:"testedBy,omitempty" enum:"tack,smell,thumbnail,solvent,weight" doc:"of tested"`
}

// readActual reads what was true of an entry; nil where nothing was said. What cannot be so is named.
func readActual(m *snapshot.Snapshot, in Entry) (*job.Actual, []recipe.Fault) {
	form := in.Actual
	if form == nil {
		return nil, nil
	}
	var faults []recipe.Fault
	fault := func(field, message string, value any) {
		faults = append(faults, refuse.Field("actual."+field, message, value).Faults...)
	}
	a := &job.Actual{Lot: strings.TrimSpace(form.Lot), Passes: form.Passes, TestedBy: form.TestedBy}
	for i, id := range form.With {
		if id == in.PersonID || slices.Contains(a.With, id) {
			continue
		}
		if !slices.ContainsFunc(m.People, func(p settings.Person) bool { return p.ID == id }) {
			fault(fmt.Sprintf("with[%d]", i), "must be one of the people of this shop", id)
		}
		a.With = append(a.With, id)
	}
	if form.PlaceID != uuid.Nil {
		if !slices.ContainsFunc(m.Input.Shop.Places, func(p schedule.Place) bool { return p.ID == form.PlaceID }) {
			fault("placeId", "must be a place of this shop", form.PlaceID)
		}
		a.Place = &form.PlaceID
	}
	readProduct(m, in, a, fault)
	readFigures(form, a, fault)
	if len(faults) > 0 || a.None() {
		return nil, faults
	}
	return a, nil
}

// readProduct reads what was used instead of what was planned. Another family is another finish: that is
// decided in the schedule, where what it does to all that follows is shown.
func readProduct(m *snapshot.Snapshot, in Entry, a *job.Actual, fault func(field, message string, value any)) {
	id := in.Actual.ProductID
	if id == uuid.Nil {
		return
	}
	at, found := m.Find(in.StepID)
	i := slices.IndexFunc(m.Products, func(p material.Product) bool { return p.ID == id })
	switch {
	case i < 0:
		fault("productId", "must be a product of this shop", id)
	case !found || at.Step().Family == "":
		fault("productId", "only a coat has a product", id)
	case m.Products[i].Family != at.Step().Family:
		fault("productId", fmt.Sprintf("%s is of another family: change the step's product in the schedule first, where its effect is "+
			"shown",
			m.Products[i].Name), id)
	case at.Step().Product == nil || *at.Step().Product != id:
		a.Product = &id
	}
}

// readFigures reads what was measured.
func readFigures(form *ActualForm, a *job.Actual, fault func(field, message string, value any)) {
	var entered []string
	if text := strings.TrimSpace(form.Thin); text != "" {
		thin, err := unit.ParsePercent(text)
		if err != nil || thin < 0 || thin > 200 {
			fault("thin", "write the thinner as a share of the unthinned material, from 0 to 200 %", text)
		}
		share := float64(thin)
		a.ThinPct = &share
	}
	if text := strings.TrimSpace(form.Wet); text != "" {
		wet, err := unit.ParseFilm(text)
		if err != nil || wet <= 0 || wet > 5000 {
			fault("wet", "write the wet film like 90 µm or 3.5 mil, up to 5000 µm", text)
		}
		a.WetUm, entered = &wet, append(entered, text)
	}
	air := climate.Reference
	if text := strings.TrimSpace(form.Temperature); text != "" {
		t, err := unit.ParseCelsius(text)
		if air.Temperature = t; err != nil || air.Check() != nil {
			fault("temperature", "write the temperature like 18.6 or 65 °F, from −30 to 60 °C", text)
			air = climate.Reference
		}
		celsius := float64(t)
		a.AirC, entered = &celsius, append(entered, text)
	}
	if text := strings.TrimSpace(form.Humidity); text != "" {
		h, err := unit.ParsePercent(text)
		if air.Humidity = h; err != nil || air.Check() != nil {
			fault("humidity", "write the humidity like 52 or 52 %, from 1 to 100 %", text)
		}
		percent := float64(h)
		a.AirPct, entered = &percent, append(entered, text)
	}
	a.EnteredAs = strings.Join(entered, ", ")
}
