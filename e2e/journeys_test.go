// Package e2e holds people's journeys through the real application in a real
// browser, on a real database.
package e2e

import (
	"context"
	"net/http"
	"testing"
	"time"

	protocol "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/demo"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
)

func TestPlanANewInstrument(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("a", "New instrument")
	p.see("[data-forecast]", "Ready ") // alive from its first paint: name and promise can wait
	p.fill("Name", "Redshank")
	p.pick("Promised day", "2026-05-29")
	p.see("[data-forecast]", "Ready ")
	p.unfold("Every step")
	p.see("[data-every-step]", "Sand the bare wood")
	p.see("[data-every-step]", "P80, P120") // with its grits, a coat with its product
	p.see("[data-every-step] [data-step='Raking light over the bare wood']", "5 min")
	p.see("[data-every-step]", "is dry enough") // and what it waits for
	before := p.text("[data-forecast]")
	p.ground()
	p.fill("Wood", "oak-red")
	p.fill("Length", "18 7/8 in")
	p.pick("Promised day", "2026-03-20")
	p.see("[data-forecast]", "This promise will not hold")
	assert.NotEqual(t, before, p.text("[data-forecast]"))
	p.pick("Promised day", "2026-06-30")
	p.gone("[data-forecast]", "This promise will not hold")
	p.see("[data-forecast]", "slack")
	p.click("button", "Keep this instrument")
	p.see("h1", "Redshank")
	p.see("[data-sheet]", "Log done")

	p.visit("/rack")
	p.see("[data-tag='Redshank body']", "Sand the bare wood")
	p.see("[data-tag='Redshank neck']", "Tape the fretboard")
}

// slowForecasts holds each forecast back for a second and counts how many are under way at most.
const slowForecasts = `{
	const real = window.fetch
	window.most = 0
	window.now = 0
	window.givenUp = 0
	window.fetch = async (...a) => {
		if (!String(a[0]?.url ?? a[0]).endsWith('/api/forecasts')) return real(...a)
		window.most = Math.max(window.most, ++window.now)
		const gone = new Promise((_, no) => a[0].signal.addEventListener('abort', () => { window.now--; window.givenUp++; no(a[0].signal.reason) }))
		await Promise.race([gone, new Promise((go) => setTimeout(go, 1000))])
		const answer = await real(...a)
		window.now--
		return answer
	}
}`

func TestASupersededForecastIsGivenUp(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	_, err := chromedp.Call(p.ctx, protocol.AddScriptToEvaluateOnNewDocument,
		protocol.AddScriptToEvaluateOnNewDocumentParams{Source: slowForecasts})
	require.NoError(t, err)
	p.visit("/instruments/new")
	p.ground()
	p.hasty = true
	for _, length := range []string{"-480 mm", "470 mm", "450 mm", "-1 mm", "460 mm"} {
		p.fill("Length", length)
		p.within(2*time.Second, `window.now > 0`) // it is asked for, and not answered
	}
	p.see("[data-forecast]", "Ready ")
	p.gone("main", "from 250 mm to 800 mm")
	assert.Equal(t, 1, ask[int](p, `window.most`), "no more than one under way")
	assert.Positive(t, ask[int](p, `window.givenUp`), "and what is superseded is given up")
	p.gone("[data-connection]", "")
}

func TestBadInputSaysWhatWouldBeAccepted(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.fill("Name", "Redshank")
	p.pick("Promised day", "2026-05-29")
	p.ground()
	p.fill("Length", "-480 mm")
	p.see("[data-fault]", "from 250 mm to 800 mm")
	p.pick("Promised day", "2026-03-01")
	p.see("[data-fault]", "must be today, 2026-03-12, or later")
	p.click("button", "Keep this instrument")
	p.see("h1", "New instrument")

	p.visit("/instruments/new") // a reload keeps what was typed
	assert.Equal(t, "Redshank", ask[string](p, `document.querySelector('form input').value`))
	p.ground()
	p.see("[data-fault]", "from 250 mm to 800 mm")
	p.visit("/instruments")
	p.gone("main", "Redshank")
}

func TestLogACoatSeeDatesMoveAndUndo(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-tag='Avocet body']", "coat 1 of 2")
	r.Advance(95 * time.Minute) // what lies below it is dry now
	p.visit("/rack")
	p.see("[data-tag='Avocet body']", "coat 1 of 2")
	p.click("[data-log][aria-label*='Avocet body']", "Log coat 1")
	p.see("[data-toast]", "Logged: Coat 1 of 2, Marsh Honey Bound, Avocet body")
	p.see("[data-tag='Avocet body']", "coat 2 of 2")
	assert.Equal(t, "drying", ask[string](p, `document.querySelector("[data-tag='Avocet body']").dataset.state`))

	p.click("[data-tag='Avocet body']", "")
	p.see("h1", "Avocet")
	p.see("[data-because]", "")
	p.see("[data-logbook] li", "Coat 1 of 2, Marsh Honey Bound")
	p.visit("/instruments")
	p.click("[data-instrument='Avocet'] a", "")
	p.see("[data-steps]", "1 of 2 coats")
	p.see("[data-logbook] li", "Coat 1 of 2, Marsh Honey Bound")

	p.click("[data-logbook] li button", "strike")
	p.see("[data-toast]", "Struck")
	p.see("[data-logbook] li .line-through", "Coat 1 of 2, Marsh Honey Bound")
	p.visit("/rack")
	p.see("[data-tag='Avocet body']", "coat 1 of 2")
}

