package climate

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Every rate of rules §1, early and late, worked by hand.
func TestWorkedRates(t *testing.T) {
	for _, test := range []struct {
		kinetics    material.Kinetics
		air         Air
		early, late float64
	}{
		{material.Evaporative, Air{14, 50}, 0.7071, 0.7071},   // 2^(−6/12)
		{material.Waterborne, Air{24, 40}, 1.5315, 1.2599},    // deficit 1.787/1.167; 2^(4/12), dry air helps no more
		{material.Waterborne, Air{16, 70}, 0.4666, 0.5422},    // late 2^(−4/12) · √0.4666
		{material.Oxidative, Air{25, 60}, 1.4142, 1.4142},     // 2^(5/10), damp counts from 60 %
		{material.Oxidative, Air{20, 80}, 0.75, 0.75},         // half way from 1 to 0.5
		{material.Oxidative, Air{20, 100}, 0.5, 0.5},          // all of it
		{material.Reactive, Air{26, 50}, 1.5157, 1.5157},      // 2^(6/10)
		{material.UV, Air{5, 90}, 1, 1},                       // the lamp decides
		{material.Still, Air{5, 90}, 1, 1},                    //
		{material.Evaporative, Air{36, 50}, 2.5, 2.5},         // 2^(16/12) = 2.52, at most 2.5
		{material.Evaporative, Air{35.8, 50}, 2.4909, 2.4909}, // just below
		{material.Reactive, Air{-23, 50}, 0.0508, 0.0508},     // 2^(−43/10), just above the least
		{material.Reactive, Air{-24, 50}, 0.05, 0.05},         // 0.0474, at least 0.05
		{material.Waterborne, Air{20, 98}, 0.05, 0.2},         // 0.04, at least 0.05
		{material.Waterborne, Air{20, 100}, 0, 0},             // no film forms at all
		{material.Waterborne, Air{20, 99.9999}, 0.05, 0.05},   // below that there is the least
	} {
		for stage, want := range map[Stage]float64{Early: test.early, Late: test.late} {
			got := Drying{Kinetics: test.kinetics, Stage: stage}.Rate(test.air)
			assert.InDelta(t, want, got, 0.00006, "%s, stage %d, %v", test.kinetics, stage, test.air)
		}
	}
}

func TestDampAirHasNoLeastRateOnlyWhereItIsFullAllAlong(t *testing.T) {
	d := Drying{Kinetics: material.Waterborne}
	for _, test := range []struct{ a, b, least float64 }{{100, 100, 0}, {100, 99, 0.05}, {99, 100, 0.05}, {50, 50, 0.05}} {
		least, most := d.Bounds(Segment{A: Air{20, unit.Percent(test.a)}, B: Air{20, unit.Percent(test.b)}})
		assert.Equal(t, test.least, least, "%v", test)
		assert.Equal(t, 2.5, most)
	}
}

func TestAMonthShiftsTheUsualAir(t *testing.T) {
	p := Constant(Air{18, 70})
	p.Months[0], p.Months[6] = Shift{-4, 40}, Shift{5, -75}
	r, err := NewRoom(berlin, p, nil)
	require.NoError(t, err)
	january, _ := r.At(at("2026-01-14 12:00"))
	july, _ := r.At(at("2026-07-14 12:00"))
	assert.Equal(t, Air{14, 100}, january, "no air is damper than full")
	assert.Equal(t, Air{23, 1}, july, "and none is drier than 1 %%")
	assert.Equal(t, unit.Celsius(23), r.Warmest())
}

func TestTheGapsThatKeepWaterOff(t *testing.T) {
	l := Limits{Name: "a lacquer", TemperatureMin: 10, TemperatureMax: 30, HumidityMax: 90, Blushes: true, Cooling: 6}
	dew := Air{20, 50}.DewPoint() // 9.26
	assert.Equal(t, Go, l.Judge(Air{20, 50}, dew+3.01).Verdict)
	assert.Equal(t, Wait, l.Judge(Air{20, 50}, dew+2.99).Verdict, "the surface must be 3 °C above the dew point")
	for gap, want := range map[float64]Verdict{2.05: Go, 1.95: Care, 0.05: Care, -0.05: Wait} {
		air := Air{20, 60}
		l.Cooling = air.Temperature - air.DewPoint() - unit.Celsius(gap)
		assert.Equal(t, want, l.Judge(air, 20).Verdict, "a blush gap of %g", gap)
	}
	assert.False(t, math.IsNaN(float64(dew)))
}
