package schedule_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

// keepsFrom reports whether an instrument that is alone in its shop keeps its promise
// when it is planned from a present on.
func keepsFrom(in schedule.Input, now time.Time) bool {
	in.Now = now
	return !Must(schedule.Retime(in)).Forecasts[0].Late()
}

// requireLast checks a latest start against planning forward from later minutes: all
// of the next ones, and then one in so many up to the promise.
func requireLast(t require.TestingT, in Asked, latest time.Time) {
	const each, every = 150, 97
	shop := in.Input()
	due := in.Instruments[0].Promise.AddDays(1).At(0, shop.Shop.Calendar.Zone())
	from := in.Now.Add(-time.Minute)
	if !latest.IsZero() {
		from = latest
		require.True(t, keepsFrom(in.Input(), latest), "started %s it keeps its promise", latest)
	}
	for k := 1; ; k++ {
		at := from.Add(time.Duration(k+max(0, k-each)*every) * time.Minute)
		if at.After(due) {
			return
		}
		require.False(t, keepsFrom(shop, at), "started %s it keeps it too, not only %s", at, latest)
	}
}

func TestALatestStartIsTheLastOne(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t)
		in.Instruments, in.Pins = in.Instruments[:1], nil
		in.Instruments[0].Promise = calendar.DayOf(in.Now).AddDays(rapid.IntRange(3, 25).Draw(t, "promise in days"))
		p := Must(schedule.Retime(in.Input()))
		if p.Forecasts[0].Finished {
			assert.True(t, p.LatestStart(0).IsZero())
			return
		}
		requireLast(t, in, p.LatestStart(0))
	})
}

// Where only one start in fifteen was tried, those after the one that keeps the promise are
// tried too; found by make test-long.
func TestTheLastOfTheMinutesThatWereNotTried(t *testing.T) {
	p := Plan(t, Asked{Now: At("2026-03-10 09:00"), Calendar: Always(),
		Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-03-12",
			PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))}})
	due, last := At("2026-03-13 00:00"), At("2026-03-12 23:00")
	early := last.Add(-10 * time.Minute)
	assert.Equal(t, last, p.LastOf(early, last.Add(5*time.Minute), due))
	assert.Equal(t, early, p.LastOf(early, early.Add(time.Minute), due), "nothing lies between")
}

func TestLatestStartsToTheMinute(t *testing.T) {
	clear := func(n int) schedule.Step { return Coats("water-clear", n) }
	evenings := Weekdays(calendar.Hours{Open: 18*60 + 10, Close: 21*60 + 40})
	glued := func() []schedule.Piece {
		body, neck := PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 75}}, clear(2)),
			PieceOf("neck", schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 45}}, clear(3))
		whole := PieceOf("whole", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 50,
			After: []uuid.UUID{body.Steps[1].ID, neck.Steps[1].ID}, Film: material.TouchDry,
			Terms: schedule.Terms{Glue: &schedule.Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240,
				FullMin: 1440}}}}, schedule.Step{Step: job.Step{Kind: schedule.Gate, Terms: schedule.Terms{Strings: true},
			Film: material.Handle}})
		return []schedule.Piece{body, neck, whole}
	}
	on := func(region string) schedule.Step {
		return schedule.Step{Material: Of("dewaxed-shellac"),
			Step: job.Step{Kind: schedule.Coat, Method: material.Spray, HandsOnMin: 30, SetUpMin: 5, Regions: []uuid.UUID{ID(region)}}}
	}
	for name, test := range map[string]struct {
		in     Asked
		pieces []schedule.Piece
		want   string
	}{
		"the hours of the one who is left to do it": {
			Asked{Calendar: Always(), People: 1, Own: []*calendar.Calendar{evenings}},
			[]schedule.Piece{PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}},
				schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}})}, "2026-03-26 19:40"},
		"a scuff of a window that closes": { // no evening holds both coats, and the window closes before the next
			Asked{Calendar: evenings, Margin: 1.25}, []schedule.Piece{PieceOf("body",
				schedule.Step{Material: Of("water-clear"), Step: job.Step{Kind: schedule.Coat, Coats: 2, HandsOnMin: 90, ScuffMin: 30}})},
			"2026-03-25 20:10"},
		"two pieces and one pair of hands": {
			Asked{}, []schedule.Piece{PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 120}}),
				PieceOf("neck", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 90}})}, "2026-03-26 14:30"},
		"two pieces and two people": {
			Asked{People: 2}, []schedule.Piece{PieceOf("body", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 120}}),
				PieceOf("neck", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 90}})}, "2026-03-26 16:00"},
		"a neck that is glued in": {Asked{Margin: 1.25}, glued(), "2026-03-24 12:00"},
		"a set-up that regions of a piece share": { // found by make test-long
			Asked{}, []schedule.Piece{PieceOf("body", on("top"), on("back"))}, "2026-03-26 17:05"},
		"a sitting of which only the coat wants warm air": { // found by make test-long
			Asked{Calendar: Always(), Places: warmBy(18, 14)},
			[]schedule.Piece{PieceOf("body", schedule.Step{Material: Of("nitro"),
				Step: job.Step{Kind: schedule.Coat, Method: material.Spray, HandsOnMin: 30}},
				schedule.Step{Step: job.Step{Kind: schedule.MaskOff, HandsOnMin: 300,
					// at 16:30 it is 16 °C, with 10 min to flash off
					Terms: schedule.Terms{Within: &schedule.Within{AfterMin: 2, BeforeMin: 12}}}})}, "2026-03-26 15:50"},
		"handwork over some evenings": {
			Asked{Calendar: evenings}, []schedule.Piece{PieceOf("body",
				schedule.Step{Step: job.Step{Kind: schedule.Level, HandsOnMin: 500}})}, "2026-03-24 20:20"},
	} {
		t.Run(name, func(t *testing.T) {
			test.in.Now = At("2026-03-10 09:00")
			test.in.Instruments = []schedule.Instrument{InstrumentOf("Curlew", "2026-03-26", test.pieces...)}
			latest := Plan(t, test.in).LatestStart(0)
			assert.Equal(t, test.want, latest.In(Berlin).Format("2006-01-02 15:04"))
			requireLast(t, test.in, latest)
		})
	}
}

// warmBy is one room that is cold at five in the morning and so warm at an hour.
func warmBy(temperature, hour int) []schedule.Place {
	var knots []climate.Knot
	for day := range 7 {
		knots = append(knots, climate.Knot{Hour: day*24 + 5, Air: climate.Air{Temperature: 6, Humidity: 40}},
			climate.Knot{Hour: day*24 + hour, Air: climate.Air{Temperature: unit.Celsius(temperature), Humidity: 50}})
	}
	return InRoom(Must(climate.NewRoom(Berlin, Must(climate.ProfileOf(knots, [12]climate.Shift{})), nil)))
}

// BenchmarkLatestStart is what the page of one instrument waits for.
func BenchmarkLatestStart(b *testing.B) {
	in := BenchmarkShop(20)
	for b.Loop() {
		p := Must(schedule.Retime(in))
		p.LatestStart(3)
	}
}
