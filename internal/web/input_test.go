package web_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

func TestAWrongMethodIsSaidToBe(t *testing.T) {
	t.Parallel()
	r := open(t)
	list, _ := operations(t)
	for _, o := range list {
		for _, method := range []string{"PUT", "DELETE", "PATCH"} {
			wrong := o
			wrong.method = method
			request := wrong.asked(r, "{}")
			status, answer, header := r.read(request)
			assert.Equal(t, 405, status, "%s %s", method, o.path)
			assert.Contains(t, header.Get("Allow"), o.method, o.path)
			assert.Contains(t, string(answer), o.method, o.path)
		}
	}
	status, _, _ := r.read(operation{method: "PUT", path: "/api/nothing"}.asked(r, ""))
	assert.Equal(t, 404, status)
}

func TestARefusalEchoesNothing(t *testing.T) {
	t.Parallel()
	r := open(t)
	list, _ := operations(t)
	for _, o := range list {
		if o.body == nil {
			continue
		}
		for _, body := range []string{`{"correct horse battery":"staple secret"}`, `["staple secret"]`, `"staple secret"`,
			`{"id":"staple secret","code":["staple secret"],"changes":"staple secret","readings":"staple secret"}`} {
			status, answer, _ := r.read(o.asked(r, body))
			assert.GreaterOrEqual(t, status, 400, o.path)
			assert.NotContains(t, string(answer), "staple secret", "%s with %s", o.path, body)
		}
	}
}

// What a device sends is kept once under its id, and something else under the same id is not dropped in silence.
func TestAnIdKeepsOneThing(t *testing.T) {
	t.Parallel()
	r := open(t)
	var kept problem
	another := curlew()
	another.Name = "Whimbrel"
	day := func(date string) map[string]any {
		return map[string]any{"personId": r.person, "changes": []any{map[string]any{"kind": "day", "date": date, "open": false}}}
	}
	for name, test := range map[string]struct {
		path      string
		body      any
		different func(map[string]any)
	}{
		"an instrument": {"/api/instruments", another, func(b map[string]any) { b["name"] = "Godwit" }},
		"changes":       {"/api/changes", day("2026-03-20"), func(b map[string]any) { b["changes"] = day("2026-03-27")["changes"] }},
		"readings": {"/api/readings", reading(shop.PlaceID("room"), 18, 50, nil), func(b map[string]any) {
			b["readings"].([]any)[0].(map[string]any)["humidityPct"] = 55
		}},
		"an entry": {"/api/log", r.entry("Sand the bare wood", 1), func(b map[string]any) { b["minutes"] = 12 }},
		"a note, by another": {"/api/log", func() changes.Entry {
			e := r.entry("Sand the bare wood", 1)
			e.Kind, e.InstrumentID, e.StepID, e.Coat, e.Note = "note", r.instrument.ID, uuid.Nil, 0, "grain raised"
			return e
		}(), func(b map[string]any) { b["note"] = "grain laid" }},
		"a sitting": {"/api/sittings", views.SittingBegun{PersonID: r.person,
			Events: []changes.EventRef{{StepID: r.instrument.Pieces[0].Steps[1].StepID, Coat: 1}}},
			func(b map[string]any) { b["seen"] = []string{"x"} }},
	} {
		t.Run(name, func(t *testing.T) {
			data, err := json.Marshal(test.body)
			require.NoError(t, err)
			var body map[string]any
			require.NoError(t, json.Unmarshal(data, &body))
			delete(body, "id")
			assert.Equal(t, 422, r.post(test.path, body, &kept), "without an id")
			assert.NotContains(t, kept.at("body.id"), "nothing is said")
			body["id"] = uuid.Nil
			assert.Equal(t, 422, r.post(test.path, body, &kept), "with an id of nothing")
			body["id"] = uuid.Must(uuid.NewV7())
			require.Equal(t, 201, r.post(test.path, body, &kept), fmt.Sprint(kept))
			before := r.file()
			require.Equal(t, 201, r.post(test.path, body, nil), "after a lost answer")
			assert.Equal(t, len(before.Log)+len(before.Instruments)+len(before.Shop.Readings)+len(before.Shop.Settings),
				len(r.file().Log)+len(r.file().Instruments)+len(r.file().Shop.Readings)+len(r.file().Shop.Settings))
			test.different(body)
			assert.Equal(t, 409, r.post(test.path, body, &kept), "%v", kept)
		})
	}
}