func TestUndoFromTheToast(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Logged: Level for gloss, Whimbrel body")
	p.see("[data-tag='Whimbrel body']", "Buff")
	p.click("[data-toast] button", "Undo")
	p.see("[data-tag='Whimbrel body']", "Level for gloss")
}

func TestADoubleTapIsOneCoat(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.twice("[data-log]", "Log done")
	p.see("[data-toast]", "Logged: Level for gloss, Whimbrel body")
	p.gone("[data-toast]", "Not logged")
	p.click("[data-tag='Whimbrel body']", "")
	p.see("[data-logbook] li", "Level for gloss")
	assert.Equal(t, 1, ask[int](p, `[...document.querySelectorAll('[data-logbook] li')].filter(e => e.innerText.includes('Level for gloss')).length`))
}

func TestADoubtfulCoatIsAskedAbout(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("[data-tag='Avocet body']", "")
	p.click("[data-sheet] button", "Log coat 1")
	p.see("[role=alertdialog]", "only from")
	p.click("[role=alertdialog] button", "Do not log it")
	p.gone("[role=alertdialog]", "")
	p.gone("[data-logbook] li", "before it was dry")
	p.click("[data-sheet] button", "Log coat 1")
	p.click("[role=alertdialog] button", "It happened, log it")
	p.see("[data-logbook] li", "before it was dry")
}

func TestTwoPeopleLogTheSameCoat(t *testing.T) {
	t.Parallel()
	r := room(t)
	mara, tobin := open(t, r.URL, "/rack"), open(t, r.URL, "/instruments")
	// Tobin's page has not heard of it yet: nothing is told to it.
	deaf := protocol.AddScriptToEvaluateOnNewDocumentParams{Source: "window.EventSource = class extends EventTarget { close() {} }"}
	_, err := chromedp.Call(tobin.ctx, protocol.AddScriptToEvaluateOnNewDocument, deaf)
	require.NoError(t, err)
	tobin.visit("/rack")
	tobin.click("nav button", "Mara")
	mara.see("[data-log]", "Log done")
	tobin.see("[data-log]", "Log done")
	mara.click("[data-log]", "Log done")
	mara.see("[data-toast]", "Logged")
	tobin.click("[data-log]", "Log done")
	tobin.see("[data-toast]", "is logged already: Mara")
}

func TestARestartLosesNothing(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Logged")
	require.NoError(t, r.Stop())
	require.NoError(t, r.Start(context.Background()))
	p.visit("/rack")
	p.see("[data-tag='Whimbrel body']", "Buff")
}

func TestTheServerIsAwayAndTheCoatIsKeptHere(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	require.NoError(t, r.Stop())
	p.click("[data-log]", "Log done")
	p.see("[data-toast]", "Kept on this device")
	p.see("[data-connection=network]", "cannot be reached")
	p.see("[data-connection]", "One log entry is kept here")
	require.NoError(t, r.Start(context.Background()))
	p.see("[data-tag='Whimbrel body']", "Buff")
	p.gone("[data-connection]", "")
	p.click("[data-tag='Whimbrel body']", "")
	p.see("[data-logbook] li", "sent later")
}

func TestTheDatabaseStopsUnderThePage(t *testing.T) {
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready ") // alive from its first paint: name and promise can wait
	require.NoError(t, building.StopDatabase())
	t.Cleanup(func() { building.ResumeDatabase(context.Background()) }) // the other journeys', too
	p.fill("Name", "Redshank")
	p.pick("Promised day", "2026-05-29")
	p.see("[data-connection=database]", "database does not answer")
	require.NoError(t, building.ResumeDatabase(context.Background()))
	p.see("[data-forecast]", "Ready ")
	p.gone("[data-connection]", "")
	assert.Equal(t, "Redshank", ask[string](p, `document.querySelector('form input').value`), "what was typed is still there")
}

func TestEverythingByKeyboard(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "Log done")
	p.press("?")
	p.see("[role=dialog]", "Log the focused or chosen work")
	p.press("\x1b")
	p.gone("[role=dialog]", "")
	p.press("l")
	p.see("[data-toast]", "Logged: Level for gloss, Whimbrel body")
	p.press("2")
	p.see("h1", "Instruments")
	p.press("3")
	p.see("h1", "Weeks")
	p.press("9")
	p.see("h1", "Shop")
	p.press("n")
	p.see("h1", "New instrument")
	p.visit("/instruments")
	p.click("[data-instrument='Godwit'] a", "")
	p.see("[data-sheet]", "How long")
	for _, title := range []string{"Slack", "Latest start"} { // one after the other, in reading order
		p.press("w")
		p.see("[role=dialog]", title)
	}
}

