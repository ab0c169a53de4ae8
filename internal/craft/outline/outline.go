// Package outline is the shape of a piece as geometry: what a face holds, how long its
// rim is, how far a point lies from the edge. The page draws the same path that the areas
// come from.
//
// A shape is read from SVG path data, in millimetres: x across, y from the top of the
// longest horn to the tail. Curves are taken as chords that leave them by less than a
// tenth of a millimetre. Rings inside a ring are holes, as the even-odd rule has it.
package outline

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"sync"

	"umberfrost/internal/craft/unit"
)

// Point is a place on a piece, in mm.
type Point struct{ X, Y float64 }

// Shape is what a path draws: closed rings.
type Shape struct {
	path  string
	rings [][]Point
}

//go:embed outlines.json
var embedded []byte

// file is the shapes that stand with the rules. What else it holds is for the page, which
// reads the same file.
type file struct {
	Bodies map[string]struct {
		Path string `json:"path"`
	} `json:"bodies"`
	Neck      string `json:"neck"`
	Headstock string `json:"headstock"`
}

// bodies are the outlines that an instrument may have, in the order in which they are offered.
var bodies = []string{"two-horned", "one-horned", "slab", "offset", "angular", "bass"}

// Bodies are the ids of the outlines that a body may have.
func Bodies() []string { return append([]string(nil), bodies...) }

// loaded is the embedded shapes, read once.
var loaded = sync.OnceValues(func() (map[string]Shape, error) {
	var f file
	if err := json.Unmarshal(embedded, &f); err != nil {
		return nil, err
	}
	shapes := make(map[string]Shape, len(f.Bodies)+2)
	for id, body := range f.Bodies {
		shape, err := Parse(body.Path)
		if err != nil {
			return nil, fmt.Errorf("outline %s: %w", id, err)
		}
		shapes[id] = shape
	}
	for id, path := range map[string]string{"neck": f.Neck, "headstock": f.Headstock} {
		shape, err := Parse(path)
		if err != nil {
			return nil, fmt.Errorf("outline of a %s: %w", id, err)
		}
		shapes[id] = shape
	}
	return shapes, nil
})

// Check reads the shapes that stand with the rules.
func Check() error {
	shapes, err := loaded()
	if err != nil {
		return err
	}
	for _, id := range bodies {
		if _, known := shapes[id]; !known {
			return fmt.Errorf("there is no outline %q", id)
		}
	}
	return nil
}

// Body is the shape of a body by its id.
func Body(id string) (Shape, bool) {
	shapes, err := loaded()
	if err != nil {
		return Shape{}, false
	}
	for _, known := range bodies {
		if known == id {
			return shapes[id], true
		}
	}
	return Shape{}, false
}

// Neck and Headstock are how a neck is drawn: the shaft below the nut, the head above it.
func Neck() Shape      { return must("neck") }
func Headstock() Shape { return must("headstock") }

func must(id string) Shape {
	shapes, err := loaded()
	if err != nil {
		panic(err) // Check has said so at start
	}
	return shapes[id]
}

// Path is the path data that the shape was read from, in its own size.
func (s Shape) Path() string { return s.path }

// Size is the length and the width of the box round a shape.
func (s Shape) Size() (length, width unit.Millimetre) {
	low, high := s.box()
	return unit.Millimetre(high.Y - low.Y), unit.Millimetre(high.X - low.X)
}

// Box is what holds a shape: left, top, width and length, in its own measure.
func (s Shape) Box() [4]float64 {
	low, high := s.box()
	return [4]float64{low.X, low.Y, high.X - low.X, high.Y - low.Y}
}

func (s Shape) box() (low, high Point) {
	low, high = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, ring := range s.rings {
		for _, p := range ring {
			low = Point{math.Min(low.X, p.X), math.Min(low.Y, p.Y)}
			high = Point{math.Max(high.X, p.X), math.Max(high.Y, p.Y)}
		}
	}
	return low, high
}

// Scaled is the shape stretched to a length and a width. Its path stays in its own size.
func (s Shape) Scaled(length, width unit.Millimetre) Shape {
	long, wide := s.Size()
	if long <= 0 || wide <= 0 {
		return s
	}
	x, y := float64(width/wide), float64(length/long)
	scaled := Shape{path: s.path, rings: make([][]Point, len(s.rings))}
	for i, ring := range s.rings {
		scaled.rings[i] = make([]Point, len(ring))
		for k, p := range ring {
			scaled.rings[i][k] = Point{p.X * x, p.Y * y}
		}
	}
	return scaled
}

