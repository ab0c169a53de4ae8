package sitting

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

var noon = time.Date(2026, 3, 10, 12, 0, 0, 0, time.UTC)

func at(place string, start, minutes int) schedule.Planned {
	begins := noon.Add(time.Duration(start) * time.Minute)
	return schedule.Planned{Event: job.Event{Step: uuid.New(), Coat: 1}, Place: scheduletest.ID(place), Start: begins,
		End: begins.Add(time.Duration(minutes) * time.Minute)}
}

func TestWhatBelongsTogether(t *testing.T) {
	first, soon, later := at("bench", 0, 20), at("bench", 50, 10), at("bench", 91, 10)
	booth := at("booth", 5, 40)
	done := at("bench", 1, 10)
	done.Done = true
	got := Gather([]schedule.Planned{later, booth, soon, done, first})
	require.Len(t, got, 3)
	assert.Equal(t, []schedule.Planned{first, soon}, got[0].Events, "half an hour after it is the same sitting")
	assert.Equal(t, []schedule.Planned{booth}, got[1].Events)
	assert.Equal(t, []schedule.Planned{later}, got[2].Events, "31 minutes after it is another")
	assert.Equal(t, noon, got[0].Start())
	assert.Equal(t, noon.Add(60*time.Minute), got[0].End())
}

// spray is one coat of a two-pack: 0.2 m² of 80 µm by the gun.
func spray(t *testing.T, start, minutes int) Work {
	f, err := material.FindFamily("urethane-2k")
	require.NoError(t, err)
	made := material.OfFamily(f)
	return Work{Event: job.Event{Step: uuid.New(), Coat: 1}, Step: &schedule.Step{Step: job.Step{Kind: job.Coat, Method: material.Spray},
		Material: &made},
		AreaM2: 0.2, Start: noon.Add(time.Duration(start) * time.Minute), Minutes: unit.Minutes(minutes), PotLife: 90}
}

func TestABatchRunsOut(t *testing.T) {
	works := []Work{spray(t, 0, 30), spray(t, 30, 30), spray(t, 60, 31)}
	lay, err := Out(works)
	require.NoError(t, err)
	require.Len(t, lay.Materials, 1)
	m := lay.Materials[0]
	require.Len(t, m.Batches, 2, "the third would end 91 minutes after the first mix, which lasts 90")
	assert.Equal(t, []job.Event{works[0].Event, works[1].Event}, m.Batches[0].For)
	assert.Equal(t, []job.Event{works[2].Event}, m.Batches[1].For)
	assert.Equal(t, noon.Add(time.Hour), m.Batches[1].MixedAt)

	wet, _ := works[0].Step.Material.Wet(material.Spray)
	one := 0.2 * float64(wet) / 0.65
	assert.InDelta(t, 3*one, float64(m.Volume), 1e-9)
	for i, coats := range []float64{2, 1} { // what stays in the gun comes on top: 15 mL
		assert.InDelta(t, coats*one+15, float64(m.Batches[i].Total), 5)
		assert.GreaterOrEqual(t, float64(m.Batches[i].Total), coats*one+15-1e-6)
	}
	assert.Equal(t, "2:1", m.Recipe.Parts.String())

	works[2].Minutes = 30
	lay, err = Out(works)
	require.NoError(t, err)
	assert.Len(t, lay.Materials[0].Batches, 1, "one that ends as the mix sets is still put on from it")
}

func TestACoatThatOutlastsItsMix(t *testing.T) {
	lay, err := Out([]Work{spray(t, 0, 181)})
	require.NoError(t, err)
	assert.Len(t, lay.Materials[0].Batches, 3)
}

