package schedule_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/settings"
)

// What was used and where it was done decides the wait, not what was planned. Rules §9: facts win.
func TestAFactIsLaidOutAsItWasDone(t *testing.T) {
	now := At("2026-03-10 10:00")
	family := *Of("water-clear")
	slow, err := material.OfProduct(family.Family, "slow", "Slow clear", []byte(`{"limits":{"topcoat":6}}`))
	require.NoError(t, err)
	cold := Steady(10, 50)
	in := Asked{Now: now, Margin: 1, Instruments: One(Coats("water-clear", 2)),
		Places: []schedule.Place{{ID: ID("bench"), Name: "bench", Kind: settings.Bench, Room: Steady(20, 50)},
			{ID: ID("shed"), Name: "shed", Kind: "drying", Room: cold}}}
	first, second := OrderOf(in.Instruments...)[0], OrderOf(in.Instruments...)[1]
	after := func(fact schedule.Fact) float64 {
		fact.End, fact.Minutes = now, 20
		in.Facts = map[schedule.Event]schedule.Fact{first: fact}
		e, found := Plan(t, in).Find(second)
		require.True(t, found)
		return e.Ready.Sub(now).Hours()
	}
	usual := after(schedule.Fact{})
	assert.InDelta(t, 2, usual, 0.1, "water-clear is coated again after two hours at 20 °C")
	assert.InDelta(t, 6, after(schedule.Fact{Material: &slow}), 0.1, "another product was used, whose sheet says six hours")
	assert.Greater(t, after(schedule.Fact{Place: ID("shed")}), 1.5*usual, "it dries where it was put on")
	assert.InDelta(t, usual, after(schedule.Fact{Place: ID("elsewhere")}), 1e-9, "a place that there is no longer changes nothing")
}

func TestWhatAnEntrySaysWasUsed(t *testing.T) {
	place, product := uuid.New(), uuid.New()
	used := Of("nitro")
	done := job.Entry{Kind: job.Done, HappenedAt: At("2026-03-10 10:00"), Actual: &job.Actual{Place: &place, Product: &product}}
	assert.Equal(t, schedule.Fact{End: done.HappenedAt.UTC(), Minutes: 30, Material: used, Place: place}, schedule.FactOf(&done, 30, used))
	done.Kind = job.Skipped
	assert.Equal(t, schedule.Fact{End: done.HappenedAt.UTC(), Skipped: true}, schedule.FactOf(&done, 30, used), "nothing was used")
}
