package cure

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
	"umberfrost/internal/proptest"
)

func of(t *testing.T, family string) material.Material {
	f, err := material.FindFamily(family)
	require.NoError(t, err)
	return material.OfFamily(f)
}

func TestEarliestAndLatest(t *testing.T) {
	clear := of(t, "water-clear")
	assert.InDelta(t, 2.5, Earliest(clear, material.Recoat, 1.25).Hours(), 1e-9)
	assert.InDelta(t, 19.2, Latest(clear, material.RecoatMax, 1.25).HoursAtMost(), 1e-9, "the margin closes a window early")
	assert.True(t, Latest(of(t, "nitro"), material.RecoatMax, 1.25).Open, "a film that melts into itself has no latest side")
	assert.True(t, Earliest(of(t, "paste-wax"), material.Sand, 1.25).Never)
	learned := Earliest(clear, material.Recoat, 1.25)
	learned.Factor = 1.6
	assert.InDelta(t, 3.2, learned.Hours(), 1e-9, "what was learned counts where it is more than the margin")
}

func TestWorkingShowsTheSpeed(t *testing.T) {
	from := time.Date(2026, 3, 10, 9, 0, 0, 0, time.UTC)
	shown := Earliest(of(t, "water-clear"), material.Recoat, 1.25).Working(from, from.Add(5*time.Hour), working.Reading)
	assert.Equal(t, "5 h", shown.Result)
	assert.Equal(t, "× 0.50", shown.Inputs[2].Value)
	assert.True(t, shown.Estimate, "the reference time is the family's")
}

func TestDurationText(t *testing.T) {
	for want, d := range map[string]time.Duration{
		"50 min": 50 * time.Minute, "2 h": 2 * time.Hour, "2 h 30 min": 150 * time.Minute, "71 h": 71 * time.Hour,
		"17 days 12 h": 420 * time.Hour, "30 days": 720 * time.Hour,
	} {
		assert.Equal(t, want, DurationText(d))
	}
}

var newYork = func() *time.Location {
	zone, err := time.LoadLocation("America/New_York")
	if err != nil {
		panic(err)
	}
	return zone
}()

// around is a moment near which daylight saving begins in New York.
var around = float64(time.Date(2026, 3, 6, 9, 13, 20, 0, newYork).Unix())

func randomRoom(t *rapid.T) *climate.Room {
	var knots []climate.Knot
	for h := 0; h < climate.WeekHours; h += rapid.IntRange(1, 40).Draw(t, "step") {
		knots = append(knots, climate.Knot{Hour: h, Air: climate.Air{
			Temperature: unit.Celsius(rapid.IntRange(-2, 32).Draw(t, "°C")), Humidity: unit.Percent(rapid.IntRange(20, 100).Draw(t, "%"))}})
	}
	profile, err := climate.ProfileOf(knots, [12]climate.Shift{})
	require.NoError(t, err)
	var readings []climate.Reading
	when := time.Unix(int64(around), 0)
	for range rapid.IntRange(0, 30).Draw(t, "readings") {
		when = when.Add(time.Duration(rapid.IntRange(5, 260).Draw(t, "minutes")) * time.Minute)
		readings = append(readings, climate.Reading{At: when, Air: climate.Air{
			Temperature: unit.Celsius(rapid.IntRange(0, 30).Draw(t, "read °C")),
			Humidity:    unit.Percent(rapid.IntRange(20, 100).Draw(t, "read %"))}})
	}
	room, err := climate.NewRoom(newYork, profile, readings)
	require.NoError(t, err)
	return room
}

func randomDrying(t *rapid.T) climate.Drying {
	return climate.Drying{
		Kinetics: rapid.SampledFrom([]material.Kinetics{material.Evaporative, material.Waterborne, material.Oxidative,
			material.Reactive}).Draw(t, "kinetics"),
		Stage: rapid.SampledFrom([]climate.Stage{climate.Early, climate.Late}).Draw(t, "stage"),
		Stops: rapid.Bool().Draw(t, "stops"), Below: unit.Celsius(rapid.IntRange(2, 10).Draw(t, "below")),
	}
}

