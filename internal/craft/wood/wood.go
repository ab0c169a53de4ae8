// Package wood knows the woods a piece may be made of: how deep their pores
// are, how they take colour, and where to stop sanding.
package wood

import (
	_ "embed"
	"fmt"
	"regexp"
	"sort"

	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// PoreClass is how a wood's pores lie.
type PoreClass string

const (
	RingPorous          PoreClass = "ring-porous"
	SemiRingPorous      PoreClass = "semi-ring-porous"
	DiffusePorousCoarse PoreClass = "diffuse-porous-coarse"
	DiffusePorousFine   PoreClass = "diffuse-porous-fine"
	Softwood            PoreClass = "softwood"
	Composite           PoreClass = "composite"
)

// Substrate is what a surface is made of.
type Substrate string

const (
	Solid     Substrate = "wood"
	Veneer    Substrate = "veneer" // thin wood over a core: one or two coarse strokes from disaster
	Blend     Substrate = "composite"
	Plastic   Substrate = "plastic"
	CastResin Substrate = "resin"
	Metal     Substrate = "metal"
)

// Wood is one row of woods.csv: a wood, or what else a surface may be made of.
// Figures are estimates unless Source says otherwise.
type Wood struct {
	ID             string
	Name           string
	Botanical      string
	Pores          PoreClass
	PoreDepth      unit.Micron // on a flat-sanded face
	DensityKgM3    float64
	BlotchRisk     int    // 0 none to 3 severe
	Bleed          int    // colour that comes out into neighbours or coats, 0 to 3
	InhibitsCure   int    // oil in the wood that keeps films from curing, 0 to 3
	GrainRaise     int    // 0 to 3
	Sensitiser     int    // a planning hint, 0 to 3; not safety data
	BareColour     string // #RRGGBB, dry
	WetColour      string // #RRGGBB, as under clear
	SandBareTo     int    // the FEPA P mark at which bare sanding stops before dye
	FigureNote     string
	Substrate      Substrate
	Softens        *unit.Celsius // from here it gives way; nil: no heat of a workshop softens it
	Source, Advice string
}

// OpenPored reports whether the pores are deep enough to be filled on purpose.
func (w Wood) OpenPored() bool {
	switch w.Pores {
	case RingPorous, SemiRingPorous, DiffusePorousCoarse:
		return true
	}
	return false
}

// Drinks reports whether it takes up colour, water and oil as wood does.
func (w Wood) Drinks() bool { return w.Substrate == Solid || w.Substrate == Veneer }

// Pale reports whether foreign colour shows on it: light enough that a neighbour's
// dust or bleed stands out.
func (w Wood) Pale() bool {
	var r, g, b int
	if _, err := fmt.Sscanf(w.BareColour, "#%02X%02X%02X", &r, &g, &b); err != nil {
		return false
	}
	return 2126*r+7152*g+722*b > 10000*165 // relative weights of the channels to the eye
}

//go:embed woods.csv
var rows string

var woods, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// All returns every wood, sorted by name.
func All() []Wood {
	list := make([]Wood, 0, len(woods))
	for _, w := range woods {
		list = append(list, w)
	}
	sort.Slice(list, func(i, j int) bool { return list[i].Name < list[j].Name })
	return list
}

// Find returns the wood with this id.
func Find(id string) (Wood, error) {
	w, found := woods[id]
	if !found {
		return Wood{}, fmt.Errorf("there is no wood %q in the table", id)
	}
	return w, nil
}

var colour = regexp.MustCompile(`^#[0-9A-F]{6}$`)

func parse(text string) (map[string]Wood, error) {
	woods := make(map[string]Wood)
	err := table.Read("woods", text, func(r table.Row) {
		grade := func(column string) int { return int(r.Number(column, 0, 3)) }
		w := Wood{
			ID:        r.Needed("id"),
			Name:      r.Needed("name"),
			Botanical: r.Text("botanical"),
			Pores: PoreClass(r.OneOf("pore_class", string(RingPorous), string(SemiRingPorous),
				string(DiffusePorousCoarse), string(DiffusePorousFine), string(Softwood), string(Composite))),
			PoreDepth:    unit.Micron(r.Number("pore_depth_um", 0, 1000)),
			DensityKgM3:  r.Number("density_kg_m3", 100, 3000),
			BlotchRisk:   grade("blotch_risk"),
			Bleed:        grade("colour_bleed"),
			InhibitsCure: grade("oil_inhibits_cure"),
			GrainRaise:   grade("grain_raise"),
			Sensitiser:   grade("sensitiser"),
			BareColour:   r.Needed("base_colour_srgb"),
			WetColour:    r.Needed("wet_colour_srgb"),
			SandBareTo:   int(r.Number("sand_bare_to_p", 80, 2000)),
			FigureNote:   r.Text("figure_note"),
			Substrate: Substrate(r.OneOf("substrate", string(Solid), string(Veneer), string(Blend), string(Plastic),
				string(CastResin), string(Metal))),
			Source: r.Needed("source"),
			Advice: r.Text("note"),
		}
		if soft, given := r.Optional("softens_c", 30, 400); given {
			celsius := unit.Celsius(soft)
			w.Softens = &celsius
		}
		for column, value := range map[string]string{"base_colour_srgb": w.BareColour, "wet_colour_srgb": w.WetColour} {
			if !colour.MatchString(value) {
				r.Complain(column, "a colour like #A06C50")
			}
		}
		if _, twice := woods[w.ID]; twice {
			r.Complain("id", "used only once")
		}
		woods[w.ID] = w
	})
	return woods, err
}