// Area is what one face holds: holes left out.
func (s Shape) Area() unit.SquareMetre {
	var sum float64
	for i, ring := range s.rings {
		area := math.Abs(signedArea(ring))
		if s.depthOf(i)%2 == 1 {
			area = -area // a hole
		}
		sum += area
	}
	return unit.SquareMetre(sum / 1e6)
}

// Rim is the way round all edges, cutaways, pocket and holes with it.
func (s Shape) Rim() unit.Millimetre {
	var sum float64
	for _, ring := range s.rings {
		for k, p := range ring {
			q := ring[(k+1)%len(ring)]
			sum += math.Hypot(q.X-p.X, q.Y-p.Y)
		}
	}
	return unit.Millimetre(sum)
}

// Inside reports whether a point is wood: within an odd number of rings.
func (s Shape) Inside(p Point) bool {
	inside := false
	for _, ring := range s.rings {
		if within(ring, p) {
			inside = !inside
		}
	}
	return inside
}

// Depth is how far a point lies from the nearest edge: above 0 on the wood, below 0 off it.
func (s Shape) Depth(p Point) unit.Millimetre {
	nearest := math.Inf(1)
	for _, ring := range s.rings {
		for k, a := range ring {
			nearest = math.Min(nearest, toSegment(p, a, ring[(k+1)%len(ring)]))
		}
	}
	if !s.Inside(p) {
		nearest = -nearest
	}
	return unit.Millimetre(nearest)
}

// depthOf is how many other rings a ring lies within.
func (s Shape) depthOf(i int) (depth int) {
	for k, ring := range s.rings {
		if k != i && within(ring, s.rings[i][0]) {
			depth++
		}
	}
	return depth
}

// signedArea is what a ring encloses, in mm², below 0 the other way round (shoelace formula).
func signedArea(ring []Point) (sum float64) {
	for k, p := range ring {
		q := ring[(k+1)%len(ring)]
		sum += p.X*q.Y - q.X*p.Y
	}
	return sum / 2
}

// within reports whether a point lies within a ring: a ray from it crosses the ring an odd
// number of times.
func within(ring []Point, p Point) bool {
	inside := false
	for k, a := range ring {
		b := ring[(k+1)%len(ring)]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(p.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X) {
			inside = !inside
		}
	}
	return inside
}

// toSegment is how far a point lies from a stretch between two others.
func toSegment(p, a, b Point) float64 {
	dx, dy := b.X-a.X, b.Y-a.Y
	t := 0.0
	if length := dx*dx + dy*dy; length > 0 {
		t = math.Max(0, math.Min(1, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/length))
	}
	return math.Hypot(p.X-a.X-t*dx, p.Y-a.Y-t*dy)
}

// Between is what a face holds between two lines along the piece, at so many mm from the left of its box.
func (s Shape) Between(left, right unit.Millimetre) unit.SquareMetre {
	low, _ := s.box()
	var sum float64
	for i, ring := range s.rings {
		part := clip(clip(ring, low.X+float64(left), 1), low.X+float64(right), -1)
		area := math.Abs(signedArea(part))
		if s.depthOf(i)%2 == 1 {
			area = -area // a hole
		}
		sum += area
	}
	return unit.SquareMetre(sum / 1e6)
}

// clip is the part of a ring on one side of a line along the piece: where x is above at, or below it
// with a side of -1 (Sutherland and Hodgman 1974). Parts that fall asunder stay joined by edges that
// enclose nothing.
func clip(ring []Point, at, side float64) []Point {
	var part []Point
	for k, a := range ring {
		b := ring[(k+1)%len(ring)]
		insideA, insideB := side*(a.X-at) >= 0, side*(b.X-at) >= 0
		if insideA {
			part = append(part, a)
		}
		if insideA != insideB {
			t := (at - a.X) / (b.X - a.X)
			part = append(part, Point{at, a.Y + t*(b.Y-a.Y)})
		}
	}
	return part
}
