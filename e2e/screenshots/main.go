// Command screenshots takes one picture of each main view, from the demo room
// at its fixed present, into docs/screenshots or the folder given by -out.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/chromedp/chromedp"

	"umberfrost/e2e/harness"
	"umberfrost/internal/demo"
)

// settle is how long a page may ease into place.
const settle = 600 * time.Millisecond

type shot struct {
	name          string
	width, height int64
	path          string
	night         bool
	blank         bool // of a shop that has not begun
	before        chromedp.Action[chromedp.Void]
}

var shots = []shot{
	{name: "begin", width: 1280, height: 800, path: "/", blank: true, before: answered},
	{name: "rack", width: 1280, height: 800, path: "/rack", before: thought},
	{name: "rack-night", width: 1280, height: 800, path: "/rack", night: true, before: thought},
	{name: "rack-phone", width: 390, height: 844, path: "/rack", before: chromedp.Steps(thought,
		press(`[data-have] button:nth-of-type(2)`))},
	{name: "instruments", width: 1280, height: 800, path: "/instruments", before: thought},
	{name: "instrument", width: 1280, height: 800, path: "/instruments", before: open("Sanderling")},
	{name: "instrument-tablet", width: 768, height: 1024, path: "/instruments", before: open("Avocet")},
	{name: "edit", width: 1280, height: 800, path: "/instruments", before: edited},
	{name: "repair-night", width: 1280, height: 800, path: "/instruments", night: true, before: damaged},
	{name: "new-instrument", width: 1280, height: 800, path: "/instruments/new", before: stacked},
	{name: "new-instrument-phone", width: 390, height: 844, path: "/instruments/new",
		before: chromedp.Steps(stacked, chromedp.ScrollIntoView(chromedp.CSS(`[data-stack] h2`)))},
	{name: "choices", width: 1280, height: 800, path: "/instruments", before: chosen},
	{name: "weeks", width: 1280, height: 800, path: "/weeks", before: thought},
	{name: "what-if", width: 1280, height: 800, path: "/weeks", before: supposed},
	{name: "start-sitting", width: 1280, height: 800, path: "/sitting", before: chromedp.WaitVisible(chromedp.CSS(`[data-begin]`))},
	{name: "log", width: 1280, height: 800, path: "/log", before: chromedp.WaitVisible(chromedp.CSS(`[data-log-lines]`))},
	{name: "recipes", width: 1280, height: 800, path: "/recipes", before: press(`[data-recipes] a`)},
	{name: "shop", width: 1280, height: 800, path: "/shop", before: chromedp.WaitVisible(chromedp.CSS(`[data-air]`))},
	// What is begun is under way in all that come after it.
	{name: "sitting-tablet", width: 768, height: 1024, path: "/sitting", before: begun},
}

// thought waits until the chances have been worked out in the background.
var thought = chromedp.WaitReady(chromedp.CSS(`[data-chance]`))

// answered is a shop that has nearly said what it is like.
var answered = chromedp.Steps(
	chromedp.WaitVisible(chromedp.CSS(`[data-begin=shop]`)),
	choose("Name of the shop", "Saltmarsh Room"),
	choose("Time zone", "Europe/London"),
	choose("Your name", "Mara"),
)

var supposed = chromedp.Steps(
	thought,
	chromedp.Click(chromedp.CSS(`button[aria-haspopup=dialog].bg-band`)),
	chromedp.WaitVisible(chromedp.CSS(`[role=dialog] form`)),
	chromedp.Click(chromedp.CSS(`[role=dialog] button[type=submit]`)),
	chromedp.WaitVisible(chromedp.CSS(`[data-sum]`)),
)

func open(name string) chromedp.Action[chromedp.Void] {
	return chromedp.Steps(
		thought,
		chromedp.Click(chromedp.CSS(`[data-instrument="`+name+`"] a`)),
		chromedp.WaitVisible(chromedp.CSS(`[data-sheet] h2`)),
	)
}

// choose takes an option of the field with this label, or types into it.
func choose(label, value string) chromedp.Action[chromedp.Void] {
	act := chromedp.Evaluate[bool](fmt.Sprintf(`(() => {
		const field = document.getElementById([...document.querySelectorAll('label')].find((l) => l.innerText.trim() === %q).htmlFor)
		Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value').set.call(field, %q)
		field.dispatchEvent(new Event(field.tagName === 'SELECT' ? 'change' : 'input', {bubbles: true}))
		return true })()`, label, value))
	return chromedp.Steps(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := act(ctx, t)
		return err
	}), chromedp.Sleep(settle))
}

func press(selector string) chromedp.Action[chromedp.Void] {
	return chromedp.Steps(chromedp.WaitVisible(chromedp.CSS(selector)), chromedp.Click(chromedp.CSS(selector)), chromedp.Sleep(settle))
}

