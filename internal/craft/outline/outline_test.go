package outline_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

func parse(t testing.TB, path string) outline.Shape {
	t.Helper()
	shape, err := outline.Parse(path)
	require.NoError(t, err, path)
	return shape
}

// Every command of path data draws what the standard says, absolute and relative.
func TestFiguresOfKnownShapes(t *testing.T) {
	for name, test := range map[string]struct {
		path      string
		area, rim float64 // mm², mm
	}{
		"square":          {"M0 0H100V100H0Z", 10000, 400},
		"relative":        {"m10,10 h100 v100 h-100 z", 10000, 400},
		"lines without L": {"M0 0 100 0 100 100 0 100Z", 10000, 400},
		"signs as gaps":   {"M0-50L100-50L100+50L0 50z", 10000, 400},
		"points as gaps":  {"M.5.5L100.5.5L100.5 100.5L.5 100.5Z", 10000, 400},
		"exponents":       {"M0 0H1e2V1E+2H0Z", 10000, 400},
		"circle":          {"M-50 0A50 50 0 0 1 50 0A50 50 0 0 1 -50 0Z", math.Pi * 2500, math.Pi * 100},
		"flags together":  {"M-50 0a50 50 0 01100 0a50 50 0 01-100 0Z", math.Pi * 2500, math.Pi * 100},
		"too small radii": {"M-50 0A5 5 0 0 1 50 0A5 5 0 0 1 -50 0Z", math.Pi * 2500, math.Pi * 100},
		"turned ellipse":  {"M0 -80A40 80 0 0 1 0 80A40 80 180 0 1 0 -80Z", math.Pi * 3200, 387.5},
		"parabola":        {"M0 0Q50 100 100 0Z", 2.0 / 3 * 100 * 50, 100 + 147.89},
		"two parabolas":   {"M0 0Q50 100 100 0T200 0L200 -60L0 -60Z", 200 * 60, 2*147.89 + 2*60 + 200},
		"smooth cubics":   {"M0 0C0 55.2 44.8 100 100 100S200 55.2 200 0Z", math.Pi * 5000, math.Pi*100 + 200},
		"ring with hole":  {"M0 0H100V100H0Z M25 25V75H75V25Z", 7500, 600},
		"island in it":    {"M0 0H100V100H0Z M20 20H80V80H20Z M40 40H60V60H40Z", 10000 - 3600 + 400, 400 + 240 + 80},
		"goes on after Z": {"M0 0H100V100H0Zm200 0h10v10h-10z", 10100, 440},
	} {
		t.Run(name, func(t *testing.T) {
			s := parse(t, test.path)
			assert.InEpsilon(t, test.area, float64(s.Area())*1e6, 0.003)
			assert.InEpsilon(t, test.rim, float64(s.Rim()), 0.003)
		})
	}
}

func TestPathsThatAreRefusedSayWhy(t *testing.T) {
	for path, says := range map[string]string{
		"":                                  "draws nothing",
		"L0 0":                              "begins with M",
		"0 0":                               "begins with M",
		"M0 0H":                             "a number is missing",
		"M0 0H1..":                          "a number is missing",
		"M0 0X5":                            "a number is missing",
		"M0 0A5 5 0 2 1 9 9Z":               "a flag of an arc is 0 or 1",
		"M0 0H100V100H0M5 5H6V6H5Z":         "a ring is open",
		"M0 0H1V1H0Z":                       "encloses less than 25 mm²",
		"M0 0H1e9V1H0Z":                     "at most 100000 mm",
		"M0 0HNaNV1H0Z":                     "a number is missing",
		strings.Repeat("M0 0H9V9H0Z", 9000): "at most 65536 bytes",
		"M0 0" + strings.Repeat("h9v9", 11000) + "Z": "more than 20000 points",
		strings.Repeat("M0 0H9V9H0Z", 101):           "more than 100 rings",
	} {
		_, err := outline.Parse(path)
		assert.ErrorContains(t, err, says, "%.40s", path)
	}
}

