package edit

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
)

// plover is an instrument with a sanded, dyed and lacquered body and an oiled neck.
func plover(t require.TestingT) recipe.Instrument {
	wish := recipe.Wish{Pieces: []recipe.PieceWish{
		{Kind: recipe.Body, Wood: "ash-swamp", Length: "480 mm", Width: "330 mm", Thickness: "45 mm", Layers: []recipe.Layer{
			{ID: "dye", Effect: recipe.EffectColour, Carrier: "water"},
			{ID: "clear", Effect: recipe.EffectClear, Family: "water-clear", Sheen: "satin"}}},
		{Kind: recipe.Neck, Wood: "maple-hard", Length: "680 mm", Width: "50 mm", Layers: []recipe.Layer{
			{ID: "clear", Effect: recipe.EffectClear, Family: "finishing-oil", Sheen: "satin"}}}}}
	return composed(t, uuid.MustParse("00000000-0000-0000-0000-00000000a1a1"), wish)
}

func composed(t require.TestingT, id uuid.UUID, wish recipe.Wish) recipe.Instrument {
	draft, faults, err := recipe.Compose(wish.Of("slab", ""))
	require.NoError(t, err)
	require.Empty(t, faults)
	in := recipe.Instrument{Wish: &wish, Instrument: job.Instrument{ID: id, Name: "Goldregenpfeifer Ü", Outline: "slab"}}
	for _, p := range draft.Pieces {
		in.Pieces = append(in.Pieces, recipe.IDs(id).Made(p))
	}
	return in
}

func logOf(done map[uuid.UUID]int) recipe.Logged {
	l := recipe.Logged{Done: done, Spoken: make(map[uuid.UUID]bool)}
	for id := range done {
		l.Spoken[id] = true
	}
	return l
}

// bySlot finds a step.
func bySlot(t require.TestingT, in recipe.Instrument, slot string) job.Step {
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			if s.Slot == slot {
				return s
			}
		}
	}
	require.Fail(t, "no step "+slot)
	return job.Step{}
}

func titles(p job.Piece) (list []string) {
	for _, s := range p.Steps {
		list = append(list, s.Title)
	}
	return list
}

func do(t require.TestingT, in recipe.Instrument, log recipe.Logged, edits ...Edit) recipe.Instrument {
	for _, e := range edits {
		next, err := Apply(in, e, log, nil)
		require.NoError(t, err)
		in = next
	}
	return in
}

func some[T any](v T) *T { return &v }

const clear = "body:clear:clear"

func TestOtherFigures(t *testing.T) {
	in := plover(t)
	step := bySlot(t, in, clear)
	place := uuid.New()
	in = do(t, in, logOf(nil), Edit{Op: Set, Step: step.ID, Fields: &Fields{Title: some("Klar, dünn"), Coats: some(7), Minutes: some(25),
		Film: some("topcoat"), RestMin: some(600), Place: &place, Note: some("linke Hand zuerst")}})
	got := bySlot(t, in, clear)
	assert.Equal(t, []any{"Klar, dünn", 7, unit.Minutes(25), "topcoat", unit.Minutes(600), place, "linke Hand zuerst", true},
		[]any{got.Title, got.Coats, got.HandsOnMin, string(got.Film), got.RestMin, *got.Place, got.Note, got.Edited})
	in = do(t, in, logOf(nil), Edit{Op: Set, Step: step.ID, Fields: &Fields{Place: some(uuid.Nil), Film: some("")}})
	assert.Nil(t, bySlot(t, in, clear).Place)
	assert.Empty(t, bySlot(t, in, clear).Film)
}

