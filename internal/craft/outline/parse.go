package outline

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// What path data may hold. A file from anywhere does no more than be refused.
const (
	mostBytes   = 64 << 10
	mostPoints  = 20_000
	mostRings   = 100
	mostSize    = 1e5  // mm from the origin
	leastArea   = 25.0 // mm²: less is a slip of the pen
	chordLeaves = 0.1  // mm between a curve and its chords
)

// Parse reads SVG path data: M, L, H, V, C, S, Q, T, A and Z, absolute or relative. Every
// ring has to be closed, or end where it began. The error says what is wrong and where.
func Parse(data string) (Shape, error) {
	if len(data) > mostBytes {
		return Shape{}, fmt.Errorf("a path has at most %d bytes, not %d", mostBytes, len(data))
	}
	r := reader{text: data}
	for r.next() {
		if err := r.command(); err != nil {
			return Shape{}, fmt.Errorf("at %d of the path: %w", r.at, err)
		}
	}
	if err := r.close(true); err != nil {
		return Shape{}, err
	}
	if len(r.rings) == 0 {
		return Shape{}, fmt.Errorf("the path draws nothing; it begins with M and a point, and ends with Z")
	}
	return Shape{strings.TrimSpace(data), r.rings}, nil
}

// reader goes through path data.
type reader struct {
	text    string
	at      int
	letter  byte // of the command
	pen     Point
	control Point // of the curve before, for S and T
	before  byte  // the command before, in capitals
	ring    []Point
	rings   [][]Point
	points  int
}

// next comes to the next command, or to the next figures of the same.
func (r *reader) next() bool {
	r.skip()
	if r.at == len(r.text) {
		return false
	}
	if c := r.text[r.at]; strings.IndexByte("MmLlHhVvCcSsQqTtAaZz", c) >= 0 {
		r.letter = c
		r.at++
	} else if r.letter == 'M' || r.letter == 'm' {
		r.letter-- // more points after a move are lines: L follows M
	}
	return true
}

func (r *reader) skip() {
	for r.at < len(r.text) && strings.IndexByte(" \t\r\n,", r.text[r.at]) >= 0 {
		r.at++
	}
}

// command does one command with its figures.
func (r *reader) command() error {
	relative, name := r.letter >= 'a', r.letter&^0x20
	from := Point{}
	if relative {
		from = r.pen
	}
	if name != 'M' && len(r.ring) == 0 && name != 'Z' {
		if name == 0 || len(r.rings) == 0 {
			return fmt.Errorf("a path begins with M and a point")
		}
		r.ring = []Point{r.pen} // after Z it goes on from where the ring began
	}
	n, known := map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7, 'Z': 0}[name]
	if !known {
		return fmt.Errorf("there is no command %q", string(r.letter))
	}
	var f [7]float64
	for i := range n {
		figure, err := r.figure(name == 'A' && (i == 3 || i == 4))
		if err != nil {
			return err
		}
		f[i] = figure
	}
	to := func(i int) Point { return Point{from.X + f[i], from.Y + f[i+1]} }
	mirrored := func(after string) Point {
		if strings.IndexByte(after, r.before) < 0 {
			return r.pen
		}
		return Point{2*r.pen.X - r.control.X, 2*r.pen.Y - r.control.Y}
	}
	control := r.pen
	var err error
	switch name {
	case 'M':
		if err = r.close(false); err == nil {
			r.pen = to(0)
			r.ring, err = []Point{r.pen}, inReach(r.pen)
		}
	case 'Z':
		err = r.close(true)
		r.letter = 0
	case 'L':
		err = r.line(to(0))
	case 'H':
		err = r.line(Point{from.X + f[0], r.pen.Y})
	case 'V':
		err = r.line(Point{r.pen.X, from.Y + f[0]})
	case 'C':
		control, err = to(2), r.cubic(to(0), to(2), to(4))
	case 'S':
		control, err = to(0), r.cubic(mirrored("CS"), to(0), to(2))
	case 'Q':
		control, err = to(0), r.quadratic(to(0), to(2))
	case 'T':
		control = mirrored("QT")
		err = r.quadratic(control, to(0))
	case 'A':
		err = r.arc(f[0], f[1], f[2]*math.Pi/180, f[3] != 0, f[4] != 0, to(5))
	}
	r.control, r.before = control, name
	return err
}

// figure reads one number; a flag of an arc is one digit.
func (r *reader) figure(flag bool) (float64, error) {
	r.skip()
	end := r.at
	if flag {
		if end == len(r.text) || (r.text[end] != '0' && r.text[end] != '1') {
			return 0, fmt.Errorf("a flag of an arc is 0 or 1")
		}
		r.at++
		return float64(r.text[end] - '0'), nil
	}
	point, exponent := false, false
	for ; end < len(r.text); end++ {
		switch c := r.text[end]; {
		case c >= '0' && c <= '9':
			continue
		case (c == '-' || c == '+') && (end == r.at || r.text[end-1]|0x20 == 'e'):
			continue
		case c == '.' && !point && !exponent:
			point = true
			continue
		case c|0x20 == 'e' && !exponent && end > r.at:
			exponent = true
			continue
		}
		break
	}
	value, err := strconv.ParseFloat(r.text[r.at:end], 64)
	if err != nil || math.IsInf(value, 0) {
		return 0, fmt.Errorf("a number is missing")
	}
	r.at = end
	return value, nil
}

