package climate

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sort"
	"sync"
	"time"

	"umberfrost/internal/craft/unit"
)

// WeekHours is how many local hours a week has.
const WeekHours = 7 * 24

// Profile is what a room's air is usually like: one value for each local hour
// of the week, from Sunday 00:00, and how each month differs from that.
type Profile struct {
	Week   [WeekHours]Air
	Months [12]Shift // January first
}

// Shift is how much warmer and damper a month is than the weekly profile.
type Shift struct {
	Temperature unit.Celsius `json:"temperatureC"`
	Humidity    unit.Percent `json:"humidityPct"`
}

// Knot is the air at one local hour of the week, from Sunday 00:00.
type Knot struct {
	Hour int `json:"hour"` // 0 to 167
	Air
}

// Constant is a room whose air never changes.
func Constant(a Air) Profile {
	var p Profile
	for h := range p.Week {
		p.Week[h] = a
	}
	return p
}

// ProfileOf lays a week through a few knots, linearly between them and from the
// last round to the first. It refuses no knots, hours that are not of the week
// or come twice, and air that cannot be.
func ProfileOf(knots []Knot, months [12]Shift) (Profile, error) {
	p := Profile{Months: months}
	if len(knots) == 0 {
		return p, fmt.Errorf("a profile needs the air of at least one hour of the week")
	}
	sorted := slices.SortedFunc(slices.Values(knots), func(a, b Knot) int { return cmp.Compare(a.Hour, b.Hour) })
	for i, k := range sorted {
		if k.Hour < 0 || k.Hour >= WeekHours || (i > 0 && k.Hour == sorted[i-1].Hour) {
			return p, fmt.Errorf("hour %d of the week: hours are from 0 (Sunday 00:00) to %d, each once", k.Hour, WeekHours-1)
		}
		if err := k.Check(); err != nil {
			return p, fmt.Errorf("hour %d of the week: %w", k.Hour, err)
		}
	}
	for i, k := range sorted {
		next := sorted[(i+1)%len(sorted)]
		gap := (next.Hour - k.Hour + WeekHours) % WeekHours
		if gap == 0 {
			gap = WeekHours
		}
		for h := range gap {
			p.Week[(k.Hour+h)%WeekHours] = between(k.Air, next.Air, float64(h)/float64(gap))
		}
	}
	return p, nil
}

// Reading is the air at a moment: measured, or, of the future, forecast.
type Reading struct {
	At time.Time
	Air
	Surface *unit.Celsius // of the piece, where somebody measured it
}

// Warmest is the warmest hour of the usual week in its warmest month.
func (r *Room) Warmest() unit.Celsius {
	warmest, shift := r.profile.Week[0].Temperature, r.profile.Months[0].Temperature
	for _, a := range r.profile.Week {
		warmest = max(warmest, a.Temperature)
	}
	for _, m := range r.profile.Months {
		shift = max(shift, m.Temperature)
	}
	return warmest + shift
}

// MaxGap is how far two neighbouring readings may lie apart and still say what
// the air between them was.
const MaxGap = 3 * time.Hour

// Room is the air of one place over all time. Times inside are Unix seconds.
//
// It lays its air out week by week as far as it is asked, and keeps what it has
// laid out; the answers do not depend on that. Many may ask at the same time.
type Room struct {
	zone     *time.Location
	profile  Profile
	readings []Reading // by time, none twice
	mu       sync.Mutex
	weeks    map[int64]*week
}

// NewRoom is a room with a profile in local hours of a zone, and what was read
// or forecast there, in any order. Of two readings at one moment the later in
// the list counts. It refuses air that cannot be.
func NewRoom(zone *time.Location, profile Profile, readings []Reading) (*Room, error) {
	sorted := slices.Clone(readings)
	slices.SortStableFunc(sorted, func(a, b Reading) int { return a.At.Compare(b.At) })
	r := &Room{zone: zone, profile: profile, weeks: make(map[int64]*week)}
	for _, reading := range sorted {
		if err := reading.Check(); err != nil {
			return nil, fmt.Errorf("reading at %s: %w", reading.At.Format(time.RFC3339), err)
		}
		if n := len(r.readings); n > 0 && r.readings[n-1].At.Equal(reading.At) {
			r.readings[n-1] = reading
			continue
		}
		r.readings = append(r.readings, reading)
	}
	return r, nil
}

// Segment is a stretch of time in which the air runs linearly from A to B. A week may
// cut it short: Whole is all of it, between the two points at which a rate is evaluated.
type Segment struct {
	Start, End float64 // Unix seconds
	A, B       Air
	Read       bool // it rests on readings, not on the profile
	Whole      Line
	surfaceA   *unit.Celsius
	surfaceB   *unit.Celsius
}

