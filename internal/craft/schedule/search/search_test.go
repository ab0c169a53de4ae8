package search

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

// smallShop is three pieces of at most nine events in all, one pair of hands and
// one booth, with promises that are hard to keep.
func smallShop(seed uint64) schedule.Input {
	random := rand.New(rand.NewPCG(seed, 7))
	in := Asked{Now: At("2026-03-10 09:00"), Places: []schedule.Place{
		{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, Air: "bench"},
		{ID: ID("booth"), Name: "the booth", Kind: settings.Booth, Air: "booth", Capacity: 1}}}
	left := 9
	for i := range 3 {
		var steps []schedule.Step
		for n := 1 + random.IntN(min(4, left-(2-i))); n > 0; n-- {
			left--
			step := schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: unit.Minutes(30 + 30*random.IntN(8))}}
			if random.IntN(2) == 0 {
				family := []string{"nitro", "dewaxed-shellac", "water-clear"}[random.IntN(3)]
				step = schedule.Step{Material: Of(family),
					Step: job.Step{Kind: schedule.Coat, Method: material.Spray, HandsOnMin: unit.Minutes(30 + 30*random.IntN(4))}}
			}
			steps = append(steps, step)
		}
		promise := Must(calendar.ParseDay("2026-03-10")).AddDays(random.IntN(4))
		job := InstrumentOf(fmt.Sprintf("job %d", i), promise.String(), PieceOf(fmt.Sprintf("piece %d", i), steps...))
		job.Weight = float64(1 + random.IntN(3))
		in.Instruments = append(in.Instruments, job)
	}
	in.Order = OrderOf(in.Instruments...)
	return in.Input()
}

// exact is branch and bound over every order of the runs: it places the next run
// of one piece at a time and gives up a branch that cannot become better than the
// best found, by the finishes of what is placed and the bounds of what is not.
type exact struct {
	in     schedule.Input
	plan   *schedule.Plan
	best   Objective
	found  bool
	runs   [][]schedule.Run // by piece, in order
	count  int
	bounds []time.Time // by piece
}

func newExact(in schedule.Input, best Objective) *exact {
	x := &exact{in: in, plan: Must(schedule.Retime(in)), best: best, found: true, runs: make([][]schedule.Run, len(in.Instruments))}
	for _, run := range x.plan.Runs() {
		x.runs[run.Instrument] = append(x.runs[run.Instrument], run)
		x.count++
	}
	x.bounds = x.plan.LowerBounds()
	return x
}

func (x *exact) solve() Objective {
	x.branch(nil, make([]int, len(x.runs)))
	return x.best
}

func (x *exact) branch(order []schedule.Run, next []int) {
	least := x.atBest(order, next)
	if x.found && least.Compare(x.best) >= 0 {
		return
	}
	if len(order) == x.count {
		x.best, x.found = least, true
		return
	}
	for piece, runs := range x.runs {
		if next[piece] < len(runs) {
			next[piece]++
			x.branch(append(slices.Clone(order), runs[next[piece]-1]), next)
			next[piece]--
		}
	}
}

// atBest is the least that a partial order can come to. Later runs only fill gaps,
// so the finished pieces stay where they are; the others are as good as their bounds.
func (x *exact) atBest(order []schedule.Run, next []int) Objective {
	in := x.in
	in.Order = nil
	for _, run := range order {
		in.Order = append(in.Order, run.Events...)
	}
	for piece, runs := range x.runs {
		for _, run := range runs[next[piece]:] {
			in.Order = append(in.Order, run.Events...)
		}
	}
	dated := Must(x.plan.Retime(in))
	if len(order) == x.count {
		return Measure(dated)
	}
	var least Objective
	for i := range in.Instruments {
		finish := x.bounds[i]
		if next[i] == len(x.runs[i]) {
			finish = calendar.Later(finish, dated.Forecasts[i].Finish)
		}
		least.DaysLate += weight(&in.Instruments[i]) * float64(daysLate(dated, in.Instruments[i].Promise, finish))
		least.Completion += finish.Sub(dated.Now).Hours() / 24
	}
	return least
}

