package schedule_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

// The numbers of rules §9 that dates alone do not show.

func TestWorkedPace(t *testing.T) {
	assert.Equal(t, schedule.Pace{1, 0.2, 0}, schedule.LearnPace(nil))
	// Four times half as long again, against a prior of three at 0.2: ln 1.5 · 4/7.
	p := schedule.LearnPace([]float64{1.5, 1.5, 1.5, 1.5})
	assert.InDelta(t, 1.2607, p.Median, 0.0001)
	assert.InDelta(t, 0.2396, p.Sigma, 0.0005)
	same := schedule.LearnPace(ones(400))
	assert.InDelta(t, 0.1, same.Sigma, 1e-9, "no shop is steadier than a day's mood")
	assert.Equal(t, schedule.DefaultPace, schedule.LearnPace([]float64{0.05, 20, 0, -1}), "what cannot be is a slip of the pen")
	assert.Equal(t, 2, schedule.LearnPace([]float64{0.06, 19.5}).Observations)
}

func ones(n int) []float64 {
	list := make([]float64, n)
	for i := range list {
		list[i] = 1
	}
	return list
}

func TestTheLeastBatch(t *testing.T) {
	// A margin of 3 and a warm room leave the resin five minutes: that is just worth mixing.
	in := Asked{Now: At("2026-03-10 09:00"), Margin: 3,
		Instruments: One(schedule.Step{Material: Of("polyester-2k"),
			Step: job.Step{Kind: schedule.Coat, Method: material.Spray, HandsOnMin: 12}})}
	in.Places = InRoom(Steady(26, 50))
	assert.Equal(t, 3, Nth(t, Plan(t, in), "body", 1).Batches)
	in.Places = InRoom(Steady(27, 50))
	assert.Contains(t, Nth(t, Plan(t, in), "body", 1).Impossible, "sets within 4 min")
}
