package web_test

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/gofiber/fiber/v2"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/localpg"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
	"umberfrost/internal/web"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// discard logs nothing.
var discard = slog.New(slog.DiscardHandler)

var now = time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC)

// room is a served shop with one instrument planned.
type room struct {
	t          testing.TB
	app        *fiber.App
	address    string
	client     http.Client
	service    *shop.Service
	store      *store.Store
	person     uuid.UUID
	clock      time.Time
	seq        int64
	instrument views.InstrumentView
}

func open(t testing.TB) *room { return openAt(t, pgtest.URL(t)) }

// openAt serves a shop that begins in an empty database.
func openAt(t testing.TB, url string) *room {
	s, err := store.Open(context.Background(), url)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return serve(t, s)
}

func serve(t testing.TB, s *store.Store) *room {
	r := &room{t: t, store: s, clock: now}
	service, err := shop.New(r.store, func() time.Time { return r.clock })
	require.NoError(t, err)
	_, err = service.Prepare(context.Background(), shop.Default("Europe/London"), "Mara", "Tobin")
	require.NoError(t, err)
	r.service = service
	page := `<title>Umberfrost</title><script type="module" crossorigin src="/assets/index-now.js"></script>`
	files := fstest.MapFS{"index.html": {Data: []byte(page)}, "assets/a1.js": {Data: []byte("1")}}
	r.app = web.New(service, files, web.Options{Log: discard, Named: func(host string) bool { return host == "shop.local" },
		Addresses: func(context.Context) []string { return []string{"https://shop.local:8443"} }, Authority: []byte("an authority")})
	listener, err := web.Listen("127.0.0.1:0", nil)
	require.NoError(t, err)
	r.address = listener.Addr().String()
	serving, stop := context.WithCancel(context.Background())
	served := make(chan error, 1)
	go func() { served <- web.Serve(serving, r.app, listener) }()
	t.Cleanup(func() {
		stop()
		r.client.CloseIdleConnections()
		assert.NoError(t, <-served)
	})
	var reference views.Reference
	require.Equal(t, 200, r.get("/api/reference", &reference))
	r.person = reference.People[0].ID
	require.Equal(t, 201, r.post("/api/instruments", curlew(), &r.instrument))
	return r
}

func curlew() changes.NewInstrument {
	return changes.NewInstrument{ID: uuid.New(), Name: "Curlew", Outline: "two-horned", Promise: "2026-07-01",
		Wish: recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{
			recipe.PieceWish{Kind: recipe.Body, Wood: "ash-swamp", Length: "480 mm", Width: "13 in",
				Thickness: "44"}.From("one-colour").Ending("water-clear", "gloss")}}}
}

// problem is what an error answers with.
type problem struct {
	Type, Title, Detail string
	Status              int
	Errors              []struct {
		Location, Message string
		Value             any
	}
}

func (p problem) at(location string) string {
	for _, e := range p.Errors {
		if e.Location == location {
			return e.Message
		}
	}
	return fmt.Sprintf("nothing is said about %s in %+v", location, p)
}

// answer asks over a connection from this machine.
func (r *room) answer(request *http.Request) (*http.Response, error) {
	request.URL.Scheme, request.URL.Host, request.RequestURI = "http", r.address, ""
	return r.client.Do(request)
}

func (r *room) do(request *http.Request, into any) (*http.Response, int) {
	r.t.Helper()
	if request.Host == "example.com" { // what a test's request is for where it says nothing
		request.Host = "localhost"
	}
	if request.Header.Get("Origin") == "" && request.Header.Get("Sec-Fetch-Site") == "" {
		request.Header.Set("Sec-Fetch-Site", "same-origin")
	}
	response, err := r.answer(request)
	require.NoError(r.t, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(r.t, err)
	if into != nil {
		require.NoError(r.t, json.Unmarshal(data, into), "%s", data)
	}
	return response, response.StatusCode
}

func (r *room) get(path string, into any) int {
	_, status := r.do(httptest.NewRequest("GET", path, nil), into)
	return status
}

func (r *room) post(path string, body, into any) int {
	_, status := r.do(r.request(path, body), into)
	return status
}

// request is one that sends a body.
func (r *room) request(path string, body any) *http.Request {
	text, isText := body.(string)
	if !isText {
		data, err := json.Marshal(body)
		require.NoError(r.t, err)
		text = string(data)
	}
	request := httptest.NewRequest("POST", path, strings.NewReader(text))
	request.Header.Set("Content-Type", "application/json")
	return request
}

// step returns the step of the body with this slot's title.
func (r *room) step(title string) views.StepRow {
	for _, piece := range r.instrument.Pieces {
		for _, step := range piece.Steps {
			if step.Title == title {
				return step
			}
		}
	}
	require.Fail(r.t, "no such step", title)
	return views.StepRow{}
}

func (r *room) entry(title string, coat int) changes.Entry {
	r.seq++
	return changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: "done", StepID: r.step(title).StepID, Coat: coat, PersonID: r.person,
		DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq}
}

