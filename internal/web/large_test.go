package web_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// endless gives spaces for as long as somebody reads.
type endless struct{ left int }

func (e *endless) Read(into []byte) (int, error) {
	n := min(len(into), e.left)
	if e.left -= n; n == 0 {
		return 0, io.EOF
	}
	copy(into, strings.Repeat(" ", n))
	return n, nil
}

// Whoever sends too much is told so, and not cut off while he is at it.
func TestWhoSendsTooMuchIsTold(t *testing.T) {
	t.Parallel()
	r := open(t)
	for path, size := range map[string]int{"/api/log": 30 << 20, "/api/schedule-file": 100 << 20, "/api/recipe-file": 40 << 20} {
		for _, length := range []int64{int64(size), -1} { // known before it comes, or not
			request, err := http.NewRequest("POST", "http://"+r.address+path, &endless{size})
			require.NoError(t, err)
			request.ContentLength = length
			request.Header.Set("Content-Type", "application/json")
			response, err := http.DefaultTransport.RoundTrip(request)
			require.NoError(t, err, path)
			text, err := io.ReadAll(response.Body)
			require.NoError(t, err, path)
			require.NoError(t, response.Body.Close())
			assert.Equal(t, 413, response.StatusCode, path)
			assert.Contains(t, string(text), "too large", path)
		}
	}
	for range 20 { // a head that is too large, too
		response, err := r.client.Get("http://" + r.address + "/api/hours?days=" + strings.Repeat("[", 60_000))
		require.NoError(t, err)
		assert.Equal(t, 431, response.StatusCode)
		require.NoError(t, response.Body.Close())
	}
	assert.Equal(t, 200, r.get("/api/rack", nil))
}

func TestAFileWithTooMuchOfEverythingIsRefused(t *testing.T) {
	t.Parallel()
	r := open(t)
	status, p := r.send("/api/schedule-file", "application/json",
		[]byte(`{"format":"umberfrost-schedule","version":4,"instruments":[`+strings.Repeat("{},", 999_999)+"{}]}"))
	assert.Equal(t, 422, status)
	assert.Contains(t, p.at("/instruments"), "more than the 5000 items")
	status, p = r.send("/api/schedule-file", "application/json", []byte(`{"format":"umberfrost-schedule","version":7,"fleet":[]}`))
	assert.Equal(t, 422, status)
	assert.Contains(t, p.at("/version"), "newer Umberfrost")
}

func TestWhoLeavesHoldsUpNobodysFile(t *testing.T) {
	t.Parallel()
	r := open(t)
	for range 5 {
		impatient := http.Client{Timeout: 30 * time.Millisecond, Transport: &http.Transport{DisableKeepAlives: true}}
		if response, err := impatient.Get("http://" + r.address + "/api/backup-file"); err == nil {
			response.Body.Close()
		}
	}
	var asked sync.WaitGroup
	for _, path := range []string{"/api/backup-file", "/api/schedule-file",
		"/api/instruments/" + r.instrument.ID.String() + "/schedule-file"} {
		asked.Go(func() {
			status, answer, _ := r.read(httptest.NewRequest("GET", "http://localhost"+path, nil))
			assert.Equal(t, 200, status, "%s: %.200s", path, answer)
		})
	}
	asked.Wait()
}

func TestPathsAreCaseSensitive(t *testing.T) {
	t.Parallel()
	r := open(t)
	response, status := r.do(httptest.NewRequest("GET", "/API/rack", nil), nil)
	assert.Equal(t, 200, status)
	assert.Contains(t, response.Header.Get("Content-Type"), "text/html", "it is no operation")
	_, status = r.do(httptest.NewRequest("GET", "/api/Rack", nil), nil)
	assert.Equal(t, 404, status)
}

// A page of an earlier version may know no better than to say too much; one of this version, or a tool, is told.
func TestAnOlderPageIsBornWith(t *testing.T) {
	t.Parallel()
	r := open(t)
	for name, test := range map[string]struct {
		page, site string
		status     int
	}{
		"an older page":                {"/assets/index-older.js", "same-origin", 201},
		"a page from before pages say": {"", "same-origin", 201},
		"this page":                    {"/assets/index-now.js", "same-origin", 422},
		"a tool":                       {"", "", 422},
	} {
		entry := r.entry("Sand the bare wood", 1)
		entry.ID, entry.Kind, entry.InstrumentID, entry.Note, entry.PieceID = uuid.New(), "note", r.instrument.ID, "x", uuid.New()
		request := r.request("/api/log", entry)
		request.Header.Set("Page", test.page)
		request.Header.Del("Origin")
		request.Header.Set("Sec-Fetch-Site", test.site)
		if request.Host = "localhost"; test.site == "" {
			request.Header.Del("Sec-Fetch-Site")
		}
		status, answer, _ := r.read(request)
		assert.Equal(t, test.status, status, name)
		assert.Equal(t, status == 201, strings.Contains(string(answer), `"ignored"`), "%s: %s", name, answer)
	}
}

