package recipe

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/aging"
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/resin"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/surface"
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

// randomPiece draws a stack: that of a preset or layers of any effects in any order, on regions natural
// and drawn.
func randomPiece(t *rapid.T, p PieceWish) PieceWish {
	p.Wood, p.Figured = randomWood(t), rapid.Bool().Draw(t, "figured")
	if rapid.IntRange(0, 3).Draw(t, "as found") == 0 {
		p.Found = rapid.SampledFrom(surface.All()).Draw(t, "found").ID
	}
	p = p.From(rapid.SampledFrom(Presets).Draw(t, "preset").ID)
	if p.layer(EffectClear) != nil {
		p = p.Ending(rapid.SampledFrom(Clears).Draw(t, "clear"), rapid.SampledFrom(Sheens).Draw(t, "sheen"))
	}
	for range rapid.IntRange(0, 2).Draw(t, "regions") {
		p.Regions = append(p.Regions, randomRegion(t, p))
	}
	for range rapid.IntRange(0, 4).Draw(t, "layers") {
		at := rapid.IntRange(0, len(p.Layers)).Draw(t, "place")
		p.Layers = slices.Insert(slices.Clone(p.Layers), at, randomLayer(t, &p))
	}
	return p
}

func randomRegion(t *rapid.T, p PieceWish) RegionWish {
	z := RegionWish{Wood: randomWood(t), Sheen: rapid.SampledFrom(append([]string{""}, Sheens...)).Draw(t, "region sheen")}
	if rapid.Bool().Draw(t, "natural") {
		z.Name = rapid.SampledFrom(naturals(p.Kind)).Draw(t, "region")
		for _, o := range p.Regions {
			if o.Name == z.Name {
				z.Name = "über " + z.Name
				z.Kind = "half"
			}
		}
		return z
	}
	z.Name = fmt.Sprintf("Streifen %d", len(p.Regions)+1)
	z.Kind = rapid.SampledFrom(RegionKinds).Draw(t, "kind")
	z.In = rapid.SampledFrom(append([]string{""}, naturals(p.Kind)...)).Draw(t, "in")
	z.Count, z.Width, z.Mirrored = rapid.IntRange(0, 5).Draw(t, "count"), "12 mm", rapid.Bool().Draw(t, "mirrored")
	z.Edge = rapid.SampledFrom(append([]string{""}, Edges...)).Draw(t, "edge")
	if slices.Contains([]string{"shape", "inlay", "cut-out"}, z.Kind) {
		z.Path = "M0 0 H60 V40 H0 Z"
	}
	if len(p.Layers) > 0 && rapid.IntRange(0, 4).Draw(t, "cut") == 0 {
		z.CutAfter = rapid.SampledFrom(p.Layers).Draw(t, "cut after").ID
	}
	return z
}

func randomLayer(t *rapid.T, p *PieceWish) Layer {
	l := Layer{Effect: rapid.SampledFrom(effects).Draw(t, "effect"), Sheen: rapid.SampledFrom(append([]string{""}, Sheens...)).Draw(t,
		"layer sheen"),
		Coats: rapid.SampledFrom([]int{0, 0, 1, 3}).Draw(t, "coats"), Off: rapid.IntRange(0, 9).Draw(t, "off") == 0,
		Wet: rapid.Bool().Draw(t, "wet"), Because: rapid.SampledFrom([]string{"", "it was like that"}).Draw(t, "because")}
	l.ID = p.free(string(l.Effect))
	if kinds := kindsOf[l.Effect]; len(kinds) > 0 {
		l.As = rapid.SampledFrom(kinds).Draw(t, "as")
	}
	if families := familiesOf[l.Effect]; len(families) > 0 && rapid.IntRange(0, 3).Draw(t, "own family") == 0 {
		l.Family = rapid.SampledFrom(families).Draw(t, "family")
	}
	if rapid.Bool().Draw(t, "some regions") {
		l.Regions = []string{rapid.SampledFrom(p.names()).Draw(t, "on")}
	}
	switch l.Effect {
	case EffectColour:
		if l.Family == "" {
			l.Carrier = rapid.SampledFrom([]string{"", "water", "spirit", "oil", "stain", "bound", "opaque", "airbrush"}).Draw(t, "carrier")
		}
		l.Colours = []string{"Oker", "紺"}[:rapid.IntRange(0, 2).Draw(t, "colours")]
	case EffectMend:
		l.Of = rapid.SampledFrom(surface.Mends()).Draw(t, "mend").ID
	case EffectFlake, EffectParticles:
		g := rapid.SampledFrom(flake.All()).Draw(t, "grain")
		if g.Sprinkled == (l.Effect == EffectParticles) && g.Size < 300 {
			l.Of = g.ID
		}
	case EffectWear:
		l.Of = rapid.SampledFrom(aging.All()).Draw(t, "aging").ID
		if rapid.Bool().Draw(t, "a place") {
			l.Places = []string{rapid.SampledFrom(aging.Places()).Draw(t, "place").ID}
		}
	case EffectLeaf:
		l.Of = rapid.SampledFrom(leaf.All()).Draw(t, "leaf").ID
	case EffectPour:
		l.Of, l.Depth = rapid.SampledFrom(resin.All()).Draw(t, "resin").ID, "9 mm"
	case EffectClear:
		l.Family = rapid.SampledFrom(Clears).Draw(t, "another clear")
	}
	return l
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
		for _, piece := range draft.Pieces {
			for _, z := range piece.Regions {
				if piece.Kind != Whole && z.Sheen != "" {
					assert.Equal(t, z.Sheen, draft.sheen(z.Key), z.Key)
				}
			}
		}
		_ = w
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

// planned is a draft in a shop that is open from Monday to Saturday.
func planned(t require.TestingT, d Draft) *schedule.Plan {
	week := [7][]calendar.Hours{}
	for day := time.Monday; day <= time.Saturday; day++ {
		week[day] = []calendar.Hours{{Open: 9 * 60, Close: 18 * 60}}
	}
	cal, err := calendar.New(time.UTC, week, nil)
	require.NoError(t, err)
	in := instrument(t, d)
	require.NoError(t, in.Validate())
	shop, err := schedule.NewShop(schedule.Setting{Calendar: cal, Margin: schedule.DefaultMargin})
	require.NoError(t, err)
	plan, err := schedule.Retime(schedule.Input{Now: time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC), Shop: shop,
		Instruments: []schedule.Instrument{in}})
	require.NoError(t, err)
	return plan
}

// What cannot be planned (a film that a scuff would ruin, coated again too late) is refused with the reason.
func TestEveryComposedScheduleIsPlannedWithoutABrokenHardWindow(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		_, draft := composed(t)
		plan := planned(t, draft)
		for _, f := range plan.Forecasts {
			if f.Impossible != "" {
				assert.Contains(t, f.Impossible, "a scuff would ruin that film")
				return
			}
		}
		assert.Zero(t, search.Measure(plan).Broken)
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
	choices := w.Choices()
	if len(choices) == 0 {
		next, _, err := Compose(w)
		require.NoError(t, err)
		return next
	}
	c := rapid.SampledFrom(choices).Draw(t, "choice")
	for _, way := range c.Ways {
		next, faults, err := Compose(w.With(c.Topic, c.Piece, way.Option))
		require.NoError(t, err)
		if len(faults) == 0 {
			drafts = append(drafts, next)
		}
	}
	return rapid.SampledFrom(drafts).Draw(t, "way") // at least the one that is followed
}