func (r *room) logbook() []views.LogLine {
	var view views.InstrumentView
	require.Equal(r.t, 200, r.get("/api/instruments/"+r.instrument.ID.String(), &view))
	return view.Log
}

func TestBadInstrumentsAreRefusedByField(t *testing.T) {
	t.Parallel()
	r := open(t)
	for name, test := range map[string]struct {
		change            func(*changes.NewInstrument)
		location, message string
	}{
		"negative size": {func(in *changes.NewInstrument) { in.Wish.Pieces[0].Length = "-480 mm" }, "body.wish.pieces[0].length",
			"from 250 mm to 800 mm"},
		"absurd size": {func(in *changes.NewInstrument) { in.Wish.Pieces[0].Width = "40 m" }, "body.wish.pieces[0].width",
			"from 150 mm to 600 mm"},
		"no size": {func(in *changes.NewInstrument) { in.Wish.Pieces[0].Thickness = "thick" }, "body.wish.pieces[0].thickness",
			"write it like 480 mm"},
		"unknown wood": {func(in *changes.NewInstrument) { in.Wish.Pieces[0].Wood = "driftwood" }, "body.wish.pieces[0].wood", "ash-swamp"},
		"oil on metal": {func(in *changes.NewInstrument) {
			in.Wish.Pieces[0].Wood = "aluminium"
			in.Wish.Pieces[0] = in.Wish.Pieces[0].From("natural").Ending("finishing-oil", "")
		}, "body.wish.pieces[0].layers[1].family", "takes up no oil"},
		"no such preset": {func(in *changes.NewInstrument) { in.Wish.Pieces[0].Preset, in.Wish.Pieces[0].Layers = "plaid", nil },
			"body.wish.pieces[0].preset", "burst"},
		"no such school": {func(in *changes.NewInstrument) { in.Wish.Ways = map[string]string{"holes": "never"} }, "body.wish.ways.holes",
			"before, after"},
		"shown after it": {func(in *changes.NewInstrument) { in.Show = "2026-08-01" }, "body.show", "between today and the promised day"},
		"unknown product": {func(in *changes.NewInstrument) { in.Materials = map[string]uuid.UUID{"body:clear": uuid.New()} },
			"body.materials.body:clear", "no such product"},
		"unknown role": {func(in *changes.NewInstrument) { in.Materials = map[string]uuid.UUID{"body:glitter": uuid.New()} },
			"body.materials.body:glitter", "no such material"},
		"promise in the past": {func(in *changes.NewInstrument) { in.Promise = "2026-03-11" }, "body.promise", "2026-03-12, or later"},
		"no day":              {func(in *changes.NewInstrument) { in.Promise = "soon" }, "body.promise", "write it like 2026-03-12"},
		"no name":             {func(in *changes.NewInstrument) { in.Name = "  " }, "body.name", "1 to 60 characters"},
		"outline":             {func(in *changes.NewInstrument) { in.Outline = "star" }, "body.outline", "two-horned"},
		"no piece": {func(in *changes.NewInstrument) { in.Wish.Pieces = []recipe.PieceWish{} }, "body.wish.pieces",
			"at least a body or a neck"},
	} {
		t.Run(name, func(t *testing.T) {
			in := curlew()
			test.change(&in)
			paths := []string{"/api/forecasts", "/api/instruments"}
			if name == "no name" {
				paths = paths[1:] // a forecast does without
			}
			for _, path := range paths {
				var p problem
				assert.Equal(t, 422, r.post(path, in, &p), path)
				assert.Contains(t, p.at(test.location), test.message)
			}
		})
	}
	var lines []views.InstrumentLine
	r.get("/api/instruments", &lines)
	assert.Len(t, lines, 1, "nothing was half-saved")
}

