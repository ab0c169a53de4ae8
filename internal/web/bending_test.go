package web_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/web"
)

func TestChangesAreAskedKeptAndRefusedByField(t *testing.T) {
	t.Parallel()
	r := open(t)
	step := r.step("Clear, to the levelling")
	more := changes.Change{Kind: "coats", StepID: step.StepID, Coats: 2}
	var asked views.WhatIf
	require.Equal(t, 200, r.post("/api/what-ifs", changes.Changes{Changes: []changes.Change{more}}, &asked))
	assert.Equal(t, []string{"2 coats more on “Clear, to the levelling” of Curlew body"}, asked.Changes)

	var wrong problem
	bad := changes.Change{Kind: "week", Weekday: 1, Hours: "nine to five"}
	require.Equal(t, 422, r.post("/api/changes", changes.Changes{ID: uuid.New(), PersonID: r.person, Changes: []changes.Change{more, bad}},
		&wrong))
	assert.Contains(t, wrong.at("body.changes[1].hours"), "write it like 09:00–12:30")
	require.Equal(t, 422, r.post("/api/changes", changes.Changes{ID: uuid.New(), Changes: []changes.Change{more}}, &wrong))
	assert.Contains(t, wrong.at("body.personId"), "one of the people")
	require.Equal(t, 422, r.post("/api/what-ifs", `{"changes":[]}`, &wrong))
	require.Equal(t, 422, r.post("/api/what-ifs", `{"changes":[{"kind":"magic"}]}`, &wrong))
	assert.Contains(t, wrong.at("body.changes[0].kind"), "one of")
	require.Equal(t, 200, r.get("/api/instruments/"+r.instrument.ID.String(), &r.instrument))
	assert.Equal(t, step.Coats, r.step("Clear, to the levelling").Coats, "nothing of it was kept")

	var kept views.Kept
	require.Equal(t, 201, r.post("/api/changes", changes.Changes{ID: uuid.New(), PersonID: r.person, Changes: []changes.Change{more}},
		&kept))
	require.Equal(t, 200, r.get("/api/instruments/"+r.instrument.ID.String(), &r.instrument))
	assert.Equal(t, step.Coats+2, r.step("Clear, to the levelling").Coats)

	var weeks views.Weeks
	require.Equal(t, 200, r.get("/api/weeks?weeks=2", &weeks))
	assert.Len(t, weeks.Days, 14)
	require.Equal(t, 422, r.get("/api/weeks?from=monday", &wrong))
	require.Equal(t, 422, r.get("/api/weeks?weeks=900", &wrong))
	var starts views.StartsView
	require.Equal(t, 200, r.get(fmt.Sprintf("/api/steps/%s/coats/1/starts", step.StepID), &starts))
	assert.NotEmpty(t, starts.Stretches)
	require.Equal(t, 404, r.get(fmt.Sprintf("/api/steps/%s/coats/40/starts", step.StepID), &wrong))
	require.Equal(t, 409, r.post("/api/proposal/accept", views.Decision{ID: "gone", PersonID: r.person}, &wrong))
	assert.Equal(t, "/problems/taken", wrong.Type)
}

// listener reads a stream of events.
type listener struct {
	t     *testing.T
	lines *bufio.Scanner
	body  io.Closer
}

func listen(t *testing.T, address string) *listener {
	t.Helper()
	answer, err := http.Get("http://" + address + "/api/events")
	require.NoError(t, err)
	require.Equal(t, 200, answer.StatusCode)
	assert.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	return &listener{t, bufio.NewScanner(answer.Body), answer.Body}
}

// next is the next notice; false at the end of the stream.
func (l *listener) next() (n shop.Notice, more bool) {
	for l.lines.Scan() {
		if data, found := strings.CutPrefix(l.lines.Text(), "data: {"); found {
			require.NoError(l.t, json.Unmarshal([]byte("{"+data), &n))
			return n, true
		}
	}
	return n, false
}

func TestAStreamTellsOfChangesUntilTheServerStops(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	service, err := shop.New(s, func() time.Time { return now })
	require.NoError(t, err)
	_, err = service.Prepare(context.Background(), shop.Default("Europe/London"), "Mara")
	require.NoError(t, err)
	quiet := discard
	app := web.New(service, fstest.MapFS{"index.html": {Data: []byte("<title>Umberfrost</title>")}}, web.Options{Log: quiet})
	socket, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	watching, stop := context.WithCancel(context.Background())
	watched := make(chan struct{})
	go func() { service.Watch(watching, quiet); close(watched) }()
	go app.Listener(socket)

	first, second := listen(t, socket.Addr().String()), listen(t, socket.Addr().String())
	// Another server on the same database makes the change.
	other, err := shop.New(s, func() time.Time { return now })
	require.NoError(t, err)
	reference, err := other.Reference(context.Background())
	require.NoError(t, err)
	kept := func(name string) {
		_, err = other.KeepChanges(context.Background(),
			changes.Changes{PersonID: reference.People[0].ID, Changes: []changes.Change{{Kind: "hands", Name: name}}})
		require.NoError(t, err)
	}
	kept("Wren")
	revision, err := s.Revision(context.Background())
	require.NoError(t, err)
	for _, l := range []*listener{first, second} {
		for n, more := l.next(); n.Revision < revision; n, more = l.next() {
			require.True(t, more)
		}
	}
	second.body.Close() // a reader that goes does not disturb the rest
	kept("Plover")
	late := listen(t, socket.Addr().String()) // and one that comes back hears where things stand
	for _, l := range []*listener{first, late} {
		for n, more := l.next(); n.Revision < revision+1; n, more = l.next() {
			require.True(t, more)
		}
	}
	stop()
	<-watched
	for _, more := first.next(); more; _, more = first.next() {
	}
	require.NoError(t, app.ShutdownWithTimeout(60*time.Second), "open streams do not hold a stop")
}

func BenchmarkWhatIf(b *testing.B) {
	r := open(b)
	step := r.step("Clear, to the levelling")
	body := changes.Changes{Changes: []changes.Change{{Kind: "coats", StepID: step.StepID, Coats: 2}}}
	for b.Loop() {
		require.Equal(b, 200, r.post("/api/what-ifs", body, nil))
	}
}
