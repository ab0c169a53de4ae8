package e2e

import (
	"bytes"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/formats"
	"umberfrost/internal/formats/formatstest"
	"umberfrost/internal/shop/views"
)

func TestManyInstrumentsKeepThePageSmall(t *testing.T) {
	t.Parallel()
	r := room(t)
	fill(t, r, 45)
	p := open(t, r.URL, "/weeks")
	p.click("button", "12 weeks")
	p.see("[data-threads]", "Dunlin")
	nodes := func() int { return ask[int](p, `document.querySelectorAll('*').length`) }
	few := nodes()
	p.wheel(p.spotOf("[data-threads]"), 0.1, 36*72, 0)
	p.see("[data-threads]", "Copy 32")
	p.gone("[data-threads]", "Whimbrel")
	assert.Less(t, nodes(), 2*few+1500, "only what is seen is drawn")
	assert.Less(t, nodes(), 6000)
}

// fill imports copies of one of the room's instruments.
func fill(t testing.TB, r *harness.Room, count int) {
	t.Helper()
	lines := get[[]views.InstrumentLine](t, r.URL+"/api/instruments")
	id := lines[len(lines)-1].ID.String()
	for _, l := range lines {
		if l.Name == "Turnstone" {
			id = l.ID.String()
		}
	}
	file, err := formats.Read(bytes.NewReader(fetch(t, r.URL+"/api/instruments/"+id+"/schedule-file")))
	require.NoError(t, err)
	file.Instruments[0].Promise = calendar.Day{Year: 2026, Month: 6, Date: 1}
	require.NoError(t, formatstest.Copies(file, count))
	var data bytes.Buffer
	require.NoError(t, formats.Write(&data, file))
	answer, err := http.Post(r.URL+"/api/schedule-file", "application/json", &data)
	require.NoError(t, err)
	defer answer.Body.Close()
	body, _ := io.ReadAll(answer.Body)
	require.Equal(t, 201, answer.StatusCode, "%.600s", body)
}
