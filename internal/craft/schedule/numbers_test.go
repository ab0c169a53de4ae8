package schedule

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// The numbers of rules §9 that dates alone do not show.

func TestWorkedAims(t *testing.T) {
	// Two instruments are ready after 6 and 30 hours: 1.5 days of completion, one set-up.
	coat := Step{Material: of("water-clear"), Step: job.Step{Kind: Coat, HandsOnMin: 60, SetUpMin: 20}}
	in := asked{Now: at("2026-03-10 09:00"), Calendar: always(), People: 2, Instruments: []Instrument{
		instrumentOf("Curlew", "2026-03-09", pieceOf("curlew", coat, Step{Step: job.Step{Kind: Gate, Film: material.Sand, HandsOnMin: 60}})),
		instrumentOf("Knot", "2026-03-10", pieceOf("knot", Step{Step: job.Step{Kind: Sand, HandsOnMin: 60, RestMin: 28 * 60}}, Step{Step: job.Step{Kind: Gate, HandsOnMin: 60}}))}}
	a := plan(t, in).Objective()
	assert.InDelta(t, 1.5, a.Completion, 1e-9)
	assert.Equal(t, 1, a.SetUps)
	assert.Equal(t, 2.0, a.DaysLate, "a day each")
	assert.Negative(t, Objective{Completion: 1}.Compare(Objective{Completion: 1 + 1.0/1440}), "a minute sooner is better")
	assert.Zero(t, Objective{Completion: 1}.Compare(Objective{Completion: 1 + 0.2/1440}), "less than half a minute is rounding")
	assert.Equal(t, "0 broken, 0 days late, 0 set-ups, 1.5 days of completion in all", Objective{Completion: 1.5}.Text())
}

func TestWorkedChance(t *testing.T) {
	in := asked{Now: at("2026-03-10 09:00"), Instruments: []Instrument{instrumentOf("Curlew", "2026-03-20", pieceOf("curlew", Step{Step: job.Step{Kind: Gate}}))}}.input()
	due := minuteOf(at("2026-03-21 00:00"))
	finishes := []minute{}
	for k := range 20 { // seven in twenty are late; the eighteenth is the ninth in ten
		finishes = append(finishes, due+minute(k-12)*60)
	}
	c := chanceOf(&in, 0, finishes)
	assert.EqualValues(t, 65, c.Kept)
	assert.Equal(t, at("2026-03-21 05:00"), c.NineInTen.In(berlin))
	c = chanceOf(&in, 0, []minute{due, due + 1, due + 2})
	assert.InDelta(t, 33.3, float64(c.Kept), 0.1)
	assert.Equal(t, due+2, minuteOf(c.NineInTen), "of three, the last")
}

func TestWorkedDraws(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	share := func(step Step, draws int) map[int]float64 {
		counts := make(map[int]float64)
		for range draws {
			s := step
			drawRounds(&s, &Input{}, random)
			counts[s.Coats] += 1 / float64(draws)
		}
		return counts
	}
	redo := Step{Material: of("water-dye"), Step: job.Step{Kind: Coat, Coats: 2}} // 8 times in a hundred
	assert.InDelta(t, 0.08, share(redo, 20_000)[3], 0.01)
	// Rounds from 2 over an expected 4 to 6: a triangle from 1.5 to 6.5.
	rounds := share(Step{Material: of("water-filler"), Step: job.Step{Kind: Coat, Coats: 4, Terms: Terms{Repeat: &Repeat{Least: 2, Most: 6}}}}, 40_000)
	for n, want := range map[int]float64{2: 0.08, 3: 0.24, 4: 0.36, 5: 0.24, 6: 0.08} {
		assert.InDelta(t, want, rounds[n], 0.012, "%d rounds", n)
	}
	pace := Learned{Pace: map[Kind]Pace{Sand: {Median: 100, Sigma: 0}, Gate: {Median: 100, Sigma: 0}, Coat: {Median: 1.5, Sigma: 0}}}
	minutes := func(s Step) unit.Minutes { return drawMinutes(map[Kind]float64{}, &s, pace, 600, random) }
	assert.EqualValues(t, 20*60, minutes(Step{Step: job.Step{Kind: Sand, HandsOnMin: 100}}), "no draw is longer than 20 h")
	assert.EqualValues(t, 600, minutes(Step{Step: job.Step{Kind: Gate, HandsOnMin: 100}}), "or than the longest opening, of what is done in one go")
	assert.EqualValues(t, 20+60, minutes(Step{Step: job.Step{Kind: Coat, HandsOnMin: 60, SetUpMin: 20}}), "setting up keeps its pace")
}

func TestWorkedPace(t *testing.T) {
	assert.Equal(t, Pace{1, 0.2, 0}, LearnPace(nil))
	// Four times half as long again, against a prior of three at 0.2: ln 1.5 · 4/7.
	p := LearnPace([]float64{1.5, 1.5, 1.5, 1.5})
	assert.InDelta(t, 1.2607, p.Median, 0.0001)
	assert.InDelta(t, 0.2396, p.Sigma, 0.0005)
	same := LearnPace(ones(400))
	assert.InDelta(t, 0.1, same.Sigma, 1e-9, "no shop is steadier than a day's mood")
	assert.Equal(t, usualPace, LearnPace([]float64{0.05, 20, 0, -1}), "what cannot be is a slip of the pen")
	assert.Equal(t, 2, LearnPace([]float64{0.06, 19.5}).Observations)
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
	in := asked{Now: at("2026-03-10 09:00"), Margin: 3, Instruments: one(Step{Material: of("polyester-2k"), Step: job.Step{Kind: Coat, Method: material.Spray, HandsOnMin: 12}})}
	in.Places = inRoom(steady(26, 50))
	assert.Equal(t, 3, nth(t, plan(t, in), "body", 1).Batches)
	in.Places = inRoom(steady(27, 50))
	assert.Contains(t, nth(t, plan(t, in), "body", 1).Impossible, "sets within 4 min")
}

func TestSlackInWords(t *testing.T) {
	assert.Equal(t, "47 h", spanText(47*3600e9))
	assert.Equal(t, "2 days 0 h", spanText(48*3600e9))
	assert.Equal(t, "3 days 5 h late", spanText(-77*3600e9))
}
