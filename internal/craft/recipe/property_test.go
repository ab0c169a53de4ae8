package recipe

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/proptest"
)

// randomWish draws what somebody may wish, possible or not.
func randomWish(t *rapid.T) Wish {
	w := Wish{Joint: rapid.SampledFrom(Joints).Draw(t, "joint"), Standard: rapid.SampledFrom(Standards).Draw(t, "standard"),
		Hand: rapid.SampledFrom(Hands).Draw(t, "hand"), MockUp: rapid.Bool().Draw(t, "mock-up")}
	hasBody, hasNeck := rapid.IntRange(0, 5).Draw(t, "body") > 0, rapid.IntRange(0, 5).Draw(t, "neck") > 0
	if hasBody || !hasNeck {
		w.Pieces = append(w.Pieces, randomPiece(t, body("")))
		w.Cavities = rapid.SampledFrom(CavityLinings).Draw(t, "cavities")
	}
	if hasNeck {
		w.Pieces = append(w.Pieces, randomPiece(t, neck("")))
		w.Frets = rapid.SampledFrom(FretLooks).Draw(t, "frets")
		if rapid.Bool().Draw(t, "board") {
			w.Board = &BoardWish{Wood: randomWood(t), Finish: rapid.SampledFrom(append([]string{""}, Boards...)).Draw(t, "board finish")}
		}
	}
	for _, c := range w.Choices() {
		if rapid.IntRange(0, 2).Draw(t, "choose") == 0 {
			w = w.With(c.Topic, c.Piece, rapid.SampledFrom(c.Ways).Draw(t, c.Topic).Option)
		}
	}
	return w
}

func randomWood(t *rapid.T) string { return rapid.SampledFrom(wood.All()).Draw(t, "wood").ID }

func randomPiece(t *rapid.T, p PieceWish) PieceWish {
	p.Wood, p.Figured, p.Texture, p.Wax = randomWood(t), rapid.Bool().Draw(t, "figured"), rapid.Bool().Draw(t, "texture"),
		rapid.Bool().Draw(t, "wax")
	p.Look, p.Sheen, p.Clear = rapid.SampledFrom(Looks).Draw(t, "look"), rapid.SampledFrom(Sheens).Draw(t, "sheen"),
		rapid.SampledFrom(Clears).Draw(t, "clear")
	if rapid.Bool().Draw(t, "another region") {
		p.Regions = []RegionWish{{Name: rapid.SampledFrom(regionNames(p.Kind)).Draw(t, "region"), Wood: randomWood(t),
			Sheen: rapid.SampledFrom(Sheens).Draw(t, "region sheen"), Plain: rapid.Bool().Draw(t, "plain")}}
	}
	return p
}

// possible is a wish that can be had, with what it comes to.
type possible struct {
	wish  Wish
	draft Draft
}

// composed draws wishes until one can be had; what is refused says where and why.
func composed(t *rapid.T) (Wish, Draft) {
	p := rapid.Custom(func(t *rapid.T) possible {
		w := randomWish(t)
		draft, faults, err := Compose(w)
		require.NoError(t, err)
		for _, f := range faults {
			assert.NotEmpty(t, f.Path)
			assert.NotEmpty(t, f.Message)
		}
		return possible{w, draft}
	}).Filter(func(p possible) bool { return len(p.draft.Pieces) > 0 }).Draw(t, "wish")
	return p.wish, p.draft
}

func TestEveryComposedSchedulePassesItsOwnLint(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		w, draft := composed(t)
		assert.Empty(t, Lint(draft, w))
	})
}

func TestNoComposedScheduleHasAForbiddenNeighbour(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		_, draft := composed(t)
		for _, piece := range draft.Pieces {
			for _, z := range piece.Regions {
				under := ""
				for _, s := range draft.on(z.Key) {
					if s.Kind != job.Coat {
						continue
					}
					if under != "" {
						assert.False(t, layering.Over(under, s.Family).Needs(), "%s: %s over %s", z.Key, s.Family, under)
					}
					under = s.Family
				}
			}
		}
	})
}