func TestMinutesGoAlongWithGritsAreaAndMethod(t *testing.T) {
	in := plover(t)
	sand := bySlot(t, in, "body:sand-bare")
	half := do(t, in, logOf(nil), Edit{Op: Set, Step: sand.ID, Fields: &Fields{Ladder: &[]string{sand.Ladder[0]}}})
	want := (float64(sand.HandsOnMin) / float64(len(sand.Ladder)))
	assert.InDelta(t, want, float64(bySlot(t, half, "body:sand-bare").HandsOnMin), 5)
	step := bySlot(t, in, clear)
	brushed := do(t, in, logOf(nil), Edit{Op: Set, Step: step.ID, Fields: &Fields{Method: some("brush")}})
	assert.NotEqual(t, step.HandsOnMin, bySlot(t, brushed, clear).HandsOnMin, "a brush is slower than a gun, and quicker to clean")
	assert.EqualValues(t, 8, bySlot(t, brushed, clear).SetUpMin)
	typed := do(t, in, logOf(nil), Edit{Op: Set, Step: step.ID, Fields: &Fields{Method: some("brush"), Minutes: some(33)}})
	assert.EqualValues(t, 33, bySlot(t, typed, clear).HandsOnMin, "what somebody says goes before")
}

func TestAnotherMaterial(t *testing.T) {
	in, ebb := plover(t), uuid.New()
	step := bySlot(t, in, clear)
	families := func(id uuid.UUID) (string, bool) { return "nitro", id == ebb }
	next, err := Apply(in, Edit{Op: Set, Step: step.ID, Fields: &Fields{Material: some(ebb.String())}}, logOf(nil), families)
	require.NoError(t, err)
	got := bySlot(t, next, clear)
	assert.Equal(t, []any{"nitro", &ebb, "clear"}, []any{got.Family, got.Product, got.Role})
	next = do(t, in, logOf(nil), Edit{Op: Set, Step: step.ID, Fields: &Fields{Material: some("hardwax-oil")}})
	assert.Equal(t, "oil", bySlot(t, next, clear).Role, "another group has another slot on the shelf")
}

// What is done stays as it was done: only the rest of a step becomes another.
func TestAStepThatIsBegunIsParted(t *testing.T) {
	in := plover(t)
	step := bySlot(t, in, clear)
	log := logOf(map[uuid.UUID]int{step.ID: 2})
	next := do(t, in, log, Edit{Op: Set, Step: step.ID, Fields: &Fields{Material: some("nitro"), Coats: some(step.Coats + 1)}})
	done := bySlot(t, next, clear)
	assert.Equal(t, []any{2, step.Family, step.HandsOnMin}, []any{done.Coats, done.Family, done.HandsOnMin})
	at := -1
	for i, s := range next.Pieces[0].Steps {
		if s.ID == step.ID {
			at = i
		}
	}
	rest := next.Pieces[0].Steps[at+1]
	assert.Equal(t, []any{step.Coats - 1, "nitro", step.Title}, []any{rest.Coats, rest.Family, rest.Title},
		"the coats asked for are all of them, what is done with them")
	assert.NotEqual(t, step.ID, rest.ID)

	more := do(t, in, log, Edit{Op: Set, Step: step.ID, Fields: &Fields{Coats: some(9)}})
	assert.Equal(t, 9, bySlot(t, more, clear).Coats, "how many it takes in all is no other work")
	out := do(t, in, log, Edit{Op: LeaveOut, Step: step.ID, Reason: "genug Film"})
	assert.Equal(t, []any{2, ""}, []any{bySlot(t, out, clear).Coats, bySlot(t, out, clear).Out})
	assert.Equal(t, "genug Film", out.Pieces[0].Steps[at+1].Out, "what is left out is the rest")
}

func TestAStepIsPartedTwice(t *testing.T) {
	in := plover(t)
	step := bySlot(t, in, clear)
	log := logOf(map[uuid.UUID]int{step.ID: 2})
	in = do(t, in, log, Edit{Op: Set, Step: step.ID, Fields: &Fields{Title: some("anders")}},
		Edit{Op: Set, Step: step.ID, Fields: &Fields{Coats: some(4)}},
		Edit{Op: Set, Step: step.ID, Fields: &Fields{Title: some("noch anders")}})
	ids, slots := make(map[uuid.UUID]bool), make(map[string]bool)
	for _, s := range in.Pieces[0].Steps {
		assert.False(t, ids[s.ID] || slots[s.Slot], s.Slot)
		ids[s.ID], slots[s.Slot] = true, true
	}
	assert.Contains(t, titles(in.Pieces[0]), "anders")
	assert.Contains(t, titles(in.Pieces[0]), "noch anders")
}

