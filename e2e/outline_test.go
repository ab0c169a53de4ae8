package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// An outline of one's own is taken from an SVG file; a hostile file does nothing.
func TestAnOutlineOfItsOwnIsTakenFromAFile(t *testing.T) {
	t.Parallel()
	r := room(t)
	dir := t.TempDir()
	file := func(name, content string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(content), 0o644))
		return path
	}
	own := file("own.svg", `<svg xmlns="http://www.w3.org/2000/svg"><path d="M20 0 H310 L330 200 V480 H0 V200 Z"/></svg>`)
	hostile := file("hostile.svg", `<svg xmlns="http://www.w3.org/2000/svg" onload="document.title='owned'"><script>document.title='owned'</script>
		<image href="http://192.0.2.1/x.png"/><path d="M0 0 L9e999 1 Z"/></svg>`)
	empty := file("empty.svg", `<svg xmlns="http://www.w3.org/2000/svg"><circle r="4"/></svg>`)

	p := open(t, r.URL, "/instruments/new")
	p.fill("Name", "Krähenscharbe")
	p.pick("Promised day", "2026-07-29")
	p.ground()
	give := func(path string) {
		require.NoError(t, chromedp.Do(p.ctx, chromedp.SetUploadFiles(`input[type=file]`, []string{path})))
	}
	give(empty)
	p.see("[data-toast]", "No outline in this file")
	give(hostile)
	p.see("[data-fault]", "path")
	p.until(`document.title !== 'owned'`, "nothing in a file may run")
	give(own)
	p.see("[data-own-outline]", "Leave its own out")
	p.gone("[data-fault]", "")
	p.until(`document.querySelector('[data-own-outline] svg path')?.getAttribute('d').startsWith('M20 0')`, "it should be drawn")
	p.until(`document.querySelector('[data-drawing=body] [data-region=top] path').getAttribute('d').startsWith('M20 0')`, "its regions too")
	p.click("button", "Keep this instrument")
	p.see("h1", "Krähenscharbe")
	p.visit("/instruments")
	p.until(`document.querySelector("[data-instrument='Krähenscharbe'] svg [data-region=top] path")?.getAttribute('d').startsWith('M20 0')`,
		"it is drawn in it everywhere")
}
