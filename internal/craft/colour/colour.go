// Package colour is what colours look like, as far as that is known: words and figures
// for them, and how one lies over another. Mixing here is plain, by shares of what is seen
// (a layer that covers half shows half of what lies below); what dye does in wood needs a
// model of its own, and whatever comes from here is an estimate.
package colour

import (
	_ "embed"
	"fmt"
	"math"
	"strings"

	"umberfrost/internal/craft/table"
)

// RGB is a colour as a screen shows it (sRGB).
type RGB struct{ R, G, B uint8 }

// Hex is a colour as #RRGGBB.
func (c RGB) Hex() string { return fmt.Sprintf("#%02X%02X%02X", c.R, c.G, c.B) }

// Parse reads #RRGGBB.
func Parse(hex string) (RGB, error) {
	var c RGB
	if len(hex) != 7 || strings.Trim(strings.ToLower(hex[1:]), "0123456789abcdef") != "" {
		return c, fmt.Errorf("%q is not a colour; write it like #27506B", hex)
	}
	if _, err := fmt.Sscanf(strings.ToLower(hex), "#%02x%02x%02x", &c.R, &c.G, &c.B); err != nil {
		return c, fmt.Errorf("%q is not a colour; write it like #27506B", hex)
	}
	return c, nil
}

// Over is what is seen where c covers a share of under, from 0, nothing of it, to 1, all.
func (c RGB) Over(under RGB, share float64) RGB {
	share = math.Max(0, math.Min(1, share))
	mix := func(a, b uint8) uint8 { return uint8(math.Round(float64(a)*share + float64(b)*(1-share))) }
	return RGB{mix(c.R, under.R), mix(c.G, under.G), mix(c.B, under.B)}
}

// Word is a colour with the name that people give it.
type Word struct {
	Name string
	RGB  RGB
}

//go:embed colours.csv
var embedded string

var words, loadError = parse(embedded)

func parse(text string) (list []Word, err error) {
	err = table.Read("colours", text, func(r table.Row) {
		c, err := Parse(r.Needed("srgb"))
		if err != nil {
			r.Complain("srgb", "a colour like #27506B")
		}
		list = append(list, Word{r.Needed("name"), c})
	})
	return list, err
}

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return loadError }

// Words lists the colours that have a name here.
func Words() []Word { return append([]Word(nil), words...) }

// How far "dark" and "pale" change a colour (default).
const (
	darkens   = 0.35
	lightens  = 0.4
	nearBlack = 0x14
)

// Find is what somebody means by words such as "dark honey", or by figures such as #27506B: the longest
// name that stands in them. False where none does.
func Find(said string) (RGB, bool) {
	if c, err := Parse(strings.TrimSpace(said)); err == nil {
		return c, true
	}
	apart := strings.FieldsFunc(strings.ToLower(said), func(r rune) bool { return strings.ContainsRune(" -,_", r) })
	text := " " + strings.Join(apart, " ") + " "
	var best Word
	for _, w := range words {
		if len(w.Name) > len(best.Name) && strings.Contains(text, " "+w.Name+" ") {
			best = w
		}
	}
	if best.Name == "" {
		return RGB{}, false
	}
	c := best.RGB
	switch {
	case strings.Contains(text, " dark ") || strings.Contains(text, " deep "):
		c = RGB{nearBlack, nearBlack, nearBlack}.Over(c, darkens)
	case strings.Contains(text, " pale ") || strings.Contains(text, " light "):
		c = RGB{0xFF, 0xFF, 0xFF}.Over(c, lightens)
	}
	return c, true
}
