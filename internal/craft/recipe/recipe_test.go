package recipe

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/wood"
)

func bodyChoice() PieceChoice {
	return PieceChoice{Kind: Body, Recipe: "waterborne-gloss-filled", Wood: "ash-swamp", Length: "480 mm", Width: "13 in", Thickness: "44"}
}

func neckChoice() PieceChoice {
	return PieceChoice{Kind: Neck, Recipe: "hardwax-oil-satin", Wood: "maple-hard", Length: "650", Width: "50"}
}

func compose(t *testing.T, choices ...PieceChoice) Draft {
	t.Helper()
	draft, faults, err := Compose(choices)
	require.NoError(t, err)
	require.Empty(t, faults)
	return draft
}

func slots(piece Piece) []string {
	var names []string
	for _, step := range piece.Steps {
		names = append(names, step.Slot[strings.Index(step.Slot, ":")+1:])
	}
	return names
}

// before asserts that slots occur in this order.
func before(t *testing.T, piece Piece, names ...string) {
	t.Helper()
	all, last := slots(piece), -1
	for _, name := range names {
		at := slices.Index(all, name)
		require.GreaterOrEqual(t, at, 0, "%s is missing", name)
		assert.Greater(t, at, last, "%s comes too early", name)
		last = at
	}
}

func TestTheGlossBodyIsWhatAMasterWouldDo(t *testing.T) {
	body := compose(t, bodyChoice()).Pieces[0]
	before(t, body, "sand-bare", "rake", "drill", "tape-on", "wet", "cut-back", "colour-test", "dye", "washcoat", "fill",
		"sand-fill", "pores", "seal", "clear-1", "level-half", "clear-2", "tape-off", "level", "buff", "open")
	for _, step := range body.Steps {
		switch step.Slot {
		case "body:fill":
			assert.Equal(t, 4, step.Coats, "enough water filler for 95 %%")
		case "body:sand-bare":
			assert.Equal(t, "fepa:P180", step.Ladder[len(step.Ladder)-1], "ash is sanded no finer before dye")
		case "body:washcoat":
			assert.True(t, step.NoReturn)
		case "body:level":
			assert.Equal(t, material.Buff, step.Film, "gloss is levelled on a cured film")
		}
	}
}

func TestTheSatinNeckStaysThin(t *testing.T) {
	neck := compose(t, neckChoice()).Pieces[0]
	before(t, neck, "tape-on", "sand-bare", "wet", "cut-back", "oil-1", "scuff", "oil-2", "tape-off", "rub")
	coats := 0
	for _, step := range neck.Steps {
		if step.Kind == schedule.Coat {
			coats += step.Coats
			assert.Equal(t, material.Wipe, step.Method)
		}
		assert.NotEqual(t, schedule.Level, step.Kind, "an oiled neck is not levelled")
	}
	assert.Equal(t, 3, coats)
}

func TestEveryStepSaysHowAndWhyAndTakesTime(t *testing.T) {
	for _, piece := range compose(t, bodyChoice(), neckChoice()).Pieces {
		seen := map[string]bool{}
		for _, step := range piece.Steps {
			assert.NotEmpty(t, step.How, step.Slot)
			assert.NotEmpty(t, step.Why, step.Slot)
			assert.NotEmpty(t, step.Zones, step.Slot)
			assert.Positive(t, int(step.Minutes), step.Slot)
			assert.False(t, seen[step.Slot], "%s comes twice", step.Slot)
			seen[step.Slot] = true
		}
	}
}

func TestBodyAndNeckAreJoined(t *testing.T) {
	draft := compose(t, bodyChoice(), neckChoice())
	require.Len(t, draft.Pieces, 3)
	bolt := draft.Pieces[2].Steps[0]
	assert.Equal(t, []string{"body:open", "neck:rub"}, bolt.After)
	assert.Contains(t, bolt.Zones, "neck:shaft")
	assert.Len(t, compose(t, neckChoice()).Pieces, 1, "a neck alone is joined to nothing")
}

func TestComposingSuitsEveryWoodItAccepts(t *testing.T) {
	for _, timber := range wood.All() {
		choice := bodyChoice()
		choice.Wood = timber.ID
		draft, faults, err := Compose([]PieceChoice{choice})
		require.NoError(t, err, timber.ID)
		if timber.OpenPored() {
			assert.Empty(t, faults, timber.ID)
			assert.NotEmpty(t, draft.Pieces[0].Steps[0].Ladder, timber.ID)
		} else {
			assert.Equal(t, "pieces[0].wood", faults[0].Path)
		}
	}
}

func TestFaultsNameTheFieldAndWhatIsAccepted(t *testing.T) {
	for name, test := range map[string]struct {
		change        func(*PieceChoice)
		path, message string
	}{
		"negative":      {func(c *PieceChoice) { c.Length = "-480 mm" }, "pieces[0].length", "from 250 mm to 800 mm"},
		"absurd":        {func(c *PieceChoice) { c.Thickness = "4 m" }, "pieces[0].thickness", "from 10 mm to 150 mm"},
		"not a length":  {func(c *PieceChoice) { c.Width = "wide" }, "pieces[0].width", "write it like 480 mm"},
		"no such wood":  {func(c *PieceChoice) { c.Wood = "driftwood" }, "pieces[0].wood", "ash-swamp"},
		"closed pores":  {func(c *PieceChoice) { c.Wood = "maple-hard" }, "pieces[0].wood", "open-pored"},
		"wrong recipe":  {func(c *PieceChoice) { c.Recipe = "hardwax-oil-satin" }, "pieces[0].recipe", "waterborne-gloss-filled"},
		"no such piece": {func(c *PieceChoice) { c.Kind = "case" }, "pieces[0].kind", "body or neck"},
	} {
		t.Run(name, func(t *testing.T) {
			choice := bodyChoice()
			test.change(&choice)
			_, faults, err := Compose([]PieceChoice{choice})
			require.NoError(t, err)
			require.Len(t, faults, 1)
			assert.Equal(t, test.path, faults[0].Path)
			assert.Contains(t, faults[0].Message, test.message)
		})
	}
	_, faults, _ := Compose(nil)
	assert.Equal(t, "pieces", faults[0].Path)
	_, faults, _ = Compose([]PieceChoice{neckChoice(), neckChoice()})
	assert.Equal(t, "pieces[1].kind", faults[0].Path)
	oily := neckChoice()
	oily.Wood = "cocobolo"
	_, faults, _ = Compose([]PieceChoice{oily})
	assert.Contains(t, faults[0].Message, "oily")
}
