package e2e

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/demo"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// bench is a shop of one room with two bodies whose pores are about to be filled with a two-part filler: it is
// wiped off minutes after it is put on, and its mix lasts half an hour.
type bench struct {
	*harness.Room
	t      *testing.T
	person uuid.UUID
	bodies []views.InstrumentView
	fills  []changes.EventRef
	logged int64
}

func twoBodies(t *testing.T) *bench {
	t.Helper()
	r := roomOf(t, harness.Kind{Empty: true})
	b := &bench{Room: r, t: t, person: get[views.Reference](t, r.URL+"/api/reference").People[0].ID}
	for _, name := range []string{"Dotterel", "Stint"} {
		in := changes.NewInstrument{ID: uuid.New(), Name: name, Outline: "slab", Promise: "2026-07-01", Wish: recipe.Wish{Standard: "gift",
			Pieces: []recipe.PieceWish{{Kind: recipe.Body, Wood: "mahogany-genuine", Length: "460 mm", Width: "335 mm", Thickness: "45 mm",
				Layers: []recipe.Layer{{ID: "fill", Effect: recipe.EffectFill, Family: "epoxy-filler", As: "full"},
					{ID: "clear", Effect: recipe.EffectClear, Family: "water-clear", Sheen: "satin"}}}}}}
		post(t, r.URL+"/api/instruments", in, 201)
		view := viewOf(t, r.URL, name)
		before := changes.EventRef{}
		for _, step := range view.Pieces[0].Steps {
			if step.Kind == "coat" && step.Group == "fill" {
				b.fills = append(b.fills, changes.EventRef{StepID: step.StepID, Coat: 1})
				break
			}
			before = changes.EventRef{StepID: step.StepID, Coat: step.Coats}
		}
		at := demo.Fixed.AddDate(0, 0, -2)
		entry := b.entry("done", before)
		entry.CaughtUp, entry.HappenedAt, entry.Confirm = true, &at, []string{"out-of-order", "too-soon"}
		post(t, r.URL+"/api/log", entry, 201)
		b.bodies = append(b.bodies, view)
	}
	require.Len(t, b.fills, 2)
	return b
}

func (b *bench) entry(kind string, event changes.EventRef) changes.Entry {
	b.logged++
	return changes.Entry{ID: uuid.New(), Kind: kind, StepID: event.StepID, Coat: event.Coat, PersonID: b.person,
		DeviceID: uuid.NameSpaceDNS, DeviceSeq: b.logged}
}

// standing are the entries of a body that stand, the newest first.
func (b *bench) standing(body int) (lines []views.LogLine) {
	for _, line := range get[views.InstrumentView](b.t, b.URL+"/api/instruments/"+b.bodies[body].ID.String()).Log {
		if !line.Struck && line.Kind == "done" {
			lines = append(lines, line)
		}
	}
	return lines
}

func sittingPath(event changes.EventRef) string {
	return fmt.Sprintf("/sitting?step=%s&coat=%d", event.StepID, event.Coat)
}

// begin starts the sitting that is shown.
func (p *page) begin() {
	p.t.Helper()
	p.finger("[data-warn] label", "Read; what to wear is at hand")
	p.finger("[data-begin]", "Start sitting")
	p.see("[data-sitting] h1", "Sitting")
}

