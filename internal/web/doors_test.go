package web_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/web"
)

// schema is as much of an OpenAPI schema as a test asks of it.
type schema struct {
	Ref        string            `json:"$ref"`
	Type       any               `json:"type"`
	Format     string            `json:"format"`
	Properties map[string]schema `json:"properties"`
	Items      *schema           `json:"items"`
}

// operation is one of the API's document.
type operation struct {
	method, path string
	query        []string
	body         *schema
}

type document struct {
	Paths map[string]map[string]struct {
		Parameters  []struct{ Name, In string }
		RequestBody *struct {
			Content map[string]struct{ Schema schema }
		}
	}
	Components struct{ Schemas map[string]schema }
}

func operations(t testing.TB) (list []operation, doc document) {
	made, err := web.OpenAPI()
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(made, &doc))
	for path, methods := range doc.Paths {
		for method, op := range methods {
			o := operation{method: strings.ToUpper(method), path: path}
			for _, p := range op.Parameters {
				if p.In == "query" {
					o.query = append(o.query, p.Name)
				}
			}
			if op.RequestBody != nil {
				s := op.RequestBody.Content["application/json"].Schema
				o.body = &s
			}
			list = append(list, o)
		}
	}
	// Schedule files have a schema of their own, and stand beside the document.
	list = append(list, operation{method: "POST", path: "/api/schedule-file", body: &schema{}},
		operation{method: "GET", path: "/api/schedule-file"}, operation{method: "GET", path: "/api/backup-file"},
		operation{method: "GET", path: "/api/backups/x/file"}, operation{method: "GET", path: "/api/instruments/{id}/schedule-file"},
		operation{method: "GET", path: "/api/recipes/{id}/file"})
	require.Greater(t, len(list), 20)
	return list, doc
}

// texts calls look with the path of every text of a schema and a body that holds only it.
func (doc document) texts(s schema, depth int, look func(path string, format string, put func(value string) any)) {
	if s.Ref != "" {
		s = doc.Components.Schemas[strings.TrimPrefix(s.Ref, "#/components/schemas/")]
	}
	switch {
	case depth > 4:
	case s.Type == "string":
		look("", s.Format, func(value string) any { return value })
	case s.Items != nil:
		doc.texts(*s.Items, depth+1, func(path, format string, put func(string) any) {
			look("[0]"+path, format, func(value string) any { return []any{put(value)} })
		})
	}
	for name, p := range s.Properties {
		doc.texts(p, depth+1, func(path, format string, put func(string) any) {
			look("."+name+path, format, func(value string) any { return map[string]any{name: put(value)} })
		})
	}
}

// asked is a request for an operation as a page of the shop sends it.
func (o operation) asked(r *room, body string) *http.Request {
	path := strings.NewReplacer("{id}", r.instrument.ID.String(), "{coat}", "1").Replace(o.path)
	request := httptest.NewRequest(o.method, path, strings.NewReader(body))
	request.Host = "localhost:8177"
	if o.body != nil {
		request.Header.Set("Content-Type", "application/json")
	}
	request.Header.Set("Origin", "http://localhost:8177")
	return request
}

// foreign is who may neither write nor ask for what costs.
var foreign = map[string]func(*http.Request){
	"another site's page":           func(q *http.Request) { q.Header.Set("Origin", "http://evil.example") },
	"another port's page":           func(q *http.Request) { q.Header.Set("Origin", "http://localhost:9999") },
	"a page without an origin":      func(q *http.Request) { q.Header.Set("Origin", "null") },
	"a site that says so":           func(q *http.Request) { q.Header.Set("Sec-Fetch-Site", "cross-site") },
	"a neighbouring site":           func(q *http.Request) { q.Header.Set("Sec-Fetch-Site", "same-site") },
	"a tool that is somewhere else": func(q *http.Request) { q.Header.Del("Origin"); q.Header.Set("X-Forwarded-For", "10.0.0.7") },
}

