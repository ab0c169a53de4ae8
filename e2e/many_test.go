package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/e2e/harness"
	"umberfrost/internal/shop"
)

func TestManyInstrumentsKeepThePageSmall(t *testing.T) {
	r := room(t)
	fill(t, r, 45)
	p := open(t, r.URL, "/weeks")
	p.click("button", "12 weeks")
	p.see("[data-threads]", "Dunlin")
	nodes := func() int { return ask[int](p, `document.querySelectorAll('*').length`) }
	few := nodes()
	ask[any](p, `document.querySelector('[data-threads]').scrollTop = 36 * 72`)
	p.see("[data-threads]", "Copy 32")
	p.gone("[data-threads]", "Whimbrel")
	assert.Less(t, nodes(), 2*few+1500, "only what is seen is drawn")
	assert.Less(t, nodes(), 6000)
}

// fill imports copies of one of the room's instruments.
func fill(t testing.TB, r *harness.Room, count int) {
	t.Helper()
	lines := get[[]shop.InstrumentLine](t, r.URL+"/api/instruments")
	id := lines[len(lines)-1].ID.String()
	for _, l := range lines {
		if l.Name == "Turnstone" {
			id = l.ID.String()
		}
	}
	var file map[string]any
	require.NoError(t, json.Unmarshal(fetch(t, r.URL+"/api/instruments/"+id+"/schedule-file"), &file))
	original, err := json.Marshal(file["instruments"].([]any)[0])
	require.NoError(t, err)
	file["log"], file["snapshots"], file["order"], file["pins"] = nil, nil, nil, nil
	for _, key := range []string{"log", "snapshots", "order", "pins"} {
		delete(file, key)
	}
	var copies []any
	for n := range count {
		text := string(original)
		for _, own := range identities(original) {
			text = strings.ReplaceAll(text, own, uuid.NewSHA1(uuid.MustParse(own), fmt.Append(nil, n)).String())
		}
		var instrument map[string]any
		require.NoError(t, json.Unmarshal([]byte(text), &instrument))
		instrument["name"], instrument["promise"] = fmt.Sprint("Copy ", n), time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, n/2).Format(time.DateOnly)
		copies = append(copies, instrument)
	}
	file["instruments"] = copies
	data, err := json.Marshal(file)
	require.NoError(t, err)
	answer, err := http.Post(r.URL+"/api/schedule-file", "application/json", strings.NewReader(string(data)))
	require.NoError(t, err)
	defer answer.Body.Close()
	body, _ := io.ReadAll(answer.Body)
	require.Equal(t, 201, answer.StatusCode, "%.600s", body)
}

// identities are the ids of an instrument's own parts.
func identities(instrument []byte) []string {
	var ids []string
	var walk func(v any, key string)
	walk = func(v any, key string) {
		switch v := v.(type) {
		case map[string]any:
			for k, inner := range v {
				walk(inner, k)
			}
		case []any:
			for _, inner := range v {
				walk(inner, key)
			}
		case string:
			if _, err := uuid.Parse(v); err == nil && key == "id" {
				ids = append(ids, v)
			}
		}
	}
	var all any
	if json.Unmarshal(instrument, &all) == nil {
		walk(all, "")
	}
	return ids
}
