package calendar_test

import (
	"fmt"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/unit"
)

// A day, and the hours of one.
func Example() {
	day, err := calendar.ParseDay("2026-03-28")
	fmt.Println(day.AddDays(1), day.Weekday(), err)
	hours, err := calendar.ParseHours("9-12:30, 13:30-18")
	fmt.Println(unit.Unmarked(calendar.HoursText(hours)), err)
	// Output:
	// 2026-03-29 Saturday <nil>
	// 09:00–12:30, 13:30–18:00 <nil>
}