// stepped integrates a clock in steps of at most a quarter of a second, from the room's air, by the
// definition: the rate at the room's points, running linearly between them.
func stepped(room *climate.Room, d climate.Drying, start, hours float64) float64 {
	const step = 0.25
	sum, t := 0.0, start
	for n := int64(math.Floor(start / climate.WeekSeconds)); n < int64(math.Floor(start/climate.WeekSeconds))+6; n++ {
		for _, s := range room.Week(n) {
			whole := s.Whole // a week may cut it, which no rate knows of
			a, b := d.Raw(whole.A), d.Raw(whole.B)
			ta, tb := float64(whole.A.Temperature), float64(whole.B.Temperature)
			stops := whole.Start + (whole.End-whole.Start)*(float64(d.Below)-ta)/(tb-ta) // or starts; it is never where it does neither
			for t < s.End {
				end := min(t+step, s.End)
				if d.Stops && stops > t && stops < end {
					end = stops
				}
				middle := (t + end) / 2
				share := (middle - whole.Start) / (whole.End - whole.Start)
				least := 0.05
				if whole.A.Humidity >= 100 && whole.B.Humidity >= 100 {
					least = 0
				}
				rate := min(2.5, max(least, a+(b-a)*share))
				if d.Stops && s.At(middle).Temperature < d.Below {
					rate = 0
				}
				if sum += rate * (end - t) / 3600; sum >= hours {
					return end
				}
				t = end
			}
		}
	}
	return math.Inf(1)
}

func TestAClockIsExactToASecond(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		room, d := randomRoom(t), randomDrying(t)
		start := around + float64(rapid.IntRange(0, 300000).Draw(t, "start"))
		hours := rapid.Float64Range(0.2, 60).Draw(t, "hours")
		want := stepped(room, d, start, hours)
		got, reached := NewCurve(room, d).Reached(start, hours)
		if math.IsInf(want, 1) {
			assert.True(t, !reached || got > start+4*climate.WeekSeconds)
			return
		}
		assert.InDelta(t, want, got, 1, "within a second")
	})
}

func TestReachedElapsedAndBegunAgree(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		c := NewCurve(randomRoom(t), randomDrying(t))
		start := around + float64(rapid.IntRange(0, 900000).Draw(t, "start"))
		hours := rapid.Float64Range(0.01, 400).Draw(t, "hours")
		end, reached := c.Reached(start, hours)
		if !reached {
			return
		}
		assert.InDelta(t, hours, c.Elapsed(start, end), 1e-6)
		begun, found := c.Begun(end, hours)
		require.True(t, found)
		assert.InDelta(t, hours, c.Elapsed(begun, end), 1e-6)
		assert.True(t, begun >= start || c.Elapsed(begun, start) < 1e-6, "the latest start is not before a start that was enough")
	})
}

func TestNeverLaterInAWarmerRoom(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		var knots, warm []climate.Knot
		for h := 0; h < climate.WeekHours; h += rapid.IntRange(1, 40).Draw(t, "step") {
			k := climate.Knot{Hour: h, Air: climate.Air{Temperature: unit.Celsius(rapid.IntRange(-2, 32).Draw(t, "°C")),
				Humidity: unit.Percent(rapid.IntRange(20, 100).Draw(t, "%"))}}
			knots = append(knots, k)
			k.Temperature += unit.Celsius(rapid.IntRange(0, 8).Draw(t, "warmer"))
			warm = append(warm, k)
		}
		reached := func(knots []climate.Knot, d climate.Drying, hours float64) float64 {
			p, err := climate.ProfileOf(knots, [12]climate.Shift{})
			require.NoError(t, err)
			room, err := climate.NewRoom(newYork, p, nil)
			require.NoError(t, err)
			at, _ := NewCurve(room, d).Reached(around, hours)
			return at
		}
		d, hours := randomDrying(t), rapid.Float64Range(0.1, 500).Draw(t, "hours")
		assert.LessOrEqual(t, reached(warm, d, hours), reached(knots, d, hours)+1e-3)
	})
}

