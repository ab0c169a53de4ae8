package e2e

import (
	"testing"

	"umberfrost/internal/shop/views"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// An own recipe is saved from the stack, used by an instrument, bettered, offered with its effect, and taken over.
func TestAnOwnRecipeFromFirstToLast(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-stack] h2", "The stack")
	p.click("[data-stack] button", "Save it")
	p.fill("Name of the recipe", "Tideline gloss")
	p.click("[role=dialog] button", "Save it")
	p.see("[data-toast]", "Saved: Tideline gloss, version 1")
	p.see("[data-stack] select option", "Tideline gloss (ours)")
	view := p.keep(r.URL, "Greenshank")
	require.NotNil(t, view.Wish.Pieces[0].Own)

	p.visit("/instruments/new")
	p.see("[data-stack] select option", "Tideline gloss (ours)")
	p.fill("Begin with", view.Wish.Pieces[0].Own.ID.String())
	p.layer("clear")
	p.fill("Coats", "12")
	p.click("[data-stack] button", "Save it")
	p.fill("As", view.Wish.Pieces[0].Own.ID.String())
	p.fill("What is better about it", "more film")
	p.click("[role=dialog] button", "Save it")
	p.see("[data-toast]", "Saved: Tideline gloss, version 2")

	p.visit("/recipes/" + view.Wish.Pieces[0].Own.ID.String())
	p.see("[data-use=Greenshank]", "version 2:")
	p.see("[data-versions]", "more film")
	p.fill("Beside", view.Wish.Pieces[0].Own.ID.String()+"/1")
	p.see("[data-compared]", "12 coats")
	p.click("[data-use=Greenshank] button", "See what it does")
	p.see("[data-tray]", "Greenshank composed again")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Greenshank")
	p.see("[data-use=Greenshank]", "it uses the latest")
	after := get[views.InstrumentView](t, r.URL+"/api/instruments/"+view.ID.String())
	assert.Equal(t, 2, after.Wish.Pieces[0].Own.Version)
	assert.Equal(t, 12, after.Wish.Pieces[0].Layers[len(after.Wish.Pieces[0].Layers)-1].Coats)
}

// A fragment is saved from a schedule and put into another; the shop's ways are followed where nobody chooses.
func TestAFragmentAndTheShopsWays(t *testing.T) {
	t.Parallel()
	r := room(t)
	knot := viewOf(t, r.URL, "Knot")
	p := open(t, r.URL, "/instruments/"+knot.ID.String()+"?edit")
	p.click("[data-schedule-bar] button", "Save as recipe")
	p.fill("What", knot.Pieces[0].ID.String())
	p.fill("From", stepIn(t, knot, "Level for gloss").StepID.String())
	p.fill("To", stepIn(t, knot, "Buff").StepID.String())
	p.fill("Name of the recipe", "Shine")
	p.click("[role=dialog] button", "Save it")
	p.see("[data-toast]", "Saved: Shine, version 1")
	p.visit("/instruments/" + knot.ID.String() + "?edit&step=" + stepIn(t, knot, "Buff").StepID.String() + "&coat=1")
	p.choose("Add a step after it…", "Shine")
	p.see("[data-tray]", "added after “Buff”")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Knot:")
	assert.Len(t, stepsOf(viewOf(t, r.URL, "Knot")), len(stepsOf(knot))+2)

	p.visit("/shop")
	p.see("[data-ways]", "Our ways")
	p.fill("Dry or wet levelling", "wet")
	p.click("[data-ways] button", "Keep these ways")
	p.see("[data-toast]", "other schools where nobody chooses")
	assert.Equal(t, "wet", get[views.ShopView](t, r.URL+"/api/shop").Shop.Ways["levelling"])
}
