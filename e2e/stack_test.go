package e2e

import (
	"fmt"
	"testing"

	"umberfrost/internal/shop/views"

	"github.com/chromedp/cdproto/cdp"
	protocol "github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/performance"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// where puts the layer that is open on a region, or takes it off.
func (p *page) where(regions ...string) {
	p.t.Helper()
	for _, region := range regions {
		p.click("[data-where] button", region)
	}
}

// steps opens every step and sees these among them.
func (p *page) steps(titles ...string) {
	p.t.Helper()
	p.unfold("Every step")
	for _, title := range titles {
		p.see("[data-every-step]", title)
	}
}

// keep keeps what is planned under a name and answers with it as it is kept.
func (p *page) keep(url, name string) views.InstrumentView {
	p.t.Helper()
	p.fill("Name", name)
	p.gone("[data-faults]", "")
	p.click("button", "Keep this instrument")
	p.see("h1", name)
	p.see("[data-portrait]", "")
	return get[views.InstrumentView](p.t, url+"/api/instruments/"+ask[string](p, `location.pathname.split('/').at(-1)`))
}

// drawn waits until a region is drawn in a colour.
func (p *page) drawn(region, colour string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`document.querySelector('[data-drawing] [data-region="%s"] path[fill="%s"], [data-drawing] [data-region="%s"] path[stroke="%s"]')`, region, colour, region, colour),
		fmt.Sprintf("the %s should show %s", region, colour))
}

func TestStripsWithFlameAccents(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.fill("Begin with", "natural")
	p.ground()
	p.fill("Wood", "poplar-tulip")
	p.choose("Split a region", "Strips")
	p.see("[data-region-edit]", "Width")
	p.fill("How many", "4")
	p.fill("Width", "22 mm")
	p.fill("Meets its neighbours", "scored")
	p.choose("Add a layer", "Colour")
	p.fill("Carried", "water")
	p.fill("Colour", "ochre")
	p.where("top", "back", "sides")
	p.drawn("strips", "#B5822F")
	p.choose("Add a layer", "Flame")
	p.fill("Kind", "accents")
	p.where("back", "sides", "strips")
	p.see("[data-layer=flame] button", "top")
	p.steps("Flame accents", "Watched until cold", "Dye the wood")

	p.click("[data-layer=flame] button", "Higher") // above the dye it wants a reason
	p.where("top", "strips")
	p.see("[data-layer=flame] [data-fault]", "on purpose")
	p.fill("On purpose, because", "the scorched edge is the look")
	p.gone("[data-fault]", "")
	p.see("[data-every-step]", "Dye bone dry, masks off")
	view := p.keep(r.URL, "Strandläufer")
	assert.Contains(t, regionsOf(view), "strips")
}

func regionsOf(view views.InstrumentView) (names []string) {
	for _, piece := range view.Pieces {
		for _, region := range piece.Regions {
			names = append(names, region.Name)
		}
	}
	return names
}

func TestAShapeIsDrawnOnTheOutline(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.choose("Split a region", "A shape")
	p.click("[data-region-edit=shape] button", "Draw it on the outline")
	p.see("[data-drawing] [role=status]", "Point at three corners")
	for _, at := range [][2]float64{{0.3, 0.6}, {0.7, 0.6}, {0.5, 0.85}} {
		p.spotOf("[data-look='body front']") // it is in view, and rests
		p.pressAt(ask[spot](p, fmt.Sprintf(`(() => { const b = document.querySelector('[data-look="body front"]').getBoundingClientRect()
			return { X: b.x + %g * b.width, Y: b.y + %g * b.height } })()`, at[0], at[1])))
	}
	p.see("[data-drawing] [role=status]", "3 corners")
	p.click("[data-drawing] button", "Shape is done")
	p.gone("[data-drawing] [role=status]", "")
	p.choose("Add a layer", "Metal leaf")
	p.where("top", "back", "sides")
	p.drawn("shape", "#BF9B4A")
	view := p.keep(r.URL, "Säbelschnäbler")
	assert.Regexp(t, `^M\d+ \d+L\d+ \d+L\d+ \d+Z$`, view.Wish.Pieces[0].Regions[0].Path)
	for _, region := range view.Pieces[0].Regions {
		if region.Name == "shape" {
			assert.NotEmpty(t, region.Area, "its area comes from what was drawn")
		}
	}
}

func TestFlakeUnderStencilledGrains(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.fill("Begin with", "strewn")
	p.layer("clear")
	p.fill("Clear or oil", "urethane-2k")
	p.layer("flake")
	p.fill("Which", "flake-200")
	p.layer("grains")
	p.see("[data-layer=grains] button", "through a stencil")
	p.where("back", "sides")
	p.see("[data-layer=grains] button", "top")
	p.until(`document.querySelector('[data-drawing] [data-look="body front"] pattern[id$=grains]')`, "the grains should be drawn")
	p.until(`!document.querySelector('[data-drawing] [data-look="body back"] pattern[id$=grains]')`, "not on the back")
	p.steps("Strew the grains", "Base coat")
	assert.Contains(t, regionsOf(p.keep(r.URL, "Phalarope")), "top")
}

