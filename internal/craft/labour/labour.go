// Package labour knows how long hands are busy: a set-up once per sitting and
// product, and minutes per square metre of surface.
package labour

import (
	_ "embed"
	"fmt"
	"math"

	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Rate is one row of labour.csv.
type Rate struct {
	Work, Method string
	SetUp        float64 // minutes, once
	PerM2        float64 // minutes per m² (per grit or compound where the work has a ladder)
	Note         string
}

//go:embed labour.csv
var rows string

var rates, loadError = parse(rows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Find returns the rate of a kind of work; method is empty but for coats.
func Find(work, method string) (Rate, error) {
	rate, found := rates[[2]string{work, method}]
	if !found {
		return Rate{}, fmt.Errorf("no labour rate for %s %s", work, method)
	}
	return rate, nil
}

// Minutes is the hands-on time for an area gone over the given number of times
// (grits of a ladder, compounds, or 1), rounded up to five minutes.
// The figure is an estimate until the shop has logged its own.
func (r Rate) Minutes(area unit.SquareMetre, times int) (unit.Minutes, working.Working) {
	raw := r.SetUp + r.PerM2*float64(area)*float64(times)
	minutes := unit.Minutes(math.Ceil(raw/5) * 5)
	return minutes, working.New("Hands-on time", "set-up + minutes per m² × area × times over, rounded up to 5 min",
		"about "+minutes.String(),
		working.Input{Name: "set-up", Value: fmt.Sprintf("%g min", r.SetUp), Source: working.Family},
		working.Input{Name: "work", Value: fmt.Sprintf("%g min per m²", r.PerM2), Source: working.Family},
		working.Input{Name: "area", Value: area.String(), Source: working.Rule},
		working.Input{Name: "times over", Value: fmt.Sprint(times), Source: working.Rule},
	)
}

func parse(text string) (map[[2]string]Rate, error) {
	rates := make(map[[2]string]Rate)
	err := table.Read("labour", text, func(r table.Row) {
		rate := Rate{
			Work:   r.Needed("work"),
			Method: r.Text("method"),
			SetUp:  r.Number("setup_min", 0, 240),
			PerM2:  r.Number("min_per_m2", 0, 1000),
			Note:   r.Text("note"),
		}
		key := [2]string{rate.Work, rate.Method}
		if _, twice := rates[key]; twice {
			r.Complain("method", "listed only once for this work")
		}
		rates[key] = rate
	})
	return rates, err
}