// TestProposalsReachTheOptimum compares proposals with the exact solver on random small shops: 60 of them, and 500
// where there is time.
func TestProposalsReachTheOptimum(t *testing.T) {
	shops := proptest.Few(60, 500)
	reached, late, worst := 0, 0, 0.0
	for seed := range uint64(shops) {
		in := smallShop(seed)
		got := Must(Propose(in, Effort{Seed: 1, Events: 3000})).After
		x := newExact(in, got) // what is proposed is where it begins
		best := x.solve()
		require.GreaterOrEqual(t, best.DaysLate, LowerBoundLate(x.plan), "shop %d", seed)
		if got.Compare(best) == 0 {
			reached++
		}
		if got.DaysLate > best.DaysLate {
			late++
		}
		worst = max(worst, got.DaysLate-best.DaysLate)
	}
	t.Logf("the optimum of the stated aims in %.1f %% of %d shops; later than it in %d, at worst by %g weighted days",
		100*float64(reached)/float64(shops), shops, late, worst)
	assert.GreaterOrEqual(t, float64(reached)/float64(shops), 0.95)
}

func TestAProposalChangesNothingByItself(t *testing.T) {
	in := smallShop(3)
	order := slices.Clone(in.Order)
	first, second := Must(Propose(in, Effort{Seed: 9})), Must(Propose(in, Effort{Seed: 9}))
	assert.Equal(t, order, in.Order)
	assert.Equal(t, first.Order, second.Order, "the same seed proposes the same")
	assert.Equal(t, first.After, Measure(second.Plan), "its plan is what it says")
	accepted := in
	accepted.Order = first.Order
	assert.Equal(t, first.After, Measure(Must(schedule.Retime(accepted))), "accepting it gives what was shown")
}

func TestTheNearestPromiseComesFirst(t *testing.T) {
	easy := InstrumentOf("Curlew", "2026-05-01", PieceOf("curlew", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 500}}))
	tight := InstrumentOf("Dunlin", "2026-03-10", PieceOf("dunlin", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 400}}))
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{easy, tight}, Order: OrderOf(easy, tight)}.Input()
	p := Must(Propose(in, Effort{Seed: 1}))
	assert.True(t, p.Better())
	assert.Equal(t, 1.0, p.Before.DaysLate)
	assert.Zero(t, p.After.DaysLate)
	assert.Equal(t, tight.Pieces[0].Steps[0].ID, p.Order[0].Step)
}

func TestChances(t *testing.T) {
	sure := InstrumentOf("Curlew", "2026-06-01", PieceOf("curlew", Coats("water-clear", 3)))
	narrow := InstrumentOf("Knot", "2026-03-26", PieceOf("knot", Coats("water-clear", 1),
		schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Buff}}))
	hopeless := InstrumentOf("Ruff", "2026-03-10", PieceOf("ruff", Coats("nitro", 5)))
	in := Asked{Now: At("2026-03-10 09:00"), Instruments: []schedule.Instrument{sure, narrow, hopeless}}.Input()
	chances := Must(Chances(Must(schedule.Retime(in)), schedule.Learned{}, 1, 60, nil))
	assert.EqualValues(t, 100, chances[0].Kept)
	assert.Greater(t, float64(chances[1].Kept), 20.0)
	assert.Less(t, float64(chances[1].Kept), 95.0)
	assert.Zero(t, chances[2].Kept)
	assert.True(t, chances[1].NineInTen.After(At("2026-03-26 00:00")))
	assert.Equal(t, chances, Must(Chances(Must(schedule.Retime(in)), schedule.Learned{}, 1, 60, nil)), "seeded")
	tried := 0
	few := Must(Chances(Must(schedule.Retime(in)), schedule.Learned{}, 1, 60, func() bool { tried++; return tried > 5 }))
	assert.Equal(t, 5, few[0].Draws, "it can be stopped")
}