// FuzzParameters asks every operation that has no body with whatever comes as its parameters.
func FuzzParameters(f *testing.F) {
	r := open(f)
	var gets []operation
	list, _ := operations(f)
	for _, o := range list {
		if o.method == "GET" && (len(o.query) > 0 || strings.Contains(o.path, "{")) {
			gets = append(gets, o)
		}
	}
	for n := range gets {
		for _, value := range []string{"", "\x00", "-1", "99999999999999999999", "2026-03-12T15:20:00Z", "0001-01-01", "9999-12-31", "ö",
			"%", "evening", r.person.String()} {
			f.Add(n, value)
		}
	}
	f.Fuzz(func(t *testing.T, n int, value string) {
		if n < 0 {
			n = -(n + 1)
		}
		o := gets[n%len(gets)]
		id := r.instrument.ID.String()
		if strings.Contains(o.path, "/steps/") {
			id = r.instrument.Pieces[0].Steps[0].StepID.String()
		}
		places := []string{""}
		if strings.Contains(o.path, "{id}") {
			places = append(places, "{id}")
		}
		if strings.Contains(o.path, "{coat}") {
			places = append(places, "{coat}")
		}
		for _, place := range places {
			path := o.path
			if place != "" {
				path = strings.Replace(path, place, url.PathEscape(value), 1)
			}
			path = strings.NewReplacer("{id}", id, "{coat}", "1").Replace(path)
			query := url.Values{}
			for _, name := range o.query {
				query.Set(name, value)
			}
			request, err := http.NewRequest("GET", "http://"+r.address+path, nil)
			if err != nil {
				continue // no path at all
			}
			request.URL.RawQuery = query.Encode()
			response, err := r.client.Do(request)
			if err != nil {
				t.Fatal(err)
			}
			text, err := io.ReadAll(response.Body)
			response.Body.Close()
			if err != nil || response.StatusCode >= 500 {
				t.Fatalf("%s with %q: %d %s %v", path, value, response.StatusCode, text, err)
			}
			for _, of := range []string{"json:", "strconv", "Go struct", "parsing time", "invalid syntax"} {
				if response.StatusCode >= 400 && strings.Contains(string(text), of) && !strings.Contains(value, of) {
					t.Fatalf("%s with %q speaks of Go: %s", path, value, text)
				}
			}
		}
	})
}

// What is of another kind than its field is told by the field, in words of the field.
func TestFaultsOfKindSpeakOfFields(t *testing.T) {
	t.Parallel()
	r := open(t)
	whole, err := json.Marshal(r.entry("Sand the bare wood", 1))
	require.NoError(t, err)
	for body, want := range map[string][2]string{
		strings.Replace(string(whole), `"deviceSeq":`, `"deviceSeq":1000000000000000000000`, 1): {"body.deviceSeq", "a whole number"},
		`{"deviceSeq":"one"}`:        {"body.deviceSeq", "expected integer"},
		`{"id":"x"}`:                 {"body.id", "an id, a UUID like"},
		`{"happenedAt":"yesterday"}`: {"body.happenedAt", "a time like 2026-03-12T15:20:00Z"},
	} {
		status, p := r.send("/api/log", "application/json", []byte(body))
		assert.Equal(t, 422, status, body)
		assert.Contains(t, p.at(want[0]), want[1], fmt.Sprint(body, p))
	}
	for path, want := range map[string][2]string{
		"/api/instruments/x":                                 {"path.id", "an id, a UUID like"},
		"/api/hours?days=many":                               {"query.days", "must be a number"},
		"/api/having?for=evening&person=nobody":              {"query.person", "an id, a UUID like"},
		"/api/having?for=evening&person=" + uuid.NewString(): {"query.person", "one of the people"},
	} {
		var p problem
		assert.Equal(t, 422, r.get(path, &p), path)
		assert.Contains(t, p.at(want[0]), want[1], fmt.Sprint(path, p))
	}
}

func TestWhoDecidesIsSomebodyOfTheShop(t *testing.T) {
	t.Parallel()
	r := open(t)
	for path, body := range map[string]any{
		"/api/proposal/accept":  views.Decision{ID: "x", PersonID: uuid.New()},
		"/api/proposal/dismiss": views.Decision{ID: "x", PersonID: uuid.New()},
		"/api/undo":             changes.TakenBack{InstrumentID: r.instrument.ID, PersonID: uuid.New()},
		"/api/redo":             changes.TakenBack{InstrumentID: r.instrument.ID, PersonID: uuid.New()},
		"/api/changes": changes.Changes{ID: uuid.New(), PersonID: uuid.New(),
			Changes: []changes.Change{{Kind: "back", InstrumentID: r.instrument.ID}}},
		"/api/sittings": views.SittingBegun{ID: uuid.New(), PersonID: uuid.New(),
			Events: []changes.EventRef{{StepID: r.step("Sand the bare wood").StepID, Coat: 1}}},
		"/api/pairing-codes":   shop.CodeAsked{Role: access.RoleLook, PersonID: uuid.New()},
		"/api/people/pin":      shop.PinSet{PersonID: uuid.New(), Pin: "4711"},
		"/api/door/person":     shop.OnDevice{PersonID: uuid.New()},
		"/api/readings/strike": changes.ReadingStruck{ID: uuid.New(), PersonID: uuid.New()},
	} {
		var p problem
		assert.Equal(t, 422, r.post(path, body, &p), path)
		assert.Contains(t, p.at("body.personId"), "one of the people", "%s: %v", path, p)
	}
}
