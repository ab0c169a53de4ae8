package schedule_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

// The limits of what a step and a shop may say: the last value that is taken, and the
// first one that is refused.
func TestLimitsOfAStep(t *testing.T) {
	gate := schedule.Step{Step: job.Step{Kind: schedule.Gate, Title: "odd"}}
	for name, limit := range map[string]struct {
		last, first func(*schedule.Step)
	}{
		"coats": {func(s *schedule.Step) { *s = Coats("water-clear", 50) }, func(s *schedule.Step) { *s = Coats("water-clear", 51) }},
		"a stretch of handwork": {
			func(s *schedule.Step) {
				*s = schedule.Step{Step: job.Step{Kind: schedule.Sand, Terms: schedule.Terms{Divide: &schedule.Divide{LeastMin: 5}}}}
			},
			func(s *schedule.Step) {
				*s = schedule.Step{Step: job.Step{Kind: schedule.Sand, Terms: schedule.Terms{Divide: &schedule.Divide{LeastMin: 4}}}}
			}},
		"rounds": {
			func(s *schedule.Step) { *s = Coats("water-filler", 4); s.Repeat = &schedule.Repeat{Least: 1, Most: 50} },
			func(s *schedule.Step) { *s = Coats("water-filler", 4); s.Repeat = &schedule.Repeat{Least: 1, Most: 51} }},
		"how late something on order comes": {
			func(s *schedule.Step) {
				s.Arrival = &schedule.Arrival{Expected: calendar.Day{Year: 2026, Month: 4, Date: 1}, SpreadDays: 366}
			},
			func(s *schedule.Step) {
				s.Arrival = &schedule.Arrival{Expected: calendar.Day{Year: 2026, Month: 4, Date: 1}, SpreadDays: 367}
			}},
		"coats a day": {
			func(s *schedule.Step) {
				*s = Coats("water-clear", 4)
				s.PerDay = &schedule.PerDay{Coats: 50, Reason: "on purpose"}
			},
			func(s *schedule.Step) {
				*s = Coats("water-clear", 4)
				s.PerDay = &schedule.PerDay{Coats: 51, Reason: "on purpose"}
			}},
		"a warm box": {
			func(s *schedule.Step) {
				*s = Coats("water-clear", 1)
				s.Box = &schedule.Box{Air: climate.Reference, Minutes: 14 * 24 * 60}
			},
			func(s *schedule.Step) {
				*s = Coats("water-clear", 1)
				s.Box = &schedule.Box{Air: climate.Reference, Minutes: 14*24*60 + 1}
			}},
		"full strength of a glue": {
			func(s *schedule.Step) { s.Glue = &schedule.Glue{ClampMin: 60, HandleMin: 120, FullMin: 60 * 24 * 60} },
			func(s *schedule.Step) { s.Glue = &schedule.Glue{ClampMin: 60, HandleMin: 120, FullMin: 60*24*60 + 1} }},
	} {
		step := gate
		limit.last(&step)
		assert.NoError(t, InstrumentOf("Curlew", "2026-06-01", PieceOf("body", step)).Validate(), name)
		step = gate
		limit.first(&step)
		assert.Error(t, InstrumentOf("Curlew", "2026-06-01", PieceOf("body", step)).Validate(), name)
	}
	follows := func(before int) error {
		return InstrumentOf("Curlew", "2026-06-01", PieceOf("body", Coats("shellac", 1),
			schedule.Step{Step: job.Step{Kind: schedule.Inspect,
				Terms: schedule.Terms{Within: &schedule.Within{AfterMin: 0, BeforeMin: MinutesOf(before)}}}})).Validate()
	}
	assert.NoError(t, follows(8*60))
	assert.Error(t, follows(8*60+1), "a sitting has an end")
}

func TestLimitsOfAShop(t *testing.T) {
	for margin, fits := range map[float64]bool{0.99: false, 1: true, 3: true, 3.01: false} {
		_, err := schedule.NewShop(schedule.Setting{Calendar: Always(), Margin: margin})
		assert.Equal(t, fits, err == nil, "a margin of %g", margin)
	}
	assert.Equal(t, 1.25, schedule.DefaultMargin, "rules §2")
}

func TestABoxEndsAndThePieceDriesOnWhereItHangs(t *testing.T) {
	// At 30 °C a two-pack goes twice as fast: six hours in the box are twelve of its
	// twenty-four, the other twelve it hangs at 20 °C.
	boxed := Coats("urethane-2k", 1)
	boxed.Box = &schedule.Box{Air: climate.Air{Temperature: 30, Humidity: 50}, Minutes: 6 * 60}
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(), Places: InRoom(Steady(20, 50)),
		Instruments: One(boxed, schedule.Step{Step: job.Step{Kind: schedule.Sand}})}
	assert.Equal(t, At("2026-03-11 03:30"), Nth(t, Plan(t, in), "body", 2).Start)
}

func TestHandworkIsSpreadFromAnHourUp(t *testing.T) {
	// Forty minutes are left of the day: an hour of sanding waits for one go, a minute more is spread.
	for minutes, start := range map[int]string{60: "2026-03-11 09:00", 61: "2026-03-10 17:20"} {
		in := Asked{Now: At("2026-03-10 17:20"), Instruments: One(schedule.Step{Step: job.Step{Kind: schedule.Sand,
			HandsOnMin: MinutesOf(minutes)}})}
		assert.Equal(t, At(start), Nth(t, Plan(t, in), "body", 1).Start, "%d min", minutes)
	}
}

func TestAWindowThatIsShorterThanItsOwnWaitSaysHowLongThatIs(t *testing.T) {
	// A scuff would ruin flake. At a margin of 3 its window of a day closes after 8 hours;
	// here it has been learned to take twenty times its half an hour.
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(), Margin: 3, Factors: map[string]float64{"flake-clear": 20},
		Instruments: One(Coats("flake-clear", 2))}
	why := Nth(t, Plan(t, in), "body", 2).Impossible
	assert.Contains(t, why, "within 8 h of")
	assert.Contains(t, why, "for 10 h: a smaller margin or a product with a longer window")
}
