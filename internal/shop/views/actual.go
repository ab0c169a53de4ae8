package views

import (
	"fmt"
	"strconv"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/snapshot"
)

// actualText says what was true of an entry, line by line.
func actualText(m *snapshot.Snapshot, a *job.Actual) []string {
	if a.None() {
		return nil
	}
	var list []string
	say := func(format string, args ...any) { list = append(list, fmt.Sprintf(format, args...)) }
	if a.TestedBy != "" {
		say("by %s", a.TestedBy)
	}
	if a.Product != nil {
		say("with %s", m.ProductName(*a.Product))
	}
	if a.Lot != "" {
		say("lot %s", a.Lot)
	}
	if a.ThinPct != nil {
		say("thinned %s", unit.Percent(*a.ThinPct).String())
	}
	if a.Passes > 0 {
		say("%s", passes(a.Passes))
	}
	if a.WetUm != nil {
		say("%s wet", a.WetUm.String())
	}
	if a.Place != nil {
		say("at %s", m.PlaceName(*a.Place))
	}
	if a.AirC != nil {
		say("air %s", unit.Celsius(*a.AirC).String())
	}
	if a.AirPct != nil {
		say("%s humidity", unit.Percent(*a.AirPct).String())
	}
	if len(a.With) > 0 {
		names := make([]string, len(a.With))
		for i, id := range a.With {
			names[i] = m.PersonName(id)
		}
		say("together with %s", phrase.List(names))
	}
	return list
}

func passes(n int) string {
	if n == 1 {
		return "1 pass"
	}
	return strconv.Itoa(n) + " passes"
}