func TestTheReferenceRunsWithTheWallClock(t *testing.T) {
	var c *Curve
	at, _ := c.Reached(1000, 2)
	assert.Equal(t, 8200.0, at)
	steady, err := climate.NewRoom(newYork, climate.Constant(climate.Reference), nil)
	require.NoError(t, err)
	at, reached := NewCurve(steady, climate.Drying{Kinetics: material.Waterborne}).Reached(around, 720)
	assert.True(t, reached)
	assert.InDelta(t, around+720*3600, at, 0.01, "an hour that is skipped is no hour for a film")
}

func TestAStoppedClockNeverGetsThere(t *testing.T) {
	freezing, err := climate.NewRoom(newYork, climate.Constant(climate.Air{Temperature: 3, Humidity: 50}), nil)
	require.NoError(t, err)
	_, reached := NewCurve(freezing, climate.Drying{Kinetics: material.Waterborne, Stops: true, Below: 8}).Reached(around, 2)
	assert.False(t, reached)
}

func TestAClockFollowsThePiece(t *testing.T) {
	warm, err := climate.NewRoom(newYork, climate.Constant(climate.Air{Temperature: 30, Humidity: 50}), nil)
	require.NoError(t, err)
	box := NewCurve(warm, climate.Drying{Kinetics: material.Reactive}) // twice the speed
	c := Clock{Start: around, Legs: []Leg{{around, box}, {around + 3600, nil}}}
	at, reached := c.Reached(5)
	assert.True(t, reached)
	assert.InDelta(t, around+4*3600, at, 0.01, "two hours in the first, three at the reference")
	assert.InDelta(t, 5, c.Elapsed(at), 1e-9)
	at, _ = c.Reached(1)
	assert.InDelta(t, around+1800, at, 0.01)
}

func TestLearn(t *testing.T) {
	assert.Equal(t, Prior(), Learn(nil))
	pass := func(elapsed float64) Test { return Test{elapsed, 10, true} }
	fail := func(elapsed float64) Test { return Test{elapsed, 10, false} }
	slow := Learn([]Test{fail(12), fail(13), pass(16)})
	assert.InDelta(t, 1.42, slow.Median, 0.06)
	assert.Less(t, slow.Sigma, priorSigma)
	assert.Equal(t, "about 1.4", slow.String()[:9])
	assert.Contains(t, slow.String(), "from 3 tests")
	quick := Learn([]Test{pass(7), pass(7), pass(6)})
	assert.Less(t, quick.Median, 0.7)
	assert.Greater(t, Learn([]Test{fail(30)}).Median, 1.5, "far from what was thought, it still learns")
	assert.InDelta(t, 1, Learn([]Test{pass(40)}).Median, 0.02, "a pass long after says little")
}

func TestAPassNeverSlowsAndAFailNeverQuickens(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		var tests []Test
		for range rapid.IntRange(0, 6).Draw(t, "tests") {
			tests = append(tests, Test{rapid.Float64Range(3, 25).Draw(t, "elapsed"), 10, rapid.Bool().Draw(t, "passed")})
		}
		before := Learn(tests).Median
		elapsed := rapid.Float64Range(3, 25).Draw(t, "one more")
		assert.LessOrEqual(t, Learn(append(tests, Test{elapsed, 10, true})).Median, before+1e-9)
		assert.GreaterOrEqual(t, Learn(append(tests, Test{elapsed, 10, false})).Median, before-1e-9)
	})
}