func TestEveryDoorIsShutToStrangers(t *testing.T) {
	t.Parallel()
	r := open(t)
	list, _ := operations(t)
	for _, o := range list {
		name := o.method + " " + o.path
		answer := func(change func(*http.Request)) int {
			request := o.asked(r, "{}")
			change(request)
			response, err := r.answer(request)
			require.NoError(t, err)
			defer response.Body.Close()
			return response.StatusCode
		}
		for _, host := range []string{"evil.example", "evil.example:8177", "10.0.0.7:8177", "localhost.evil.example"} {
			assert.Equal(t, 421, answer(func(q *http.Request) { q.Host = host; q.Header.Set("Host", host) }), "%s as %q", name, host)
		}
		for _, host := range []string{"localhost", "127.0.0.1:8177", "127.0.0.9:1", "[::1]:8177", "LOCALHOST:80"} {
			assert.NotEqual(t, 421, answer(func(q *http.Request) { q.Host = host }), "%s as %q", name, host)
		}
		if o.body == nil && !strings.HasSuffix(o.path, "file") {
			continue
		}
		for what, change := range foreign {
			assert.Equal(t, 403, answer(change), "%s from %s", name, what)
		}
		if o.body == nil {
			for what, change := range map[string]func(*http.Request){
				"the shop's own page":   func(q *http.Request) { q.Header.Del("Origin"); q.Header.Set("Sec-Fetch-Site", "same-origin") },
				"a hand that typed it":  func(q *http.Request) { q.Header.Del("Origin"); q.Header.Set("Sec-Fetch-Site", "none") },
				"a tool on the machine": func(q *http.Request) { q.Header.Del("Origin") },
			} {
				assert.NotContains(t, []int{403, 421}, answer(change), "%s from %s", name, what)
			}
			continue
		}
		for what, change := range map[string]func(*http.Request){
			"no content type":    func(q *http.Request) { q.Header.Del("Content-Type") },
			"a form":             func(q *http.Request) { q.Header.Set("Content-Type", "application/x-www-form-urlencoded") },
			"plain text":         func(q *http.Request) { q.Header.Set("Content-Type", "text/plain") },
			"something like it":  func(q *http.Request) { q.Header.Set("Content-Type", "application/json-patch+json") },
			"no kind of content": func(q *http.Request) { q.Header.Set("Content-Type", ";") },
		} {
			assert.Equal(t, 415, answer(change), "%s with %s", name, what)
		}
	}
	assert.Empty(t, r.logbook())
}

func TestNoInputOfAnyOperationBreaksTheServer(t *testing.T) {
	t.Parallel()
	r := open(t)
	list, doc := operations(t)
	for _, o := range list {
		name := o.method + " " + o.path
		send := func(request *http.Request) (int, problem) {
			response, err := r.answer(request)
			require.NoError(t, err)
			defer response.Body.Close()
			data, err := io.ReadAll(response.Body)
			require.NoError(t, err)
			var p problem
			_ = json.Unmarshal(data, &p)
			require.Less(t, response.StatusCode, 500, "%s: %s", name, data)
			return response.StatusCode, p
		}
		for _, value := range []string{"\x00", "0001-01-01", "9999-12-31T23:59:59Z", "\xff", "-1", "99999999999999999999", "NaN"} {
			for _, q := range o.query {
				request := o.asked(r, "")
				request.URL.RawQuery = q + "=" + url.QueryEscape(value)
				send(request)
			}
			if strings.Contains(o.path, "{id}") {
				request := o.asked(r, "")
				other := httptest.NewRequest(o.method, strings.NewReplacer("{id}", url.PathEscape("x"+value), "{coat}",
					url.PathEscape(value)).Replace(o.path), nil)
				request.URL, request.RequestURI = other.URL, other.RequestURI
				status, _ := send(request)
				assert.GreaterOrEqual(t, status, 400, name)
			}
		}
		if o.body == nil {
			continue
		}
		for _, body := range []string{"", "{", "[]", `"x"`, "null", "7", "{}", `{"a":1}`, "\xff\xfe{\x00}\x00", `{"note":"` + "\xff" + `"}`,
			strings.Repeat(`{"a":`, 3000) + "1" + strings.Repeat("}", 3000)} {
			status, _ := send(o.asked(r, body))
			if whole := o.path == "/api/log-pages" && body == "{}"; !whole { // all of the log
				assert.GreaterOrEqual(t, status, 400, "%s with %.40q", name, body)
			}
		}
		doc.texts(*o.body, 0, func(path, format string, put func(string) any) {
			for _, value := range []string{"a\x00b", "\x00"} {
				body, err := json.Marshal(put(value))
				require.NoError(t, err)
				status, p := send(o.asked(r, string(body)))
				assert.Equal(t, 422, status, "%s with the character 0 in %s", name, path)
				assert.Contains(t, p.at("body"+path), "leave out the character 0", "%s %s", name, path)
			}
			for _, value := range []string{"0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "0001-01-01", "9999-12-31", "\U0010ffff",
				"\u202e", strings.Repeat("ö", 5000)} {
				body, err := json.Marshal(put(value))
				require.NoError(t, err)
				send(o.asked(r, string(body)))
			}
		})
	}
}