// Line is air that runs linearly between two moments.
type Line struct {
	Start, End float64 // Unix seconds
	A, B       Air
}

// At is the air within the line.
func (l Line) At(t float64) Air { return between(l.A, l.B, l.share(t)) }

func (l Line) share(t float64) float64 { return (t - l.Start) / (l.End - l.Start) }

// At is the air within the segment.
func (s Segment) At(t float64) Air { return between(s.A, s.B, (t-s.Start)/(s.End-s.Start)) }

// cut is the part of a line from t on, up to the end of t's week.
func (l Line) cut(t float64, read bool) Segment {
	end := min(l.End, nextWeek(t))
	s := Segment{Start: t, End: end, A: l.A, B: l.B, Read: read, Whole: l}
	if t > l.Start {
		s.A = l.At(t)
	}
	if end < l.End {
		s.B = l.At(end)
	}
	return s
}

// WeekSeconds is the length of the stretches in which a room lays out its air.
const WeekSeconds = WeekHours * 3600

// week is one laid-out week: its segments and the temperature summed up.
type week struct {
	segments []Segment
	heat     []float64 // °C·s from the week's start to each segment's start, and to the end
}

// Week returns the segments of week n, counted from 1970: they cover
// [n·WeekSeconds, (n+1)·WeekSeconds) without gaps.
func (r *Room) Week(n int64) []Segment { return r.week(n).segments }

func (r *Room) week(n int64) *week {
	r.mu.Lock()
	defer r.mu.Unlock()
	if w, laid := r.weeks[n]; laid {
		return w
	}
	w := r.layOut(float64(n*WeekSeconds), float64((n+1)*WeekSeconds))
	r.weeks[n] = w
	return w
}

func (r *Room) layOut(start, end float64) *week {
	w := &week{segments: make([]Segment, 0, WeekHours+2)}
	next := sort.Search(len(r.readings), func(i int) bool { return seconds(r.readings[i].At) > start })
	for t := start; t < end; {
		segment := r.segmentFrom(t, next)
		w.segments = append(w.segments, segment)
		t = segment.End
		for next < len(r.readings) && seconds(r.readings[next].At) <= t {
			next++
		}
	}
	heat := 0.0
	for _, s := range w.segments {
		w.heat = append(w.heat, heat)
		heat += (s.End - s.Start) * float64(s.A.Temperature+s.B.Temperature) / 2
	}
	w.heat = append(w.heat, heat)
	return w
}

// segmentFrom is the longest linear stretch that begins at t, where next is the
// first reading after t. The air runs from reading to reading where two neighbours are
// close enough, else from one full hour of the profile to the next; where readings begin
// or end within an hour, from or to there.
func (r *Room) segmentFrom(t float64, next int) Segment {
	if r.joined(next - 1) {
		before, after := r.readings[next-1], r.readings[next]
		line := Line{seconds(before.At), seconds(after.At), before.Air, after.Air}
		s := line.cut(t, true)
		if before.Surface != nil && after.Surface != nil {
			s.surfaceA, s.surfaceB = warm(before, after, line.share(s.Start)), warm(before, after, line.share(s.End))
		}
		return s
	}
	line := Line{Start: r.hourBefore(t), End: r.nextHour(t)}
	if r.joined(next-2) && seconds(r.readings[next-1].At) > line.Start {
		line.Start = seconds(r.readings[next-1].At)
	}
	if r.joined(next) {
		line.End = min(line.End, seconds(r.readings[next].At))
	}
	line.A, line.B = r.usual(line.Start), r.usualBefore(line.End)
	return line.cut(t, false)
}

// joined reports whether the air between reading i and the next is known.
func (r *Room) joined(i int) bool {
	return i >= 0 && i+1 < len(r.readings) && r.readings[i+1].At.Sub(r.readings[i].At) <= MaxGap
}

func warm(a, b Reading, share float64) *unit.Celsius {
	t := *a.Surface + (*b.Surface-*a.Surface)*unit.Celsius(share)
	return &t
}

// usual is what the profile says at t; usualBefore the same, seen from the hour
// that ends at t.
func (r *Room) usual(t float64) Air { return r.profileAt(t, r.hourBefore(t)) }

func (r *Room) usualBefore(t float64) Air { return r.profileAt(t, r.hourBefore(t-1e-6)) }

func (r *Room) profileAt(t, from float64) Air {
	to := r.nextHour(from)
	return between(r.hourly(from), r.hourly(to), (t-from)/(to-from))
}

