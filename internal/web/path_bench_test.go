package web_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats/formatstest"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/web"
)

// busy is a served shop of 200 instruments, on a listener, with its watch running as in
// the application.
type busy struct {
	*room
	url    string
	events int
	first  uuid.UUID // the instrument that has most entries
	sent   atomic.Int64
	mu     sync.Mutex
	next   []views.Due // as the rack last showed it
}

func openBusy(b *testing.B, notes int) *busy {
	database := pgtest.URL(b)
	r := openAt(b, database)
	wish := recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{
		recipe.PieceWish{Kind: recipe.Body, Wood: "ash-swamp", Length: "480 mm", Width: "330 mm",
			Thickness: "44 mm"}.From("one-colour").Ending("water-clear", "gloss"),
		recipe.PieceWish{Kind: recipe.Neck, Wood: "maple-hard", Length: "480 mm", Width: "50 mm",
			Thickness: "22 mm"}.From("natural").Ending("water-clear", "satin")}}
	var kept views.InstrumentView
	require.Equal(b, 201, r.post("/api/instruments",
		changes.NewInstrument{ID: uuid.New(), Name: "Dunlin", Outline: "two-horned", Promise: "2026-12-01", Wish: wish}, &kept))
	file, err := r.service.Export(b.Context(), &kept.ID)
	require.NoError(b, err)
	require.NoError(b, formatstest.Copies(file, 199))
	_, err = r.service.Import(b.Context(), file)
	require.NoError(b, err)
	conn, err := pgx.Connect(b.Context(), database)
	require.NoError(b, err)
	_, err = conn.Exec(b.Context(), `
		insert into log_entry (id, kind, instrument_id, happened_at, recorded_at, person_id, device_id, device_seq, note)
		select gen_random_uuid(), 'note', $1, $2::timestamptz - n * interval '7 minutes', $2, $3, $1, n, 'looked at it'
		from generate_series(1, $4::int) as n`, file.Instruments[0].ID, now, r.person, notes)
	require.NoError(b, err)
	_, err = conn.Exec(b.Context(), `analyze`)
	require.NoError(b, err)
	require.NoError(b, conn.Close(b.Context()))
	s := &busy{room: r, events: len(file.Order), first: file.Instruments[0].ID}
	ctx, stop := context.WithCancel(context.Background())
	watched := make(chan struct{})
	go func() { defer close(watched); r.service.Watch(ctx, discard) }()
	s.url = "http://" + r.address
	b.Cleanup(func() { stop(); <-watched })
	debug.FreeOSMemory() // of the import, which a server that is started does not do
	return s
}

// coat logs what the rack shows as next, whatever is doubted about it, and answers how long
// that took. Of several people who log, each takes another sitting.
func (s *busy) coat(person int) (time.Duration, error) {
	s.mu.Lock()
	e := s.next[person].Event
	s.mu.Unlock()
	data, err := json.Marshal(changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: "done", StepID: e.StepID, Coat: e.Coat, PersonID: s.person,
		DeviceID: uuid.NameSpaceURL, DeviceSeq: s.sent.Add(1),
		Confirm: []string{"out-of-order", "too-soon", "too-many", "window-closed"}})
	if err != nil {
		return 0, err
	}
	begun := time.Now()
	status, body, err := s.send(http.MethodPost, "/api/log", data)
	if err == nil && status/100 != 2 && status != 409 { // somebody else was first
		err = fmt.Errorf("%d: %.300s", status, body)
	}
	return time.Since(begun), err
}

func (s *busy) rack() (time.Duration, error) {
	begun := time.Now()
	status, body, err := s.send(http.MethodGet, "/api/rack", nil)
	took := time.Since(begun)
	if err == nil && status != 200 {
		err = fmt.Errorf("the rack answers %d", status)
	}
	var rack views.Rack
	if err == nil {
		err = json.Unmarshal(body, &rack)
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.next = rack.Next; rack.Then != nil {
		s.next = append(s.next, *rack.Then)
	}
	return took, err
}

func (s *busy) send(method, path string, data []byte) (int, []byte, error) {
	request, err := http.NewRequest(method, s.url+path, bytes.NewReader(data))
	if err != nil {
		return 0, nil, err
	}
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Sec-Fetch-Site", "same-origin")
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		return 0, nil, err
	}
	defer response.Body.Close()
	body, err := io.ReadAll(response.Body)
	return response.StatusCode, body, err
}

