// Package unit holds the quantities of the job as named numbers, and reads and
// prints them in both unit systems. Inside the project every quantity is in the
// unit its type is named for; conversion happens only here, at the edges.
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
	Percent     float64 // a share, 0 to 100
	Kilopascal  float64 // a vapour pressure
	Minutes     int     // hands-on time, whole minutes
)

// System is the pair of unit systems a shop may choose between.
type System int

const (
	Metric System = iota // mm, µm, mL, °C
	Inch                 // in, mil, fl oz, °F
)

const (
	millimetresPerInch   = 25.4
	micronsPerMil        = 25.4
	millilitresPerFluid  = 29.5735295625 // US fluid ounce
	fahrenheitPerCelsius = 9.0 / 5
)

// Text prints a length to a millimetre or a sixteenth's worth of inch.
func (l Millimetre) Text(s System) string {
	if s == Inch {
		return trim(float64(l)/millimetresPerInch, 2) + " in"
	}
	return trim(float64(l), 1) + " mm"
}

// Text prints a film thickness in whole µm, or in mil to a tenth.
func (m Micron) Text(s System) string {
	if s == Inch {
		return trim(float64(m)/micronsPerMil, 1) + " mil"
	}
	return trim(float64(m), 0) + " µm"
}

// Text prints a volume in whole mL, or in US fluid ounces to a tenth.
func (v Millilitre) Text(s System) string {
	if s == Inch {
		return trim(float64(v)/millilitresPerFluid, 1) + " fl oz"
	}
	return trim(float64(v), 0) + " mL"
}

// Text prints a temperature to a tenth of a degree.
func (t Celsius) Text(s System) string {
	if s == Inch {
		return trim(float64(t)*fahrenheitPerCelsius+32, 1) + " °F"
	}
	return trim(float64(t), 1) + " °C"
}

// Text prints an area in square metres to a thousandth.
func (a SquareMetre) Text(System) string { return trim(float64(a), 3) + " m²" }

// Text prints a share in whole percent.
func (p Percent) Text(System) string { return trim(float64(p), 0) + " %" }

// Text prints a stretch of work as "25 min" or "1 h 40".
func (m Minutes) Text() string {
	switch {
	case m < 60:
		return fmt.Sprintf("%d min", m)
	case m%60 == 0:
		return fmt.Sprintf("%d h", m/60)
	default:
		return fmt.Sprintf("%d h %02d", m/60, m%60)
	}
}

// ParseLength reads a length as a person types it: "480", "480 mm", "48 cm",
// "18.9 in", `18 7/8"`. A bare number is millimetres. The error says what would
// be accepted.
func ParseLength(text string) (Millimetre, error) {
	number, factor := strings.TrimSpace(text), 1.0
	for _, unit := range []struct {
		symbol string
		mm     float64
	}{{"mm", 1}, {"cm", 10}, {"in", millimetresPerInch}, {`"`, millimetresPerInch}, {"m", 1000}} {
		if rest, found := strings.CutSuffix(number, unit.symbol); found {
			number, factor = strings.TrimSpace(rest), unit.mm
			break
		}
	}
	value, err := parseNumber(number)
	if err != nil {
		return 0, fmt.Errorf("%q is not a length; write it like 480 mm or 18 7/8 in", text)
	}
	return Millimetre(value * factor), nil
}

// ParseCelsius reads a temperature as a person types it: "18.6", "18.6 °C",
// "65 °F". A bare number is °C. The error says what would be accepted.
func ParseCelsius(text string) (Celsius, error) {
	number := strings.TrimSpace(text)
	fahrenheit := false
	for _, symbol := range []string{"°C", "°c", "C", "c", "°F", "°f", "F", "f", "°"} {
		if rest, found := strings.CutSuffix(number, symbol); found {
			number, fahrenheit = strings.TrimSpace(rest), strings.ContainsAny(symbol, "Ff")
			break
		}
	}
	value, err := parseNumber(strings.Replace(number, "−", "-", 1))
	if err != nil {
		return 0, fmt.Errorf("%q is not a temperature; write it like 18.6 or 65 °F", text)
	}
	if fahrenheit {
		value = (value - 32) / fahrenheitPerCelsius
	}
	return Celsius(value), nil
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
