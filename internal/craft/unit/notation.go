package unit

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"time"
)

// What stands before a figure that the core wrote into a text. Neither is seen, neither
// is typed: U+2060 before what is, U+2064 before how much it differs.
const (
	mark           = "\u2060"
	differenceMark = "\u2064"
	markLead       = "\xe2\x81" // what the two begin with as UTF-8
)

const (
	millimetresPerInch   = 25.4
	micronsPerMil        = 25.4
	millilitresPerFluid  = 29.5735295625 // US fluid ounce
	squareFeetPerM2      = 10.763910416709722
	fahrenheitPerCelsius = 9.0 / 5
	freezingFahrenheit   = 32
)

// ClockText is a time of day in a text, in 24 h; a Notation may retell it. The end of a
// day is 24:00.
func ClockText(hour, minute int) string { return fmt.Sprintf("%s%02d:%02d", mark, hour, minute) }

// DateText is a date in a text by the layout of package time, in which "2 Jan" or
// "2 January" may stand, with a year after it, and "15:04": a Notation may retell them.
func DateText(t time.Time, layout string) string {
	layout = strings.Replace(layout, "2 Jan", mark+"2 Jan", 1)
	return t.Format(strings.Replace(layout, "15:04", mark+"15:04", 1))
}

// Unmarked takes the marks out of a text: it reads in SI and 24 h.
func Unmarked(text string) string { return string(Notation{}.Localize([]byte(text))) }

// Notation is how a reader is used to having figures written. The zero value is SI,
// 24 h and day before month.
type Notation struct {
	Inch        bool `json:"inch,omitempty" doc:"°F, mil, fl oz, in and sq ft instead of °C, µm, mL, mm and m²"`
	AmPm        bool `json:"amPm,omitempty" doc:"7:40 pm instead of 19:40"`
	MonthFirst  bool `json:"monthFirst,omitempty" doc:"May 14 instead of 14 May"`
	SundayFirst bool `json:"sundayFirst,omitempty" doc:"weeks begin on Sunday instead of Monday"`
}

// Marked reports whether there is anything in a text to retell.
func Marked(text []byte) bool { return bytes.Contains(text, []byte(markLead)) }

// Localize writes every marked figure of a text as the reader is used to, and takes the
// marks out.
func (n Notation) Localize(text []byte) []byte {
	at := bytes.Index(text, []byte(markLead))
	told := make([]byte, 0, len(text))
	for ; at >= 0; at = bytes.Index(text, []byte(markLead)) {
		told = append(told, text[:at]...)
		switch rest := text[at:]; {
		case bytes.HasPrefix(rest, []byte(mark)):
			told, text = n.figure(told, rest[len(mark):], false)
		case bytes.HasPrefix(rest, []byte(differenceMark)):
			told, text = n.figure(told, rest[len(differenceMark):], true)
		default:
			told, text = append(told, rest[:len(markLead)]...), rest[len(markLead):]
		}
	}
	return append(told, text...)
}

// figure appends the figure that a text begins with, retold, and returns what follows
// it. A figure that needs no retelling is left to be copied with the text.
func (n Notation) figure(told, text []byte, difference bool) (done, rest []byte) {
	digits := len(text) - len(bytes.TrimLeft(text, "-0123456789."))
	number, after := string(text[:digits]), text[digits:]
	switch {
	case digits == 0:
	case after == nil, len(after) == 0:
	case after[0] == ':':
		if n.AmPm && len(after) >= 3 {
			return append(told, amPm(number, string(after[1:3]))...), after[3:]
		}
	case after[0] == ' ' && n.Inch:
		if value, err := strconv.ParseFloat(number, 64); err == nil {
			if figure, size := inch(value, after[1:], difference); size > 0 {
				return append(told, figure...), after[1+size:]
			}
		}
	}
	if n.MonthFirst && len(after) > 0 && after[0] == ' ' {
		if month := monthAt(after[1:]); month != "" {
			rest = after[1+len(month):]
			told = fmt.Appendf(told, "%s %s", month, number)
			if len(rest) > 4 && rest[0] == ' ' && len(bytes.TrimLeft(rest[1:5], "0123456789")) == 0 {
				told = append(told, ',') // May 14, 2027
			}
			return told, rest
		}
	}
	return told, text
}

// inch writes a figure whose SI unit begins the text, and how long that unit is there;
// 0 when it is none that has another.
func inch(value float64, text []byte, difference bool) (figure string, size int) {
	for _, unit := range []struct {
		si     string
		retold func() string
	}{
		{"°C", func() string {
			if difference {
				return trim(value*fahrenheitPerCelsius, 1) + " °F"
			}
			return trim(value*fahrenheitPerCelsius+freezingFahrenheit, 1) + " °F"
		}},
		{"µm", func() string { return trim(value/micronsPerMil, 1+finer(value/micronsPerMil)) + " mil" }},
		{"mm", func() string { return trim(value/millimetresPerInch, 2) + " in" }},
		{"mL", func() string { return trim(value/millilitresPerFluid, 1+finer(value/millilitresPerFluid)) + " fl oz" }},
		{"m²", func() string { return trim(value*squareFeetPerM2, 1+finer(value*squareFeetPerM2)) + " sq ft" }},
	} {
		if bytes.HasPrefix(text, []byte(unit.si)) {
			return unit.retold(), len(unit.si)
		}
	}
	return "", 0
}

// finer is one more decimal for what is under one.
func finer(value float64) int {
	if value < 1 {
		return 1
	}
	return 0
}

func amPm(hour, minute string) string {
	h, err := strconv.Atoi(hour)
	if err != nil {
		return hour + ":" + minute
	}
	half := "am"
	if h%24 >= 12 {
		half = "pm"
	}
	if h %= 12; h == 0 {
		h = 12
	}
	return fmt.Sprintf("%d:%s\u00a0%s", h, minute, half) // what belongs together stays on one line
}

// monthAt is the name of a month, or its first three letters, with which a text begins.
func monthAt(text []byte) string {
	for month := time.January; month <= time.December; month++ {
		for _, name := range []string{month.String(), month.String()[:3]} {
			if bytes.HasPrefix(text, []byte(name)) {
				return name
			}
		}
	}
	return ""
}