// The shapes that stand with the rules are of usual size, with horns and a pocket in their
// rim: the formula for a body whose outline nobody knows (rules §6) comes near to each.
func TestBodiesAreOfUsualSize(t *testing.T) {
	require.NoError(t, outline.Check())
	for _, id := range outline.Bodies() {
		body, known := outline.Body(id)
		require.True(t, known)
		length, width := body.Size()
		assert.InDelta(t, 470, float64(length), 60, id)
		assert.InDelta(t, 330, float64(width), 30, id)
		share := float64(body.Area()) / (float64(length*width) / 1e6)
		assert.InDelta(t, 0.72, share, 0.12, id)
		rim := float64(body.Rim()) / math.Sqrt(float64(length*width))
		assert.InDelta(t, 3.9, rim, 0.45, id)
	}
	_, known := outline.Body("neck")
	assert.False(t, known, "a neck is no body")
	length, _ := outline.Neck().Size()
	assert.InDelta(t, 528, float64(length), 1)
	assert.InDelta(t, 0.011, float64(outline.Headstock().Area()), 0.002, "one face")
}

// What the page draws by, the box round each body and its pocket, is the geometry's own.
func TestThePageDrawsTheSameShapes(t *testing.T) {
	data, err := os.ReadFile("outlines.json")
	require.NoError(t, err)
	var page struct {
		Bodies map[string]struct {
			Box    [4]float64
			Pocket float64
		}
		Openings string
	}
	require.NoError(t, json.Unmarshal(data, &page))
	assert.Len(t, page.Bodies, len(outline.Bodies()))
	openings := parse(t, page.Openings)
	assert.InDelta(t, 0.011, float64(openings.Area()), 0.003, "pickups, bridge and controls")
	for id, drawn := range page.Bodies {
		body, _ := outline.Body(id)
		length, width := body.Size()
		assert.InDelta(t, drawn.Box[2], float64(width), 0.3, id)
		assert.InDelta(t, drawn.Box[3], float64(length), 0.3, id)
		assert.Greater(t, float64(body.Depth(outline.Point{X: drawn.Box[0] + drawn.Box[2]/2, Y: drawn.Pocket + 50})), 20.0,
			"%s: below its pocket is wood", id)
		assert.False(t, body.Inside(outline.Point{X: 0, Y: drawn.Pocket - 5}), "%s: its pocket is open", id)
		for _, control := range []outline.Point{{X: 86, Y: 182}, {X: 104, Y: 220}} {
			assert.Greater(t, float64(body.Depth(outline.Point{X: control.X, Y: drawn.Pocket + control.Y})), 10.0,
				"%s: its controls are on the wood", id)
		}
	}
}

func TestScaled(t *testing.T) {
	body, _ := outline.Body("two-horned")
	scaled := body.Scaled(480, 330)
	length, width := scaled.Size()
	assert.InDelta(t, 480, float64(length), 1e-6)
	assert.InDelta(t, 330, float64(width), 1e-6)
	long, wide := body.Size()
	assert.InEpsilon(t, float64(body.Area())*float64(480/long)*float64(330/wide), float64(scaled.Area()), 1e-9)
	assert.Equal(t, body.Path(), scaled.Path())
}

func TestDepth(t *testing.T) {
	ring := parse(t, "M0 0H100V100H0Z M40 40H60V60H40Z")
	for p, want := range map[outline.Point]float64{{X: 10, Y: 50}: 10, {X: 30, Y: 50}: 10, {X: 50, Y: 50}: -10, {X: -3, Y: -4}: -5,
		{X: 20, Y: 20}: 20} {
		assert.InDelta(t, want, float64(ring.Depth(p)), 1e-9, "%v", p)
		assert.Equal(t, want > 0, ring.Inside(p))
	}
}