func TestACastTop(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.ground()
	p.fill("Wood", "plastic-printed")
	p.fill("Begin with", "cast")
	p.layer("clear")
	p.fill("Clear or oil", "urethane-2k")
	p.layer("pour")
	p.where("back", "sides")
	p.fill("Depth", "150 mm")
	p.see("[data-layer=pour] [data-fault]", "at most 100 mm deep")
	p.fill("Depth", "40 mm")
	p.fill("What lies in it", "razor shells")
	p.fill("Colour", "#3B6B70")
	p.gone("[data-fault]", "")
	p.drawn("top", "#3B6B70")
	p.steps("Pour", "dam")
	p.keep(r.URL, "Stelzenläufer")
}

func TestAHandBurstOnVeneerWithPlainSides(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.ground()
	p.fill("Wood", "alder-red")
	p.ground()
	p.point("[data-drawing=body] [data-region=top]")
	p.fill("Wood of the top", "maple-figured-veneer")
	p.point("[data-drawing=body] [data-region=top]")
	p.fill("Begin with", "wet-burst")
	p.layer("colour")
	p.fill("Colour", "ochre")
	p.where("back", "sides")
	p.layer("burst")
	p.fill("Towards the edge", "rust")
	p.fill("At the edge", "walnut")
	p.point("[data-drawing=body] [data-region=back]") // what is open is put on and off by pointing
	p.point("[data-drawing=body] [data-region=sides]")
	p.until(`document.querySelector('[data-drawing] [data-region=back] path[fill$="-mask)"]')`, "what is kept off is hatched")
	p.until(`!document.querySelector('[data-drawing] [data-region=top] path[fill$="-mask)"]')`, "the top is not")
	p.see("[data-layer=burst] button", "masked")
	p.drawn("top", "#8E4A26")
	p.steps("Rub the edge in", "Draw the edge in with water")
	view := p.keep(r.URL, "Rotschenkel")
	require.NotNil(t, view.Wish)
	assert.Equal(t, []string{"top"}, view.Wish.Pieces[0].Layers[1].Regions)
}

func TestAMetalPartHasAScheduleOfItsOwn(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.unfold("The whole and its parts")
	p.see("[data-part=hardware]", "Hardware of metal")
	p.click("[data-part=hardware] input", "")
	p.fill("What the hardware are made of", "brass-lacquered")
	p.see("[data-forecast]", "hardware")
	p.steps("rinse")
	view := p.keep(r.URL, "Austernfischer")
	assert.EqualValues(t, "hardware", view.Pieces[len(view.Pieces)-2].Kind)
}

// From an empty page to a kept instrument, with the keyboard alone.
func TestAStackByKeyboardAlone(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	p.see("[data-log]", "")
	p.press("n")
	p.see("[data-forecast]", "Ready")
	p.tabTo("main button", "Split a region")
	p.press("\r")
	p.see("[role=menuitem]", "Strips")
	p.press(kb.ArrowDown)
	p.see("[role=menuitem][data-highlighted]", "A border")
	p.press("\r")
	p.see("[data-region-edit=border]", "Width")
	p.tabTo("main button", "Add a layer")
	p.press("\r")
	p.see("[role=menuitem]", "Metal leaf")
	p.press("m")
	p.until(`document.activeElement?.innerText.startsWith('Metal leaf')`, "type ahead finds the leaf")
	p.press("\r")
	p.see("[data-layer=leaf] button", "")
	for _, region := range []string{"top", "back", "sides"} {
		p.tabTo("[data-layer=leaf] [data-where] button", region)
		p.press(" ")
	}
	p.see("[data-layer=leaf] button", "border")
	p.tabTo("[data-layer=leaf] button", "Lower")
	p.press("\r")
	p.press("\r")
	p.tabTo("[data-layer=leaf] button", "Higher")
	p.press("\r")
	p.press("\r")
	p.gone("[data-faults]", "")
	p.tabTo("#job input", "")
	p.press("Brachvogel")
	p.tabTo("button[type=submit]", "Keep")
	p.press("\r")
	p.see("h1", "Brachvogel")
	assert.Contains(t, regionsOf(get[views.InstrumentView](t, r.URL+"/api/instruments/"+ask[string](p,
		`location.pathname.split('/').at(-1)`))), "border")
}

// The same with a finger, on a tablet and on a phone.
func TestAStackByTouch(t *testing.T) {
	t.Parallel()
	for _, size := range []struct{ width, height int64 }{{768, 1024}, {390, 844}} {
		t.Run(fmt.Sprint(size.width), func(t *testing.T) {
			t.Parallel()
			r := room(t)
			p := openTouched(t, r.URL, "/instruments/new", size.width, size.height)
			p.see("[data-forecast]", "Ready")
			p.finger("main button", "Add a layer")
			p.see("[role=menuitem]", "Wax")
			p.finger("[role=menuitem]", "Wax")
			p.see("[data-layer=wax] button", "Wax")
			p.finger("[data-layer=wax] button", "Wax") // closed again
			p.gone("[data-pointing]", "")
			p.finger("[data-layer=colour] button", "Colour")
			p.see("[data-pointing]", "")
			p.finger("[data-look='body front'] [data-region=top]", "")
			p.see("[data-layer=colour] button", "back, sides")
			p.finger("[data-layer=colour] button", "Switch off")
			p.see("[data-layer=colour] button", "switched off")
			p.finger("[data-layer=colour] button", "Switch on")
			p.gone("[data-layer=colour] button", "switched off")
			p.gone("[data-faults]", "")
			p.fill("Name", "Kampfläufer")
			p.finger("button", "Keep this instrument")
			p.see("h1", "Kampfläufer")
		})
	}
}

