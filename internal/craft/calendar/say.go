package calendar

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/unit"
)

// Say prints an instant as people say it, seen from now: "now" within a minute, "in 50 min",
// "at 14:20", "tonight 19:40", "tomorrow 09:00", "Sat 10:00", "Thu 14 May", and
// for the past "25 min ago", "yesterday 16:10", "Mon 9 Mar".
func Say(t, now time.Time, zone *time.Location) string {
	local, here := t.In(zone), now.In(zone)
	days := DaysBetween(DayOf(here), DayOf(local))
	ahead := local.Sub(here)
	clock := unit.DateText(local, "15:04")
	switch {
	case ahead > -time.Minute && ahead < time.Minute:
		return "now"
	case ahead > 0 && ahead < time.Hour:
		return fmt.Sprintf("in %d min", int(ahead.Minutes()))
	case ahead < 0 && ahead > -time.Hour:
		return fmt.Sprintf("%d min ago", int(-ahead.Minutes()))
	case days == 0 && local.Hour() >= 18 && ahead > 0:
		return "tonight " + clock
	case days == 0:
		return "at " + clock
	case days == 1:
		return "tomorrow " + clock
	case days == -1:
		return "yesterday " + clock
	case days > 1 && days < 7:
		return unit.DateText(local, "Mon 15:04")
	case local.Year() != here.Year():
		return unit.DateText(local, "2 Jan 2006")
	default:
		return unit.DateText(local, "Mon 2 Jan")
	}
}

// Clock prints an instant as a day and a time, seen from now: "19:40" today, else "Fri 13 Mar 09:00".
func Clock(t, now time.Time, zone *time.Location) string {
	local := t.In(zone)
	if DayOf(local) == DayOf(now.In(zone)) {
		return unit.DateText(local, "15:04")
	}
	return unit.DateText(local, "Mon 2 Jan 15:04")
}

// Later is the later of two moments.
func Later(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}

// Earlier is the earlier of two moments.
func Earlier(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}