// TestAColdWeekMovesDatesAndSaysWhy posts a cold week, as a logger in the room
// would, and types one more reading by hand.
func TestAColdWeekMovesDatesAndSaysWhy(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	p.see("[data-instrument='Knot']", "Thu 26 March")
	before := p.text("[data-instrument='Knot']")

	loft := shop.PlaceID("loft")
	cold := changes.NewReadings{ID: uuid.New()}
	for h := range 7 * 24 {
		at := demo.Fixed.Add(time.Duration(h-84) * time.Hour) // half of it read, half of it forecast
		cold.Readings = append(cold.Readings, changes.NewReading{PlaceID: loft, At: &at, Temperature: 9, Humidity: 70})
	}
	post(t, r.URL+"/api/readings", cold, 201)

	p.visit("/instruments")
	p.gone("[data-instrument='Knot']", "Thu 26 March")
	assert.NotEqual(t, before, p.text("[data-instrument='Knot']"))
	p.visit("/rack")
	p.see("[data-room]", "the drying loft")
	p.click("[data-tag='Knot body']", "")
	p.see("[data-because]", "of normal speed")
	p.click("[data-sheet] [data-working]", "How long")
	p.see("[role=dialog]", "speed in this room")
	p.see("[data-history] li", "readings of the drying loft") // what moved the date, and by how much
	p.see("[data-history] li", "later")

	p.visit("/rack")
	p.click("[data-room] button", "Type a reading")
	p.fill("Temperature, °C", "warm")
	p.fill("Humidity, %", "52")
	p.click("[data-room] button", "Keep reading")
	p.see("[data-fault]", "write it like 18.6")
	p.visit("/rack") // a reload keeps what was typed
	p.click("[data-room] button", "Type a reading")
	p.see("label", "Humidity, %")
	assert.Equal(t, "52", ask[string](p, `[...document.querySelectorAll('[data-room] input')].at(-1).value`))
	p.fill("Temperature, °C", "9.5")
	p.click("[data-room] button", "Keep reading")
	p.see("[data-toast]", "Reading kept")
	p.see("[data-room]", "9.5 °C")

	// What hardly any room has is asked about, and what was wrong is struck.
	p.click("[data-room] button", "Type a reading")
	p.fill("Temperature, °C", "-30")
	p.fill("Humidity, %", "50")
	p.click("[data-room] button", "Keep reading")
	p.see("[data-room] [role=alert]", "unlikely where a finish is put on")
	p.fill("Temperature, °C", "-29")
	p.gone("[data-room] [role=alert]", "unlikely")
	p.click("[data-room] button", "Keep reading")
	p.click("[data-room] button", "It is right, keep it")
	p.see("[data-room]", "-29 °C")
	p.unfold("Last readings")
	p.click("[data-room] button[aria-label^='Strike the reading -29 °C']", "")
	p.see("[data-toast]", "Reading struck")
	p.see("[data-room] .name", "9.5 °C") // counts again
}

func TestTheRoomOnAPhone(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := openSized(t, r.URL, "/rack", 390, 844)
	p.see("[data-room]", "Marsh Honey Bound")
	p.click("[data-room] button", "booth")
	p.see("[data-room]", "the booth, read")
	p.click("[data-room] button", "Type a reading")
	p.fill("Temperature, °C", "10")
	p.fill("Humidity, %", "80")
	p.click("[data-room] button", "Keep reading")
	p.see("[data-toast]", "Reading kept")
	p.see("[data-room]", "10 °C is colder than its 1") // of the colour that is due today
	p.see("[data-room]", "wait")
	assert.LessOrEqual(t, ask[int](p, `document.documentElement.scrollWidth`), 390, "nothing is wider than the phone")
	assert.GreaterOrEqual(t, ask[float64](p, `document.querySelector('[data-log]').getBoundingClientRect().height`), 44.0)
}

func TestAScheduleFileComesOutOfTheRunningShop(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments")
	p.click("[data-instrument='Knot'] a", "")
	p.see("h1", "Knot")
	id := ask[string](p, `location.pathname.split('/').at(-1)`)
	answer, err := http.Get(r.URL + "/api/instruments/" + id + "/schedule-file")
	require.NoError(t, err)
	defer answer.Body.Close()
	file, err := formats.Read(answer.Body)
	require.NoError(t, err)
	in, err := file.Input(demo.Fixed)
	require.NoError(t, err)
	plan, err := schedule.Retime(in)
	require.NoError(t, err)
	assert.Equal(t, "Knot", in.Instruments[0].Name)
	assert.Empty(t, plan.Forecasts[0].Impossible, "what is on screen can be planned from the file alone")
}
