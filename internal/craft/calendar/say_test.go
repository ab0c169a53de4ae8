package calendar

import (
	"testing"

	"umberfrost/internal/craft/unit"

	"github.com/stretchr/testify/assert"
)

func TestSay(t *testing.T) {
	now := at("2026-03-12 16:20")
	for want, when := range map[string]string{
		"now":             "2026-03-12 16:20",
		"in 50 min":       "2026-03-12 17:10",
		"at 17:40":        "2026-03-12 17:40",
		"tonight 21:30":   "2026-03-12 21:30",
		"tomorrow 09:00":  "2026-03-13 09:00",
		"Sat 10:00":       "2026-03-14 10:00",
		"Thu 14 May":      "2026-05-14 10:00",
		"14 Jan 2027":     "2027-01-14 10:00",
		"25 min ago":      "2026-03-12 15:55",
		"at 09:00":        "2026-03-12 09:00",
		"yesterday 16:10": "2026-03-11 16:10",
		"Mon 9 Mar":       "2026-03-09 10:00",
	} {
		assert.Equal(t, want, unit.Unmarked(Say(at(when), now, berlin)))
	}
}

func TestClock(t *testing.T) {
	now := at("2026-03-12 16:20")
	assert.Equal(t, "19:40", unit.Unmarked(Clock(at("2026-03-12 19:40"), now, berlin)))
	assert.Equal(t, "Fri 13 Mar 09:00", unit.Unmarked(Clock(at("2026-03-13 09:00"), now, berlin)))
}

func TestSayTurnsWhereAWeekAndAnEveningDo(t *testing.T) {
	now := at("2026-03-10 12:00") // a Tuesday
	for when, said := range map[string]string{"2026-03-16 09:00": "Mon 09:00", "2026-03-17 09:00": "Tue 17 Mar",
		"2026-03-10 18:00": "tonight 18:00", "2026-03-10 17:59": "at 17:59"} {
		assert.Equal(t, said, unit.Unmarked(Say(at(when), now, berlin)))
	}
	assert.Equal(t, 1, DaysBetween(Day{Year: 2026, Month: 3, Date: 28}, Day{Year: 2026, Month: 3, Date: 29}),
		"the day before the clocks go on")
}