// edited is a schedule while it is changed by hand.
var edited = chromedp.Steps(
	open("Avocet"),
	press(`[data-schedule-bar] button`),
	chromedp.WaitVisible(chromedp.CSS(`[data-step-edit]`)),
	leave("Coats", "6"),
	chromedp.WaitVisible(chromedp.CSS(`[data-strata-change]`)),
)

// begun is a sitting with a timer that runs.
var begun = chromedp.Steps(
	chromedp.WaitVisible(chromedp.CSS(`[data-begin]`)),
	press(`[data-warn] input`),
	press(`[data-begin]`),
	press(`button[data-timer]`),
	chromedp.WaitVisible(chromedp.CSS(`[data-running]`)),
)

// damaged is what to do about a burn-through.
var damaged = chromedp.Steps(
	open("Avocet"),
	press(`[data-schedule-bar] button:nth-of-type(2)`),
	choose("What has happened", "burn-through"),
	choose("How deep it goes", "colour"),
	chromedp.WaitVisible(chromedp.CSS(`[data-way=panel]`)),
)

// leave types into a field that counts once it is left.
func leave(label, value string) chromedp.Action[chromedp.Void] {
	blur := chromedp.Evaluate[bool](`(document.activeElement.blur(), true)`)
	focus := chromedp.Evaluate[bool](fmt.Sprintf(`(() => { document.getElementById([...document.querySelectorAll('main label')].find((l) => l.innerText.trim() === %q).htmlFor).focus(); return true })()`, label))
	do := func(act chromedp.Action[bool]) chromedp.Action[chromedp.Void] {
		return chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			_, err := act(ctx, t)
			return err
		})
	}
	return chromedp.Steps(do(focus), choose(label, value), do(blur), chromedp.Sleep(settle))
}

// stacked is a burst rubbed in by hand on a figured top.
var stacked = chromedp.Steps(
	chromedp.WaitVisible(chromedp.CSS(`[data-forecast]`)),
	choose("Begin with", "wet-burst"),
	press(`[data-layer=colour] button`),
	choose("Colour", "ochre"),
	press(`[data-layer=burst] button`),
	choose("Towards the edge", "rust"),
	choose("At the edge", "walnut"),
	press(`[data-layer=burst] button`),
	choose("Name", "Redshank"),
	chromedp.Sleep(settle),
)

var chosen = chromedp.Steps(
	open("Avocet"),
	press(`header a[href$=choices]`),
	press(`[data-layer=clear] button`),
	choose("Sheen", "gloss"),
	press(`[data-layer=clear] button`),
	chromedp.WaitVisible(chromedp.CSS(`[data-difference] [data-effect]`)),
)

func main() {
	out := flag.String("out", "docs/screenshots", "folder for the pictures")
	only := flag.String("only", "", "take only the pictures whose name begins so")
	flag.Parse()
	if err := run(context.Background(), *out, *only); err != nil {
		log.Fatal(err)
	}
}

func run(ctx context.Context, out, only string) error {
	building, err := harness.Build(ctx, demo.Saltmarsh)
	if err != nil {
		return err
	}
	defer building.Close()
	building.Thorough = true
	room, err := building.Room(ctx, harness.Kind{Thinks: true})
	if err != nil {
		return err
	}
	blank, err := building.Room(ctx, harness.Kind{Blank: true})
	if err != nil {
		return err
	}
	for _, s := range shots {
		if !strings.HasPrefix(s.name, only) {
			continue
		}
		url := room.URL
		if s.blank {
			url = blank.URL
		}
		if err := take(building, url, s, filepath.Join(out, s.name+".png")); err != nil {
			return err
		}
		log.Println(s.name)
	}
	return nil
}

func take(building *harness.Building, url string, s shot, file string) error {
	page, closePage, err := building.Page(s.width, s.height)
	if err != nil {
		return err
	}
	defer closePage()
	theme := `localStorage.setItem('umberfrost.theme', '"day"')`
	if s.night {
		theme = `localStorage.setItem('umberfrost.theme', '"night"')`
	}
	if err := chromedp.Do(page, chromedp.Navigate(url+"/robots.txt")); err != nil {
		return err
	}
	if _, err := chromedp.Run(page, chromedp.Evaluate[any](theme)); err != nil {
		return err
	}
	if err := chromedp.Do(page, chromedp.Navigate(url+s.path), chromedp.WaitVisible(chromedp.CSS(`main h1`))); err != nil {
		return err
	}
	if s.before != nil {
		if err := chromedp.Do(page, s.before); err != nil {
			return fmt.Errorf("%s: %w", s.name, err)
		}
	}
	if err := chromedp.Do(page, chromedp.Sleep(settle)); err != nil {
		return err
	}
	png, err := chromedp.Run(page, chromedp.CaptureScreenshot())
	if err != nil {
		return err
	}
	return os.WriteFile(file, png, 0o644)
}