func TestBadRequests(t *testing.T) {
	t.Parallel()
	r := open(t)
	for name, test := range map[string]struct {
		path, body string
		status     int
		says       string
	}{
		"malformed JSON": {"/api/log", `{"id": `, 400, ""},
		"too large":      {"/api/log", `{"note": "` + strings.Repeat("x", 300<<10) + `"}`, 413, "262144 bytes"},
		"wrong type":     {"/api/log", `{"id": 7}`, 422, "body"},
		"unknown field":  {"/api/forecasts", `{"colour": "blue"}`, 422, "colour"},
	} {
		t.Run(name, func(t *testing.T) {
			var p problem
			assert.Equal(t, test.status, r.post(test.path, test.body, &p))
			assert.Equal(t, test.status, p.Status)
			assert.Contains(t, fmt.Sprintf("%+v", p), test.says)
		})
	}
	for path, says := range map[string]string{
		"/api/instruments/" + uuid.NewString():                      "no instrument",
		"/api/steps/" + uuid.NewString() + "/coats/1":               "no step",
		"/api/steps/" + r.step("Buff").StepID.String() + "/coats/2": "no coat 2",
		"/api/nowhere": "no such operation",
	} {
		var p problem
		assert.Equal(t, 404, r.get(path, &p), path)
		assert.Contains(t, p.Detail, says)
	}
	var p problem
	assert.Equal(t, 422, r.get("/api/instruments/curlew", &p), "an id that is none")
}

func TestALostAnswerIsNotASecondCoat(t *testing.T) {
	t.Parallel()
	r := open(t)
	entry := r.entry("Sand the bare wood", 1)
	var first, second changes.Logged
	assert.Equal(t, 201, r.post("/api/log", entry, &first))
	assert.Equal(t, 201, r.post("/api/log", entry, &second))
	assert.Equal(t, first.ID, second.ID)
	assert.Len(t, r.logbook(), 1)

	again := curlew()
	again.ID = r.instrument.ID
	var kept views.InstrumentView
	assert.Equal(t, 201, r.post("/api/instruments", again, &kept), "keeping twice is keeping once")
	assert.Equal(t, r.instrument.ID, kept.ID)
}

func TestTwoPeopleLogTheSameCoatAtOnce(t *testing.T) {
	t.Parallel()
	r := open(t)
	entries := []changes.Entry{r.entry("Sand the bare wood", 1), r.entry("Sand the bare wood", 1)}
	statuses, problems := make([]int, 2), make([]problem, 2)
	var group sync.WaitGroup
	for i := range entries {
		group.Go(func() { statuses[i] = r.post("/api/log", entries[i], &problems[i]) })
	}
	group.Wait()
	assert.ElementsMatch(t, []int{201, 409}, statuses)
	for _, p := range problems {
		if p.Status == 409 {
			assert.Equal(t, "/problems/taken", p.Type)
			assert.Contains(t, p.Detail, "is logged already: Mara, now")
		}
	}
	assert.Len(t, r.logbook(), 1)
}

func TestDoubtfulEntriesAreAskedAboutAndKeptIfConfirmed(t *testing.T) {
	t.Parallel()
	r := open(t)
	future := now.Add(3 * time.Hour)
	early, ahead := r.entry("Dye the wood", 2), r.entry("Sand the bare wood", 1)
	ahead.HappenedAt = &future
	for code, entry := range map[string]changes.Entry{"out-of-order": early, "future": ahead} {
		var p problem
		require.Equal(t, 409, r.post("/api/log", entry, &p), code)
		assert.Equal(t, "/problems/doubtful", p.Type)
		assert.Equal(t, code, p.Errors[0].Value)
	}
	assert.Empty(t, r.logbook(), "nothing is kept before it is confirmed")
	early.Confirm = []string{"out-of-order"}
	var logged changes.Logged
	require.Equal(t, 201, r.post("/api/log", early, &logged))
	assert.Equal(t, []string{"out-of-order"}, logged.Flags)
	require.Len(t, r.logbook(), 1)
}

