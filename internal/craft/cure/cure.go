// Package cure says how long a film needs until something may be done to it.
//
// Waits here are at the reference climate of 20 °C and 50 % RH, where a cure
// clock runs at the speed of the wall clock. Rules §2.
package cure

import (
	"fmt"
	"math"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/working"
)

// Wait is the earliest side of a window: how long after the end of a coat a
// milestone counts as reached.
type Wait struct {
	Material  string // named as in a sentence
	Milestone material.Milestone
	Hours     float64 // at the reference climate, before the margin
	Margin    float64 // the shop's caution, 1.0 or more
	Source    working.Source
	Never     bool // the milestone is never reached: it must not be done to this film
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
		Hours:     hours,
		Margin:    margin,
		Source:    source,
		Never:     !isNumber && limit != material.Any,
	}
}

// Duration is the wait in whole minutes, rounded up.
func (w Wait) Duration() time.Duration {
	return time.Duration(math.Ceil(w.Hours*w.Margin*60-1e-6)) * time.Minute
}

// Working shows how the wait came about.
func (w Wait) Working() working.Working {
	return working.New(
		"Wait until "+w.Milestone.Text(),
		"hours at 20 °C and 50 % × the shop's margin",
		DurationText(w.Duration()),
		working.Input{Name: w.Material + ", " + w.Milestone.Text(), Value: material.Hours(w.Hours).Text(), Source: w.Source},
		working.Input{Name: "margin", Value: fmt.Sprintf("× %g", w.Margin), Source: working.Shop},
	)
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