// Two bodies, a filler that is wiped off after minutes, and a mix that does not last for both.
func TestASittingOfTwoBodiesByTouch(t *testing.T) {
	t.Parallel()
	b := twoBodies(t)
	p := openTouched(t, b.URL, "/rack", 768, 1024)
	p.finger("a", "Start sitting")
	p.see("h1", "Start sitting")
	p.visit(sittingPath(b.fills[0]))
	p.see("[data-lay]", "Batch 1 of 2")
	p.see("[data-lay]", "Batch 2 of 2")
	p.see("[data-lay]", "used up within 24 min of mixing")
	p.see("[data-warn]", "Wear:")
	p.until(`document.querySelector('[data-begin]').disabled`, "cautions are acknowledged first")
	p.begin()
	p.see("[data-step] h2", "Coat 1")
	p.see("[data-step] [aria-label=Pieces]", "Stint body")
	p.see("[data-step]", "Batch 1 of 2")

	p.finger("button[data-timer=pot-life]", "pot life")
	p.see("[data-timers]", "Pot life since mixing")
	p.finger("button[data-timer=wipe-off]", "soaks")
	p.see("[data-running=runs]", "Soaks before it is wiped off")
	p.empty()
	b.Advance(6 * time.Minute)
	p.see("[data-running=rings]", "Wipe off every trace")
	p.until(`document.querySelector('[data-running=rings] [role=alert]')`, "it is said aloud")
	p.see("[data-running=rings]", "left")
	b.Advance(25 * time.Minute)
	p.see("[data-running=over]", "Stop using this mix")
	p.see("[data-running=over]", "too late") // the wiping: overrunning is a fact
	p.visit("/weeks")
	p.see("[data-running=over]", "Stop using this mix") // on every screen

	// The other is not done: a knock at the door. One tap logs all but that.
	sitting := get[views.SittingsNow](t, b.URL+"/api/sittings").Open[0]
	p.visit("/sittings/" + sitting.ID.String())
	p.finger("[data-step] [aria-label=Pieces] button", "Stint body")
	p.see("[data-step] [aria-label=Pieces]", "Stint body: not now")
	p.finger("[data-step] button[data-log]", "Log coat")
	p.see("[data-toast]", "Logged")
	p.gone("[data-running]", "Wipe off every trace") // what is logged is wiped off
	assert.Equal(t, "Stint", get[views.SittingsNow](t, b.URL+"/api/sittings").Open[0].Pieces[:5])
	p.finger("[data-timer-stop]", "Done")
	p.gone("[data-timers]", "")
	p.finger("nav[aria-label='Steps of this sitting'] button", "1")
	p.see("[data-step] [aria-label=Pieces]", "Dotterel body, logged")
	p.finger("[data-step] button[data-log]", "Log coat")
	p.until(`document.querySelector('nav[aria-label="Steps of this sitting"] button').innerText === '✓'`, "the step is done")
	p.finger("button", "End sitting")
	p.see("h1", "Rack")
	assert.Empty(t, get[views.SittingsNow](t, b.URL+"/api/sittings").Open)
	for body := range b.bodies {
		assert.Contains(t, b.standing(body)[0].Title, "Coat 1")
	}
}

// Whoever was called away says when it was, on a phone; and puts that right later.
func TestAnEntryAnHourLateAndCorrected(t *testing.T) {
	t.Parallel()
	b := twoBodies(t)
	p := openTouched(t, b.URL, "/instruments/"+b.bodies[0].ID.String(), 390, 844)
	p.finger("[data-sheet] [data-more]", "Log with more")
	p.see("[data-tell]", "Wet film")
	p.fill("Wet film, by the comb", "thick")
	p.finger("[data-tell] button", "An hour ago")
	p.fill("Minutes", "25")
	p.fill("Lot, as it is marked", "7-Ä")
	p.finger("[data-tell] button", "Log it so")
	p.see("[data-fault]", "write the wet film like 90 µm or 3.5 mil")
	p.visit("/instruments/" + b.bodies[0].ID.String()) // a reload loses nothing that was typed
	p.finger("[data-sheet] [data-more]", "Log with more")
	p.until(`[...document.querySelectorAll('[data-tell] input')].some((i) => i.value === '7-Ä')`, "the lot is kept")
	p.fill("Wet film, by the comb", "4 mil")
	p.finger("[data-tell] button", "Log it so")
	p.see("[data-toast]", "Logged")
	line := b.standing(0)[0]
	assert.Equal(t, demo.Fixed.Add(-time.Hour), line.Happened.At.UTC())
	assert.Equal(t, 25, *line.Minutes)
	assert.Contains(t, line.Details, "lot 7-Ä")

	p.finger("[data-toast] button", "Say more")
	p.until(`[...document.querySelectorAll('[data-tell] input')].some((i) => i.value === '7-Ä')`,
		"what was said stands there, to be added to")
	p.finger("[data-tell] button", "Leave it as it is")
	p.gone("[data-tell]", "")
	p.finger("[data-logbook] button", "Correct: Coat 1")
	p.see("[role=dialog]", "What is true of it")
	p.fill("Minutes", "35")
	p.finger("[data-tell] button", "Half an hour ago")
	p.finger("[data-tell] button", "Keep it so")
	p.see("[data-logbook] li", "put right")
	p.see("[data-logbook] .line-through", "Coat 1") // struck, not gone
	line = b.standing(0)[0]
	assert.Equal(t, demo.Fixed.Add(-30*time.Minute), line.Happened.At.UTC())
	assert.Equal(t, 35, *line.Minutes)
	assert.Contains(t, line.Details, "lot 7-Ä", "what was not touched stays")
	p.visit("/hours")
	p.see("section", "35 min, planned")
}

