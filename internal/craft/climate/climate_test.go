package climate

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

func TestWorkedValues(t *testing.T) {
	for name, test := range map[string]struct{ want, got, within float64 }{
		"dew point at 20 °C, 50 %":      {9.26, float64(Air{20, 50}.DewPoint()), 0.005},
		"dew point at 25 °C, 70 %":      {19.15, float64(Air{25, 70}.DewPoint()), 0.005},
		"VPD at 20 °C, 50 %":            {1.167, float64(Air{20, 50}.Deficit()), 0.0005},
		"early waterborne, 24 °C, 40 %": {1.532, Drying{Kinetics: material.Waterborne}.Rate(Air{24, 40}), 0.0005},
		"early waterborne, 16 °C, 70 %": {0.467, Drying{Kinetics: material.Waterborne}.Rate(Air{16, 70}), 0.0005},
		"evaporative, 14 °C":            {0.707, Drying{Kinetics: material.Evaporative}.Rate(Air{14, 50}), 0.0005},
		"reactive, 26 °C":               {1.516, Drying{Kinetics: material.Reactive}.Rate(Air{26, 50}), 0.0005},
	} {
		assert.InDelta(t, test.want, test.got, test.within, name)
	}
}

var kinetics = []material.Kinetics{material.Evaporative, material.Waterborne, material.Oxidative, material.Reactive, material.UV,
	material.Still}

func TestEveryRateIsOneAtTheReference(t *testing.T) {
	for _, k := range kinetics {
		for _, stage := range []Stage{Early, Late} {
			assert.InDelta(t, 1, Drying{Kinetics: k, Stage: stage}.Rate(Reference), 1e-12, k)
		}
	}
}

func TestLimitsOfTheRate(t *testing.T) {
	waterborne := Drying{Kinetics: material.Waterborne, Stops: true, Below: 8}
	assert.Zero(t, waterborne.Rate(Air{7.9, 50}), "the film does not form")
	assert.Equal(t, slowest, waterborne.Rate(Air{8, 99.9}))
	assert.Zero(t, waterborne.Rate(Air{20, 100}), "nothing dries in full humidity")
	late := Drying{Kinetics: material.Waterborne, Stage: Late}
	assert.Zero(t, late.Rate(Air{20, unit.Percent(math.Nextafter(100, 101))}), "nor where full is a rounding above 100")
	assert.Equal(t, fastest, waterborne.Rate(Air{45, 20}))
	assert.Equal(t, 0.5*Drying{Kinetics: material.Oxidative}.Rate(Air{20, 60}), Drying{Kinetics: material.Oxidative}.Rate(Air{20, 100}))
	assert.Positive(t, Drying{Kinetics: material.Evaporative}.Rate(Air{-10, 50}), "lacquer dries slowly in a cold night")
}

func TestARateNeverFallsWhenItGetsWarmer(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		d := Drying{Kinetics: rapid.SampledFrom(kinetics).Draw(t, "kinetics"),
			Stage: rapid.SampledFrom([]Stage{Early, Late}).Draw(t, "stage"),
			Stops: rapid.Bool().Draw(t, "stops"), Below: unit.Celsius(rapid.Float64Range(0, 12).Draw(t, "below"))}
		cold := Air{unit.Celsius(rapid.Float64Range(-10, 40).Draw(t, "°C")), unit.Percent(rapid.Float64Range(5, 100).Draw(t, "%"))}
		warmer := cold.Temperature + unit.Celsius(rapid.Float64Range(0, 15).Draw(t, "warmer"))
		same := Air{warmer, cold.Humidity}
		vapour := Saturation(cold.Temperature) * unit.Kilopascal(cold.Humidity)
		dried := Air{warmer, unit.Percent(vapour / Saturation(warmer))}
		assert.GreaterOrEqual(t, d.Rate(same), d.Rate(cold)-1e-12, "relative humidity held")
		assert.GreaterOrEqual(t, d.Rate(dried), d.Rate(cold)-1e-12, "absolute humidity held")
	})
}

var berlin = func() *time.Location {
	zone, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		panic(err)
	}
	return zone
}()

func at(text string) time.Time {
	t, err := time.ParseInLocation("2006-01-02 15:04", text, berlin)
	if err != nil {
		panic(err)
	}
	return t
}

// heated is a room at 10 °C at night and 20 °C from eight to six.
func heated(t testing.TB, readings ...Reading) *Room {
	var p Profile
	for h := range p.Week {
		p.Week[h] = Air{10, 60}
		if h%24 >= 8 && h%24 <= 18 {
			p.Week[h] = Air{20, 50}
		}
	}
	r, err := NewRoom(berlin, p, readings)
	require.NoError(t, err)
	return r
}