func inReach(p Point) error {
	if !(math.Abs(p.X) <= mostSize && math.Abs(p.Y) <= mostSize) {
		return fmt.Errorf("a point lies at most %g mm from the origin", mostSize)
	}
	return nil
}

// line draws to a point.
func (r *reader) line(p Point) error {
	if err := inReach(p); err != nil {
		return err
	}
	if r.points++; r.points > mostPoints {
		return fmt.Errorf("it has more than %d points", mostPoints)
	}
	r.pen = p
	r.ring = append(r.ring, p)
	return nil
}

func (r *reader) quadratic(a, p Point) error {
	from := r.pen
	return r.cubic(Point{from.X + 2*(a.X-from.X)/3, from.Y + 2*(a.Y-from.Y)/3}, Point{p.X + 2*(a.X-p.X)/3, p.Y + 2*(a.Y-p.Y)/3}, p)
}

// cubic draws a curve by chords. n chords leave a cubic by at most √3/18 · |second difference| ÷ n² of it.
func (r *reader) cubic(a, b, p Point) error {
	from := r.pen
	for _, q := range []Point{a, b, p} {
		if err := inReach(q); err != nil {
			return err
		}
	}
	bend := math.Max(math.Hypot(from.X-2*a.X+b.X, from.Y-2*a.Y+b.Y), math.Hypot(a.X-2*b.X+p.X, a.Y-2*b.Y+p.Y))
	n := max(1, int(math.Ceil(math.Sqrt(bend*6*math.Sqrt(3)/18/chordLeaves))))
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		u := 1 - t
		x := u*u*u*from.X + 3*u*u*t*a.X + 3*u*t*t*b.X + t*t*t*p.X
		y := u*u*u*from.Y + 3*u*u*t*a.Y + 3*u*t*t*b.Y + t*t*t*p.Y
		if i == n {
			x, y = p.X, p.Y
		}
		if err := r.line(Point{x, y}); err != nil {
			return err
		}
	}
	return nil
}

// arc draws a piece of an ellipse, as appendix B.2 of the SVG standard finds its centre.
func (r *reader) arc(rx, ry, turn float64, large, sweep bool, p Point) error {
	from := r.pen
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || from == p {
		return r.line(p)
	}
	if err := inReach(Point{rx, ry}); err != nil {
		return err
	}
	sin, cos := math.Sincos(turn)
	dx, dy := (from.X-p.X)/2, (from.Y-p.Y)/2
	x, y := cos*dx+sin*dy, cos*dy-sin*dx
	if big := x*x/(rx*rx) + y*y/(ry*ry); big > 1 {
		rx, ry = rx*math.Sqrt(big), ry*math.Sqrt(big)
	}
	share := math.Sqrt(math.Max(0, (rx*rx*ry*ry-rx*rx*y*y-ry*ry*x*x)/(rx*rx*y*y+ry*ry*x*x)))
	if large == sweep {
		share = -share
	}
	cx, cy := share*rx*y/ry, -share*ry*x/rx
	centre := Point{cos*cx - sin*cy + (from.X+p.X)/2, sin*cx + cos*cy + (from.Y+p.Y)/2}
	start, end := math.Atan2((y-cy)/ry, (x-cx)/rx), math.Atan2((-y-cy)/ry, (-x-cx)/rx)
	if sweep && end < start {
		end += 2 * math.Pi
	} else if !sweep && end > start {
		end -= 2 * math.Pi
	}
	n := max(1, int(math.Ceil(math.Abs(end-start)*math.Sqrt(math.Max(rx, ry)/(8*chordLeaves)))))
	for i := 1; i <= n; i++ {
		s, c := math.Sincos(start + (end-start)*float64(i)/float64(n))
		q := Point{centre.X + cos*rx*c - sin*ry*s, centre.Y + sin*rx*c + cos*ry*s}
		if i == n {
			q = p
		}
		if err := r.line(q); err != nil {
			return err
		}
	}
	return nil
}

// close ends a ring: by Z, or because it has come back to where it began.
func (r *reader) close(drawn bool) error {
	ring := r.ring
	r.ring = nil
	if len(ring) < 2 {
		return nil
	}
	first, last := ring[0], ring[len(ring)-1]
	back := math.Hypot(first.X-last.X, first.Y-last.Y) <= chordLeaves
	if !back && !drawn {
		return fmt.Errorf("a ring is open: end it with Z")
	}
	if back {
		ring = ring[:len(ring)-1]
	}
	if len(ring) < 3 || math.Abs(signedArea(ring)) < leastArea {
		return fmt.Errorf("a ring encloses less than %g mm²", leastArea)
	}
	if len(r.rings) == mostRings {
		return fmt.Errorf("it has more than %d rings", mostRings)
	}
	r.rings, r.pen = append(r.rings, ring), first
	return nil
}