func TestEightStepsCaughtUpWithOneQuestion(t *testing.T) {
	t.Parallel()
	r := room(t)
	view := viewOf(t, r.URL, "Sanderling")
	first, steps := -1, view.Pieces[0].Steps
	for i, step := range steps {
		if first < 0 && step.State != "finished" {
			first = i
		}
	}
	require.GreaterOrEqual(t, len(steps)-first, 8)
	until, before := steps[first+7], 0
	for _, step := range steps[first : first+7] {
		before += step.Coats
	}
	before = before + 1
	had := entries(t, r.URL)
	p := openTouched(t, r.URL, fmt.Sprintf("/instruments/%s?step=%s&coat=1", view.ID, until.StepID), 390, 844)
	p.see("[data-sheet] h2", "")
	p.finger("[data-sheet] [data-catch-up]", "All done up to here")
	p.see("[role=alertdialog]", "more steps are not logged yet, and come before")
	p.see("[role=alertdialog]", "Done since")
	p.finger("[role=alertdialog] button", "All of it is done, log all")
	p.see("[data-toast]", "Logged")
	assert.GreaterOrEqual(t, entries(t, r.URL), had+before)
	p.finger("[data-toast] button", "Undo")
	p.see("[data-toast]", "Struck")
	assert.Equal(t, had, entries(t, r.URL))
}

// The server is away in the middle of a sitting: timers go on, what is logged is kept here, and comes once.
func TestTheServerIsAwayInTheMiddleOfASitting(t *testing.T) {
	t.Parallel()
	b := twoBodies(t)
	p := openTouched(t, b.URL, sittingPath(b.fills[0]), 768, 1024)
	told[bool](p, `navigator.serviceWorker.ready.then(() => true)`)
	p.begin()
	p.finger("button[data-timer=wipe-off]", "soaks")
	p.see("[data-running=runs]", "Soaks")
	p.empty()
	require.NoError(t, b.Stop()) // maybe before the page has heard again what runs
	p.finger("button[data-timer=pot-life]", "pot life")
	p.see("[data-running]", "Pot life since mixing") // kept here
	p.finger("[data-step] button[data-log]", "on 2 pieces")
	p.see("[data-toast]", "Kept on this device")
	p.see("[data-connection]", "2 log entries are kept here")
	p.until(`document.querySelector('nav[aria-label="Steps of this sitting"] button').innerText === '✓'`,
		"done, as far as this device knows")
	p.finger("[data-running] [data-timer-stop]", "Stop: Soaks")
	p.gone("[data-running]", "Soaks before")
	p.see("[data-running]", "Pot life since mixing")
	assert.Equal(t, 3, p.kept("outbox"))
	p.visit(ask[string](p, `location.pathname`)) // a tablet that slept, or fell
	p.see("[data-running]", "Pot life since mixing")
	p.until(`document.querySelector('nav[aria-label="Steps of this sitting"] button')?.innerText === '✓'`, "the sitting is as it was left")
	p.gone("[data-running]", "Soaks before")

	require.NoError(t, b.Start(context.Background()))
	p.gone("[data-connection]", "")
	p.empty()
	for body := range b.bodies {
		coats := 0
		for _, line := range b.standing(body) {
			if line.Event.StepID == b.fills[body].StepID {
				coats++
			}
		}
		assert.Equal(t, 1, coats, "exactly once")
	}
	timers := get[[]views.TimerView](t, b.URL+"/api/timers")
	require.Len(t, timers, 1)
	assert.Equal(t, "pot-life", timers[0].Timer.Kind)
}

