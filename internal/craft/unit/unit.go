// Package unit holds the quantities of the job as named numbers, reads what people
// type in either unit system, and prints it. Inside the project every quantity is in
// the unit its type is named for; conversion happens only here, at the edges.
//
// The core's texts are written before anybody knows who will read them, and some are
// stored. So a figure in a text is SI and 24 h, with an invisible mark before it; where
// the text leaves for a reader, a Notation writes every marked figure as that reader is
// used to, and takes the marks out. What a person typed has no marks and stays as typed.
package unit

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Quantities. The name of the type is its unit.
type (
	Millimetre  float64 // a length of wood
	Micron      float64 // a thickness of film, µm
	SquareMetre float64 // an area of surface
	Millilitre  float64 // a volume of material
	Celsius     float64 // a temperature
	Degrees     float64 // a difference of two temperatures, in °C
	Percent     float64 // a share, 0 to 100
	Kilopascal  float64 // a vapour pressure
	Minutes     int     // hands-on time, whole minutes
)

// String prints a length to a tenth of a millimetre.
func (l Millimetre) String() string { return mark + trim(float64(l), 1) + " mm" }

// String prints a film thickness in whole µm.
func (m Micron) String() string { return mark + trim(float64(m), 0) + " µm" }

// String prints a volume in whole mL.
func (v Millilitre) String() string { return mark + trim(float64(v), 0) + " mL" }

// String prints a temperature to a tenth of a degree.
func (t Celsius) String() string { return mark + trim(float64(t), 1) + " °C" }

// String prints a difference of temperatures to a tenth of a degree.
func (d Degrees) String() string { return differenceMark + trim(float64(d), 1) + " °C" }

// String prints an area in square metres to a thousandth.
func (a SquareMetre) String() string { return mark + trim(float64(a), 3) + " m²" }

// String prints a share in whole percent.
func (p Percent) String() string { return trim(float64(p), 0) + " %" }

// String prints a stretch of work as "25 min" or "1 h 40".
func (m Minutes) String() string {
	switch {
	case m < 60:
		return fmt.Sprintf("%d min", m)
	case m%60 == 0:
		return fmt.Sprintf("%d h", m/60)
	default:
		return fmt.Sprintf("%d h %02d", m/60, m%60)
	}
}

// suffix is a unit as people write it, and how much of the SI unit it is.
type suffix struct {
	text   string
	factor float64
}

var (
	lengths = []suffix{{"mm", 1}, {"cm", 10}, {"inches", millimetresPerInch}, {"inch", millimetresPerInch}, {"in", millimetresPerInch},
		{`"`, millimetresPerInch}, {"″", millimetresPerInch}, {"m", 1000}}
	films   = []suffix{{"µm", 1}, {"μm", 1}, {"um", 1}, {"mils", micronsPerMil}, {"mil", micronsPerMil}, {"mm", 1000}}
	degrees = []suffix{{"°C", 1}, {"°c", 1}, {"C", 1}, {"c", 1}, {"°F", 1 / fahrenheitPerCelsius}, {"°f", 1 / fahrenheitPerCelsius},
		{"F", 1 / fahrenheitPerCelsius}, {"f", 1 / fahrenheitPerCelsius}, {"K", 1}, {"°", 1}}
)

// quantity reads a number with one of the units after it, or with none, and gives the
// number, the unit's factor and its text.
func quantity(text string, units []suffix) (float64, suffix, error) {
	number, unit := strings.TrimSpace(Unmarked(text)), suffix{"", 1}
	for _, u := range units {
		if rest, found := strings.CutSuffix(number, u.text); found {
			number, unit = strings.TrimSpace(rest), u
			break
		}
	}
	value, err := parseNumber(strings.Replace(number, "−", "-", 1))
	return value, unit, err
}

// ParseLength reads a length as a person types it: "480", "480 mm", "48 cm",
// "18.9 in", `18 7/8"`. A bare number is millimetres. The error says what would
// be accepted.
func ParseLength(text string) (Millimetre, error) {
	value, unit, err := quantity(text, lengths)
	if err != nil {
		return 0, fmt.Errorf("%q is not a length; write it like 480 mm or 18 7/8 in", text)
	}
	return Millimetre(value * unit.factor), nil
}

// ParseFilm reads a thickness of film as a person types it: "90", "90 µm", "3.5 mil". A bare number is µm. The
// error says what would be accepted.
func ParseFilm(text string) (Micron, error) {
	value, unit, err := quantity(text, films)
	if err != nil {
		return 0, fmt.Errorf("%q is not a thickness of film; write it like 90 µm or 3.5 mil", text)
	}
	return Micron(value * unit.factor), nil
}

// ParseCelsius reads a temperature as a person types it: "18.6", "18.6 °C",
// "65 °F", "65 F". A bare number is °C. The error says what would be accepted.
func ParseCelsius(text string) (Celsius, error) {
	value, unit, err := quantity(text, degrees)
	if err != nil || unit.text == "K" {
		return 0, fmt.Errorf("%q is not a temperature; write it like 18.6 or 65 °F", text)
	}
	if unit.factor != 1 {
		value -= freezingFahrenheit
	}
	return Celsius(value * unit.factor), nil
}

// ParseDegrees reads a difference of temperatures as a person types it: "3", "-2 °C",
// "5 °F". A bare number is °C. The error says what would be accepted.
func ParseDegrees(text string) (Degrees, error) {
	value, unit, err := quantity(text, degrees)
	if err != nil {
		return 0, fmt.Errorf("%q is not a number of degrees; write it like 3 °C or 5 °F", text)
	}
	return Degrees(value * unit.factor), nil
}

// ParsePercent reads a share as a person types it: "52", "52 %".
func ParsePercent(text string) (Percent, error) {
	number, _ := strings.CutSuffix(strings.TrimSpace(text), "%")
	value, err := parseNumber(strings.TrimSpace(number))
	if err != nil {
		return 0, fmt.Errorf("%q is not a share; write it like 52 or 52 %%", text)
	}
	return Percent(value), nil
}

// parseNumber reads a decimal ("18.9" or "18,9"), a fraction ("7/8") or a mixed
// number ("18 7/8").
func parseNumber(text string) (float64, error) {
	whole, fraction, mixed := strings.Cut(text, " ")
	if !mixed && strings.Contains(text, "/") {
		whole, fraction = "0", text
	}
	value, err := strconv.ParseFloat(strings.Replace(whole, ",", ".", 1), 64)
	if err != nil || math.IsNaN(value) || math.IsInf(value, 0) {
		return 0, fmt.Errorf("%q is not a number", text)
	}
	if fraction == "" {
		return value, nil
	}
	over, under, found := strings.Cut(strings.TrimSpace(fraction), "/")
	numerator, err1 := strconv.ParseUint(over, 10, 16)
	denominator, err2 := strconv.ParseUint(under, 10, 16)
	if !found || err1 != nil || err2 != nil || denominator == 0 {
		return 0, fmt.Errorf("%q is not a fraction", fraction)
	}
	return value + math.Copysign(float64(numerator)/float64(denominator), value), nil
}

// trim prints x with at most the given decimals and no trailing zeros.
func trim(x float64, decimals int) string {
	text := strconv.FormatFloat(x, 'f', decimals, 64)
	if strings.Contains(text, ".") {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	if text == "-0" {
		return "0"
	}
	return text
}
