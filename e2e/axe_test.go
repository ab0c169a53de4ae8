package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// violation is one rule of axe that a page breaks.
type violation struct {
	ID     string
	Impact string
	Help   string
	Nodes  []struct {
		HTML    string
		Summary string `json:"failureSummary"`
	}
}

// seenAt is how a screen is looked at: colours where it has others than elsewhere.
type seenAt struct {
	name          string
	width, height int64
	night         bool
	colours       bool
	stack         bool // only screens with the stack, which is laid out anew at night
}

var ways = []seenAt{
	{name: "wide", width: 1280, height: 800, colours: true},
	{name: "wide at night", width: 1280, height: 800, night: true, colours: true},
	{name: "tablet", width: 768, height: 1024},
	{name: "phone", width: 390, height: 844, colours: true},
	{name: "tablet at night", width: 768, height: 1024, night: true, stack: true},
	{name: "phone at night", width: 390, height: 844, night: true, colours: true, stack: true},
}

// Each screen is come to once and looked at in each way, in a fixed order; three browsers share them.
func TestNoSeriousViolationOnAnyScreenDayAndNight(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	const browsers = 3
	for browser := range browsers {
		t.Run(fmt.Sprint("browser ", browser+1), func(t *testing.T) {
			t.Parallel()
			r := roomOf(t, harness.Kind{Thinks: true})
			sitting := begunSitting(t, r.URL)
			p := open(t, r.URL, "/rack")
			for i, view := range screens(p, r.URL, sitting) {
				if i%browsers != browser {
					continue
				}
				t.Run(view.name, func(t *testing.T) {
					p.t = t
					p.look(ways[0])
					ask[any](p, `localStorage.removeItem('umberfrost.supposing')`)
					view.visit()
					for _, way := range ways {
						if way.stack && !view.stack {
							continue
						}
						p.look(way)
						assert.Empty(t, violations(t, p, string(axe), way.colours), way.name)
					}
				})
			}
		})
	}
}

// look lets a page be seen in a way, as it stands.
func (p *page) look(way seenAt) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.EmulateViewport(way.width, way.height)))
	ask[any](p, fmt.Sprintf(`document.documentElement.dataset.theme = %q`, map[bool]string{true: "night", false: "day"}[way.night]))
	p.rest()
}

// view is a screen in one of its states, and how one comes there from any other.
type view struct {
	name  string
	stack bool
	visit func()
}