func TestTwoDevicesOnOneSitting(t *testing.T) {
	t.Parallel()
	b := twoBodies(t)
	p := openTouched(t, b.URL, sittingPath(b.fills[0]), 768, 1024)
	p.begin()
	other := openTouched(t, b.URL, "/sitting", 390, 844)
	other.finger("[aria-label='Under way'] a", "Coat 1")
	other.see("[data-step] h2", "Coat 1")
	other.finger("button[data-timer=wipe-off]", "soaks")
	p.see("[data-running=runs]", "Soaks before it is wiped off")
	p.finger("[data-step] button[data-log]", "on 2 pieces")
	other.until(`document.querySelector('nav[aria-label="Steps of this sitting"] button').innerText === '✓'`,
		"it is done on the other device too")
	other.gone("[data-running]", "Soaks")
	other.finger("button", "End sitting")
	other.see("h1", "Rack")
	p.see("button", "Go on after all")
}

// A thumbnail that leaves a dent makes the wait longer, and the dates move.
func TestAThumbnailTestThatFailsMovesTheDates(t *testing.T) {
	t.Parallel()
	b := twoBodies(t)
	at := demo.Fixed.Add(-4 * time.Hour)
	entry := b.entry("done", b.fills[0])
	entry.HappenedAt, entry.Confirm = &at, []string{"too-soon"}
	post(t, b.URL+"/api/log", entry, 201)
	before := viewOf(t, b.URL, "Dotterel")
	p := openTouched(t, b.URL, "/instruments/"+before.ID.String(), 390, 844)
	p.unfold("Test the film")
	p.fill("How", "thumbnail")
	p.finger("[data-test-film] button", "Not yet")
	p.see("[data-toast]", "Logged")
	p.see("[data-logbook] li", "by thumbnail")
	next := func() time.Time {
		view := viewOf(t, b.URL, "Dotterel")
		return get[views.Sheet](t, fmt.Sprintf("%s/api/steps/%s/coats/%d", b.URL, view.Next.StepID, view.Next.Coat)).Start.At
	}
	failed := next()
	was := get[views.Sheet](t, fmt.Sprintf("%s/api/steps/%s/coats/%d", b.URL, before.Next.StepID, before.Next.Coat))
	assert.Equal(t, failed, was.Start.At)
	assert.True(t, failed.After(startOf(before)), "%v is not after %v", failed, startOf(before))
	b.Advance(time.Minute)
	p.unfold("Test the film")
	p.finger("[data-test-film] button", "Passed")
	p.see("[data-sheet] [data-because]", "Now.")
	assert.True(t, next().Before(failed), "a pass ends the wait")
	p.finger("[data-settle]", "One round was enough")
	p.see("[data-toast]", "settled after 1")
	p.see("[data-logbook] li", "Settled after 1")
	p.gone("[data-sheet] h2", "Coat 2 of 2")
}

// startOf is when the next event of an instrument begins, as its page shows it.
func startOf(view views.InstrumentView) time.Time {
	for _, bead := range view.Pieces[0].Beads {
		if bead.Event == *view.Next {
			return bead.Start
		}
	}
	return time.Time{}
}

