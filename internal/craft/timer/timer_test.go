package timer

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

func coat(t *testing.T, family string, by material.Method) *schedule.Step {
	f, err := material.FindFamily(family)
	require.NoError(t, err)
	made := material.OfFamily(f)
	return &schedule.Step{Step: job.Step{Kind: job.Coat, Coats: 1, Method: by}, Material: &made}
}

type clock struct {
	kind            string
	minutes, before unit.Minutes
}

func clocks(list []job.Timer) (short []clock) {
	for _, one := range list {
		short = append(short, clock{one.Kind, one.Minutes, one.BeforeMin})
	}
	return short
}

// The minutes are those of families_minutes.csv and glues.csv.
func TestTimersOfAStep(t *testing.T) {
	glued := &schedule.Step{Step: job.Step{Kind: job.Gate, Terms: job.Terms{Glue: &job.Glue{ClampMin: 45, SqueezeAfterMin: 20,
		SqueezeBeforeMin: 60}}}}
	next := func(kind job.Kind, within *job.Within) *schedule.Step {
		return &schedule.Step{Step: job.Step{Kind: kind, Title: "Strew it", Terms: job.Terms{Within: within}}}
	}
	for name, test := range map[string]struct {
		work Work
		want []clock
	}{
		"oil soaks, and is wiped off": {Work{Step: coat(t, "hardwax-oil", material.Wipe)}, []clock{{WipeOff, 8, 20}}},
		"the same oil sprayed stays":  {Work{Step: coat(t, "hardwax-oil", material.Spray)}, []clock{{FlashOff, 10, 0}}},
		"lacquer flashes off":         {Work{Step: coat(t, "nitro", material.Spray)}, []clock{{FlashOff, 10, 0}}},
		"resin levels, then hardens":  {Work{Step: coat(t, "polyester-uv", material.Brush)}, []clock{{SelfLevel, 6, 0}, {Lamp, 3, 0}}},
		"two-pack sets in the pot": {Work{Step: coat(t, "urethane-2k", material.Spray), PotLife: 96},
			[]clock{{PotLife, 96, 0}, {FlashOff, 12, 0}}},
		"glue": {Work{Step: glued}, []clock{{SqueezeOut, 20, 60}, {Clamp, 45, 0}}},
		"an etch": {Work{Step: &schedule.Step{Step: job.Step{Kind: job.Gate, Check: "etch-stopped",
			HandsOnMin: 40}}}, []clock{{Etch, 40, 0}}},
		"strewn on tack": {Work{Step: glued, Next: next(job.Inspect, &job.Within{AfterMin: 3, BeforeMin: 8})},
			[]clock{{SqueezeOut, 20, 60}, {Clamp, 45, 0}, {Tack, 3, 8}}},
		"rubbed back while damp": {Work{Step: next(job.Inspect, nil), Next: next(job.Sand, &job.Within{BeforeMin: 10})},
			[]clock{{RubBack, 10, 10}}},
		"tape comes off in its window": {Work{Step: coat(t, "nitro", material.Spray), Next: next(job.MaskOff, nil),
			Peel: [2]unit.Minutes{75, 240}}, []clock{{FlashOff, 10, 0}, {Peel, 75, 240}}},
		"the window is that of the coat": {Work{Step: next(job.Inspect, nil), Next: next(job.MaskOff, nil),
			Peel: [2]unit.Minutes{75, 240}}, nil},
		"a wait of days is not a timer": {Work{Step: coat(t, "hardwax-oil", material.Wipe), Next: next(job.MaskOff, nil),
			Peel: [2]unit.Minutes{1500, 4000}}, []clock{{WipeOff, 8, 20}}},
		"sanding has no clock of its own": {Work{Step: next(job.Sand, nil)}, nil},
	} {
		assert.Equal(t, test.want, clocks(Of(test.work)), name)
	}
	assert.True(t, Within(WipeOff) && Within(Etch) && Follows(FlashOff) && Follows(Clamp), "some run while it is done, others from then on")
	assert.False(t, Within(PotLife) || Follows(PotLife), "a mix is used for several coats")
	for _, one := range Of(Work{Step: glued, PotLife: 5, Next: next(job.Inspect, &job.Within{AfterMin: 3, BeforeMin: 8})}) {
		assert.Contains(t, Kinds, one.Kind)
		assert.NotEmpty(t, one.Title)
		assert.NotEmpty(t, one.Then, "it says what to do when it ends")
	}
}
