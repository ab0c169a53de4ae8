package unit

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/proptest"
)

func TestParseLength(t *testing.T) {
	for text, want := range map[string]Millimetre{
		"480":       480,
		"480 mm":    480,
		"48cm":      480,
		"0.48 m":    480,
		"48,5 cm":   485,
		"18 7/8 in": 479.425,
		`7/8"`:      22.225,
		" 13in ":    330.2,
		"19 in":     482.6,
		"19 inches": 482.6,
		"-5 mm":     -5,
	} {
		t.Run(text, func(t *testing.T) {
			got, err := ParseLength(text)
			require.NoError(t, err)
			assert.InDelta(t, float64(want), float64(got), 1e-9)
		})
	}
}

func TestParseLengthSaysWhatItAccepts(t *testing.T) {
	for _, text := range []string{"", "wide", "12 furlongs", "7/0 in", "1 2 3 in", "NaN", "1e999", "12 x/4 in"} {
		t.Run(text, func(t *testing.T) {
			_, err := ParseLength(text)
			require.Error(t, err)
			assert.Contains(t, err.Error(), "480 mm")
		})
	}
}

func TestLengthPrintedIsLengthRead(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		tenths := rapid.IntRange(0, 100000).Draw(t, "tenths of a millimetre")
		length := Millimetre(float64(tenths) / 10)
		back, err := ParseLength(length.String())
		require.NoError(t, err)
		assert.Less(t, math.Abs(float64(back-length)), 0.051)
	})
}

func TestMinutes(t *testing.T) {
	assert.Equal(t, "25 min", Minutes(25).String())
	assert.Equal(t, "2 h", Minutes(120).String())
	assert.Equal(t, "1 h 05", Minutes(65).String())
}

func FuzzParseLength(f *testing.F) {
	f.Add("18 7/8 in")
	f.Add("480 mm")
	f.Fuzz(func(t *testing.T, text string) {
		length, err := ParseLength(text)
		if err == nil && (math.IsNaN(float64(length)) || math.IsInf(float64(length), 0)) {
			t.Fatalf("%q was read as %v", text, length)
		}
	})
}

func Example() {
	fmt.Println(Unmarked(Micron(25.4).String()), Unmarked(Millilitre(62.3).String()))
	fmt.Println(Unmarked(SquareMetre(0.1140).String()), Percent(90.9).String())
	// Output:
	// 25 µm 62 mL
	// 0.114 m² 91 %
}

func TestParseAir(t *testing.T) {
	for text, want := range map[string]Celsius{"18.6": 18.6, "68 F": 20, "68F": 20, " 18,6 °C ": 18.6, "65 °F": 18.333, "-4": -4,
		"−4 °C": -4, "20C": 20} {
		got, err := ParseCelsius(text)
		assert.NoError(t, err, text)
		assert.InDelta(t, float64(want), float64(got), 0.001, text)
	}
	for text, want := range map[string]Percent{"52": 52, "52 %": 52, "48.5%": 48.5} {
		got, err := ParsePercent(text)
		assert.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"", "warm", "20 K", "NaN"} {
		_, err := ParseCelsius(text)
		assert.ErrorContains(t, err, "18.6", text)
	}
	_, err := ParsePercent("damp")
	assert.ErrorContains(t, err, "52 %")
}

func TestParseDegrees(t *testing.T) {
	for text, want := range map[string]Degrees{"3": 3, "-2 °C": -2, "−2": -2, "5 °F": 2.7778, "9f": 5, "4 K": 4, "1,5": 1.5} {
		got, err := ParseDegrees(text)
		assert.NoError(t, err, text)
		assert.InDelta(t, float64(want), float64(got), 0.001, text)
	}
	_, err := ParseDegrees("a bit")
	assert.ErrorContains(t, err, "5 °F")
}

func TestFilmAsTyped(t *testing.T) {
	for text, want := range map[string]Micron{"90": 90, "90 µm": 90, "90 μm": 90, "90um": 90, "3.5 mil": 88.9, "2 mils": 50.8,
		"0,1 mm": 100} {
		got, err := ParseFilm(text)
		require.NoError(t, err, text)
		assert.InDelta(t, float64(want), float64(got), 1e-9, text)
	}
	_, err := ParseFilm("thick")
	assert.ErrorContains(t, err, "90 µm or 3.5 mil")
}

func FuzzParseFigures(f *testing.F) {
	for _, text := range []string{"18,6 °C", "65 °F", "52 %", "-3", "5 F", "35 µm", "1.4 mil", "−4", "1e308", "0x1p-2"} {
		f.Add(text)
	}
	finite := func(t *testing.T, text string, v float64, err error) {
		if err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
			t.Fatalf("%q was read as %v", text, v)
		}
	}
	f.Fuzz(func(t *testing.T, text string) {
		celsius, err := ParseCelsius(text)
		finite(t, text, float64(celsius), err)
		percent, err := ParsePercent(text)
		finite(t, text, float64(percent), err)
		degrees, err := ParseDegrees(text)
		finite(t, text, float64(degrees), err)
		film, err := ParseFilm(text)
		finite(t, text, float64(film), err)
	})
}
