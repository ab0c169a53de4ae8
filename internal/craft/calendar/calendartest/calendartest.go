// Package calendartest has the hours and the zone that tests of several packages share.
package calendartest

import (
	"time"

	"umberfrost/internal/craft/calendar"
)

// Berlin is a zone with daylight saving.
var Berlin = Must(time.LoadLocation("Europe/Berlin"))

func Must[T any](value T, err error) T {
	if err != nil {
		panic(err)
	}
	return value
}

// At reads a local time in Berlin.
func At(text string) time.Time {
	return Must(time.ParseInLocation("2006-01-02 15:04", text, Berlin))
}

// NineToSix is a shop that is open from 9 to 18 on weekdays.
func NineToSix() *calendar.Calendar { return Weekdays(calendar.Hours{Open: 9 * 60, Close: 18 * 60}) }

func Weekdays(hours ...calendar.Hours) *calendar.Calendar { return WeekdaysIn(Berlin, hours...) }

func WeekdaysIn(zone *time.Location, hours ...calendar.Hours) *calendar.Calendar {
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = hours
	}
	return Must(calendar.New(zone, week, nil))
}

func Always() *calendar.Calendar { return AlwaysIn(Berlin) }

func AlwaysIn(zone *time.Location) *calendar.Calendar {
	var week [7][]calendar.Hours
	for day := range week {
		week[day] = []calendar.Hours{{Open: 0, Close: 24 * 60}}
	}
	return Must(calendar.New(zone, week, nil))
}

// Lunch is a shop open from nine to twelve and from one to five on weekdays.
func Lunch() *calendar.Calendar {
	return Weekdays(calendar.Hours{Open: 9 * 60, Close: 12 * 60}, calendar.Hours{Open: 13 * 60, Close: 17 * 60})
}
