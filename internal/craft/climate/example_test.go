package climate_test

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

func ExampleLimits_Judge() {
	family, err := material.FindFamily("nitro")
	if err != nil {
		panic(err)
	}
	lacquer := climate.LimitsOf(material.OfFamily(family))
	for _, air := range []climate.Air{{Temperature: 21, Humidity: 45}, {Temperature: 20, Humidity: 56}, {Temperature: 20, Humidity: 62}} {
		fit := lacquer.Judge(air, air.Temperature)
		fmt.Printf("%s: %s\n", fit.Verdict.Text(), unit.Unmarked(fit.Reason))
	}
	// Output:
	// go: 21 °C, 45 %, surface 12.4 °C above the dew point
	// go with care: blush is likely: the wet film cools to within 1 °C of the dew point
	// wait: the wet film cools to 12 °C, at or below the dew point of 12.5 °C, and will blush
}

func ExampleRoom_FirstMonth() {
	var months [12]climate.Shift
	for month, warmer := range []unit.Celsius{-9, -8, -5, 0, 4, 8, 10, 9, 5, 1, -4, -8} {
		months[month].Temperature = warmer
	}
	family, err := material.FindFamily("water-clear")
	if err != nil {
		panic(err)
	}
	profile, err := climate.ProfileOf([]climate.Knot{{Hour: 0, Air: climate.Air{Temperature: 12, Humidity: 55}},
		{Hour: 14, Air: climate.Air{Temperature: 18, Humidity: 50}}}, months)
	if err != nil {
		panic(err)
	}
	shed, err := climate.NewRoom(time.UTC, profile, nil)
	if err != nil {
		panic(err)
	}
	month, found := shed.FirstMonth(climate.LimitsOf(material.OfFamily(family)), time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC), time.Hour,
		8, 18)
	fmt.Println(month.Format("January"), found)
	// Output:
	// April true
}