func TestTheProfileRunsLinearlyInLocalHours(t *testing.T) {
	r := heated(t)
	for when, want := range map[string]unit.Celsius{
		"2026-03-10 08:00": 20, "2026-03-10 07:30": 15, "2026-03-10 03:00": 10, "2026-07-10 08:00": 20, "2026-07-10 18:15": 17.5,
		"2026-03-29 01:59": 10, "2026-03-29 03:01": 10, "2026-10-25 08:00": 20,
	} {
		air, read := r.At(at(when))
		assert.InDelta(t, float64(want), float64(air.Temperature), 0.01, when)
		assert.False(t, read)
	}
}

func TestReadingsCountWhereTheyAreCloseEnough(t *testing.T) {
	r := heated(t,
		Reading{At: at("2026-03-10 09:00"), Air: Air{12, 70}}, Reading{At: at("2026-03-10 12:00"), Air: Air{15, 70}},
		Reading{At: at("2026-03-10 15:01"), Air: Air{30, 30}})
	for when, want := range map[string]struct {
		temperature unit.Celsius
		read        bool
	}{
		"2026-03-10 08:59": {20, false}, "2026-03-10 10:00": {13, true}, "2026-03-10 11:59": {15, true},
		"2026-03-10 12:01": {20, false}, "2026-03-10 15:30": {20, false},
	} {
		air, read := r.At(at(when))
		assert.InDelta(t, float64(want.temperature), float64(air.Temperature), 0.05, when)
		assert.Equal(t, want.read, read, when)
	}
	assert.False(t, r.Gaps(at("2026-03-10 09:30"), at("2026-03-10 11:30")))
	assert.True(t, r.Gaps(at("2026-03-10 09:30"), at("2026-03-10 13:00")), "after twelve nobody read anything")
}

func TestWeeksLeaveNoGaps(t *testing.T) {
	kathmandu, err := time.LoadLocation("Asia/Kathmandu") // 5 h 45 ahead
	require.NoError(t, err)
	proptest.Check(t, func(t *rapid.T) {
		var readings []Reading
		when := at("2026-03-20 00:00")
		for range rapid.IntRange(0, 40).Draw(t, "readings") {
			when = when.Add(time.Duration(rapid.IntRange(1, 400).Draw(t, "minutes")) * time.Minute)
			readings = append(readings, Reading{At: when, Air: Air{unit.Celsius(rapid.IntRange(-5, 30).Draw(t, "°C")), 50}})
		}
		zone := rapid.SampledFrom([]*time.Location{berlin, kathmandu, time.UTC}).Draw(t, "zone")
		r, err := NewRoom(zone, Constant(Air{18, 55}), readings)
		require.NoError(t, err)
		for n := weekOf(seconds(at("2026-03-12 00:00"))); n < weekOf(seconds(at("2026-04-12 00:00"))); n++ {
			last := float64(n * WeekSeconds)
			for _, s := range r.Week(n) {
				require.Equal(t, last, s.Start)
				require.Greater(t, s.End, s.Start)
				last = s.End
			}
			require.Equal(t, float64((n+1)*WeekSeconds), last)
		}
		for _, reading := range readings {
			air, read := r.At(reading.At)
			if read {
				require.InDelta(t, float64(reading.Temperature), float64(air.Temperature), 1e-6)
			}
		}
	})
}

func TestTheSurfaceTrailsTheAir(t *testing.T) {
	r := heated(t)
	assert.InDelta(t, 12.5, float64(r.Surface(at("2026-03-10 08:00"))), 0.01, "10 °C until seven, then rising to 20 °C")
	assert.InDelta(t, 20, float64(r.Surface(at("2026-03-10 12:00"))), 0.01)
	assert.InDelta(t, 15, float64(heated(t).Surface(at("2026-03-12 01:00"))), 6, "across the week's turn it is finite")
	cold := unit.Celsius(6)
	read := heated(t, Reading{At: at("2026-03-10 11:00"), Air: Air{20, 50}, Surface: &cold},
		Reading{At: at("2026-03-10 13:00"), Air: Air{20, 50}, Surface: &cold})
	assert.EqualValues(t, 6, read.Surface(at("2026-03-10 12:00")))
}

func limitsOf(t *testing.T, family string) Limits {
	f, err := material.FindFamily(family)
	require.NoError(t, err)
	return LimitsOf(material.OfFamily(f))
}

func TestJudge(t *testing.T) {
	for name, test := range map[string]struct {
		family  string
		air     Air
		surface unit.Celsius
		want    Verdict
		reason  string
	}{
		"good air":       {"water-clear", Air{20, 50}, 20, Go, "10.7 °C above the dew point"},
		"too cold":       {"water-clear", Air{12, 50}, 12, Wait, "colder than its 16 °C"},
		"too damp":       {"water-clear", Air{20, 90}, 20, Wait, "damper than its"},
		"cold body":      {"water-clear", Air{20, 60}, 14, Wait, "the surface, at 14 °C, is less than 3 °C above"},
		"blush":          {"nitro", Air{20, 62}, 20, Wait, "will blush"},
		"blush likely":   {"nitro", Air{20, 55}, 20, Care, "blush is likely"},
		"no blush gap":   {"water-clear", Air{20, 62}, 20, Go, "above the dew point"},
		"lacquer in dry": {"nitro", Air{22, 40}, 22, Go, "above the dew point"},
	} {
		t.Run(name, func(t *testing.T) {
			fit := limitsOf(t, test.family).Judge(test.air, test.surface)
			assert.Equal(t, test.want.Text(), fit.Verdict.Text(), fit.Reason)
			assert.Contains(t, unit.Unmarked(fit.Reason), test.reason)
		})
	}
}

