package e2e

import (
	"net/url"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// obstacles are buttons that no hand can press, and some that one can: the last two once they are scrolled to.
const obstacles = `<body style="margin:0">
<button id="bare">bare</button>
<div style="position:relative"><button id="covered" style="width:200px">covered</button><div style="position:absolute;inset:0;background:red"></div></div>
<div style="position:relative;width:200px"><button id="half" style="width:200px">half covered</button><div style="position:absolute;inset:0 80px 0 0;background:red"></div></div>
<button id="disabled" disabled>disabled</button>
<button id="hidden" style="visibility:hidden">hidden</button>
<button id="untouchable" style="pointer-events:none">untouchable</button>
<button id="beside" style="position:fixed;left:-300px">beside the screen</button>
<div style="height:40px;overflow:hidden"><div style="height:300px"></div><button id="clipped">clipped</button></div>
<div style="height:40px;overflow:auto"><div style="height:300px"></div><button id="scrolled">in a list</button></div>
<div style="height:3000px"></div><button id="below">below</button>`

func TestAHandRefusesWhatItCannotReach(t *testing.T) {
	t.Parallel()
	p := blankPage(t, "", 800, 600)
	require.NoError(t, chromedp.Do(p.ctx, chromedp.Navigate("data:text/html,"+url.PathEscape(obstacles))))
	for id, why := range map[string]string{"covered": "it lies under <div", "disabled": "it is disabled", "hidden": "it is not shown",
		"untouchable": "it lies under", "beside": "it is off the screen", "clipped": "it lies under", "missing": "it is not there"} {
		assert.Contains(t, ask[string](p, place+`([...document.querySelectorAll('#`+id+`')]).why ?? 'it can be pressed'`), why, id)
	}
	ask[any](p, `addEventListener('click', (e) => { window.pressed = e.target.id })`)
	for _, id := range []string{"bare", "half", "scrolled", "below"} {
		p.click("#"+id, "")
		assert.Equal(t, id, ask[string](p, `window.pressed`))
	}
}
