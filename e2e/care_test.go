package e2e

import (
	"fmt"
	"testing"

	"umberfrost/internal/shop/views"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAPromiseIsChangedAndSeenInWeeks(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/"+fetchID(t, r.URL, "Avocet"))
	p.click("header button", "Name, promise…")
	p.fill("Name", "Säbelschnäbler")
	p.fill("Serial or mark", "SR 26-136")
	p.pick("Promised day", "2026-03-20")
	p.see("[data-keep-row]", "later than promised")
	p.visit("/instruments/" + fetchID(t, r.URL, "Avocet") + "?care") // a reload loses nothing that was typed
	p.see("[data-keep-row]", "later than promised")
	p.pick("Promised day", "2026-06-19")
	p.see("[data-keep-row]", "as before")
	p.click("[data-keep-row] button", "Keep it so")
	p.see("h1", "Säbelschnäbler")
	p.see("header", "Fri 19 June")
	p.see("[data-history]", "promised Fri 19 June instead of")
	p.visit("/weeks")
	p.until(`[...document.querySelectorAll('title')].some(e => e.textContent.includes('Säbelschnäbler, promised Fri 19 June'))`,
		"its ring hangs on the new day")
	p.visit("/instruments")
	p.see("[data-instrument='Säbelschnäbler']", "Fri 19 June")
	p.see("[data-instrument='Säbelschnäbler']", "SR 26-136")
}

func TestAnInstrumentIsPutAsideBroughtBackAndFound(t *testing.T) {
	t.Parallel()
	r := room(t)
	id := fetchID(t, r.URL, "Godwit")
	p := open(t, r.URL, "/instruments/"+id)
	logged := p.text("[data-logbook] ol")
	require.NotEmpty(t, logged)
	p.click("header button", "Name, promise…")
	p.gone("[data-care]", "to delete it for good")
	p.click("[data-care] button", "Put aside")
	p.see("[data-keep-row]", "Godwit") // on the button; beside it what it does to the others
	p.click("[data-keep-row] button", "Put Godwit aside")
	p.see("h1", "Instruments")
	p.gone("[data-instrument='Godwit'] a", "")
	p.unfold("Put aside")
	p.see("[data-archive]", "SR 26-031")
	p.visit("/rack")
	p.see("[data-tag]", "")
	p.gone("[data-tag]", "Godwit")

	p.visit("/instruments?find=26-031")
	p.click("[data-archive] a", "Godwit")
	p.see("[data-aside]", "nothing of it is planned")
	assert.Equal(t, logged, p.text("[data-logbook] ol"), "its log stays")
	p.click("[data-aside] button", "Bring back")
	p.see("[data-aside]", "Godwit planned again, ready")
	p.click("[data-keep-row] button", "Bring Godwit back")
	p.see("[data-sheet]", "How")
	p.visit("/instruments?find=walnut")
	p.see("[data-instrument='Ruff']", "Ruff")
	p.gone("[data-instrument='Godwit']", "Godwit")
	p.visit("/instruments?find=godwit")
	p.see("[data-instrument='Godwit']", "Godwit")
}

func TestAWrongInstrumentIsDeletedByItsName(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.fill("Name", "Ruffe")
	p.click("button", "Keep")
	p.see("[data-sheet]", "How")
	p.click("header button", "Name, promise…")
	p.fill("A mistake? Type Ruffe to delete it for good", "Ruff")
	p.click("[data-care] button", "Delete")
	p.see("[data-fault]", "type its name, Ruffe")
	p.fill("A mistake? Type Ruffe to delete it for good", "Ruffe")
	p.click("[data-care] button", "Delete")
	p.see("h1", "Instruments")
	p.gone("[data-instrument]", "Ruffe")
	for _, line := range get[[]views.InstrumentLine](t, r.URL+"/api/instruments") {
		assert.NotEqual(t, "Ruffe", line.Name)
	}
}

func TestOnlyWhatFitsIntoTheTimeOneHas(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-tag]", "")
	const hang = `[...document.querySelectorAll('[data-tag]')].filter(e => e.offsetParent).length`
	all := ask[int](p, hang)
	who := get[views.Reference](t, r.URL+"/api/reference").People[0].ID
	for button, of := range map[string]string{"half an hour": "half-hour", "two hours": "two-hours", "this evening": "evening"} {
		p.click("[data-have] button", button)
		fits := get[views.Having](t, r.URL+"/api/having?for="+of+"&person="+who.String())
		p.until(`document.querySelectorAll("[aria-labelledby=next-head] [data-event]").length === `+fmt.Sprint(len(fits.Fits)),
			button+": only what fits")
		p.until(hang+` <= `+fmt.Sprint(len(fits.Pieces)), "only that hangs there")
		p.click("[data-have] button", button)
	}
	p.until(hang+` === `+fmt.Sprint(all), "and then all of it again")
}