func TestWhatIf(t *testing.T) {
	body := PieceOf("body", Coats("water-clear", 2), schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Buff}})
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: Always(), Places: InRoom(Steady(20, 50)),
		Instruments: []schedule.Instrument{InstrumentOf("Curlew", "2026-06-01", body)}}.Input()
	before := Must(schedule.Retime(in)).Events
	for name, test := range map[string]struct {
		change func(*schedule.Input)
		days   int
	}{
		"two coats more": {moreCoats(2), 1},
		"another clear":  {anotherMaterial(Of("urethane-2k")), -11},
		"start later":    {notBefore(At("2026-03-15 00:00")), 5},
		"a warmer room":  {InShop(func(s *schedule.Setting) { s.Places[0].Room = Steady(26, 50) }), -4},
		"more caution":   {InShop(func(s *schedule.Setting) { s.Margin = 1.5 }), 7},
	} {
		t.Run(name, func(t *testing.T) {
			answer := whatIf(in, false, test.change)
			require.Len(t, answer.Differences, 1)
			assert.Equal(t, test.days, answer.Differences[0].Days)
			assert.Positive(t, answer.Differences[0].Moved)
			assert.Equal(t, before, answer.Before.Events, "today's plan stands")
			assert.Equal(t, before, Must(schedule.Retime(in)).Events, "and nothing was changed")
		})
	}
}

// crowdedShop is four pieces between a bench and one booth, and two people.
func crowdedShop(seed uint64) schedule.Input {
	random := rand.New(rand.NewPCG(seed, 3))
	in := Asked{Now: At("2026-03-10 09:00"), People: 2, Places: []schedule.Place{
		{ID: ID("bench"), Name: "the bench", Kind: settings.Bench},
		{ID: ID("booth"), Name: "the booth", Kind: settings.Booth, Capacity: 1}}}
	for i := range 4 {
		var steps []schedule.Step
		for range 1 + random.IntN(3) {
			step := schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: unit.Minutes(30 * (1 + random.IntN(6)))}}
			if random.IntN(2) == 0 {
				booth := ID("booth")
				step.Place = &booth
			}
			steps = append(steps, step)
		}
		in.Instruments = append(in.Instruments, InstrumentOf(fmt.Sprint("job ", i), "2026-03-10",
			PieceOf(fmt.Sprint("piece ", i), steps...)))
	}
	in.Order = OrderOf(in.Instruments...)
	return in.Input()
}

func TestMoreHandsMayComeOutWorseGreedily(t *testing.T) {
	// Another pair of hands takes a place in the booth that somebody needed more.
	in := crowdedShop(58)
	more := in
	OneMorePerson()(&more)
	today := Must(schedule.Retime(in))
	assert.Positive(t, Measure(Must(schedule.Retime(more))).Compare(Measure(today)))
	answer := whatIf(in, true, OneMorePerson())
	assert.LessOrEqual(t, Measure(answer.After).Compare(Measure(today)), 0, "more hands still allow today's dates")
	if !answer.Kept {
		more.Order = answer.Order
		assert.Equal(t, answer.After.Events, Must(schedule.Retime(more)).Events, "and the order it names keeps them")
	}
}

func TestADrawLongerThanAnOpeningIsNotNever(t *testing.T) {
	// The coat just fits the hour that the shop is open; half of all draws would not.
	evenings := Weekdays(calendar.Hours{Open: 19 * 60, Close: 20 * 60})
	tight := InstrumentOf("Curlew", "2026-06-01", PieceOf("curlew",
		schedule.Step{Material: Of("water-clear"), Step: job.Step{Kind: schedule.Coat, Coats: 2, HandsOnMin: 60}}))
	joined := InstrumentOf("Knot", "2026-06-01", PieceOf("knot",
		schedule.Step{Material: Of("airbrush-colour"), Step: job.Step{Kind: schedule.Coat, HandsOnMin: 40}},
		schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.TouchDry, HandsOnMin: 18,
			Terms: schedule.Terms{Within: &schedule.Within{AfterMin: 0, BeforeMin: 2}}}}))
	shut := InstrumentOf("Ruff", "2026-06-01", PieceOf("ruff", schedule.Step{Step: job.Step{Kind: schedule.Gate, HandsOnMin: 61}}))
	in := Asked{Now: At("2026-03-10 09:00"), Calendar: evenings, People: 2, Instruments: []schedule.Instrument{tight, joined, shut}}.Input()
	chances := Must(Chances(Must(schedule.Retime(in)), schedule.Learned{}, 1, 60, nil))
	for i, name := range []string{"a coat as long as the opening", "a sitting nearly as long"} {
		assert.EqualValues(t, 100, chances[i].Kept, name)
		assert.Equal(t, 60, chances[i].Draws)
		assert.Equal(t, 2026, chances[i].NineInTen.Year(), name)
	}
	assert.Zero(t, chances[2].Draws, "what cannot be placed today has no chance")
}