func TestAddMoveDuplicateSplitJoinRemove(t *testing.T) {
	in, log := plover(t), logOf(nil)
	body := in.Pieces[0]
	step := bySlot(t, in, clear)
	more, again, apart := uuid.New(), uuid.New(), uuid.New()

	in = do(t, in, log, Edit{Op: Add, Step: more, Piece: body.ID, After: step.ID, What: "clear"})
	added := *stepOf(in, more)
	assert.Equal(t, []any{step.Family, step.Method, 1, true}, []any{added.Family, added.Method, added.Coats, added.Edited},
		"the clear that lies there")
	assert.Len(t, added.Regions, len(body.Regions))

	in = do(t, in, log, Edit{Op: Move, Step: more})
	assert.Equal(t, more, in.Pieces[0].Steps[0].ID, "to the first place")
	in = do(t, in, log, Edit{Op: Duplicate, Step: more, New: again, After: step.ID})
	assert.Contains(t, titles(in.Pieces[0]), added.Title)
	assert.True(t, recipe.ByHand(stepOf(in, again).Slot))

	back := body.Regions[1].ID
	in = do(t, in, log, Edit{Op: Split, Step: step.ID, New: apart, Regions: []uuid.UUID{back}})
	assert.Equal(t, []uuid.UUID{back}, stepOf(in, apart).Regions)
	assert.NotContains(t, stepOf(in, step.ID).Regions, back)
	sand := bySlot(t, in, "body:sand-bare")
	halves := do(t, in, log, Edit{Op: Split, Step: sand.ID, New: uuid.New(), Regions: []uuid.UUID{back}})
	assert.Less(t, stepOf(halves, sand.ID).HandsOnMin, sand.HandsOnMin)
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			for _, after := range s.After {
				if after == step.ID {
					assert.Contains(t, s.After, apart, "%s waits for both parts", s.Title)
				}
			}
		}
	}
	in = do(t, in, log, Edit{Op: Join, Step: step.ID, With: apart})
	assert.ElementsMatch(t, step.Regions, stepOf(in, step.ID).Regions)
	assert.Nil(t, stepOf(in, apart))
	in = do(t, in, log, Edit{Op: Remove, Step: more}, Edit{Op: Remove, Step: again})
	assert.Equal(t, titles(body), titles(in.Pieces[0]))
}

func TestAnEffectComesWithAllItsSteps(t *testing.T) {
	for _, x := range recipe.Extras() {
		in := plover(t)
		id := uuid.New()
		next, err := Apply(in, Edit{Op: Add, Step: id, Piece: in.Pieces[0].ID, After: in.Pieces[0].Steps[4].ID, What: x.ID}, logOf(nil),
			nil)
		if x.ID == "effect-flake" { // rough flake lies in two-part clear only
			assert.ErrorContains(t, err, "urethane-2k")
			continue
		}
		if assert.NoError(t, err, x.ID) {
			assert.NotNil(t, stepOf(next, id), x.ID)
			assert.Greater(t, len(next.Pieces[0].Steps), len(in.Pieces[0].Steps), x.ID)
		}
	}
	in := plover(t)
	in.Wish = nil
	_, err := Apply(in, Edit{Op: Add, Step: uuid.New(), Piece: in.Pieces[0].ID, What: "effect-leaf"}, logOf(nil), nil)
	assert.ErrorContains(t, err, "one by one")
}