func TestAirThatIsUnlikelyIsAskedAbout(t *testing.T) {
	t.Parallel()
	r := open(t)
	for _, air := range [][2]string{{"-30 °C", "50"}, {"20", "1 %"}, {"46", "50"}, {"20", "99.5"}} {
		typed := changes.TypedReading{ID: uuid.New(), PlaceID: shop.PlaceID("room"), Temperature: air[0], Humidity: air[1],
			PersonID: r.person}
		var p problem
		require.Equal(t, 409, r.post("/api/readings/typed", typed, &p), air)
		assert.Equal(t, "/problems/doubtful", p.Type)
		assert.Equal(t, "unlikely", p.Errors[0].Value)
		assert.Contains(t, p.Errors[0].Message, "unlikely where a finish is put on")
		typed.Confirm = []string{"unlikely"}
		require.Equal(t, 201, r.post("/api/readings/typed", typed, nil), air)
	}
	for _, air := range [][2]string{{"0", "10"}, {"45 °C", "99"}} {
		typed := changes.TypedReading{ID: uuid.New(), PlaceID: shop.PlaceID("room"), Temperature: air[0], Humidity: air[1],
			PersonID: r.person}
		require.Equal(t, 201, r.post("/api/readings/typed", typed, nil), air)
	}
	var p problem
	device := reading(shop.PlaceID("room"), -30, 1, nil)
	require.Equal(t, 409, r.post("/api/readings", device, &p), "a sensor that is broken")
	device.Confirm = []string{"unlikely"}
	require.Equal(t, 201, r.post("/api/readings", device, nil))
	typed := changes.TypedReading{ID: uuid.New(), PlaceID: shop.PlaceID("room"), Temperature: "-31", Humidity: "0", PersonID: r.person}
	require.Equal(t, 422, r.post("/api/readings/typed", typed, &p))
	assert.Contains(t, p.at("body.temperature"), "−30", "named as the form has it")
	assert.Contains(t, p.at("body.humidity"), "1", "named as the form has it")
}

func TestAReadingIsStruck(t *testing.T) {
	t.Parallel()
	r := open(t)
	room := shop.PlaceID("room")
	require.Equal(t, 201, r.post("/api/readings", reading(room, 18, 50, nil), nil))
	r.clock = r.clock.Add(time.Minute)
	typed := changes.TypedReading{ID: uuid.New(), PlaceID: room, Temperature: "38", Humidity: "50", PersonID: r.person}
	require.Equal(t, 201, r.post("/api/readings/typed", typed, nil))
	var rack views.Rack
	require.Equal(t, 200, r.get("/api/rack", &rack))
	at := rack.Room.Places[0]
	assert.Equal(t, "38 °C", at.Temperature)
	require.Len(t, at.Readings, 2)
	assert.Equal(t, typed.ID, at.Readings[0].ID)
	assert.Equal(t, "Mara", at.Readings[0].By)
	for range 2 { // once more changes nothing
		require.Equal(t, 200, r.post("/api/readings/strike", changes.ReadingStruck{ID: typed.ID, PersonID: r.person}, nil))
	}
	require.Equal(t, 200, r.get("/api/rack", &rack))
	at = rack.Room.Places[0]
	assert.Equal(t, "18 °C", at.Temperature, "what was read before it counts again")
	assert.True(t, at.Readings[0].Struck)
	require.Equal(t, 404, r.post("/api/readings/strike", changes.ReadingStruck{ID: uuid.New(), PersonID: r.person}, nil))
	require.Equal(t, 422, r.post("/api/readings/strike", changes.ReadingStruck{ID: typed.ID, PersonID: uuid.New()}, nil))
	file := r.file()
	assert.Equal(t, r.person, *file.Shop.Readings[1].StruckBy, "it stays")
}

