package search

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/unit"
)

func TestWorkedAims(t *testing.T) {
	// Two instruments are ready after 6 and 30 hours: 1.5 days of completion, one set-up.
	coat := schedule.Step{Material: Of("water-clear"), Step: job.Step{Kind: schedule.Coat, HandsOnMin: 60, SetUpMin: 20}}
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(), People: 2, Instruments: []schedule.Instrument{
		InstrumentOf("Curlew", "2026-03-09", PieceOf("curlew", coat,
			schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.Sand, HandsOnMin: 60}})),
		InstrumentOf("Knot", "2026-03-10", PieceOf("knot",
			schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 60, RestMin: 28 * 60}},
			schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 60}}))}}
	a := Measure(Plan(t, in))
	assert.InDelta(t, 1.5, a.Completion, 1e-9)
	assert.Equal(t, 1, a.SetUps)
	assert.Equal(t, 2.0, a.DaysLate, "a day each")
	assert.Negative(t, Objective{Completion: 1}.Compare(Objective{Completion: 1 + 1.0/1440}), "a minute sooner is better")
	assert.Zero(t, Objective{Completion: 1}.Compare(Objective{Completion: 1 + 0.2/1440}), "less than half a minute is rounding")
	assert.Equal(t, "0 broken, 0 days late, 0 set-ups, 1.5 days of completion in all", Objective{Completion: 1.5}.String())
}

func TestWorkedChance(t *testing.T) {
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-03-20",
		PieceOf("curlew", schedule.Step{Step: job.Step{Kind: schedule.Gate}}))}}.Input()
	due := At("2026-03-21 00:00")
	var finishes []time.Time
	for k := range 20 { // seven in twenty are late; the eighteenth is the ninth in ten
		finishes = append(finishes, due.Add(time.Duration(k-12)*time.Hour))
	}
	c := chanceOf(&in, 0, finishes)
	assert.EqualValues(t, 65, c.Kept)
	assert.Equal(t, At("2026-03-21 05:00"), c.NineInTen.In(Berlin))
	c = chanceOf(&in, 0, []time.Time{due, due.Add(time.Minute), due.Add(2 * time.Minute)})
	assert.InDelta(t, 33.3, float64(c.Kept), 0.1)
	assert.Equal(t, due.Add(2*time.Minute), c.NineInTen, "of three, the last")
}

func TestWorkedDraws(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	share := func(step schedule.Step, draws int) map[int]float64 {
		counts := make(map[int]float64)
		for range draws {
			s := step
			drawRounds(&s, &schedule.Input{}, random)
			counts[s.Coats] += 1 / float64(draws)
		}
		return counts
	}
	redo := schedule.Step{Material: Of("water-dye"), Step: job.Step{Kind: schedule.Coat, Coats: 2}} // 8 times in a hundred
	assert.InDelta(t, 0.08, share(redo, 20_000)[3], 0.01)
	// Rounds from 2 over an expected 4 to 6: a triangle from 1.5 to 6.5.
	rounds := share(schedule.Step{Material: Of("water-filler"),
		Step: job.Step{Kind: schedule.Coat, Coats: 4, Terms: schedule.Terms{Repeat: &schedule.Repeat{Least: 2, Most: 6}}}}, 40_000)
	for n, want := range map[int]float64{2: 0.08, 3: 0.24, 4: 0.36, 5: 0.24, 6: 0.08} {
		assert.InDelta(t, want, rounds[n], 0.012, "%d rounds", n)
	}
	pace := schedule.Learned{Pace: map[schedule.Kind]schedule.Pace{schedule.Sand: {Median: 100, Sigma: 0},
		schedule.Gate: {Median: 100, Sigma: 0}, schedule.Coat: {Median: 1.5, Sigma: 0}}}
	minutes := func(s schedule.Step) unit.Minutes {
		return drawMinutes(map[schedule.Kind]float64{}, &s, pace, 600, random)
	}
	assert.EqualValues(t, 20*60, minutes(schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 100}}),
		"no draw is longer than 20 h")
	assert.EqualValues(t, 600, minutes(schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 100}}),
		"or than the longest opening, of what is done in one go")
	assert.EqualValues(t, 20+60, minutes(schedule.Step{Step: job.Step{Kind: schedule.Coat, HandsOnMin: 60, SetUpMin: 20}}),
		"setting up keeps its pace")
}