func TestACoatBeforeTheLastIsDryIsAskedAbout(t *testing.T) {
	t.Parallel()
	r := open(t)
	for _, title := range []string{"Sand the bare wood", "Raking light over the bare wood", "Pocket fitted dry, all holes drilled",
		"Tape the pocket, line the cavities", "Wet the grain"} {
		require.Equal(t, 201, r.post("/api/log", r.entry(title, 1), nil), title)
	}
	var p problem
	require.Equal(t, 409, r.post("/api/log", r.entry("Cut the raised grain back", 1), &p))
	assert.Equal(t, "too-soon", p.Errors[0].Value)
	assert.Contains(t, p.Detail, "rests after “Wet the grain” until 11:00")
	r.clock = now.Add(2 * time.Hour)
	assert.Equal(t, 201, r.post("/api/log", r.entry("Cut the raised grain back", 1), nil))
}

func TestALateEntryIsAlwaysKeptAndFlagged(t *testing.T) {
	t.Parallel()
	r := open(t)
	require.Equal(t, 201, r.post("/api/log", r.entry("Sand the bare wood", 1), nil))
	twin, early := r.entry("Sand the bare wood", 1), r.entry("Seal", 1)
	twin.Late, early.Late = true, true
	var logged changes.Logged
	require.Equal(t, 201, r.post("/api/log", twin, &logged))
	assert.Equal(t, []string{"duplicate", "late"}, logged.Flags)
	require.Equal(t, 201, r.post("/api/log", early, &logged))
	assert.Equal(t, []string{"out-of-order", "late"}, logged.Flags)
	assert.Len(t, r.logbook(), 3)
}

func TestMalformedEntriesAreRefusedByField(t *testing.T) {
	t.Parallel()
	r := open(t)
	for name, test := range map[string]struct {
		change            func(*changes.Entry)
		location, message string
	}{
		"nobody":           {func(e *changes.Entry) { e.PersonID = uuid.New() }, "body.personId", "one of the people"},
		"no step":          {func(e *changes.Entry) { e.StepID = uuid.New() }, "body.stepId", "a step of a schedule"},
		"no such coat":     {func(e *changes.Entry) { e.Coat = 9 }, "body.coat", "coats 1 to 1"},
		"no reason":        {func(e *changes.Entry) { e.Kind = "skipped" }, "body.note", "say why"},
		"only checks fail": {func(e *changes.Entry) { e.Kind = "failed" }, "body.kind", "only a check"},
		"nothing to void": {func(e *changes.Entry) { e.Kind, e.Voids, e.StepID, e.Coat = "void", uuid.New(), uuid.Nil, 0 }, "body.voids",
			"an entry of the log"},
		"long ago": {func(e *changes.Entry) { at := now.AddDate(-30, 0, 0); e.HappenedAt = &at }, "body.happenedAt",
			"from the year 2000 to ten years from now"},
		"unknown kind": {func(e *changes.Entry) { e.Kind = "eaten" }, "body.kind", "done, skipped, failed, note, void"},
	} {
		t.Run(name, func(t *testing.T) {
			entry := r.entry("Sand the bare wood", 1)
			test.change(&entry)
			var p problem
			assert.Equal(t, 422, r.post("/api/log", entry, &p))
			assert.Contains(t, p.at(test.location), test.message)
		})
	}
	assert.Empty(t, r.logbook())
}

