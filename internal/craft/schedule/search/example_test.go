package search

import (
	"fmt"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

func ExampleWhatIf() {
	in := Asked{Now: At("2026-03-10 10:00"), Instruments: One(Coats("water-clear", 3))}.Input()
	today := Must(schedule.Retime(in))
	in.Instruments = One(Coats("water-clear", 6)) // three coats more
	answer := Must(WhatIf(today, in, false))
	for _, d := range answer.Differences {
		fmt.Printf("%s: %s instead of %s\n", d.Name, d.After.Finish.Format("Mon 2 Jan"), d.Before.Finish.Format("Mon 2 Jan"))
	}
	// Output:
	// Curlew: Wed 11 Mar instead of Tue 10 Mar
}
