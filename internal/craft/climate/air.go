// Package climate knows the air of a shop: what it does to a drying film, and
// whether it is fit to put a coat on. Rules §1.
//
// Air is a temperature and a relative humidity. A Room is the air of one place
// over time: readings where there are some, a weekly profile elsewhere, running
// linearly in between. Nothing here knows the present.
package climate

import (
	"fmt"
	"math"

	"umberfrost/internal/craft/unit"
)

// Air is the state of the air at one moment.
type Air struct {
	Temperature unit.Celsius `json:"temperatureC" db:"temperature_c"`
	Humidity    unit.Percent `json:"humidityPct" db:"humidity_pct"` // relative, 0 to 100
}

// Reference is the air that every data-sheet time is given for.
var Reference = Air{20, 50}

// Check reports what makes the air impossible, naming what would be accepted.
func (a Air) Check() error {
	switch {
	case math.IsNaN(float64(a.Temperature)) || a.Temperature < -30 || a.Temperature > 60:
		return fmt.Errorf("a temperature is from −30 to 60 °C, not %g", float64(a.Temperature))
	case math.IsNaN(float64(a.Humidity)) || a.Humidity < 1 || a.Humidity > 100:
		return fmt.Errorf("a humidity is from 1 to 100 %%, not %g", float64(a.Humidity))
	}
	return nil
}

// Saturation is the pressure of water vapour that air of this temperature can
// hold, in kPa: the Magnus form of Alduchov and Eskridge (1996).
func Saturation(t unit.Celsius) unit.Kilopascal {
	return unit.Kilopascal(0.61094 * math.Exp(17.625*float64(t)/(float64(t)+243.04)))
}

// DewPoint is the temperature at which the air's water begins to settle, by the
// inverse of Saturation.
func (a Air) DewPoint() unit.Celsius {
	t := float64(a.Temperature)
	g := math.Log(float64(a.Humidity)/100) + 17.625*t/(243.04+t)
	return unit.Celsius(243.04 * g / (17.625 - g))
}

// Deficit is the vapour pressure deficit: how much more water the air could
// take up, in kPa. Saturated air takes up nothing, whatever a rounding says.
func (a Air) Deficit() unit.Kilopascal {
	return Saturation(a.Temperature) * unit.Kilopascal(max(0, 1-float64(a.Humidity)/100))
}

// Warmed is the same air so many degrees warmer, with no water taken out of it or
// put in: its relative humidity falls as it warms.
func (a Air) Warmed(by unit.Celsius) Air {
	warm := Air{Temperature: a.Temperature + by}
	warm.Humidity = unit.Percent(math.Max(1, math.Min(100,
		float64(a.Humidity)*float64(Saturation(a.Temperature)/Saturation(warm.Temperature)))))
	return warm
}

// String prints the air as "18.6 °C, 52 %".
func (a Air) String() string {
	return a.Temperature.String() + ", " + a.Humidity.String()
}

func between(a, b Air, share float64) Air {
	return Air{
		a.Temperature + (b.Temperature-a.Temperature)*unit.Celsius(share),
		a.Humidity + (b.Humidity-a.Humidity)*unit.Percent(share),
	}
}