func TestFitWeights(t *testing.T) {
	var weighs []WeighIn
	for _, h := range []float64{0, 6, 24, 48, 96} {
		weighs = append(weighs, WeighIn{h, 850 + 6*math.Exp(-0.03*h)})
	}
	fit, err := FitWeights(material.Waterborne, weighs)
	require.NoError(t, err)
	assert.InDelta(t, 850, fit.Rest, 0.01)
	assert.InDelta(t, 0.03, fit.Rate, 1e-4)
	assert.InDelta(t, math.Log(6*(1-math.Exp(-0.72))/0.17)/0.03, fit.DryAfter, 0.5, "0.02 % of 850 g")

	_, err = FitWeights(material.Oxidative, weighs)
	assert.ErrorIs(t, err, ErrKinetics)
	_, err = FitWeights(material.Waterborne, weighs[:3])
	assert.ErrorIs(t, err, ErrFewWeighs)
	_, err = FitWeights(material.Waterborne, []WeighIn{{0, 100}, {1, 101}, {2, 102}, {9, 103}})
	assert.ErrorIs(t, err, ErrNoLoss)
}

// A week ends at 00:00 UTC on a Thursday, in the middle of a local hour of Kolkata and
// between any two readings: that is no point at which a rate is evaluated.
func TestAWeekThatCutsAnHourChangesNoRate(t *testing.T) {
	kolkata, err := time.LoadLocation("Asia/Kolkata")
	require.NoError(t, err)
	turn := time.Date(2026, 3, 12, 0, 0, 0, 0, time.UTC) // 05:30 there
	readings := []climate.Reading{{At: turn.Add(-time.Hour), Air: climate.Air{Temperature: 10, Humidity: 50}},
		{At: turn.Add(time.Hour), Air: climate.Air{Temperature: 34, Humidity: 50}}}
	room, err := climate.NewRoom(kolkata, climate.Constant(climate.Reference), readings)
	require.NoError(t, err)
	curve := NewCurve(room, climate.Drying{Kinetics: material.Evaporative})
	from, to := float64(readings[0].At.Unix()), float64(readings[1].At.Unix())
	a, b := math.Exp2((10.0-20)/12), math.Exp2((34.0-20)/12)
	assert.InDelta(t, 2*(a+b)/2, curve.Elapsed(from, to), 1e-9, "two hours, from the rate at one reading straight to the rate at the other")
	assert.InDelta(t, (a+b)/2, curve.Rate(float64(turn.Unix())), 1e-9)
}

// Readings begin at 10:20 and end at 12:40: the profile's rate is evaluated there too,
// in its own air, and the readings' rate in theirs.
func TestReadingsThatBeginAndEndWithinAnHour(t *testing.T) {
	var knots []climate.Knot
	for h := range climate.WeekHours {
		// 20 °C at ten, 2 °C more every hour
		knots = append(knots, climate.Knot{Hour: h, Air: climate.Air{Temperature: unit.Celsius(8 + 2*(h%24-4)), Humidity: 50}})
	}
	profile, err := climate.ProfileOf(knots, [12]climate.Shift{})
	require.NoError(t, err)
	day := time.Date(2026, 3, 10, 0, 0, 0, 0, time.UTC)
	at := func(hour, minute int) time.Time { return day.Add(time.Duration(hour*60+minute) * time.Minute) }
	warm := climate.Air{Temperature: 32, Humidity: 50}
	room, err := climate.NewRoom(time.UTC, profile, []climate.Reading{{At: at(10, 20), Air: warm}, {At: at(12, 40), Air: warm}})
	require.NoError(t, err)
	curve := NewCurve(room, climate.Drying{Kinetics: material.Evaporative})
	rate := func(t float64) float64 { return math.Exp2((t - 20) / 12) }
	want := (rate(20)+rate(20+2.0/3))/2/3 + 2*140.0/60 + (rate(20+2*8.0/3)+rate(26))/2/3
	assert.InDelta(t, want, curve.Elapsed(float64(at(10, 0).Unix()), float64(at(13, 0).Unix())), 1e-9)
}

