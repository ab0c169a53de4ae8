package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
)

// server is a process of the program.
type server struct {
	cmd *exec.Cmd
	url string
}

var readyAt = regexp.MustCompile(`Umberfrost is ready: (http://\S+)`)

// start runs the program until it says where it is ready.
func (r *run) start(args ...string) (*server, error) {
	cmd := exec.Command(r.program, args...)
	said := &output{ready: make(chan string, 1)}
	cmd.Stdout, cmd.Stderr = said, os.Stderr
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	select {
	case url := <-said.ready:
		return &server{cmd, url}, nil
	case <-time.After(2 * time.Minute):
		cmd.Process.Kill()
		return nil, fmt.Errorf("it is not ready after two minutes; it said %s", said.text.String())
	}
}

// do runs a command of the program to its end, and gives what it said.
func (r *run) do(args ...string) (string, error) {
	said, err := exec.Command(r.program, args...).CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("%s: %w: %s", args[0], err, said)
	}
	return string(said), nil
}

// kill ends it as kill -9 does.
func (s *server) kill() {
	s.cmd.Process.Kill()
	s.cmd.Wait()
}

// stop ends it as Ctrl-C does.
func (s *server) stop() error {
	s.cmd.Process.Signal(syscall.SIGINT)
	return s.cmd.Wait()
}

type output struct {
	mu    sync.Mutex
	text  bytes.Buffer
	ready chan string
}

func (o *output) Write(data []byte) (int, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	o.text.Write(data)
	if m := readyAt.FindSubmatch(o.text.Bytes()); m != nil {
		select {
		case o.ready <- string(m[1]):
		default:
		}
	}
	return len(data), nil
}

// client posts notes on an instrument, as a device does.
type client struct {
	url        string
	person     uuid.UUID
	instrument uuid.UUID
	device     uuid.UUID
	seq        int64
}

type entry struct {
	ID         uuid.UUID `json:"id"`
	Kind       string    `json:"kind"`
	Instrument uuid.UUID `json:"instrumentId"`
	Person     uuid.UUID `json:"personId"`
	Device     uuid.UUID `json:"deviceId"`
	Seq        int64     `json:"deviceSeq"`
	Note       string    `json:"note"`
	Late       bool      `json:"late"`
}

// begin opens a shop that has not begun, with one instrument.
func begin(url string) (*client, error) {
	week := []string{"", "09:00–18:00", "09:00–18:00", "09:00–18:00", "09:00–18:00", "09:00–18:00", ""}
	if err := call("POST", url+"/api/beginning", shop.Beginning{Name: "Endurance", TimeZone: "Europe/Lisbon", Week: week,
		People: []string{"Mara"},
		Places: []shop.BeginningPlace{{Name: "the bench", Kind: "bench"}}, Air: []shop.Season{}}, nil); err != nil {
		return nil, err
	}
	return open(url)
}

// open plans an instrument in a shop.
func open(url string) (*client, error) {
	c := &client{url: url, instrument: uuid.New(), device: uuid.New()}
	var reference struct {
		People []struct {
			ID uuid.UUID `json:"id"`
		} `json:"people"`
	}
	if err := call("GET", url+"/api/reference", nil, &reference); err != nil {
		return nil, err
	}
	c.person = reference.People[0].ID
	neck := recipe.PieceWish{Kind: recipe.Neck, Wood: "maple-hard", Length: "650 mm", Width: "51 mm"}.Ending("hardwax-oil", "satin")
	return c, call("POST", url+"/api/instruments", changes.NewInstrument{ID: c.instrument, Name: "Knot", Outline: "slab",
		Wish: recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{neck}}}, nil)
}

func (c *client) entries(n int) []entry {
	list := make([]entry, n)
	for i := range list {
		c.seq++
		list[i] = entry{uuid.Must(uuid.NewV7()), "note", c.instrument, c.person, c.device, c.seq, fmt.Sprintf("Note %d, 5 µm", c.seq), true}
	}
	return list
}

func ids(list []entry) map[uuid.UUID]bool {
	all := make(map[uuid.UUID]bool, len(list))
	for _, e := range list {
		all[e.ID] = true
	}
	return all
}

// send posts entries, so many at a time, each once, and tells which were acknowledged.
func (c *client) send(list []entry, at int) map[uuid.UUID]bool {
	var mu sync.Mutex
	var next atomic.Int64
	acknowledged := make(map[uuid.UUID]bool)
	var sending sync.WaitGroup
	for range at {
		sending.Go(func() {
			for i := int(next.Add(1)) - 1; i < len(list); i = int(next.Add(1)) - 1 {
				if call("POST", c.url+"/api/log", list[i], nil) == nil {
					mu.Lock()
					acknowledged[list[i].ID] = true
					mu.Unlock()
				}
			}
		})
	}
	sending.Wait()
	return acknowledged
}

// kept is how often each entry is in the log of the shop, as it goes out in its file.
func (c *client) kept() (map[uuid.UUID]int, error) {
	var file struct {
		Log []struct {
			ID uuid.UUID `json:"id"`
		} `json:"log"`
	}
	if err := call("GET", c.url+"/api/schedule-file", nil, &file); err != nil {
		return nil, err
	}
	times := make(map[uuid.UUID]int)
	for _, e := range file.Log {
		times[e.ID]++
	}
	return times, nil
}

var asking = &http.Client{Timeout: 30 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: 64}}

func call(method, url string, body, into any) error {
	var data io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		if err != nil {
			return err
		}
		data = bytes.NewReader(text)
	}
	request, err := http.NewRequest(method, url, data)
	if err != nil {
		return err
	}
	request.Header.Set("Content-Type", "application/json")
	answer, err := asking.Do(request)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	switch {
	case err != nil:
		return err
	case answer.StatusCode >= 300:
		return fmt.Errorf("%s %s: %d: %.300s", method, url, answer.StatusCode, text)
	case into == nil:
		return nil
	}
	return json.Unmarshal(text, into)
}
