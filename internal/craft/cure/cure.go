// Package cure says how long a film needs until something may be done to it.
//
// A milestone has a time at the reference climate of 20 °C and 50 % RH. A cure
// clock runs towards it, fast in warm air and slow in cold, and stands still
// where the film does not form. Rules §2.
package cure

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/working"
)

// Wait is one side of a window: how long the clock must run, or may run, after
// the end of a coat.
type Wait struct {
	Material  string // named as in a sentence
	Milestone material.Milestone
	Reference float64 // hours at the reference climate, before margin or experience
	Margin    float64 // the shop's caution, 1.0 or more
	Factor    float64 // what this shop has learned reality to be, against the sheet; 0: nothing yet
	Source    working.Source
	Never     bool // the milestone is never reached: it must not be done to this film
	Open      bool // of a latest side: there is none
	Drying    climate.Drying
}

// Earliest is the wait for a milestone of a material under a shop's margin.
// A limit that is unknown is read as full cure, the most cautious neighbour.
func Earliest(m material.Material, milestone material.Milestone, margin float64) Wait {
	limit, source := m.Limit(milestone)
	if limit == material.Unknown {
		limit, source = m.Limit(material.FullCure)
	}
	hours, isNumber := limit.Hours()
	return Wait{
		Material:  m.Name,
		Milestone: milestone,
		Reference: hours,
		Margin:    margin,
		Source:    source,
		Never:     !isNumber && limit != material.Any,
		Drying:    climate.DryingOf(m.Family, milestone),
	}
}

// Latest is the side of a window that closes at a milestone: the margin makes it
// close early. It is Open where there is no such side.
func Latest(m material.Material, milestone material.Milestone, margin float64) Wait {
	w := Earliest(m, milestone, margin)
	limit, _ := m.Limit(milestone)
	_, isNumber := limit.Hours()
	w.Open, w.Never = !isNumber, false
	if milestone == material.RecoatMax {
		w.Drying = climate.DryingOf(m.Family, material.Recoat)
	}
	return w
}

// Hours is how long the clock must run for the earliest side: the reference
// time stretched by the margin, or by what the shop has learned where that is more.
func (w Wait) Hours() float64 { return w.Reference * max(w.Margin, w.Factor) }

// HoursAtMost is how long the clock may run for the latest side.
func (w Wait) HoursAtMost() float64 { return w.Reference / w.Margin }

// Working shows how an earliest side came about, with how fast the clock ran on
// the whole between two moments and what that speed rests on.
func (w Wait) Working(from, to time.Time, speed working.Source) working.Working {
	inputs := []working.Input{
		{Name: w.Material + ", " + w.Milestone.Text(), Value: material.Hours(w.Reference).String(), Source: w.Source},
		{Name: "margin", Value: fmt.Sprintf("× %g", w.Margin), Source: working.Shop},
	}
	if w.Factor > w.Margin {
		inputs[1] = working.Input{Name: "learned from this shop's tests", Value: fmt.Sprintf("× %.2f", w.Factor), Source: working.Shop}
	}
	took := to.Sub(from)
	if took > 0 {
		inputs = append(inputs, working.Input{Name: "speed in this room, on the whole",
			Value: fmt.Sprintf("× %.2f", w.Hours()/took.Hours()), Source: speed})
	}
	return working.New("Wait until "+w.Milestone.Text(), "hours at "+climate.Reference.String()+" × the margin ÷ the room's speed",
		DurationText(took),
		inputs...)
}

// DurationText prints a wait as people say it: "50 min", "2 h 30 min", "17 days 12 h".
func DurationText(d time.Duration) string {
	minutes := int(d.Round(time.Minute) / time.Minute)
	days, hours, rest := minutes/1440, minutes/60%24, minutes%60
	if minutes < 72*60 {
		days, hours = 0, minutes/60
	}
	switch {
	case days > 0 && hours > 0:
		return fmt.Sprintf("%d days %d h", days, hours)
	case days > 0:
		return fmt.Sprintf("%d days", days)
	case hours > 0 && rest > 0:
		return fmt.Sprintf("%d h %d min", hours, rest)
	case hours > 0:
		return fmt.Sprintf("%d h", hours)
	default:
		return fmt.Sprintf("%d min", rest)
	}
}
