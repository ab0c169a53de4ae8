package e2e

import (
	"testing"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestColourInTheGrainIsComposedFromNothing(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.fill("Name", "Redshank")
	p.pick("Promised day", "2026-07-29")
	p.fill("Begin from", "oil") // begin with something else
	p.see("[data-archetypes]", "Finishing oil in the body")
	p.unfold("Every step")
	p.see("[data-every-step]", "First coat of oil")
	p.ground()
	p.fill("Wood", "ash-swamp")
	p.layer("clear")
	p.fill("Clear or oil", "water-clear")
	p.fill("Begin with", "grain-colour")
	for _, step := range []string{"Dark colour into the grain", "Rub the dark colour back", "Thin washcoat", "Main colour, bound in clear",
		"Fill the pores, tinted", "Toner over the colour", "Rub to satin"} {
		p.see("[data-every-step]", step)
	}
	p.gone("[data-every-step]", "Level part of the way")
	p.see("[data-added]", "Added: It keeps the dark colour where it is") // what the rules add says why
	p.fill("Sheen", "matte")                                             // flatted, then: level before the last coat and never after
	p.see("[data-every-step]", "Flatted clear, matte")
	p.see("[data-every-step]", "Level part of the way")
	p.gone("[data-every-step]", "Level for")

	p.layer("clear")
	p.point("[data-drawing=body] [data-region=back]") // regions are pointed at on the drawing
	p.fill("Sheen of the back", "gloss")
	p.see("[data-every-step]", "Level for gloss")
	p.fill("Wood of the back", "cocobolo")
	p.see("[data-drawing]", "Cocobolo, gloss")
	p.layer("clear")
	p.fill("Clear or oil", "finishing-oil")
	p.see("[data-objections]", "Cocobolo is oily and slows an oil") // practice differs: it is said, not refused
	p.fill("Begin with", "flake")
	p.see("[data-fault]", "bury it in the two-part clear")
	p.fill("Begin with", "grain-colour")
	p.fill("Clear or oil", "water-clear")
	p.gone("[data-fault]", "")

	p.layer("colour")
	p.click("[data-topic=colour-as] button", "Compare")
	p.see("[data-ways] [data-way=dye]", "Most transparent")
	p.see("[data-ways] [data-way=bound]", "Followed now")
	p.see("[data-ways] [data-way=dye] dd", "about")
	p.until(`document.querySelectorAll('[data-ways] svg').length === 3`, "each way should have its threads")
	p.click("[data-way=dye] button", "Follow this way")
	p.see("[data-topic=colour-as]", "plain dye (your choice)")
	p.see("[data-every-step]", "Dye the wood")
	p.gone("[data-every-step]", "Main colour, bound in clear")

	p.click("button", "Keep this instrument")
	p.see("h1", "Redshank")
	p.gone("[data-objections]", "")
	p.see("[data-sheet]", "Log done")
}

func TestTwoPartIsComposedObjectedToAndMended(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.fill("Name", "Phalarope")
	p.pick("Promised day", "2026-08-20")
	p.fill("Serial or mark", "SR 26-040")
	p.fill("Begin from", "two-part")
	p.see("[data-archetypes]", "film to spare for a new hand")
	p.see("[data-forecast]", "cavity")
	p.unfold("Every step")
	for _, step := range []string{"Scuff the sealer", "Base coat", "Clear, to the levelling", "Level part of the way", "Clear, to the end",
		"Conductive paint", "Wax on the board", "Polish the frets to a mirror", "String it and set it up"} {
		p.see("[data-every-step]", step)
	}
	p.unfold("The whole and its parts")
	p.click("button", "Something is on order")
	p.fill("On order", "tuners")
	p.pick("Expected", "2026-04-20")
	p.see("[data-every-step]", "Tuners must be here")
	p.click("button", "Keep this instrument")
	p.see("h1", "Phalarope")
	p.see("header", "SR 26-040")

	// Another clear for the last coats is a mistake of which somebody has to be told.
	id := ask[string](p, `location.pathname.split('/').at(-1)`)
	view := get[views.InstrumentView](t, r.URL+"/api/instruments/"+id)
	var last uuid.UUID
	for _, step := range view.Pieces[0].Steps {
		if step.Title == "Clear, to the end" {
			last = step.StepID
		}
	}
	require.NotEqual(t, uuid.Nil, last)
	person := get[views.Reference](t, r.URL+"/api/reference").People[0].ID
	post(t, r.URL+"/api/changes", changes.Changes{ID: uuid.New(), PersonID: person,
		Changes: []changes.Change{{Kind: "material", StepID: last, Material: "nitro"}}}, 201)
	p.see("[data-objection=goes-over]", "before what is below has cured")
	p.click("[data-objection=goes-over] button", "Look at the step")
	p.see("[data-sheet]", "nitrocellulose lacquer")
	p.see("[data-sheet]", "With care.")
	p.click("[data-objection=goes-over] button", "Wait for the full cure")
	p.see("[data-supposed]", "Phalarope: wait for the full cure") // its effect first
	p.see("[data-sum]", "later")
	p.see("[data-objection=goes-over]", "")
	p.click("[data-tray] button", "Keep it")
	p.gone("[data-objections]", "")
	p.see("[data-history] li", "wait for the full cure")
	assert.NotEmpty(t, p.text("[data-steps]"))
}

func TestChoicesAreChangedWhileWorkGoesOn(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	p.click("[data-instrument='Sanderling'] a", "")
	p.click("header a", "Choices")
	p.see("h1", "Choices for Sanderling")
	p.see("[data-ground]", "Sapele")
	p.layer("clear")
	p.fill("Sheen", "satin")
	p.see("[data-supposed]", "Sanderling composed again")
	p.see("main [data-effect='Sanderling']", "day")
	p.ground()
	p.fill("Wood", "aluminium")
	p.see("[data-fault]", "takes up no colour")
	p.fill("Wood", "sapele")
	p.gone("[data-fault]", "")
	p.visit("/instruments") // it is supposed over a reload
	p.see("[data-supposed]", "Sanderling composed again")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Sanderling composed again")
	p.click("[data-instrument='Sanderling'] a", "")
	p.see("[data-steps]", "One colour, satin")
	p.see("[data-logbook] li", "Sand the bare wood") // what is logged stays
	p.see("[data-history] li", "composed again")
}

func TestAgainstAVerdictOnPurposeOnly(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	p.click("[data-instrument='Sanderling'] a", "")
	p.see("h1", "Sanderling")
	id := ask[string](p, `location.pathname.split('/').at(-1)`)
	view := get[views.InstrumentView](t, r.URL+"/api/instruments/"+id)
	var oil uuid.UUID
	for _, step := range view.Pieces[1].Steps {
		if step.Title == "Oil, up to satin" {
			oil = step.StepID
		}
	}
	person := get[views.Reference](t, r.URL+"/api/reference").People[0].ID
	post(t, r.URL+"/api/changes", changes.Changes{ID: uuid.New(), PersonID: person,
		Changes: []changes.Change{{Kind: "material", StepID: oil, Material: "finishing-oil"}}}, 201)
	p.visit("/instruments/" + id + "?step=" + oil.String() + "&coat=1")
	p.see("[data-sheet]", "Does not go.")
	p.see("[data-sheet]", "Wax blocks the wood")
	p.click("[data-sheet] button", "Log coat 1")
	p.see("[role=alertdialog]", "Log it only on purpose")
	p.until(`[...document.querySelectorAll('[role=alertdialog] button')].find(b => b.innerText === 'Log only this').disabled`,
		"a tap is no reason")
	p.write(elements("[role=alertdialog] textarea", ""), "the reason", "a board for the shelf")
	p.click("[role=alertdialog] button", "Log only this")
	p.see("[data-logbook] li", "“a board for the shelf”")
	p.see("[data-logbook] li", "on purpose")
}