// What is logged of an instrument is fixed, and the difference to today's schedule is seen before it is kept.
func TestChoicesUnderWayKeepWhatIsLogged(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/instruments/"+fetchID(t, r.URL, "Avocet")+"/choices")
	p.see("[data-layer=dark] button", "Logged: it stays as it was done.")
	p.see("[data-difference]", "Nothing is changed yet")
	before := get[views.InstrumentView](t, r.URL+"/api/instruments/"+fetchID(t, r.URL, "Avocet"))
	p.layer("clear")
	p.fill("Sheen", "gloss")
	p.see("[data-difference]", "Against today’s schedule: Avocet")
	p.steps("Level for gloss")
	p.layer("dark")
	p.see("[data-layer=dark] [data-layer-choices]", "stays as it was done")
	p.until(`[...document.querySelectorAll('[data-layer=dark] button')].find(b => b.innerText === 'Remove').disabled`,
		"what is done cannot be taken away")
	p.point("[data-look='body front'] [data-region=top]")
	p.gone("[data-layer=dark] button", "back, sides") // nor off a region
	p.choose("Add a layer", "Wax")
	p.see("[data-every-step]", "Wax")
	p.see("[data-difference]", "Against today’s schedule: Avocet")
	p.click("[data-tray] button", "Keep it")
	p.see("[data-toast]", "Kept: Avocet composed again")
	after := get[views.InstrumentView](t, r.URL+"/api/instruments/"+before.ID.String())
	assert.Equal(t, doneOf(before), doneOf(after), "what is logged stays")
	assert.Contains(t, stepsOf(after), "Level for gloss")
}

func doneOf(view views.InstrumentView) (titles []string) {
	for _, piece := range view.Pieces {
		for _, step := range piece.Steps {
			if step.Done > 0 {
				titles = append(titles, string(piece.Kind)+": "+step.Title)
			}
		}
	}
	return titles
}

func stepsOf(view views.InstrumentView) (titles []string) {
	for _, piece := range view.Pieces {
		for _, step := range piece.Steps {
			titles = append(titles, step.Title)
		}
	}
	return titles
}

// counted counts forecasts: how many were asked, and how many are under way at most.
const counted = `{
	const real = window.fetch
	window.asked = 0
	window.most = 0
	window.changes = 0 // sixty, but where a key goes through the list while it is closed
	addEventListener('change', () => window.changes++, true)
	let now = 0
	window.fetch = async (...a) => {
		if (!String(a[0]?.url ?? a[0]).endsWith('/api/forecasts')) return real(...a)
		window.asked++
		window.most = Math.max(window.most, ++now)
		try { return await real(...a) } finally { now-- }
	}
}`

// Sixty changes in a row: the page asks as it goes, never twice at once, and ends with what was chosen last.
func TestSixtyChangesInARow(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/rack")
	_, err := chromedp.Call(p.ctx, protocol.AddScriptToEvaluateOnNewDocument,
		protocol.AddScriptToEvaluateOnNewDocumentParams{Source: counted})
	require.NoError(t, err)
	p.visit("/instruments/new")
	p.see("[data-forecast]", "Ready")
	p.layer("clear")
	before := scriptTime(p)
	p.hasty = true
	sheens := []string{"matte", "gloss", "satin"}
	for i := range 60 {
		p.fill("Sheen", sheens[i%3])
	}
	p.see("[data-layer=clear] button", "satin")
	p.until(`document.querySelector('[data-forecast]').getAttribute('aria-busy') === 'false'`, "it should come to rest")
	p.see("[data-layer=clear] button", "Waterborne clear, satin")
	assert.Equal(t, 1, ask[int](p, `window.most`), "no more than one under way")
	asked := ask[int](p, `window.asked`)
	assert.Greater(t, asked, 5, "it moves while one chooses, however busy the machine is")
	assert.LessOrEqual(t, asked, 2+ask[int](p, `window.changes`), "once a change")
	t.Logf("60 changes: %d forecasts asked, %.2f s of script", asked, scriptTime(p)-before)
}

// scriptTime is how long scripts have run on the page, in seconds.
func scriptTime(p *page) float64 {
	p.t.Helper()
	_, err := chromedp.Call(p.ctx, performance.Enable, performance.EnableParams{})
	require.NoError(p.t, err)
	metrics, err := chromedp.Call(p.ctx, performance.GetMetrics, cdp.Empty{})
	require.NoError(p.t, err)
	for _, m := range metrics.Metrics {
		if m.Name == "ScriptDuration" {
			return m.Value
		}
	}
	return 0
}