// hourly is the profile's value at a full local hour.
func (r *Room) hourly(t float64) Air {
	local := time.Unix(int64(t), 0).In(r.zone)
	air := r.profile.Week[int(local.Weekday())*24+local.Hour()]
	shift := r.profile.Months[local.Month()-1]
	air.Temperature += shift.Temperature
	air.Humidity = min(100, max(1, air.Humidity+shift.Humidity))
	return air
}

// hourBefore is the last full local hour at or before t, nextHour the first
// after it. An hour that daylight saving skips or repeats is skipped or repeated;
// where clocks shift by a part of an hour, the stretch between two full hours is
// shorter or longer by that.
func (r *Room) hourBefore(t float64) float64 { return float64(r.fullHour(int64(math.Floor(t)))) }

func (r *Room) fullHour(t int64) int64 {
	local := time.Unix(t, 0).In(r.zone)
	_, offset := local.Zone()
	hour := t - mod(t+int64(offset), 3600)
	if from, _ := local.ZoneBounds(); !from.IsZero() && hour < from.Unix() {
		return r.fullHour(from.Unix() - 1) // it was another clock that showed that hour
	}
	return hour
}

func (r *Room) nextHour(t float64) float64 {
	whole := int64(math.Floor(t))
	local := time.Unix(whole, 0).In(r.zone)
	_, offset := local.Zone()
	next := whole + 3600 - mod(whole+int64(offset), 3600)
	if _, until := local.ZoneBounds(); !until.IsZero() && next >= until.Unix() {
		_, offset = until.In(r.zone).Zone()
		next = until.Unix() + mod(-until.Unix()-int64(offset), 3600)
	}
	return float64(next)
}

func mod(a, b int64) int64 { return ((a % b) + b) % b }

func seconds(t time.Time) float64 { return float64(t.UnixNano()) / 1e9 }

func weekOf(t float64) int64 {
	n := int64(t / WeekSeconds)
	if t < float64(n*WeekSeconds) {
		n--
	}
	return n
}

func nextWeek(t float64) float64 { return float64((weekOf(t) + 1) * WeekSeconds) }

// segment returns the segment that holds t and its week.
func (r *Room) segment(t float64) (*week, int) {
	w := r.week(weekOf(t))
	i := sort.Search(len(w.segments), func(i int) bool { return w.segments[i].Start > t }) - 1
	return w, max(i, 0)
}

// At is the air at a moment, and whether readings say so.
func (r *Room) At(t time.Time) (Air, bool) {
	w, i := r.segment(seconds(t))
	return w.segments[i].At(seconds(t)), w.segments[i].Read
}

// surfaceLag is how far a piece's surface trails the air. Rules §1.
const surfaceLag = 2 * 3600.0

// Surface is the temperature of a piece's surface: read where somebody read it,
// else the air of the two hours before, averaged.
func (r *Room) Surface(t time.Time) unit.Celsius { return r.surface(seconds(t)) }

func (r *Room) surface(t float64) unit.Celsius {
	w, i := r.segment(t)
	if s := w.segments[i]; s.surfaceA != nil {
		return *s.surfaceA + (*s.surfaceB-*s.surfaceA)*unit.Celsius((t-s.Start)/(s.End-s.Start))
	}
	return unit.Celsius(r.heat(t-surfaceLag, t) / surfaceLag)
}

// heat is the temperature summed up between two moments that lie in one week or
// in two that follow each other, in °C·s.
func (r *Room) heat(from, to float64) float64 {
	if weekOf(from) == weekOf(to) {
		return r.heatOfWeek(to) - r.heatOfWeek(from)
	}
	whole := r.week(weekOf(from)).heat
	return whole[len(whole)-1] - r.heatOfWeek(from) + r.heatOfWeek(to)
}

// heatOfWeek is the temperature summed up from the start of t's week to t.
func (r *Room) heatOfWeek(t float64) float64 {
	w, i := r.segment(t)
	s := w.segments[i]
	return w.heat[i] + (t-s.Start)*float64(s.A.Temperature+s.At(t).Temperature)/2
}

// Gaps reports whether any of the time between two moments rests on the profile
// although it is before now, so that a figure from it is a guess about the past.
func (r *Room) Gaps(from, to time.Time) bool {
	for n := weekOf(seconds(from)); n <= weekOf(seconds(to)); n++ {
		for _, s := range r.Week(n) {
			if !s.Read && s.End > seconds(from) && s.Start < seconds(to) {
				return true
			}
		}
	}
	return false
}
