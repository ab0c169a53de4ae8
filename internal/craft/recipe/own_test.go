package recipe

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
)

func keptOf(t *testing.T, w Wish) Instrument {
	t.Helper()
	d := compose(t, w)
	in := Instrument{Wish: &w, Instrument: job.Instrument{ID: uuid.New(), Name: "Säbelschnäbler"}}
	for _, p := range d.Pieces {
		in.Pieces = append(in.Pieces, IDs(in.ID).Made(p))
	}
	return in
}

func TestAStackIsKeptWithoutItsWoodAndTakenByAnotherPiece(t *testing.T) {
	ash := body("ash-swamp").From("one-colour").Ending("nitro", "gloss").Chosen("pores", "full")
	c := StackOf(ash)
	assert.Empty(t, c.Stack.Wood)
	assert.Empty(t, c.Stack.Length)
	use := OwnUse{uuid.New(), 2}
	alder := body("alder-red").From("natural").Taking(*c.Stack, use)
	assert.Equal(t, []any{"alder-red", "480 mm", use}, []any{alder.Wood, alder.Length, *alder.Own})
	assert.Equal(t, ash.Layers, alder.Layers)
	assert.NotEmpty(t, compose(t, Wish{Pieces: []PieceWish{alder}}).Pieces)
	assert.Empty(t, ash.Ways["levelling"], "what was left open stays open")
	again, ok := ParseOwnUse(use.String())
	assert.True(t, ok)
	assert.Equal(t, use, again)
	for _, wrong := range []string{"", "x/1", use.ID.String(), use.ID.String() + "/0", use.ID.String() + "/y"} {
		_, ok := ParseOwnUse(wrong)
		assert.False(t, ok, wrong)
	}
}

// A whole schedule is kept with what a hand has changed of it, and composed again elsewhere as it left it.
func TestAScheduleKeepsWhatAHandHasChanged(t *testing.T) {
	in := keptOf(t, Wish{Pieces: []PieceWish{body("alder-red").From("natural").Ending("water-clear", "satin")}})
	steps := in.Pieces[0].Steps
	last := len(steps) - 1
	steps[2].Coats, steps[2].Title, steps[2].Edited = 1, "Von Hand", true
	steps[3].Out, steps[3].Edited = "nie", true
	moved := steps[last]
	moved.Moved, moved.Edited = true, true
	own := job.Step{ID: uuid.New(), Slot: "body:x" + HandMark + "added-1", Kind: job.Inspect, Title: "Eigener Blick", Coats: 1,
		HandsOnMin: 5, Edited: true, Moved: true,
		Regions: []uuid.UUID{in.Pieces[0].Regions[0].ID}}
	in.Pieces[0].Steps = append([]job.Step{moved, own}, steps[:last]...)
	c := ScheduleOf(in)
	require.Len(t, c.Hand, 1)

	other := *c.Wish
	other.Pieces = []PieceWish{c.Wish.Pieces[0]}
	other.Pieces[0].Wood = "ash-swamp"
	d := c.Composed(compose(t, other))
	assert.Equal(t, moved.Title, d.Pieces[0].Steps[0].Title, "where the hand has put it")
	assert.Equal(t, "Eigener Blick", d.Pieces[0].Steps[1].Title)
	assert.Equal(t, []string{"body:top"}, d.Pieces[0].Steps[1].Regions)
	assert.Equal(t, "Von Hand", d.find(steps[2].Slot).Title)
	assert.Equal(t, "nie", d.find(steps[3].Slot).Out)
	assert.NoError(t, instrument(t, d).Validate())

	data, err := json.Marshal(c)
	require.NoError(t, err)
	var again OwnContent
	require.NoError(t, json.Unmarshal(data, &again))
	assert.Equal(t, len(c.Lines()), len(again.Lines()))
	assert.Equal(t, c.Lines(), again.Lines(), "nothing is lost on the way through a file")
}

