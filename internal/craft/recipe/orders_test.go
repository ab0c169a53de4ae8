package recipe

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
)

// Orders that were wrong once and must not come back (layers.md), each as a statement of
// what is meant.

// flow is the slots of an instrument in the order of its pieces and steps.
func flow(d Draft) (slots []string) {
	for _, p := range d.Pieces {
		for _, s := range p.Steps {
			slots = append(slots, s.Slot)
		}
	}
	return slots
}

// inOrder asserts that all of the slots are there, one after the other.
func inOrder(t *testing.T, d Draft, slots ...string) {
	t.Helper()
	all := flow(d)
	last := -1
	for _, slot := range slots {
		at := slices.Index(all, slot)
		require.GreaterOrEqual(t, at, 0, "%s is missing in %v", slot, all)
		assert.Greater(t, at, last, "%s comes too early in %v", slot, all)
		last = at
	}
}

func TestAFlameComesBeforeTapePaperAndSpirit(t *testing.T) {
	w := Wish{Pieces: []PieceWish{body("ash-swamp"), neck("ash-swamp")}}
	for i := range w.Pieces {
		set(&w.Pieces[i], "Look", "charred")
		set(&w.Pieces[i], "Clear", "water-clear")
		set(&w.Pieces[i], "Sheen", "satin")
		set(&w.Pieces[i], "Texture", true)
	}
	d := compose(t, w)
	for _, kind := range []PieceKind{Body, Neck} {
		piece := string(kind)
		inOrder(t, d, piece+":sand-bare", piece+":texture:texture", piece+":char:char", piece+":char:char-clean", piece+":tape-on",
			piece+":char:seal-char")
		assert.NotContains(t, d.piece(t, kind).step(t, "rake").How, "Wipe with spirit")
		for _, s := range d.piece(t, kind).Steps {
			if s.Slot == piece+":char:char" {
				break
			}
			assert.NotContains(t, []job.Kind{job.Coat, job.MaskOn}, s.Kind, "%s is about when the wood burns", s.Title)
		}
	}
	assert.Contains(t, compose(t, archetype(t, "oil")).piece(t, Body).step(t, "rake").How, "Wipe with spirit", "where nothing burns")
}

func TestTextureComesBeforeWater(t *testing.T) {
	w := archetype(t, "filled-gloss")
	set(&w.Pieces[0], "Texture", true)
	inOrder(t, compose(t, w), "body:texture:texture", "body:wet", "body:cut-back", "body:colour:colour")
}

// On metal, plastic and resin fit, drill and mask before primer: no primer lies in a joint.
func TestPrimerLiesInNoJoint(t *testing.T) {
	for _, stuff := range []string{"aluminium", "resin-cast", "plastic-printed"} {
		w := Wish{Pieces: []PieceWish{body(stuff)}}
		set(&w.Pieces[0], "Look", "solid")
		set(&w.Pieces[0], "Clear", "urethane-2k")
		set(&w.Pieces[0], "Sheen", "gloss")
		d, faults, err := Compose(w)
		require.NoError(t, err)
		require.Empty(t, faults, stuff)
		inOrder(t, d, "body:dull-"+stuff, "body:drill", "body:tape-on", "body:prime-"+stuff, "body:base:base")
		for _, s := range d.piece(t, Body).Steps {
			assert.NotContains(t, []string{"body:rake", "body:wet", "body:cut-back", "body:sand-bare"}, s.Slot,
				"nothing there raises grain or shows glue")
		}
	}
}

// Wax ends everything: no tape for the fretwork holds on it.
func TestFretworkComesBeforeWax(t *testing.T) {
	w := archetype(t, "oil")
	w.Frets = "mirror"
	set(&w.Pieces[1], "Wax", true)
	w.Board = &BoardWish{Wood: "ebony-gaboon", Finish: "oil-shellac-wax"}
	d := compose(t, w)
	inOrder(t, d, "neck:tape-on", "neck:open", "fretboard:board-sand", "fretboard:board-oil", "frets:fret-tape", "frets:fret-level",
		"frets:fret-untape",
		"frets:board-shellac", "frets:board-wax", "frets:wax:wax", "whole:strings")
	assert.NotContains(t, flow(d), "neck:wax:wax")

	w.Frets, w.Board = "none", nil
	inOrder(t, compose(t, w), "neck:wax:wax", "neck:open")

	glued := archetype(t, "oil")
	glued.Joint, glued.Frets = "set", "brushed"
	set(&glued.Pieces[1], "Wax", true)
	set(&glued.Pieces[0], "Wax", true)
	glued = glued.With("joining", "", "glued-first")
	d = compose(t, glued)
	inOrder(t, d, "whole:fret-tape", "whole:fret-untape", "whole:wax:wax", "whole:strings")
}

// A barrier that is sanded away with what lies on it is put on again, where the next coat
// would wake what it shut in.
func TestABarrierThatIsSandedAwayIsPutOnAgain(t *testing.T) {
	w := archetype(t, "filled-gloss")
	d := compose(t, w)
	inOrder(t, d, "body:colour:colour", "body:fill:barrier-fill-water-dye", "body:fill:fill", "body:fill:sand-fill",
		"body:fill:barrier-again", "body:clear:seal")
	again, first := d.piece(t, Body).step(t, "barrier-again"), d.piece(t, Body).step(t, "barrier-fill-water-dye")
	assert.Equal(t, first.Family, again.Family)
	assert.Equal(t, d.piece(t, Body).step(t, "fill").Regions, again.Regions)
	assert.Contains(t, again.Why, "took the first one off the face")
}

// What practice differs on is composed, with a word on it: only what spoils for certain is
// refused.
func TestDisputedPracticeIsAWarning(t *testing.T) {
	w := Wish{Pieces: []PieceWish{body("cocobolo")}}
	set(&w.Pieces[0], "Clear", "hardwax-oil")
	set(&w.Pieces[0], "Sheen", "satin")
	d := compose(t, w)
	inOrder(t, d, "body:clear:degrease", "body:clear:oil-1")
	assert.Contains(t, d.Notes[0], "is oily and slows an oil")
	w.Pieces[0].Wood = "ash-swamp"
	set(&w.Pieces[0], "Sheen", "gloss")
	d = compose(t, w)
	assert.NotContains(t, flow(d), "body:clear:degrease")
	assert.Contains(t, d.Notes[0], "seldom ends glossier than satin")
	assert.Equal(t, "gloss", d.sheen("body:top"))
}

// Lint says of an oily wood what composing says: with the wipe nothing, without it a
// warning.
func TestLintAndComposingAgreeOnOilyWood(t *testing.T) {
	w := Wish{Pieces: []PieceWish{body("cocobolo")}}
	set(&w.Pieces[0], "Clear", "hardwax-oil")
	set(&w.Pieces[0], "Sheen", "satin")
	d := compose(t, w)
	assert.Empty(t, Lint(d, w))
	d.drop("body:clear:degrease")
	found := Lint(d, w)
	require.NotEmpty(t, found)
	assert.Equal(t, "oily-wood", found[0].Rule)
	assert.False(t, found[0].Spoils)
}