func screens(p *page, url string, sitting uuid.UUID) []view {
	return []view{
		{"rack", false, func() { p.visit("/rack"); p.see("[data-tag]", "") }},
		{"a reading", false, func() {
			p.visit("/rack")
			p.click("[data-room] button", "Type a reading")
			p.see("[data-room] form", "Humidity")
		}},
		{"find", false, func() {
			p.visit("/rack")
			p.see("[data-log]", "Log")
			p.press("/")
			p.see("[cmdk-item]", "Godwit")
		}},
		{"a toast", false, func() {
			p.visit("/rack")
			p.click("[data-log]", "Log")
			p.until(`document.querySelector('[data-toast], [role=alertdialog]')`, "it is logged, or asked about")
		}},
		{"an exact time", false, func() {
			p.visit("/instruments")
			p.click("[data-instrument='Avocet'] [data-told]", "")
			p.see("[role=dialog]", "")
		}},
		{"a working", false, func() {
			p.visit("/instruments")
			p.click("[data-working]", "")
			p.see("[role=dialog]", "")
		}},
		{"start sitting", false, func() { p.visit("/sitting"); p.see("[aria-label='Under way'] a", "begun by") }},
		{"a sitting", false, func() {
			p.visit("/sittings/" + sitting.String())
			p.see("[data-timers]", "")
			p.click("nav[aria-label='Steps of this sitting'] button", "")
			p.see("[data-step] h2", "")
		}},
		{"what is true of work", false, func() {
			p.visit("/instruments")
			p.click("[data-instrument='Avocet'] a", "")
			p.click("[data-sheet] [data-more]", "Log with more")
			p.see("[data-tell]", "Humidity")
		}},
		{"places to carry to", false, func() {
			p.visit("/rack")
			p.see("[data-tag]", "Godwit")
			p.click("[data-carry='Godwit body']", "")
			p.see("[role=menuitem]", "the booth")
		}},
		{"log", false, func() { p.visit("/log"); p.see("[data-log-lines] li", "") }},
		{"hours", false, func() { p.visit("/hours"); p.see("h1", "Hours") }},
		{"instruments", false, func() { p.visit("/instruments"); p.see("[data-instrument]", "") }},
		{"instrument", false, func() {
			p.visit("/instruments")
			p.click("[data-instrument='Avocet'] a", "")
			p.see("[data-sheet]", "How")
		}},
		{"care", false, func() {
			p.visit("/instruments/" + fetchID(p.t, url, "Knot") + "?care")
			p.see("[data-care]", "Put aside")
			p.click("[data-care] button", "Put aside")
			p.see("[data-keep-row]", "Put Knot aside")
		}},
		{"put aside", false, func() {
			p.visit("/instruments")
			p.unfold("Put aside")
			p.see("[data-archive]", "Nothing is put aside")
		}},
		{"objections", false, func() {
			p.visit("/instruments")
			p.click("[data-instrument='Turnstone'] a", "")
			p.see("[data-objection]", "Wait for the full cure")
		}},
		{"choices", true, func() {
			p.visit("/instruments")
			p.click("[data-instrument='Avocet'] a", "")
			p.click("header a", "Choices")
			p.layer("clear")
			p.fill("Sheen", "matte")
			p.see("main [data-effect]", "Avocet")
			p.click("[data-tray] button", "Drop")
		}},
		{"schools", true, func() {
			p.visit("/instruments/new")
			p.fill("Name", "Redshank")
			p.pick("Promised day", "2026-07-29")
			p.point("[data-drawing=body] [data-region=back]")
			p.layer("fill")
			p.click("[data-topic=pores] button", "Compare")
			p.see("[data-ways]", "Follow this way")
			p.unfold("Every step")
			p.unfold("The whole and its parts")
			p.click("button", "Something is on order")
		}},
		{"a schedule changed", true, func() {
			p.visit("/instruments/" + fetchID(p.t, url, "Knot") + "?edit")
			p.see("[data-step-edit]", "")
			p.commit("Coats", "9")
			p.see("[data-edit-effect]", "later")
		}},
		{"damage", false, func() {
			p.visit("/instruments/" + fetchID(p.t, url, "Knot"))
			p.click("[data-schedule-bar] button", "Put damage right")
			p.see("[data-way=panel]", "See what it does")
		}},
		{"recipes", false, func() {
			p.visit("/recipes")
			p.see("h1", "Recipes of our own")
		}},
		{"weeks", false, func() {
			p.visit("/weeks")
			p.spotOf("[data-week-row]")
			p.until(`document.querySelector('[data-chance]')`, "there should be a chance")
		}},
		{"a sitting of the weeks", false, func() {
			p.visit("/weeks")
			p.click("[data-week-row='Avocet'] [data-bead]", "planned")
			p.see("[data-bead-card]", "Move it")
			p.click("[data-bead-card] button", "Move it")
			p.see("[data-move-bar]", "may be put")
		}},
		{"a what-if", false, func() {
			p.visit("/weeks")
			p.click("button", "What if")
			p.click("[role=dialog] button", "Suppose it")
			p.see("[data-sum]", "earlier")
			p.click("[data-tray] button", "Compare")
			p.see("[role=dialog]", "then")
		}},
		{"a better order", false, func() {
			p.visit("/weeks")
			p.click("button", "Look for a better order")
			p.see("[role=dialog]", "Accept this order")
		}},
		{"shop", false, func() {
			p.visit("/shop")
			p.click("[data-place='the booth'] button", "Change")
			p.fill("Pieces at a time", "none")
			p.see("[data-fault]", "a whole number")
		}},
		{"new instrument", true, func() {
			p.visit("/instruments/new")
			p.click("button", "Start over")
			p.see("[data-forecast]", "Ready")
			p.ground()
			p.see("[data-piece=body]", "Wood")
		}},
	}
}

// begunSitting is the first sitting of the day, under way with a timer that runs.
func begunSitting(t *testing.T, url string) uuid.UUID {
	who := get[views.Reference](t, url+"/api/reference").People[0].ID
	first := get[views.SittingsNow](t, url+"/api/sittings").Offered[0].Event
	begun := views.SittingBegun{ID: uuid.New(), PersonID: who, Events: []changes.EventRef{first}}
	post(t, url+"/api/sittings", begun, 201)
	clock := job.Timer{Kind: "flash-off", Title: "Flashes off", Minutes: 10, Then: "It may be moved."}
	for _, timer := range get[views.Sheet](t, fmt.Sprintf("%s/api/steps/%s/coats/%d", url, first.StepID, first.Coat)).Timers {
		clock = timer
	}
	post(t, url+"/api/log", changes.Entry{ID: uuid.New(), Kind: "timed", StepID: first.StepID, Coat: first.Coat, PersonID: who,
		DeviceID:  uuid.NameSpaceDNS,
		DeviceSeq: 1, Timer: &clock, SittingID: begun.ID}, 201)
	return begun.ID
}

// still ends all transitions: a colour that is on its way to another is not looked at.
const still = `(() => { const sheet = new CSSStyleSheet(); sheet.replaceSync('* { transition: none !important }'); document.adoptedStyleSheets = [sheet] })()`

// violations are the serious and critical ones, in short.
func violations(t *testing.T, p *page, axe string, colours bool) []string {
	t.Helper()
	ask[any](p, still+"; "+axe+"; null")
	awaited := func(e *runtime.EvaluateParams) { chromedp.EvalAwaitPromise(e) }
	text, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](fmt.Sprintf(`axe.run({resultTypes: ['violations'], rules: {'color-contrast': {enabled: %t}}}).then(r => JSON.stringify(r.violations))`, colours), awaited))
	require.NoError(t, err)
	var all []violation
	require.NoError(t, json.Unmarshal([]byte(text), &all))
	var serious []string
	for _, v := range all {
		if v.Impact == "serious" || v.Impact == "critical" {
			for _, n := range v.Nodes {
				serious = append(serious, v.ID+": "+n.HTML+"\n"+n.Summary)
			}
		}
	}
	return serious
}