// Turning a rectangle's path round, moving it or writing it relatively changes nothing of
// its figures, and stretching it stretches them.
func TestFiguresDoNotDependOnHowItIsDrawn(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		w, h := rapid.IntRange(6, 900).Draw(t, "width"), rapid.IntRange(6, 900).Draw(t, "height")
		x, y := rapid.IntRange(-900, 900).Draw(t, "x"), rapid.IntRange(-900, 900).Draw(t, "y")
		drawn := rapid.SampledFrom([]string{"M%[1]d %[2]dh%[3]dv%[4]dh-%[3]dz", "M%[1]d,%[2]dv%[4]dh%[3]dv-%[4]dz",
			"m%[1]d %[2]dl%[3]d 0l0 %[4]dl-%[3]d 0Z"}).Draw(t, "drawn")
		shape, err := outline.Parse(fmt.Sprintf(drawn, x, y, w, h))
		require.NoError(t, err)
		assert.InDelta(t, float64(w*h)/1e6, float64(shape.Area()), 1e-9)
		assert.InDelta(t, float64(2*w+2*h), float64(shape.Rim()), 1e-9)
		scaled := shape.Scaled(unit.Millimetre(2*h), unit.Millimetre(3*w))
		assert.InDelta(t, float64(6*w*h)/1e6, float64(scaled.Area()), 1e-9)
	})
}

// Whatever a file holds, it is read or refused, soon, and what is read has an area.
func FuzzParse(f *testing.F) {
	for _, id := range outline.Bodies() {
		body, _ := outline.Body(id)
		f.Add(body.Path())
	}
	f.Add("M-50 0a50 50 0 01100 0a50 50 0 01-100 0Z")
	f.Add("M0 0Q50 100 100 0T200 0L200 -60L0 -60Z")
	f.Add("M1e5 1e5A1e5 1e5 45 1 0 0 0S1-1-1-1z")
	f.Fuzz(func(t *testing.T, path string) {
		shape, err := outline.Parse(path)
		if err != nil {
			return
		}
		rim, area := float64(shape.Rim()), float64(shape.Area())
		if math.IsNaN(rim) || math.IsInf(rim, 0) || math.IsNaN(area) || rim <= 0 {
			t.Fatalf("%q has a rim of %v and an area of %v", path, rim, area)
		}
	})
}

func ExampleShape_Depth() {
	body, _ := outline.Body("two-horned")
	body = body.Scaled(480, 330)
	fmt.Println(unit.Unmarked(body.Area().String()), unit.Unmarked(body.Depth(outline.Point{X: 0, Y: 400}).String()), "from the edge")
	// Output:
	// 0.114 m² 97.5 mm from the edge
}

func BenchmarkDepth(b *testing.B) {
	body, _ := outline.Body("two-horned")
	for b.Loop() {
		body.Depth(outline.Point{X: 20, Y: 300})
	}
}

func TestWhatLiesBetweenTwoLines(t *testing.T) {
	square, err := outline.Parse("M10 0 H110 V100 H10 Z")
	require.NoError(t, err)
	assert.InDelta(t, 0.0025, float64(square.Between(0, 25)), 1e-12, "a quarter of a square of 100 mm")
	assert.InDelta(t, 0.01, float64(square.Between(-5, 105)), 1e-12)
	assert.Zero(t, float64(square.Between(100, 120)))
	ring, err := outline.Parse("M0 0 H100 V100 H0 Z M25 25 H75 V75 H25 Z")
	require.NoError(t, err)
	assert.InDelta(t, 0.00375, float64(ring.Between(0, 50)), 1e-12, "half of what the hole leaves")
	for _, id := range outline.Bodies() {
		shape, _ := outline.Body(id)
		_, width := shape.Size()
		halves := shape.Between(0, width/2) + shape.Between(width/2, width)
		assert.InDelta(t, float64(shape.Area()), float64(halves), 1e-9, "%s: a horn that is cut in two stays whole", id)
	}
}