// BenchmarkCoatAndRack is one coat posted and answered in a shop of 200 instruments, and the
// rack read after it: the path that people use. Budgets: 150 ms and 50 ms.
func BenchmarkCoatAndRack(b *testing.B) { benchmarkCoatAndRack(b, 0) }

// BenchmarkCoatAndRackAfterYears is the same with 100,000 entries in the log.
func BenchmarkCoatAndRackAfterYears(b *testing.B) { benchmarkCoatAndRack(b, 100_000) }

func benchmarkCoatAndRack(b *testing.B, notes int) {
	s := openBusy(b, notes)
	_, err := s.rack()
	require.NoError(b, err)
	var coats, racks []time.Duration
	for b.Loop() {
		coat, err := s.coat(0)
		require.NoError(b, err)
		rack, err := s.rack()
		require.NoError(b, err)
		coats, racks = append(coats, coat), append(racks, rack)
	}
	b.ReportMetric(float64(s.events), "events")
	b.ReportMetric(ms(middle(coats)), "ms-coat")
	b.ReportMetric(ms(middle(racks)), "ms-rack")
	b.ReportMetric(resident(), "MB-resident")
}

// BenchmarkForecast is a new instrument of the page's first paint composed and dated beside 200 others, with its looks,
// its rows and its objections. Budget: 200 ms.
func BenchmarkForecast(b *testing.B) {
	s := openBusy(b, 0)
	data, err := json.Marshal(changes.NewInstrument{ID: uuid.New(), Outline: "two-horned", Wish: recipe.Archetypes()[0].Wish})
	require.NoError(b, err)
	var took []time.Duration
	for b.Loop() {
		begun := time.Now()
		status, body, err := s.send(http.MethodPost, "/api/forecasts", data)
		require.NoError(b, err)
		require.Equal(b, 200, status, "%.300s", body)
		took = append(took, time.Since(begun))
	}
	b.ReportMetric(ms(middle(took)), "ms-forecast")
}

// BenchmarkLooks is how 200 instruments look by now, asked again a minute later.
func BenchmarkLooks(b *testing.B) {
	s := openBusy(b, 0)
	for b.Loop() {
		status, body, err := s.send(http.MethodGet, "/api/looks", nil)
		require.NoError(b, err)
		require.Equal(b, 200, status)
		b.ReportMetric(float64(len(body))/1024, "kB")
	}
}

// BenchmarkReadersAndWriters is 20 readers that ask for the rack twice a second beside two
// writers that log every two seconds, for 20 s. Budgets: 150 ms of p99, no read over 1 s.
func BenchmarkReadersAndWriters(b *testing.B) {
	s := openBusy(b, 0)
	_, err := s.rack()
	require.NoError(b, err)
	for b.Loop() {
		var mu sync.Mutex
		var reads, writes []time.Duration
		var all sync.WaitGroup
		stop := time.Now().Add(20 * time.Second)
		work := func(n int, every time.Duration, do func() (time.Duration, error), into *[]time.Duration) {
			all.Go(func() {
				time.Sleep(every * time.Duration(n) / 20)
				for time.Now().Before(stop) {
					took, err := do()
					if err != nil {
						b.Error(err)
						return
					}
					mu.Lock()
					*into = append(*into, took)
					mu.Unlock()
					time.Sleep(every - min(took, every))
				}
			})
		}
		for n := range 20 {
			work(n, 500*time.Millisecond, s.rack, &reads)
		}
		for n := range 2 {
			work(10*n, 2*time.Second, func() (time.Duration, error) { return s.coat(n) }, &writes)
		}
		all.Wait()
		slices.Sort(reads)
		slices.Sort(writes)
		b.ReportMetric(ms(reads[len(reads)*99/100]), "ms-rack-p99")
		b.ReportMetric(ms(reads[len(reads)-1]), "ms-rack-max")
		b.ReportMetric(ms(writes[len(writes)/2]), "ms-coat")
		b.ReportMetric(ms(writes[len(writes)-1]), "ms-coat-max")
		b.ReportMetric(resident(), "MB-resident")
	}
}

