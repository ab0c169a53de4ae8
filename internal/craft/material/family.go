// Package material knows the families of finishing material and what a
// product's data sheet says where it differs from its family.
package material

import (
	_ "embed"
	"errors"
	"fmt"
	"sort"
	"strings"

	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// Kinetics is how a film dries, which decides how the room changes its speed.
type Kinetics string

// The kinetics of films. A material without a film has none.
const (
	Evaporative Kinetics = "evaporative"
	Waterborne  Kinetics = "waterborne"
	Oxidative   Kinetics = "oxidative"
	Reactive    Kinetics = "reactive"
	UV          Kinetics = "uv"
	Still       Kinetics = "none"
)

// Method is how a coat is put on.
type Method string

const (
	Spray   Method = "spray"
	Aerosol Method = "aerosol"
	Brush   Method = "brush"
	Wipe    Method = "wipe"
	Pad     Method = "pad"
	Pour    Method = "pour"
	Drop    Method = "drop"
)

// Text names the method as an instruction.
func (m Method) Text() string {
	switch m {
	case Spray:
		return "Spray"
	case Aerosol:
		return "Spray from the can"
	case Brush:
		return "Brush"
	case Wipe:
		return "Wipe on"
	case Pad:
		return "Pad"
	case Pour:
		return "Pour"
	case Drop:
		return "Drop in"
	}
	return string(m)
}

// Family is one row of families.csv with its row of families_minutes.csv:
// typical figures at 20 °C and 50 % RH in moving air.
type Family struct {
	ID             string
	Name           string
	Group          string // colour, fill, seal, clear, oil-wax or other
	Kinetics       Kinetics
	MeltsIntoSelf  bool
	Methods        []Method // the usual one first
	Wet            map[Method]unit.Micron
	Solids         float64 // share by volume, before thinning
	Thin           float64 // thinner ÷ material by volume, typical
	CoatsPerDay    int
	RestAfter      int // coats after which the film wants an overnight rest
	VOC            int // 0 to 3
	WipeAfter      unit.Minutes
	WipeBefore     unit.Minutes // 0: nothing is wiped off
	Flash          unit.Minutes
	SelfLevel      unit.Minutes // time a flowing coat is left to level itself before the lamp
	Lamp           unit.Minutes // under the lamp, of a light-cured film; 0: no lamp
	PotLife        Limit        // hours from mixing; Any when the material does not set in the pot
	Cooling        unit.Celsius // how far the wet film cools below the air, for the blush gap
	UsualLeast     int
	UsualMost      int
	TargetLeast    unit.Micron // usual dry film, once settled; 0: the family builds none
	TargetMost     unit.Micron
	Note, Source   string
	Limits         map[Milestone]Limit
	TempMin        unit.Celsius
	TempMax        unit.Celsius
	HumidityMost   unit.Percent
	ScuffRuins     bool
	RedoChance     unit.Percent
	StopsBelow     *unit.Celsius // nil: no cure stop
	MixRatio       string
	DensityGramsML float64
}

// Named is the family's name as it stands inside a sentence.
func (f Family) Named() string { return phrase.Lower(f.Name) }

//go:embed families.csv
var familyRows string

//go:embed families_minutes.csv
var minuteRows string

var families, loadError = parse(familyRows, minuteRows)

// Check reports what is wrong with the embedded tables, for a start-up check.
func Check() error { return loadError }

// Families returns every family, sorted by name.
func Families() []Family {
	list := make([]Family, 0, len(families))
	for _, f := range families {
		list = append(list, f)
	}
	sort.Slice(list, func(i, j int) bool { return list[i].Name < list[j].Name })
	return list
}

// FindFamily returns the family with this id.
func FindFamily(id string) (Family, error) {
	f, found := families[id]
	if !found {
		return Family{}, fmt.Errorf("there is no material family %q in the table", id)
	}
	return f, nil
}

func parse(families, minutes string) (map[string]Family, error) {
	byID := make(map[string]Family)
	err := table.Read("families", families, func(r table.Row) {
		f := readFamily(r)
		if _, twice := byID[f.ID]; twice {
			r.Complain("id", "used only once")
		}
		byID[f.ID] = f
	})
	seen := make(map[string]bool)
	errMinutes := table.Read("families_minutes", minutes, func(r table.Row) {
		f, known := byID[r.Needed("id")]
		if !known {
			r.Complain("id", "a family of families.csv")
		}
		byID[f.ID] = readMinutes(r, f)
		seen[f.ID] = true
	})
	for id := range byID {
		if !seen[id] {
			errMinutes = errors.Join(errMinutes, fmt.Errorf("table families_minutes has no row for %s", id))
		}
	}
	return byID, errors.Join(err, errMinutes)
}

func readFamily(r table.Row) Family {
	thin, _ := r.Optional("thin_pct_typical", 0, 200)
	f := Family{
		ID:    r.Needed("id"),
		Name:  r.Needed("name"),
		Group: r.OneOf("group", "colour", "fill", "seal", "clear", "oil-wax", "other"),
		Kinetics: Kinetics(r.OneOf("kinetics", string(Evaporative), string(Waterborne), string(Oxidative), string(Reactive),
			string(UV), string(Still))),
		MeltsIntoSelf: r.OneOf("melts_into_itself", "yes", "no") == "yes",
		Wet:           make(map[Method]unit.Micron),
		Solids:        r.Number("solids_by_volume", 0, 1),
		Thin:          thin / 100,
		CoatsPerDay:   int(r.Number("coats_per_day_max", 1, 50)),
		RestAfter:     int(r.Number("rest_after_coats", 1, 50)),
		VOC:           int(r.Number("voc_class", 0, 3)),
		UsualLeast:    int(r.Number("usual_coats_min", 1, 50)),
		UsualMost:     int(r.Number("usual_coats_max", 1, 50)),
		TempMin:       unit.Celsius(r.Number("temp_min_c", -10, 40)),
		TempMax:       unit.Celsius(r.Number("temp_max_c", 0, 60)),
		HumidityMost:  unit.Percent(r.Number("rh_max_pct", 0, 100)),
		MixRatio:      r.Text("mix_ratio"),
		Note:          r.Text("note"),
		Source:        r.Needed("source"),
		Limits:        make(map[Milestone]Limit),
	}
	least, _ := r.Optional("target_dry_um_min", 1, 5000)
	most, _ := r.Optional("target_dry_um_max", 1, 5000)
	f.TargetLeast, f.TargetMost = unit.Micron(least), unit.Micron(most)
	f.DensityGramsML, _ = r.Optional("density_g_ml", 0.5, 3)
	f.PotLife = Any
	if hours, sets := r.Optional("pot_life_h", 0, 200); sets {
		f.PotLife = Hours(hours)
	}
	for _, method := range strings.Fields(r.Text("methods")) {
		f.Methods = append(f.Methods, Method(method))
	}
	for _, method := range []Method{Spray, Aerosol, Brush, Wipe} {
		if wet, given := r.Optional("wet_um_"+string(method), 1, 3000); given {
			f.Wet[method] = unit.Micron(wet)
		}
	}
	f.Wet[Pad], f.Wet[Pour], f.Wet[Drop] = f.Wet[Wipe], f.Wet[Brush], f.Wet[Wipe]
	for _, method := range f.Methods {
		if f.Wet[method] == 0 {
			r.Complain("methods", "given a wet film for "+string(method))
		}
	}
	for _, m := range Milestones {
		f.Limits[m] = readLimit(r, m)
	}
	return f
}

// readLimit reads one milestone. What a blank means is decided per column, as
// docs/decisions/0002 says: a latest recoat that is blank never closes; a blank
// full cure is a material without a film to wait for; a blank sand, buff or
// topcoat must never be done to this film.
func readLimit(r table.Row, m Milestone) Limit {
	hours, given := r.Optional(m.column(), 0, 3000)
	switch {
	case given:
		return Hours(hours)
	case m == RecoatMax, m == FullCure:
		return Any
	case m == Sand, m == Buff, m == Topcoat:
		return Never
	default:
		r.Complain(m.column(), "filled in")
		return Unknown
	}
}

func readMinutes(r table.Row, f Family) Family {
	minutes := func(column string) unit.Minutes {
		value, _ := r.Optional(column, 0, 600)
		return unit.Minutes(value)
	}
	f.Flash, f.WipeAfter, f.WipeBefore = minutes("flash_min"), minutes("wipe_after_min"), minutes("wipe_before_min")
	f.SelfLevel, f.Lamp = minutes("self_level_min"), minutes("lamp_min")
	f.Cooling = map[string]unit.Celsius{"none": 0, "slow": 3, "medium": 6, "fast": 8}[r.OneOf("cooling", "none", "slow", "medium", "fast")]
	if stop, given := r.Optional("cure_stop_c", -20, 30); given {
		celsius := unit.Celsius(stop)
		f.StopsBelow = &celsius
	}
	f.ScuffRuins = r.OneOf("scuff", "safe", "careful", "ruins") == "ruins"
	f.RedoChance = unit.Percent(r.Number("redo_chance_pct", 0, 100))
	return f
}