func TestEveryComposedScheduleEndsWithTheAskedSheen(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		w, draft := composed(t)
		for _, p := range w.ready().Pieces {
			for _, name := range regionNames(p.Kind) {
				wanted := p.Sheen
				for _, z := range p.Regions {
					if z.Name == name && z.Sheen != "" {
						wanted = z.Sheen
					}
				}
				assert.Equal(t, wanted, draft.sheen(key(p.Kind, name)), "%s %s", p.Kind, name)
			}
		}
	})
}

// instrument is a draft as the planner takes it.
func instrument(t require.TestingT, d Draft) schedule.Instrument {
	id := func(name string) uuid.UUID { return uuid.NewSHA1(uuid.NameSpaceOID, []byte(name)) }
	in := schedule.Instrument{ID: id("job"), Name: "Knot", Promise: calendar.Day{Year: 2027, Month: 6, Date: 1}}
	for _, piece := range d.Pieces {
		p := schedule.Piece{ID: id(string(piece.Kind)), Name: string(piece.Kind)}
		for _, s := range piece.Steps {
			step := schedule.Step{Step: s.Step, Piece: p.ID}
			step.ID = id(s.Slot)
			if s.Kind == job.Coat {
				f, err := material.FindFamily(s.Family)
				require.NoError(t, err)
				made := material.OfFamily(f)
				step.Material = &made
			}
			for _, z := range s.Regions {
				step.Regions = append(step.Regions, id(z))
			}
			for _, slot := range s.After {
				step.After = append(step.After, id(slot))
			}
			p.Steps = append(p.Steps, step)
		}
		in.Pieces = append(in.Pieces, p)
	}
	return in
}

func TestEveryComposedScheduleIsPlannedWithoutABrokenHardWindow(t *testing.T) {
	week := [7][]calendar.Hours{}
	for day := time.Monday; day <= time.Saturday; day++ {
		week[day] = []calendar.Hours{{Open: 9 * 60, Close: 18 * 60}}
	}
	cal, err := calendar.New(time.UTC, week, nil)
	require.NoError(t, err)
	proptest.Check(t, func(t *rapid.T) {
		_, draft := composed(t)
		in := instrument(t, draft)
		require.NoError(t, in.Validate())
		shop, err := schedule.NewShop(schedule.Setting{Calendar: cal, Margin: schedule.DefaultMargin})
		require.NoError(t, err)
		plan, err := schedule.Retime(schedule.Input{Now: time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC), Shop: shop,
			Instruments: []schedule.Instrument{in}})
		require.NoError(t, err)
		assert.Zero(t, search.Measure(plan).Broken)
		for _, f := range plan.Forecasts {
			assert.Empty(t, f.Impossible)
		}
	})
}

func TestComposingAgainKeepsWhatIsLoggedAndWhatIsEdited(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		w, draft := composed(t)
		for p := range draft.Pieces {
			for s := range draft.Pieces[p].Steps {
				step := &draft.Pieces[p].Steps[s]
				step.Done = s < rapid.IntRange(0, len(draft.Pieces[p].Steps)).Draw(t, "done")
				if !step.Done && rapid.IntRange(0, 9).Draw(t, "edited") == 0 {
					step.Edited, step.Title = true, "changed by hand"
				}
			}
		}
		next := otherwise(t, w)
		merged := Merge(draft, next)
		for _, piece := range draft.Pieces {
			for _, s := range piece.Steps {
				if s.Done || s.Edited {
					kept := merged.find(s.Slot)
					require.NotNil(t, kept, s.Slot)
					assert.Equal(t, s.Title, kept.Title)
					assert.Equal(t, s.Family, kept.Family)
				}
			}
		}
		for _, piece := range next.Pieces {
			for _, s := range piece.Steps {
				assert.NotNil(t, merged.find(s.Slot), s.Slot)
			}
		}
		assert.NoError(t, instrument(t, merged).Validate())
	})
}

// otherwise is what a wish comes to with another school somewhere.
func otherwise(t *rapid.T, w Wish) Draft {
	var drafts []Draft
	c := rapid.SampledFrom(w.Choices()).Draw(t, "choice")
	for _, way := range c.Ways {
		next, faults, err := Compose(w.With(c.Topic, c.Piece, way.Option))
		require.NoError(t, err)
		if len(faults) == 0 {
			drafts = append(drafts, next)
		}
	}
	return rapid.SampledFrom(drafts).Draw(t, "way") // at least the one that is followed
}
