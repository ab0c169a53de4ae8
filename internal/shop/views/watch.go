package views

import (
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/snapshot"
)

const (
	// Gathering is how long changes may take to come together: they are thought about once.
	Gathering = 800 * time.Millisecond
	Patience  = 8 * time.Second  // … but not put off for longer
	Rethink   = 30 * time.Minute // time goes by even if nothing changes
	RetryMost = 5 * time.Second
	WarmMost  = 10 * time.Second
	Seed      = 1

	DefaultDraws = 200 // for the chance of a promise
)

// chanceOf is the chance of an instrument as it was worked out last; nil before.
func chanceOf(m *snapshot.Snapshot, i int) *ChanceView {
	c, known := m.Chances[m.Workshop.Instruments[i].ID]
	if f := m.Plan.Forecasts[i]; !known || c.Draws == 0 || f.Finished || f.Impossible != "" {
		return nil
	}
	ninth := "no day that can be named"
	if !c.NineInTen.IsZero() {
		ninth = snapshot.DayOf(calendar.DayOf(c.NineInTen.In(m.Plan.Zone))).Said
	}
	return &ChanceView{Percent: percent(c.Kept), NineInTen: ninth, Working: c.Working(m.Workshop.Instruments[i].Promise, ninth)}
}

// percent rounds a chance; only what never failed in all draws is called certain.
func percent(p unit.Percent) int {
	switch n := int(p + 0.5); {
	case n >= 100 && p < 100:
		return 99
	case n <= 0 && p > 0:
		return 1
	default:
		return n
	}
}