func TestOneCoatOnSeveralPiecesIsOneStep(t *testing.T) {
	coat := func(piece string) Work {
		w := spray(t, 0, 10)
		w.Step.Piece = scheduletest.ID(piece)
		return w
	}
	sand := func(piece, title string) Work {
		return Work{Step: &schedule.Step{Piece: scheduletest.ID(piece), Step: job.Step{Kind: job.Sand, Title: title}}}
	}
	works := []Work{coat("a"), coat("b"), coat("a"), sand("a", "Sand"), sand("b", "Sand"), sand("c", "Sand finer"), coat("c")}
	assert.Equal(t, [][]int{{0, 1}, {2}, {3, 4}, {5}, {6}}, Together(works))
	wiped := coat("b")
	wiped.Step.Method = material.Wipe
	attended := sand("b", "Sand")
	attended.Step.Within = &job.Within{BeforeMin: 10}
	assert.Equal(t, [][]int{{0}, {1}}, Together([]Work{coat("a"), wiped}), "by another method it is another step")
	assert.Equal(t, [][]int{{0}, {1}}, Together([]Work{sand("a", "Sand"), attended}), "what is attended stays with its piece")
}

func TestLayOut(t *testing.T) {
	sand := Work{Step: &schedule.Step{Step: job.Step{Kind: job.Sand, Ladder: []string{"fepa:P320", "fepa:P180"}}}}
	tape := Work{Step: &schedule.Step{Step: job.Step{Kind: job.MaskOn}}}
	lay, err := Out([]Work{sand, tape, spray(t, 0, 20)})
	require.NoError(t, err)
	assert.Equal(t, []string{"fepa:P180", "fepa:P320"}, lay.Grits, "coarse ones first")
	assert.True(t, lay.Tape)
	assert.Equal(t, []string{"sanding blocks", "the spray gun"}, lay.Tools)
}

// Over any shop: everything that is planned is in one sitting, in the order in which it begins; what is laid out is
// enough for every coat; and no coat is put on from a mix that has set.
func TestSittingsOfAnyPlan(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		asked := scheduletest.RandomShop(t)
		input := asked.Input()
		plan, err := schedule.Retime(input)
		require.NoError(t, err)
		steps := make(map[uuid.UUID]*schedule.Step)
		for i := range input.Instruments {
			for p := range input.Instruments[i].Pieces {
				for s := range input.Instruments[i].Pieces[p].Steps {
					step := &input.Instruments[i].Pieces[p].Steps[s]
					steps[step.ID] = step
				}
			}
		}
		seen := make(map[job.Event]bool)
		var before time.Time
		for _, one := range Gather(plan.Events) {
			assert.False(t, one.Start().Before(before))
			before = one.Start()
			var works []Work
			for i, e := range one.Events {
				assert.Equal(t, one.Place, e.Place)
				assert.False(t, seen[e.Event])
				seen[e.Event] = true
				if i > 0 {
					assert.False(t, e.Start.Before(one.Events[i-1].Start))
				}
				step := steps[e.Step]
				life, _ := input.Shop.PotLifeOf(step)
				works = append(works, Work{Event: e.Event, Step: step, AreaM2: 0.15, Start: e.Start, PotLife: life,
					Minutes: max(step.HandsOnMin-step.SetUpMin, 1)})
			}
			holdsFor(t, works)
		}
		for _, e := range plan.Events {
			assert.Equal(t, !e.Done && e.Impossible == "", seen[e.Event])
		}
	})
}

func holdsFor(t *rapid.T, works []Work) {
	lay, err := Out(works)
	require.NoError(t, err)
	byEvent := make(map[job.Event]Work)
	for _, w := range works {
		byEvent[w.Event] = w
	}
	coats := 0
	for _, m := range lay.Materials {
		mixed := unit.Millilitre(0)
		for _, b := range m.Batches {
			mixed += b.Total
			coats += len(b.For)
			for _, event := range b.For {
				w := byEvent[event]
				alone := w.Minutes > m.PotLife // of several mixes
				ends := w.Start.Add(time.Duration(w.Minutes) * time.Minute)
				assert.True(t, m.PotLife == 0 || alone || ends.Sub(b.MixedAt) <= time.Duration(m.PotLife)*time.Minute)
			}
		}
		assert.GreaterOrEqual(t, float64(mixed), float64(m.Volume))
	}
	for _, w := range works {
		if w.Step.Kind == job.Coat {
			coats--
		}
	}
	assert.GreaterOrEqual(t, coats, 0, "every coat has a mix")
}
