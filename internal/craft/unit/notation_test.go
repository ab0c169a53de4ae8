package unit_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

var evening = time.Date(2026, time.May, 4, 19, 5, 0, 0, time.UTC)

// Every marked figure of a text is retold once, by the kind of its unit; what a person
// typed stays, though it reads the same.
func TestRetell(t *testing.T) {
	american := unit.Notation{Inch: true, AmPm: true, MonthFirst: true}
	for text, want := range map[string][2]string{
		unit.Celsius(18.6).String():      {"18.6 °C", "65.5 °F"},
		unit.Celsius(-40).String():       {"-40 °C", "-40 °F"},
		unit.Degrees(3).String():         {"3 °C", "5.4 °F"},
		unit.Micron(254).String():        {"254 µm", "10 mil"},
		unit.Micron(9).String():          {"9 µm", "0.35 mil"},
		unit.Millilitre(62.3).String():   {"62 mL", "2.1 fl oz"},
		unit.Millimetre(480).String():    {"480 mm", "18.9 in"},
		unit.SquareMetre(0.114).String(): {"0.114 m²", "1.2 sq ft"},
		unit.ClockText(0, 5):             {"00:05", "12:05 am"},
		unit.ClockText(12, 30):           {"12:30", "12:30 pm"},
		unit.ClockText(24, 0):            {"24:00", "12:00 am"},
		"tonight after " + unit.DateText(evening, "15:04") + ", at " + unit.Celsius(20).String(): {
			"tonight after 19:05, at 20 °C", "tonight after 7:05 pm, at 68 °F"},
		unit.DateText(evening, "Mon 2 January 2006, 15:04"): {"Mon 4 May 2026, 19:05", "Mon May 4, 2026, 7:05 pm"},
		unit.DateText(evening, "Mon 2 Jan 15:04"):           {"Mon 4 May 19:05", "Mon May 4 7:05 pm"},
		unit.DateText(evening, "Mon 2 Jan"):                 {"Mon 4 May", "Mon May 4"},
		"typed: 20 °C at 19:05 on 4 May, 480 mm": {"typed: 20 °C at 19:05 on 4 May, 480 mm",
			"typed: 20 °C at 19:05 on 4 May, 480 mm"},
		"漆 “" + unit.Micron(25).String() + "”…": {"漆 “25 µm”…", "漆 “0.98 mil”…"},
	} {
		assert.Equal(t, want[0], unit.Unmarked(text))
		assert.Equal(t, want[1], string(american.Localize([]byte(text))), text)
	}
}

// A figure that is retold is what was written, read back.
func TestRetoldIsWhatWasWritten(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		n := unit.Notation{Inch: rapid.Bool().Draw(t, "inch")}
		warm := unit.Celsius(rapid.IntRange(-300, 600).Draw(t, "tenths of a degree")) / 10
		read, err := unit.ParseCelsius(string(n.Localize([]byte(warm.String()))))
		assert.NoError(t, err)
		assert.InDelta(t, float64(warm), float64(read), 0.06)
		long := unit.Millimetre(rapid.IntRange(1, 20000).Draw(t, "tenths of a millimetre")) / 10
		length, err := unit.ParseLength(string(n.Localize([]byte(long.String()))))
		assert.NoError(t, err)
		assert.InDelta(t, float64(long), float64(length), 0.2)
	})
}

// Whatever comes in, no mark goes out, and what has none is not touched.
func FuzzRetell(f *testing.F) {
	f.Add("\u20604 May 2026", true, true, true)
	f.Add("\u2060\u20641.2.3 °C\xe2\x81", true, false, true)
	f.Add("\u206019:", false, true, true)
	f.Fuzz(func(t *testing.T, text string, inch, amPm, monthFirst bool) {
		told := string(unit.Notation{Inch: inch, AmPm: amPm, MonthFirst: monthFirst}.Localize([]byte(text)))
		for _, mark := range []string{"\u2060", "\u2064"} {
			if !strings.Contains(text, "\xe2\x81") {
				assert.Equal(t, text, told)
			} else if strings.Count(text, "\xe2") == strings.Count(text, "\u2060")+strings.Count(text, "\u2064") {
				assert.NotContains(t, told, mark)
			}
		}
	})
}

func ExampleNotation_Localize() {
	text := "tonight " + unit.ClockText(19, 40) + ", " + unit.Celsius(18.6).String()
	fmt.Println(string(unit.Notation{}.Localize([]byte(text))))
	fmt.Println(string(unit.Notation{Inch: true, AmPm: true}.Localize([]byte(text))))
	// Output:
	// tonight 19:40, 18.6 °C
	// tonight 7:40 pm, 65.5 °F
}

func BenchmarkRetell(b *testing.B) {
	text := []byte(strings.Repeat("Wait until "+unit.ClockText(19, 40)+", then look at it again and say what you see. ", 500))
	for b.Loop() {
		unit.Notation{Inch: true, AmPm: true}.Localize(text)
	}
	b.SetBytes(int64(len(text)))
}