func TestWhatCannotBe(t *testing.T) {
	in := plover(t)
	step, sand := bySlot(t, in, clear), bySlot(t, in, "body:sand-bare")
	neck := in.Pieces[1].Steps[0]
	log := logOf(map[uuid.UUID]int{sand.ID: 1, step.ID: 1})
	for name, c := range map[string]struct {
		edit  Edit
		field string
	}{
		"a step of another instrument":  {Edit{Op: Move, Step: uuid.New()}, "stepId"},
		"no such edit":                  {Edit{Op: "fold", Step: step.ID}, "op"},
		"what is done is not moved":     {Edit{Op: Move, Step: sand.ID}, "stepId"},
		"what is done is no other work": {Edit{Op: Set, Step: sand.ID, Fields: &Fields{Title: some("Polish")}}, "stepId"},
		"fewer coats than are done":     {Edit{Op: Set, Step: step.ID, Fields: &Fields{Coats: some(0)}}, "fields.coats"},
		"more than fifty":               {Edit{Op: Set, Step: step.ID, Fields: &Fields{Coats: some(51)}}, "fields.coats"},
		"no such material":              {Edit{Op: Set, Step: step.ID, Fields: &Fields{Material: some("honey")}}, "fields.material"},
		"no such product": {Edit{Op: Set, Step: step.ID, Fields: &Fields{Material: some(uuid.NewString())}},
			"fields.material"},
		"a film is not dropped in by a pour": {Edit{Op: Set, Step: step.ID, Fields: &Fields{Method: some("pour")}}, "fields.method"},
		"a coat has no grits": {Edit{Op: Set, Step: step.ID, Fields: &Fields{Ladder: &[]string{"fepa:P320"}}},
			"fields.ladder"},
		"nothing said":                   {Edit{Op: Set, Step: step.ID}, "fields"},
		"behind a step of another piece": {Edit{Op: Move, Step: bySlot(t, in, "body:dye:colour").ID, After: neck.ID}, "afterId"},
		"a place that a step has itself": {Edit{Op: Add, Step: step.ID, Piece: in.Pieces[0].ID, What: "clear"}, "stepId"},
		"no such addition":               {Edit{Op: Add, Step: uuid.New(), Piece: in.Pieces[0].ID, What: "snow"}, "what"},
		"no reason":                      {Edit{Op: LeaveOut, Step: bySlot(t, in, "body:dye:colour").ID, Reason: "  "}, "reason"},
		"nothing to take back":           {Edit{Op: TakeBack, Step: step.ID}, "stepId"},
		"a recipe's step":                {Edit{Op: Remove, Step: bySlot(t, in, "body:dye:colour").ID}, "stepId"},
		"what is logged":                 {Edit{Op: Remove, Step: sand.ID}, "stepId"},
		"all of its regions":             {Edit{Op: Split, Step: step.ID, New: uuid.New(), Regions: step.Regions}, "regions"},
		"joined with other work":         {Edit{Op: Join, Step: bySlot(t, in, "body:dye:colour").ID, With: sand.ID}, "withId"},
		"rounds below what is done": {Edit{Op: Set, Step: step.ID, Fields: &Fields{Rounds: &Rounds{Least: 2, Most: 1}}},
			"fields.rounds"},
		"divided coats": {Edit{Op: Set, Step: step.ID, Fields: &Fields{Divide: some(30)}}, "fields.divideMin"},
	} {
		_, err := Apply(in, c.edit, log, nil)
		var wrong *Fault
		if assert.ErrorAs(t, err, &wrong, name) {
			assert.Equal(t, c.field, wrong.Field, "%s: %s", name, wrong.Message)
		}
	}
}

// What belongs to one sitting, within minutes, stays together: grains on a tacky coat.
func TestNothingComesBetweenOneSitting(t *testing.T) {
	in, log := plover(t), logOf(nil)
	grains := uuid.New()
	in = do(t, in, log, Edit{Op: Add, Step: grains, Piece: in.Pieces[0].ID, After: bySlot(t, in, clear).ID, What: "effect-particles"})
	at := -1
	for i, s := range in.Pieces[0].Steps {
		if s.Within != nil {
			at = i
		}
	}
	require.Greater(t, at, 0)
	tacky, strew := in.Pieces[0].Steps[at-1], in.Pieces[0].Steps[at]
	for name, e := range map[string]Edit{
		"a step between":        {Op: Add, Step: uuid.New(), Piece: in.Pieces[0].ID, After: tacky.ID, What: "rest"},
		"the coat once more":    {Op: Duplicate, Step: tacky.ID, New: uuid.New()},
		"the coat elsewhere":    {Op: Move, Step: tacky.ID},
		"the grains elsewhere":  {Op: Move, Step: strew.ID},
		"the grains in regions": {Op: Split, Step: strew.ID, New: uuid.New(), Regions: strew.Regions[:1]},
	} {
		_, err := Apply(in, e, log, nil)
		assert.ErrorContains(t, err, "sitting", name)
	}
}