// A clock that ran only while it was warm and stands still for ever before and after.
func TestAClockThatStandsStillBeforeAndAfter(t *testing.T) {
	when := time.Date(2026, 3, 10, 9, 7, 0, 0, time.UTC)
	var readings []climate.Reading
	for k := range 8 {
		readings = append(readings, climate.Reading{At: when.Add(time.Duration(k*37) * time.Minute),
			Air: climate.Air{Temperature: 19 + unit.Celsius(k)/7, Humidity: 50}})
	}
	room, err := climate.NewRoom(time.UTC, climate.Constant(climate.Air{Temperature: 2, Humidity: 50}), readings)
	require.NoError(t, err)
	c := NewCurve(room, climate.Drying{Kinetics: material.Evaporative, Stops: true, Below: 8})
	from, to := float64(when.Unix())-1e6, float64(when.Unix())+1e6
	hours := c.Elapsed(from, to)
	for _, rounding := range []float64{0, 1e-12, -1e-12} {
		end, reached := c.Reached(from, hours+rounding)
		require.True(t, reached)
		assert.InDelta(t, float64(readings[7].At.Unix()), end, 1)
		begun, found := c.Begun(to, hours+rounding)
		require.True(t, found)
		assert.InDelta(t, float64(when.Unix()), begun, 1)
	}
}

func TestWorkedLearning(t *testing.T) {
	prior := Learn(nil)
	assert.Equal(t, Factor{1, 0.25, 0}, prior)
	// One pass at 1.0 and one fail at 0.8 of the sheet's time leave what lies between, and
	// little of what does not: the normal of σ 0.25 cut at ln 0.8 and 0, softened by 0.05.
	f := Learn([]Test{{Elapsed: 8, Reference: 10, Passed: false}, {Elapsed: 10, Reference: 10, Passed: true}})
	assert.InDelta(t, 0.9056, f.Median, 0.0005)
	assert.InDelta(t, 0.0782, f.Sigma, 0.0005)
	assert.Equal(t, 2, f.Observations)
	// A fail long after the sheet's time: half of a σ 0.25 prior is above 1, hardly any above 2.5.
	f = Learn([]Test{{Elapsed: 25, Reference: 10, Passed: false}})
	assert.InDelta(t, 2.6, f.Median, 0.1)
}

func TestWorkedDryByWeight(t *testing.T) {
	// 100 g of board, 10 g to lose at 5 % an hour: a day's loss is under 0.1 g once
	// 10·e^(−0.05t)·(1 − e^(−1.2)) = 0.1, which is at 85.0 h.
	weighs := func(rest float64) (list []WeighIn) {
		for _, h := range []float64{0, 6, 20, 40, 70} {
			list = append(list, WeighIn{h, rest + 10*math.Exp(-0.05*h)})
		}
		return list
	}
	w, err := FitWeights(material.Waterborne, weighs(100))
	require.NoError(t, err)
	assert.InDelta(t, math.Log(10*(1-math.Exp(-1.2))/0.1)/0.05, w.DryAfter, 0.01)
	w, err = FitWeights(material.Waterborne, weighs(2000)) // 0.02 % of 2 kg is 0.4 g
	require.NoError(t, err)
	assert.InDelta(t, math.Log(10*(1-math.Exp(-1.2))/0.4)/0.05, w.DryAfter, 0.01)
}

func TestAClockIsFollowedForThreeYears(t *testing.T) {
	room, err := climate.NewRoom(time.UTC, climate.Constant(climate.Air{Temperature: -23, Humidity: 50}), nil)
	require.NoError(t, err)
	c := NewCurve(room, climate.Drying{Kinetics: material.Reactive}) // at 0.0508 of its speed
	start := float64(time.Date(2026, 3, 5, 0, 0, 0, 0, time.UTC).Unix())
	at, reached := c.Reached(start, 1300)
	assert.True(t, reached)
	assert.InDelta(t, 1300/0.05077, (at-start)/3600, 50, "two years and eleven months")
	_, reached = c.Reached(start, 1400)
	assert.False(t, reached)
	var none *Curve
	begun, _ := none.Begun(start, 2)
	assert.Equal(t, start-7200, begun)
}