func TestAFragmentIsPutOnAnotherPiece(t *testing.T) {
	in := keptOf(t, Wish{Pieces: []PieceWish{body("alder-red").From("natural").Ending("nitro", "gloss")}})
	var chosen []uuid.UUID
	for _, s := range in.Pieces[0].Steps {
		if s.Kind == job.Level || s.Kind == job.Buff {
			chosen = append(chosen, s.ID)
		}
	}
	c := FragmentOf(in, chosen)
	require.Len(t, c.Steps, len(chosen))
	assert.Equal(t, uuid.Nil, c.Steps[0].Step.ID)
	assert.Empty(t, c.Steps[0].Regions, "all of a piece is all of any piece")
	use := OwnUse{uuid.New(), 1}
	neck := job.Piece{Kind: Neck, Regions: []job.Region{{ID: uuid.New(), Name: "shaft"}}}
	steps := c.StepsOn(neck, []uuid.UUID{neck.Regions[0].ID}, use)
	assert.Equal(t, []uuid.UUID{neck.Regions[0].ID}, steps[0].Regions)
	assert.Equal(t, use.String(), steps[0].Recipe)
	assert.True(t, (&Instrument{Instrument: job.Instrument{Pieces: []job.Piece{{Steps: steps}}}}).Uses(use.ID))
	assert.False(t, in.Uses(use.ID))
}

func TestTwoVersionsLineByLine(t *testing.T) {
	a := StackOf(body("alder-red").From("one-colour").Ending("nitro", "gloss"))
	p := *a.Stack
	p.Layers = append([]Layer{{ID: "text", Effect: EffectTexture}}, p.Layers...)
	p.Layers[len(p.Layers)-1].Coats = 9
	b := StackOf(p)
	lines := Compare(a, b)
	assert.Equal(t, Difference{B: "Texture, brushed out"}, lines[0])
	last := lines[len(lines)-1]
	assert.NotEqual(t, last.A, last.B)
	assert.Contains(t, last.B, "9 coats")
	for _, d := range Compare(a, a) {
		assert.Equal(t, d.A, d.B)
	}
	gone := Compare(b, a)
	assert.Equal(t, Difference{A: "Texture, brushed out"}, gone[0])
}

func TestWhatIsWrongWithARecipeFromElsewhere(t *testing.T) {
	sound := Own{ID: uuid.New(), Name: "Öl wie immer", Kind: OwnStack,
		Versions: []OwnVersion{{Version: 1, At: time.Unix(0, 0), Content: StackOf(body("alder-red").From("natural"))}}}
	assert.Empty(t, sound.Check())
	bad := func(change func(*Own)) string {
		o := sound
		o.Versions = append([]OwnVersion{}, sound.Versions...)
		change(&o)
		faults := o.Check()
		if len(faults) == 0 {
			return ""
		}
		return faults[0].Path
	}
	assert.Equal(t, "name", bad(func(o *Own) { o.Name = " " }))
	assert.Equal(t, "id", bad(func(o *Own) { o.ID = uuid.Nil }))
	assert.Equal(t, "versions", bad(func(o *Own) { o.Versions = nil }))
	assert.Equal(t, "versions[0].version", bad(func(o *Own) { o.Versions[0].Version = 3 }))
	assert.Equal(t, "versions[0].content.kind", bad(func(o *Own) { o.Kind = OwnFragment }))
	assert.Contains(t, bad(func(o *Own) {
		p := *o.Versions[0].Content.Stack
		p.Layers = []Layer{{ID: "x", Effect: "glitter"}}
		o.Versions[0].Content.Stack = &p
	}), "versions[0].content.pieces[0].layers[0].effect")
	step := OwnStep{Step: job.Step{Kind: job.Coat, Title: "Coat", Family: "treacle", HandsOnMin: 5}}
	assert.Equal(t, "versions[0].content.steps[0].family", bad(func(o *Own) {
		o.Kind, o.Versions[0].Content = OwnFragment,
			OwnContent{Steps: []OwnStep{step}}
	}))
}