func TestUndoVoidsAndTheOldEntryStaysStruck(t *testing.T) {
	t.Parallel()
	r := open(t)
	entry := r.entry("Sand the bare wood", 1)
	require.Equal(t, 201, r.post("/api/log", entry, nil))
	void := r.entry("Sand the bare wood", 1)
	void.Kind, void.Voids, void.StepID, void.Coat = "void", entry.ID, uuid.Nil, 0
	require.Equal(t, 201, r.post("/api/log", void, nil))
	book := r.logbook()
	require.Len(t, book, 2)
	for _, line := range book {
		assert.Equal(t, line.ID == entry.ID, line.Struck)
	}
	twice := r.entry("Sand the bare wood", 1)
	twice.Kind, twice.Voids, twice.StepID, twice.Coat = "void", entry.ID, uuid.Nil, 0
	var p problem
	assert.Equal(t, 409, r.post("/api/log", twice, &p))
	assert.Contains(t, p.Detail, "struck already")
	assert.Equal(t, 201, r.post("/api/log", r.entry("Sand the bare wood", 1), nil), "it can be logged anew")
}

func TestTheDatabaseGoesAwayAndComesBack(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	dir := t.TempDir()
	require.NoError(t, os.Chmod(filepath.Dir(dir), 0o755)) // the server may run as another user
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	defer func() { server.Stop() }()
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	s, err := store.Open(ctx, server.URL("shop"))
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(ctx))
	r := serve(t, s)
	tablet := r.pair(access.RoleBench, r.person, "Bench tablet")
	require.Equal(t, 200, r.get("/api/rack", nil))
	status, _, _ := tablet.asks("GET", "/api/rack", nil)
	require.Equal(t, 200, status)

	require.NoError(t, server.Stop())
	for range 3 { // the first request meets a broken connection, later ones none
		var p problem
		response, status := r.do(httptest.NewRequest("GET", "/api/instruments", nil), &p)
		assert.Equal(t, 503, status)
		assert.Equal(t, "2", response.Header.Get("Retry-After"))
		assert.Contains(t, p.Detail, "Nothing was saved")
	}
	entry := r.entry("Sand the bare wood", 1)
	assert.Equal(t, 503, r.post("/api/log", entry, nil))
	r.clock = now.Add(7 * time.Minute)
	var rack views.Rack
	require.Equal(t, 200, r.get("/api/rack", &rack), "the rack is known from memory")
	assert.Equal(t, &views.Remembered{At: now, Minutes: 7}, rack.Remembered)
	assert.NotEmpty(t, rack.Tags)
	status, answer, _ := tablet.asks("GET", "/api/rack", nil)
	assert.Equal(t, 200, status, "for a device that was let in a while ago, too: %s", answer)
	status, _, _ = tablet.asks("POST", "/api/log", entry)
	assert.Equal(t, 503, status, "and what it logs waits")
	status, _, _ = device{r, "x"}.asks("GET", "/api/rack", nil)
	assert.Equal(t, 503, status, "of another nobody can say who it is")

	require.NoError(t, server.Resume(ctx))
	rack = views.Rack{}
	assert.Equal(t, 200, r.get("/api/rack", &rack), "it recovers by itself")
	assert.Nil(t, rack.Remembered)
	assert.Empty(t, r.logbook())
	assert.Equal(t, 201, r.post("/api/log", entry, nil), "the same entry goes through now")
}

// A device may want figures otherwise than its shop; what a person typed stays as typed.
func TestFiguresAreWrittenAsTheReaderIsUsedTo(t *testing.T) {
	t.Parallel()
	r := open(t)
	text := func(notation string) string {
		request := httptest.NewRequest("GET", "/api/instruments/"+r.instrument.ID.String(), nil)
		if notation != "" {
			request.Header.Set("Notation", notation)
		}
		var view json.RawMessage
		_, status := r.do(request, &view)
		require.Equal(t, 200, status)
		return string(view)
	}
	plain := text("")
	assert.NotContains(t, plain, "\u2060", "marks stay inside")
	assert.Regexp(t, `"\d+\.\d+ m²"`, plain)
	assert.Regexp(t, `Thu 12 March 2026, 09:00`, plain)
	american := text("inch, am-pm, month-first")
	assert.Regexp(t, `"\d+\.\d+ sq ft"`, american)
	assert.Regexp(t, `Thu March 12, 2026, 9:00 am`, american)
	assert.Contains(t, american, `"length":"480 mm"`, "as it was typed")

	var view views.ShopView
	require.Equal(t, 200, r.get("/api/shop", &view))
	form := view.Shop
	form.Notation = unit.Notation{AmPm: true}
	change := changes.Changes{ID: uuid.New(), PersonID: r.person, Changes: []changes.Change{{Kind: "shop", Shop: &form, Seen: &view.Seen}}}
	require.Equal(t, 201, r.post("/api/changes", change, nil))
	assert.Regexp(t, `Thu 12 March 2026, 9:00 am`, text(""), "the shop's own")
	assert.Equal(t, plain, strings.ReplaceAll(text("plain"), `"version":2`, `"version":1`), "not this device's")
	require.Equal(t, 200, r.get("/api/shop", &view))
	assert.Equal(t, "9:00 am–6:00 pm", view.Shop.Week[1])
	form = view.Shop
	change = changes.Changes{ID: uuid.New(), PersonID: r.person, Changes: []changes.Change{{Kind: "shop", Shop: &form, Seen: &view.Seen}}}
	var kept views.Kept
	require.Equal(t, 201, r.post("/api/changes", change, &kept))
	assert.Contains(t, kept.Changes[0], "as it was", "hours are read as they were written")
}

