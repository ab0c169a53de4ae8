package e2e

import (
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/shop/views"
)

func TestAShopOfOnesOwnToItsFirstCoat(t *testing.T) {
	t.Parallel()
	r := roomOf(t, harness.Kind{Blank: true})
	p := open(t, r.URL, "/")
	p.see("h1", "What is your shop like?")
	p.click("button", "Open the shop")
	p.see("[data-fault]", "a name of 1 to 60 characters")
	p.fill("Name of the shop", "Zur Uferschnepfe")
	p.fill("Your name", "Élodie")
	p.click("button", "Somebody else works here too")
	p.fill("Person 2", "Jón")
	p.fill("Time zone", "Atlantic/Reykjavik")
	p.click("label", "Workshop days")
	p.click("label", "A bench and a booth")
	p.click("label", "Heated all year")
	p.fill("Temperature, December to February", "warm")
	p.visit("/rack") // a reload loses nothing that was typed
	p.see("h1", "What is your shop like?")
	p.until(`[...document.querySelectorAll('input')].some(i => i.value === 'Élodie')`, "the name is kept")
	p.click("button", "Open the shop")
	p.see("[data-season='0'] [data-fault]", "is not a temperature")
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	for _, width := range []int64{1280, 390} {
		require.NoError(t, chromedp.Do(p.ctx, chromedp.EmulateViewport(width, 800)))
		assert.Empty(t, violations(t, p, string(axe), true), "at %d", width)
	}
	p.fill("Temperature, December to February", "19,5 °C")
	p.click("button", "Open the shop")
	p.see("h1", "The shop is open")
	p.click("a", "The first instrument")
	p.see("[data-forecast]", "Ready")
	p.fill("Name", "Bekassine")
	p.click("button", "Keep")
	p.see("[data-sheet]", "How")
	p.click("[data-log]", "Log")
	p.see("[data-toast]", "Undo")
	p.empty()
	lines := get[[]views.InstrumentLine](t, r.URL+"/api/instruments")
	require.Len(t, lines, 1)
	assert.Equal(t, 1, lines[0].Done)
	kept := get[views.ShopView](t, r.URL+"/api/shop")
	assert.Equal(t, "Zur Uferschnepfe", kept.Shop.Name)
	assert.Equal(t, "closed", kept.Shop.Week[0])
	assert.Contains(t, kept.Shop.Week[1], "9:00")
	assert.InDelta(t, (19.5+20+22+20)/4, float64(kept.Places[0].Knots[0].Temperature), 1e-9, "the mean of the seasons")
	assert.Len(t, kept.Places, 2)
	assert.Len(t, kept.People, 2)
}

func TestABackupIsTakenAwayAndRestored(t *testing.T) {
	t.Parallel()
	r := room(t)
	p := open(t, r.URL, "/shop")
	p.see("[data-backups]", "Take a backup of the whole shop away")
	p.see("[data-backups]", "into an empty shop only")
	p.click("[data-about] button", "Show their licences")
	for _, part := range []string{"bricolage-grotesque", "react-dom", "github.com/gofiber/fiber/v2", "Go and its standard library"} {
		p.see("[data-about]", part)
	}
	answer, err := http.Get(r.URL + ask[string](p, `document.querySelector("[data-backups] a[download]").getAttribute('href')`))
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, 200, answer.StatusCode)
	data, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "saltmarsh.backup")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	broken := filepath.Join(t.TempDir(), "broken.backup")
	require.NoError(t, os.WriteFile(broken, data[:len(data)/3], 0o600))

	other := roomOf(t, harness.Kind{Blank: true})
	q := open(t, other.URL, "/")
	q.unfold("There is a backup of a shop already")
	upload := func(path string) {
		t.Helper()
		require.NoError(t, chromedp.Do(q.ctx, chromedp.SetUploadFiles("#restore-file", []string{path})))
	}
	upload(broken)
	q.see("[data-restore]", "no backup of Umberfrost that can be read")
	upload(path)
	q.see("[data-tag]", "Godwit")
	assert.Equal(t, whole(t, r.URL), whole(t, other.URL), "it exports to the same bytes")
}

// whole is the shop as a schedule file.
func whole(t *testing.T, url string) string {
	t.Helper()
	answer, err := http.Get(url + "/api/schedule-file")
	require.NoError(t, err)
	defer answer.Body.Close()
	data, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	require.True(t, strings.Contains(string(data), "Godwit"))
	return string(data)
}