// What is right but for one thing reaches further into the shop than what is wrong all over.
func TestWhatIsRightButForOneThing(t *testing.T) {
	t.Parallel()
	r := open(t)
	for what, test := range map[string]struct {
		change func(map[string]any)
		at     string
	}{
		"a note on a step that there is not": {func(e map[string]any) {
			e["kind"], e["instrumentId"], e["stepId"], e["note"] = "note", r.instrument.ID, uuid.New(), "x"
		}, "body.stepId"},
		"a note on a coat that there is not": {func(e map[string]any) {
			e["kind"], e["instrumentId"], e["coat"], e["note"] = "note", r.instrument.ID, 40, "x"
		}, "body.coat"},
		"the year 1":        {func(e map[string]any) { e["happenedAt"] = "0001-01-01T00:00:00Z" }, "body.happenedAt"},
		"the year 9999":     {func(e map[string]any) { e["happenedAt"] = "9999-12-31T23:59:59Z" }, "body.happenedAt"},
		"the character 0":   {func(e map[string]any) { e["note"] = "a\x00b" }, "body.note"},
		"nobody":            {func(e map[string]any) { e["personId"] = uuid.Nil }, "body.personId"},
		"no person at all":  {func(e map[string]any) { e["personId"] = "" }, "body.personId"},
		"a step of nothing": {func(e map[string]any) { e["stepId"] = uuid.New() }, "body.stepId"},
		"a strike of nothing": {func(e map[string]any) {
			e["kind"], e["voids"] = "void", uuid.New()
			delete(e, "stepId")
			delete(e, "coat")
		}, "body.voids"},
	} {
		t.Run(what, func(t *testing.T) {
			data, err := json.Marshal(r.entry("Sand the bare wood", 1))
			require.NoError(t, err)
			var entry map[string]any
			require.NoError(t, json.Unmarshal(data, &entry))
			test.change(entry)
			var p problem
			assert.Equal(t, 422, r.post("/api/log", entry, &p))
			assert.NotContains(t, p.at(test.at), "nothing is said", fmt.Sprint(p))
		})
	}
	assert.Empty(t, r.logbook())
	for day, want := range map[string]string{"0001-01-01": "or later", "9999-12-31": "within ten years"} {
		in := curlew()
		in.Promise = day
		var p problem
		assert.Equal(t, 422, r.post("/api/instruments", in, &p))
		assert.Contains(t, p.at("body.promise"), want)
	}
	for _, year := range []string{"0001", "9999"} {
		var p problem
		pin := map[string]any{"personId": r.person, "changes": []any{map[string]any{"kind": "pin",
			"stepId": r.step("Sand the bare wood").StepID, "coat": 1, "at": year + "-06-01T10:00:00Z"}}}
		assert.Equal(t, 422, r.post("/api/what-ifs", pin, &p), p)
		assert.Equal(t, 422, r.post("/api/changes", pin, &p), p)
		assert.Equal(t, 422, r.post("/api/readings", map[string]any{"readings": []any{map[string]any{"at": year + "-06-01T10:00:00Z",
			"temperatureC": 20, "humidityPct": 50}}}, &p), p)
	}
}

// A tool on the same machine says neither origin nor site.
func TestALoopbackToolMayWrite(t *testing.T) {
	t.Parallel()
	app := web.New(open(t).service, fstest.MapFS{"index.html": {Data: []byte("<title>Umberfrost</title>")}}, web.Options{Log: discard})
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go app.Listener(listener)
	defer app.ShutdownWithContext(context.Background())
	response, err := http.Post("http://"+listener.Addr().String()+"/api/log", "application/json", strings.NewReader("{}"))
	require.NoError(t, err)
	defer response.Body.Close()
	assert.Equal(t, 422, response.StatusCode, "it is told what is missing, not shut out")
}