func TestNextFitWaitsForTheHeating(t *testing.T) {
	r := heated(t)
	next, found := r.NextFit(limitsOf(t, "water-clear"), at("2026-03-10 02:00"), 40*time.Minute, 48*time.Hour)
	require.True(t, found)
	assert.Equal(t, at("2026-03-10 07:40"), next.In(berlin), "16 °C is reached at 07:36")
	late, found := r.NextFit(limitsOf(t, "water-clear"), at("2026-03-10 18:00"), 40*time.Minute, 48*time.Hour)
	require.True(t, found)
	assert.Equal(t, "2026-03-11", late.In(berlin).Format(time.DateOnly), "too little warmth is left for coat and flash")
	_, found = r.NextFit(limitsOf(t, "water-clear"), at("2026-03-10 18:00"), 11*time.Hour, 200*time.Hour)
	assert.False(t, found)
}

func TestFitSpansAgreeWithJudge(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		var knots []Knot
		for h := 0; h < WeekHours; h += rapid.IntRange(2, 30).Draw(t, "step") {
			knots = append(knots, Knot{h, Air{unit.Celsius(rapid.IntRange(5, 28).Draw(t, "°C")),
				unit.Percent(rapid.IntRange(30, 95).Draw(t, "%"))}})
		}
		p, err := ProfileOf(knots, [12]Shift{})
		require.NoError(t, err)
		r, err := NewRoom(berlin, p, nil)
		require.NoError(t, err)
		f, _ := material.FindFamily(rapid.SampledFrom([]string{"nitro", "water-clear", "urethane-2k"}).Draw(t, "family"))
		limits := LimitsOf(material.OfFamily(f))
		n := weekOf(seconds(at("2026-03-10 00:00")))
		for _, span := range r.FitSpans(limits, n) {
			for share := 0.05; share < 1; share += 0.1 {
				moment := span.Start + (span.End-span.Start)*share
				air, _ := r.At(time.Unix(int64(moment), 0))
				require.NotEqual(t, Wait, limits.Judge(air, r.surface(float64(int64(moment)))).Verdict, "%v", air)
			}
		}
	})
}

func TestFirstMonth(t *testing.T) {
	var months [12]Shift
	for m, warmer := range []unit.Celsius{-8, -7, -4, 0, 4, 8, 9, 9, 5, 1, -4, -7} {
		months[m].Temperature = warmer
	}
	p, err := ProfileOf([]Knot{{0, Air{14, 55}}, {14, Air{17, 50}}, {24, Air{14, 55}}}, months)
	require.NoError(t, err)
	shed, err := NewRoom(berlin, p, nil)
	require.NoError(t, err)
	month, found := shed.FirstMonth(limitsOf(t, "water-clear"), at("2026-11-20 10:00"), time.Hour, 8, 20)
	require.True(t, found)
	assert.Equal(t, time.April, month.Month(), "not before April here")
	_, found = shed.FirstMonth(Limits{TemperatureMin: 45, TemperatureMax: 50, HumidityMax: 90}, at("2026-11-20 10:00"), time.Hour, 8, 20)
	assert.False(t, found)
}

func TestWhatIsRefused(t *testing.T) {
	_, err := NewRoom(berlin, Constant(Reference), []Reading{{At: at("2026-03-10 02:00"), Air: Air{200, 50}}})
	assert.ErrorContains(t, err, "from −30 to 60 °C")
	for want, knots := range map[string][]Knot{
		"at least one hour":  nil,
		"each once":          {{5, Reference}, {5, Reference}},
		"from 0 (Sunday":     {{168, Reference}},
		"a humidity is from": {{0, Air{20, 0}}},
	} {
		_, err := ProfileOf(knots, [12]Shift{})
		assert.ErrorContains(t, err, want)
	}
}

func TestWarmedAirKeepsItsWater(t *testing.T) {
	cold := Air{Temperature: 14, Humidity: 60}
	warm := cold.Warmed(6)
	assert.EqualValues(t, 20, warm.Temperature)
	assert.InDelta(t, 41.0, float64(warm.Humidity), 0.3, "the dew point is the same, so the relative humidity falls")
	assert.InDelta(t, float64(cold.DewPoint()), float64(warm.DewPoint()), 0.01)
	assert.EqualValues(t, 100, Air{Temperature: 20, Humidity: 80}.Warmed(-10).Humidity, "and cold air cannot hold it all")
	back := warm.Warmed(-6)
	assert.InDelta(t, float64(cold.Humidity), float64(back.Humidity), 0.01)
}
