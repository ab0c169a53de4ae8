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
	night, empty  bool
	before        chromedp.Action[chromedp.Void]
}

var shots = []shot{
	{name: "rack", width: 1280, height: 800, path: "/rack", before: thought},
	{name: "rack-night", width: 1280, height: 800, path: "/rack", night: true, before: thought},
	{name: "rack-tablet", width: 768, height: 1024, path: "/rack", before: thought},
	{name: "rack-phone", width: 390, height: 844, path: "/rack", before: thought},
	{name: "rack-empty", width: 1280, height: 800, path: "/rack", empty: true},
	{name: "instruments", width: 1280, height: 800, path: "/instruments", before: thought},
	{name: "instrument", width: 1280, height: 800, path: "/instruments", before: open("Sanderling")},
	{name: "instrument-night", width: 1280, height: 800, path: "/instruments", night: true, before: open("Godwit")},
	{name: "instrument-tablet", width: 768, height: 1024, path: "/instruments", before: open("Avocet")},
	{name: "instrument-phone", width: 390, height: 844, path: "/instruments", before: open("Sanderling")},
	{name: "objections", width: 1280, height: 800, path: "/instruments", before: chromedp.Steps(open("Turnstone"), chromedp.WaitVisible(chromedp.CSS(`[data-objection]`)))},
	{name: "new-instrument", width: 1280, height: 800, path: "/instruments/new", before: compared},
	{name: "new-instrument-tablet", width: 768, height: 1024, path: "/instruments/new", before: fillIn},
	{name: "weeks", width: 1280, height: 800, path: "/weeks", before: thought},
	{name: "weeks-night", width: 1280, height: 800, path: "/weeks", night: true, before: thought},
	{name: "weeks-phone", width: 390, height: 844, path: "/weeks", before: chromedp.WaitVisible(chromedp.CSS(`[data-bead]`))},
	{name: "what-if", width: 1280, height: 800, path: "/weeks", before: supposed},
	{name: "better-order", width: 768, height: 1024, path: "/weeks", before: betterOrder},
	{name: "shop", width: 1280, height: 800, path: "/shop", before: chromedp.WaitVisible(chromedp.CSS(`[data-air]`))},
}

// thought waits until the chances have been worked out in the background.
var thought = chromedp.WaitReady(chromedp.CSS(`[data-chance]`))

var supposed = chromedp.Steps(
	thought,
	chromedp.Click(chromedp.CSS(`button[aria-haspopup=dialog].bg-band`)),
	chromedp.WaitVisible(chromedp.CSS(`[role=dialog] form`)),
	chromedp.Click(chromedp.CSS(`[role=dialog] button[type=submit]`)),
	chromedp.WaitVisible(chromedp.CSS(`[data-sum]`)),
)

var betterOrder = chromedp.Steps(
	thought,
	chromedp.Click(chromedp.CSS(`header button[aria-haspopup=dialog]`)),
	chromedp.WaitVisible(chromedp.CSS(`[role=dialog] svg`)),
)

func open(name string) chromedp.Action[chromedp.Void] {
	return chromedp.Steps(
		thought,
		chromedp.Click(chromedp.CSS(`[data-instrument="`+name+`"] a`)),
		chromedp.WaitVisible(chromedp.CSS(`[data-sheet] h2`)),
	)
}

var fillIn = chromedp.Steps(
	chromedp.WaitVisible(chromedp.CSS(`form input`)),
	chromedp.SendKeys(chromedp.CSS(`form input`), "Redshank"),
	chromedp.WaitVisible(chromedp.CSS(`[data-day-input="Promised day"] [role=spinbutton]`)),
	chromedp.Focus(chromedp.CSS(`[data-day-input="Promised day"] [role=spinbutton]`)),
	chromedp.KeyEvent("29052026"),
	chromedp.WaitVisible(chromedp.CSS(`[data-forecast]`)),
)

var compared = chromedp.Steps(
	fillIn,
	chromedp.Click(chromedp.CSS(`[data-topic=pores] button`)),
	chromedp.WaitVisible(chromedp.CSS(`[data-ways] svg`)),
	chromedp.ScrollIntoView(chromedp.CSS(`[data-way=half] svg`)),
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
	rooms := make(map[bool]*harness.Room)
	for _, empty := range []bool{false, true} {
		if rooms[empty], err = building.Room(ctx, empty); err != nil {
			return err
		}
	}
	for _, s := range shots {
		if !strings.HasPrefix(s.name, only) {
			continue
		}
		if err := take(building, rooms[s.empty].URL, s, filepath.Join(out, s.name+".png")); err != nil {
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