// A date that cannot be is refused wherever it comes from, and a device whose clock is wrong loses nothing.
func TestOneRuleOfDates(t *testing.T) {
	t.Parallel()
	r := open(t)
	entry := r.entry("Sand the bare wood", 1)
	old := time.Date(1970, 1, 1, 0, 3, 0, 0, time.UTC)
	entry.HappenedAt = &old
	var p problem
	require.Equal(t, 422, r.post("/api/log", entry, &p))
	entry.Late = true
	require.Equal(t, 201, r.post("/api/log", entry, nil), "it arrives late, and is kept")
	line := r.logbook()[0]
	assert.Contains(t, line.Flags, "wrong-clock")
	assert.Contains(t, line.Flags, "late")

	good := r.file()
	for what, change := range map[string]func(*formats.File){
		"log[0].happenedAt": func(f *formats.File) { f.Log[0].HappenedAt = time.Date(1, 1, 1, 1, 0, 0, 0, time.UTC) },
		"log[0].recordedAt": func(f *formats.File) {
			f.Log[0].RecordedAt = time.Date(9999, 1, 1, 0, 0, 0, 0,
				time.UTC)
		},
		"instruments[0].promise": func(f *formats.File) { f.Instruments[0].Promise.Year = 9999 },
		"instruments[0].createdAt": func(f *formats.File) {
			f.Instruments[0].CreatedAt = time.Date(1999, 12, 31, 0, 0, 0, 0,
				time.UTC)
		},
		"shop.settings[0].validFrom": func(f *formats.File) {
			f.Shop.Settings[0].ValidFrom = time.Date(1900, 1, 1, 0, 0, 0, 0,
				time.UTC)
		},
		"shop.settings[0].exceptions.0200-01-01": func(f *formats.File) { f.Shop.Settings[0].Exceptions = map[string][]calendar.Hours{"0200-01-01": nil} },
	} {
		t.Run(what, func(t *testing.T) {
			var out bytes.Buffer
			require.NoError(t, formats.Write(&out, good))
			bad, err := formats.Read(&out)
			require.NoError(t, err)
			change(bad)
			_, err = r.service.Import(t.Context(), bad)
			var invalid *refuse.Invalid
			require.ErrorAs(t, err, &invalid)
			assert.Equal(t, what, invalid.Faults[0].Path)
			assert.Contains(t, invalid.Faults[0].Message, "from the year 2000 to ten years from now")
		})
	}
	for _, path := range []string{"/api/weeks?from=1999-12-27&weeks=2", "/api/weeks?from=2037-01-05&weeks=2"} {
		require.Equal(t, 422, r.get(path, &p), path)
		assert.Contains(t, p.at("query.from"), "2000")
	}
}

func TestTheLogIsReadToItsEnd(t *testing.T) {
	t.Parallel()
	r := open(t)
	at := now.Add(-time.Hour)
	for range 23 { // all of one moment: only their ids tell them apart
		e := r.entry("Sand the bare wood", 1)
		e.Kind, e.InstrumentID, e.StepID, e.Coat, e.Note, e.HappenedAt = "note", r.instrument.ID, uuid.Nil, 0, "x", &at
		require.Equal(t, 201, r.post("/api/log", e, nil))
	}
	for _, count := range []int{1, 5, 23, 200} {
		seen := make(map[uuid.UUID]bool)
		asked := views.LogAsked{Count: count}
		for more := true; more; {
			var page views.LogPage
			require.Equal(t, 200, r.post("/api/log-pages", asked, &page))
			for _, line := range page.Lines {
				assert.False(t, seen[line.ID], "twice")
				seen[line.ID] = true
				asked.After = line.Place
			}
			more = page.More
		}
		assert.Len(t, seen, 23, "in pages of %d", count)
	}
}

// What is refused before anything has looked at it keeps to itself as everything does.
func TestEarlyRefusalsHaveTheirHeaders(t *testing.T) {
	t.Parallel()
	r := open(t)
	host := "Host: " + r.address + "\r\n"
	for name, test := range map[string]struct {
		request string
		status  int
	}{
		"what is no request":      {"something else\r\n\r\n", 400},
		"a length that is none":   {"POST /api/log HTTP/1.1\r\n" + host + "Content-Length: -7\r\n\r\n", 400},
		"headers without end":     {"GET /api/rack HTTP/1.1\r\n" + host + "X: " + strings.Repeat("x", 20_000) + "\r\n\r\n", 431},
		"a host of somebody else": {"GET /api/rack HTTP/1.1\r\nHost: evil.example\r\n\r\n", 421},
		"too much": {"POST /api/log HTTP/1.1\r\n" + host +
			"Content-Type: application/json\r\nContent-Length: 99999999\r\n\r\n", 413},
		"no such thing": {"GET /api/nothing HTTP/1.1\r\n" + host + "\r\n", 404},
	} {
		t.Run(name, func(t *testing.T) {
			conn, err := net.Dial("tcp", r.address)
			require.NoError(t, err)
			defer conn.Close()
			_, err = conn.Write([]byte(test.request))
			require.NoError(t, err)
			response, err := http.ReadResponse(bufio.NewReader(conn), nil)
			require.NoError(t, err)
			defer response.Body.Close()
			assert.Equal(t, test.status, response.StatusCode)
			for header, want := range map[string]string{"X-Content-Type-Options": "nosniff", "Referrer-Policy": "no-referrer",
				"Content-Security-Policy": "default-src 'self'", "Content-Type": "application/problem+json"} {
				assert.Contains(t, response.Header.Get(header), want)
			}
		})
	}
}