// What is retold is compressed as anything else, with or without figures in it.
func TestAnswersAreCompressedOnce(t *testing.T) {
	t.Parallel()
	r := open(t)
	for _, path := range []string{"/api/reference", "/api/instruments/" + r.instrument.ID.String(), "/api/schedule-file"} {
		request := httptest.NewRequest("GET", path, nil)
		request.Header.Set("Accept-Encoding", "gzip")
		request.Host = "localhost"
		response, err := r.answer(request)
		require.NoError(t, err)
		require.Equal(t, "gzip", response.Header.Get("Content-Encoding"), path)
		unpacked, err := gzip.NewReader(response.Body)
		require.NoError(t, err)
		data, err := io.ReadAll(unpacked)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		require.True(t, json.Valid(data), "%s: %.80q", path, data)
	}
}

func TestAnotherSitesFormIsNotTaken(t *testing.T) {
	t.Parallel()
	r := open(t)
	data, err := json.Marshal(r.entry("Sand the bare wood", 1))
	require.NoError(t, err)
	request := httptest.NewRequest("POST", "/api/log", strings.NewReader(string(data)))
	request.Header.Set("Content-Type", "text/plain") // what a page elsewhere can send without asking
	_, status := r.do(request, nil)
	assert.Equal(t, 415, status)
	assert.Empty(t, r.logbook())
}

func TestTheCommittedDocumentIsCurrent(t *testing.T) {
	t.Parallel()
	committed, err := os.ReadFile("../../docs/openapi.json")
	require.NoError(t, err)
	made, err := web.OpenAPI()
	require.NoError(t, err)
	assert.Equal(t, strings.TrimSpace(string(made)), strings.TrimSpace(string(committed)), "run make generate")
	assert.Contains(t, string(made), `"openapi": "3.1.0"`)
	r := open(t)
	var served map[string]any
	assert.Equal(t, 200, r.get("/openapi.json", &served))
}

func BenchmarkRack(b *testing.B) {
	r := open(b)
	for b.Loop() {
		var rack views.Rack
		if status := r.get("/api/rack", &rack); status != 200 {
			b.Fatal(status)
		}
	}
}

func TestAConnectionThatAsksForNothingDoesNotHoldAStop(t *testing.T) {
	t.Parallel()
	app := web.New(new(shop.Service), fstest.MapFS{"index.html": {Data: []byte("<title>Umberfrost</title>")}}, web.Options{Log: discard})
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go app.Listener(listener)
	silent, err := net.Dial("tcp", listener.Addr().String())
	require.NoError(t, err)
	defer silent.Close()
	require.Eventually(t, func() bool { return app.Server().GetOpenConnectionsCount() == 1 }, 60*time.Second, time.Millisecond)
	assert.NoError(t, app.ShutdownWithTimeout(60*time.Second))
}

// connected is a connection to a database of its own, beside that of a server.
func connected(t *testing.T, url string) *pgx.Conn {
	conn, err := pgx.Connect(context.Background(), url)
	require.NoError(t, err)
	t.Cleanup(func() { conn.Close(context.Background()) })
	return conn
}
