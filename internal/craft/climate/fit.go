package climate

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Verdict says whether a coat may be put on in some air.
type Verdict uint8

const (
	Go   Verdict = iota
	Care         // go with care
	Wait
)

// Text names the verdict.
func (v Verdict) Text() string { return [...]string{"go", "go with care", "wait"}[v] }

// The gaps that keep water off a fresh coat. Rules §1.
const (
	leastAboveDew unit.Degrees = 3
	leastBlushGap unit.Degrees = 2
)

// Limits are what a product asks of the air it is put on in.
type Limits struct {
	Name           string // of the product, as in a sentence
	TemperatureMin unit.Celsius
	TemperatureMax unit.Celsius
	HumidityMax    unit.Percent
	Blushes        bool         // an evaporative film, which can turn white
	Cooling        unit.Celsius // of its wet film below the air
}

// LimitsOf is what a material asks of the air.
func LimitsOf(m material.Material) Limits {
	f := m.Family
	return Limits{m.Name, f.TempMin, f.TempMax, f.HumidityMost, f.Kinetics == material.Evaporative && f.Cooling > 0, f.Cooling}
}

// Fit is a verdict with what it rests on.
type Fit struct {
	Verdict  Verdict
	Reason   string // a clause: "62 % is damper than its 55 %"
	Air      Air
	Surface  unit.Celsius
	Dew      unit.Celsius
	BlushGap unit.Degrees // of a film that blushes
}

// gap is how much room one demand leaves: negative when it is not met.
type gap struct {
	left   float64
	reason func() string
}

// gaps are the demands a coat makes of the air, the plainest first.
func (l Limits) gaps(a Air, surface unit.Celsius) [5]gap {
	dew := a.DewPoint()
	list := [5]gap{
		{float64(a.Temperature - l.TemperatureMin), func() string {
			return fmt.Sprintf("%s is colder than its %s", a.Temperature.String(), l.TemperatureMin.String())
		}},
		{float64(l.TemperatureMax - a.Temperature), func() string {
			return fmt.Sprintf("%s is warmer than its %s", a.Temperature.String(), l.TemperatureMax.String())
		}},
		{float64(l.HumidityMax - a.Humidity), func() string {
			return fmt.Sprintf("%s is damper than its %s", a.Humidity.String(), l.HumidityMax.String())
		}},
		{float64(surface-dew) - float64(leastAboveDew), func() string {
			return fmt.Sprintf("the surface, at %s, is less than %s above the dew point of %s", surface.String(),
				leastAboveDew.String(), dew.String())
		}},
		{100, nil},
	}
	if l.Blushes {
		list[4] = gap{float64(a.Temperature - l.Cooling - dew), func() string {
			return fmt.Sprintf("the wet film cools to %s, at or below the dew point of %s, and will blush",
				(a.Temperature - l.Cooling).String(), dew.String())
		}}
	}
	return list
}

// Judge says whether a coat may go on in this air, on a surface of this
// temperature, and why not. Rules §1.
func (l Limits) Judge(a Air, surface unit.Celsius) Fit {
	f := Fit{Air: a, Surface: surface, Dew: a.DewPoint(), BlushGap: unit.Degrees(a.Temperature - l.Cooling - a.DewPoint())}
	for _, g := range l.gaps(a, surface) {
		if g.left < 0 {
			f.Verdict, f.Reason = Wait, g.reason()
			return f
		}
	}
	if l.Blushes && f.BlushGap < leastBlushGap {
		f.Verdict, f.Reason = Care, fmt.Sprintf("blush is likely: the wet film cools to within %s of the dew point",
			f.BlushGap.String())
		return f
	}
	f.Reason = fmt.Sprintf("%s, surface %s above the dew point", a.String(), unit.Degrees(surface-f.Dew).String())
	return f
}

// Span is a stretch of time in Unix seconds.
type Span struct{ Start, End float64 }

// grid is how finely the air is judged where it is near a limit, and wellClear how
// far from every limit it must be at both ends of a stretch not to look closer.
const (
	grid      = 300.0
	wellClear = 1.5
)

// FitSpans are the stretches of week n in which the air of a room is fit for a
// coat, to five minutes, each rounded inward.
func (r *Room) FitSpans(l Limits, n int64) []Span {
	var spans []Span
	add := func(from, to float64) {
		if last := len(spans) - 1; last >= 0 && spans[last].End == from {
			spans[last].End = to
			return
		}
		spans = append(spans, Span{from, to})
	}
	for _, s := range r.Week(n) {
		a, b := l.gaps(s.A, r.surface(s.Start)), l.gaps(s.B, r.surface(s.End))
		switch whole(a, b) {
		case fits:
			add(s.Start, s.End)
			continue
		case fails:
			continue
		}
		for t := s.Start; t < s.End; t += grid {
			end := min(t+grid, s.End)
			if l.fitAt(s.At(t), r.surface(t)) && l.fitAt(s.At(end), r.surface(end)) {
				add(t, end)
			}
		}
	}
	return spans
}

func (l Limits) fitAt(a Air, surface unit.Celsius) bool {
	for _, g := range l.gaps(a, surface) {
		if g.left < 0 {
			return false
		}
	}
	return true
}

type outcome uint8

const (
	unclear outcome = iota
	fits
	fails
)

// whole judges a stretch by its ends where they are far from every limit.
func whole(a, b [5]gap) outcome {
	all := fits
	for i := range a {
		if a[i].left < -wellClear && b[i].left < -wellClear {
			return fails
		}
		if a[i].left < wellClear || b[i].left < wellClear {
			all = unclear
		}
	}
	return all
}

// NextFit is the first moment at or after t from which the air stays fit for
// so long; false when there is none within the given time.
func (r *Room) NextFit(l Limits, t time.Time, long, within time.Duration) (time.Time, bool) {
	from, limit := seconds(t), seconds(t.Add(within))
	var run Span
	for n := weekOf(from); float64(n*WeekSeconds) < limit; n++ {
		for _, s := range r.FitSpans(l, n) {
			if s.Start > run.End {
				run.Start = max(s.Start, from)
			}
			if run.End = s.End; run.Start < from {
				run.Start = from
			}
			if run.End-run.Start >= long.Seconds() && run.Start <= limit {
				return time.Unix(0, int64(run.Start*1e9)).In(t.Location()), true
			}
		}
	}
	return time.Time{}, false
}

// FirstMonth answers "when could this be done here at all": the first month, from
// the one of t on and within a year, on some day of which the air is fit for so
// long between two local hours. False when there is none.
func (r *Room) FirstMonth(l Limits, t time.Time, long time.Duration, openHour, closeHour int) (time.Time, bool) {
	local := t.In(r.zone)
	for m := range 13 {
		first := time.Date(local.Year(), local.Month()+time.Month(m), 1, 0, 0, 0, 0, r.zone)
		for day := first; day.Month() == first.Month(); day = day.AddDate(0, 0, 1) {
			from := time.Date(day.Year(), day.Month(), day.Day(), openHour, 0, 0, 0, r.zone)
			to := time.Date(day.Year(), day.Month(), day.Day(), closeHour, 0, 0, 0, r.zone)
			if from.Before(t) {
				from = t
			}
			if spare := to.Sub(from) - long; spare >= 0 {
				if at, found := r.NextFit(l, from, long, spare); found && !at.After(from.Add(spare)) {
					return first, true
				}
			}
		}
	}
	return time.Time{}, false
}
