package main

import (
	"context"
	"log"
	"os"
	"time"

	"github.com/chromedp/chromedp"

	"umberfrost/e2e/harness"
)

func must(err error) {
	if err != nil {
		log.Fatal(err)
	}
}

func main() {
	b, err := harness.Build(context.Background())
	must(err)
	defer b.Close()
	room, err := b.Room(context.Background(), false)
	must(err)
	shoot := func(name string, w, h int64, path string, js ...string) {
		page, done, err := b.Page(w, h)
		must(err)
		defer done()
		must(chromedp.Do(page, chromedp.Navigate(room.URL+path), chromedp.WaitVisible(chromedp.CSS(`main h1`)), chromedp.Sleep(1500*time.Millisecond)))
		for _, s := range js {
			_, err := chromedp.Run(page, chromedp.Evaluate[any](s))
			if err != nil {
				log.Println(name, err)
			}
			must(chromedp.Do(page, chromedp.Sleep(1500*time.Millisecond)))
		}
		png, err := chromedp.Run(page, chromedp.CaptureScreenshot())
		must(err)
		must(os.WriteFile("/tmp/shots/"+name+".png", png, 0o644))
	}
	click := func(sel, words string) string {
		return `(() => { const e = [...document.querySelectorAll(` + "`" + sel + "`" + `)].find(e => e.innerText.includes("` + words + `")); e?.scrollIntoView({block:'center'}); e?.click(); return !!e })()`
	}
	fill := func(label, value string) string {
		return `(() => { const l = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === "` + label + `"); const i = document.getElementById(l.htmlFor); const set = Object.getOwnPropertyDescriptor(i.tagName === 'SELECT' ? HTMLSelectElement.prototype : HTMLInputElement.prototype, 'value').set; set.call(i, "` + value + `"); i.dispatchEvent(new Event(i.tagName === 'SELECT' ? 'change' : 'input', {bubbles: true})); return true })()`
	}
	for _, w := range [][2]int64{{1280, 800}, {390, 844}} {
		suffix := map[int64]string{1280: "", 390: "-phone"}[w[0]]
		shoot("question"+suffix, w[0], w[1], "/instruments", click("[data-instrument='Sanderling'] a", ""), click("[data-steps] a, [data-steps] button", "Wet the grain"), click("[data-sheet] button", "Log done"))
		shoot("missed"+suffix, w[0], w[1], "/instruments/new", fill("Name", "Redshank"), fill("Promised day", "2026-05-01"), fill("Frets", "mirror"), `window.scrollTo(0,0); true`)
	}
}