// BenchmarkPagesAfterYears is what 20 readers wait for the rack, for the instrument with the most entries, for the first
// page of the log and for one 50,000 entries on, with 100,000 entries in the log; each beside an answer of as many bytes
// from a handler that does nothing, in the same run. Aim: within three times of that.
func BenchmarkPagesAfterYears(b *testing.B) {
	s := openBusy(b, 100_000)
	var answer atomic.Value
	bare := web.Bare(s.service, discard, func() []byte { return answer.Load().([]byte) })
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	go bare.Listener(listener)
	b.Cleanup(func() { bare.ShutdownWithTimeout(5 * time.Second) })
	deep := s.place(b, 50_000)
	time.Sleep(30 * time.Second) // until the watch has thought
	for name, page := range map[string]struct{ method, path, body string }{
		"rack":       {http.MethodGet, "/api/rack", ""},
		"instrument": {http.MethodGet, "/api/instruments/" + s.first.String(), ""},
		"log":        {http.MethodPost, "/api/log-pages", `{}`},
		"log-deep":   {http.MethodPost, "/api/log-pages", `{"after":"` + deep + `"}`},
		"log-person": {http.MethodPost, "/api/log-pages", `{"personId":"` + s.person.String() + `","instrumentId":"` + s.first.String() +
			`"}`},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				status, body, err := s.send(page.method, page.path, []byte(page.body))
				require.NoError(b, err)
				require.Equal(b, 200, status, "%.300s", body)
				answer.Store(body)
				took := s.readers(b, s.url, page.method, page.path, page.body)
				least := s.readers(b, "http://"+listener.Addr().String(), page.method, page.path, page.body)
				b.ReportMetric(float64(len(body))/1024, "kB")
				b.ReportMetric(ms(took), "ms-p99")
				b.ReportMetric(ms(least), "ms-p99-bare")
				b.ReportMetric(float64(took)/float64(least), "times")
			}
		})
	}
}

// place is where the page of the log begins that lies so many entries on.
func (s *busy) place(b *testing.B, entries int) string {
	after := ""
	for range entries / 200 {
		status, body, err := s.send(http.MethodPost, "/api/log-pages", []byte(`{"count":200,"after":"`+after+`"}`))
		require.NoError(b, err)
		require.Equal(b, 200, status, "%.300s", body)
		var page views.LogPage
		require.NoError(b, json.Unmarshal(body, &page))
		after = page.Lines[len(page.Lines)-1].Place
	}
	return after
}

// readers lets 20 readers ask twice a second for 15 s, and answers what 99 of 100 waited at the most.
func (s *busy) readers(b *testing.B, url, method, path, body string) time.Duration {
	const every = 500 * time.Millisecond
	var mu sync.Mutex
	var reads []time.Duration
	var all sync.WaitGroup
	stop := time.Now().Add(15 * time.Second)
	at := busy{url: url}
	for n := range 20 {
		all.Go(func() {
			time.Sleep(every * time.Duration(n) / 20)
			for time.Now().Before(stop) {
				begun := time.Now()
				status, _, err := at.send(method, path, []byte(body))
				took := time.Since(begun)
				if err != nil || status != 200 {
					b.Error(status, err)
					return
				}
				mu.Lock()
				reads = append(reads, took)
				mu.Unlock()
				time.Sleep(every - min(took, every))
			}
		})
	}
	all.Wait()
	slices.Sort(reads)
	return reads[len(reads)*99/100]
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

func middle(list []time.Duration) time.Duration {
	slices.Sort(list)
	return list[len(list)/2]
}

// resident is how much memory this process has from the system, in MB.
func resident() float64 {
	data, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return 0
	}
	var size, pages int
	fmt.Fscan(strings.NewReader(string(data)), &size, &pages)
	return float64(pages*os.Getpagesize()) / (1 << 20)
}
