package search

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/proptest"
)

func TestWideningIsNeverWorse(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t).Input()
		wider := rapid.SampledFrom([]func(*schedule.Input){OneMorePerson(), InShop(func(s *schedule.Setting) {
			for i := range s.Places {
				s.Places[i].Capacity *= 2
			}
		})}).Draw(t, "change")
		answer := whatIf(in, true, wider)
		assert.LessOrEqual(t, Measure(answer.After).Compare(Measure(answer.Before)), 0)
	})
}