func TestAPieceIsCarriedByDragTapAndKey(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	handle := `[data-carry='Godwit body']`
	p.see("[data-tag='Godwit body']", "")
	from, aside := p.spotOf(handle), spot{640, 20}
	p.drag(func() { p.see("[data-carry-to]", "the drying loft") }, from, spot{from.X + 12, from.Y + 12}, aside, aside)
	p.gone("[data-carry-to]", "") // let go beside every place, it stays where it was
	p.gone("[data-toast]", "")
	from = p.spotOf(handle)
	p.mouse("mousePressed", from)
	p.mouse("mouseMoved", spot{from.X + 12, from.Y + 12})
	p.see("[data-carry-to]", "the bench, here now")
	p.see("[data-carry-to]", "the drying loft")
	to := p.reach(elements("[data-carry-to]", "the drying loft"), "the drying loft")
	p.mouse("mouseMoved", to)
	p.until(`document.querySelector('[data-carry-to].border-ready')`, "the place glows")
	p.mouse("mouseReleased", to)
	p.see("[data-toast]", "Godwit body carried to the drying loft")
	p.until(`document.querySelector(`+quote(handle)+`).getAttribute('aria-label').includes('now at the drying loft')`,
		"the rack knows where it is")

	p.tabTo(handle, "")
	p.press("\r")
	p.see("[role=menuitem]", "the bench")
	p.press("\r") // the first of them
	p.until(`!document.querySelector(`+quote(handle)+`).getAttribute('aria-label').includes('now at the drying loft')`,
		"it was carried by key")
	p.gone("[role=menuitem]", "")

	from = p.spotOf(handle)
	p.mouse("mousePressed", from)
	p.mouse("mouseReleased", from)
	p.see("[role=menuitem]", "the drying loft")
	p.until(`document.activeElement.closest('[role=menu]')`, "the keys are for the menu")
	p.press("\x1b")
	p.gone("[role=menuitem]", "")

	phone := openTouched(t, r.URL, "/rack", 390, 844)
	phone.finger(handle, "")
	phone.finger("[role=menuitem]", "the drying loft")
	phone.see("[data-toast]", "Godwit body carried to the drying loft")
}

// The log of the shop is looked through by what one remembers, and goes on to its first entry.
func TestTheLogOfTheShop(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := openTouched(t, r.URL, "/log", 768, 1024)
	p.see("[data-log-lines] li", "planned")
	first := ask[int](p, `document.querySelector('[data-log-lines]').dataset.logLines * 1`)
	require.Equal(t, 100, first, "a page of it")
	drawn := ask[int](p, `document.querySelectorAll('[data-log-lines] li').length`)
	assert.Less(t, drawn, 60, "what is not seen is not drawn")
	p.until(`(window.scrollTo(0, document.body.scrollHeight), !document.querySelector('[data-log-lines]').parentElement.innerText.includes('More comes'))`, "it goes on to its end")
	require.Greater(t, ask[int](p, `document.querySelector('[data-log-lines]').dataset.logLines * 1`), first)

	godwit := viewOf(t, r.URL, "Godwit").ID.String()
	p.until(`document.querySelector('option[value="`+godwit+`"]')`, "instruments to choose from")
	p.fill("Instrument", godwit)
	p.fill("Kind of work", "coat")
	p.until(`new URL(location).searchParams.get('kind') === 'coat' && [...document.querySelectorAll('[data-log-lines] li')].every((l) => l.innerText.includes('Godwit'))`, "only that")
	some := ask[int](p, `document.querySelector('[data-log-lines]').dataset.logLines * 1`)
	assert.Less(t, some, first)
	p.visit("/log?" + ask[string](p, `location.search.slice(1)`) + "&from=2026-01-01&until=2026-01-02") // an address of its own
	p.see("main", "Nothing of this is logged")
	p.finger("form button", "Show all")
	p.see("[data-log-lines] li", "Knot")
}
