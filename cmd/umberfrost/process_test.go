package main

import (
	"bufio"
	"bytes"
	"context"
	"crypto/tls"
	"crypto/x509"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg"
	"umberfrost/internal/localpg/pgtest"
)

// asProgram lets the binary of the tests be the program, in a process of its own.
const asProgram = "UMBERFROST_RUN"

func TestMain(m *testing.M) {
	if os.Getenv(asProgram) != "" {
		main()
		return
	}
	pgtest.Main(m)
}

// process is the program as it runs for itself.
type process struct {
	t      *testing.T
	cmd    *exec.Cmd
	url    string
	mu     sync.Mutex
	logged bytes.Buffer // what it logs, and heard: what it says
	heard  bytes.Buffer
	exited chan error
}

var readyAt = regexp.MustCompile(`Umberfrost is ready: (http://\S+)`)

// long is what anything may take on a machine that is busy.
const long = time.Minute

// served starts the program on a database, through a shell that may set limits first.
func served(t *testing.T, before, database string, args ...string) *process {
	t.Helper()
	self, err := os.Executable()
	require.NoError(t, err)
	args = append([]string{"-c", before + ` exec "$0" "$@"`, self, "serve", "--database-url", database, "--listen", "127.0.0.1:0"}, args...)
	p := &process{t: t, cmd: exec.Command("sh", args...), exited: make(chan error, 1)}
	p.cmd.Env = append(os.Environ(), asProgram+"=1")
	out, err := p.cmd.StdoutPipe()
	require.NoError(t, err)
	p.cmd.Stderr = p
	require.NoError(t, p.cmd.Start())
	t.Cleanup(func() { p.cmd.Process.Kill() })
	ready := make(chan string, 1)
	go func() {
		for lines := bufio.NewScanner(out); lines.Scan(); {
			p.hear(lines.Text())
			if found := readyAt.FindStringSubmatch(lines.Text()); found != nil {
				ready <- found[1]
			}
		}
		p.exited <- p.cmd.Wait()
	}()
	select {
	case p.url = <-ready:
	case err := <-p.exited:
		t.Fatal(err, p.log())
	case <-time.After(long):
		t.Fatal("it did not come up: ", p.log())
	}
	return p
}

// Write takes what the program logs.
func (p *process) Write(data []byte) (int, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.logged.Write(data)
}

func (p *process) hear(line string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	fmt.Fprintln(&p.heard, line)
}

func (p *process) said() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.heard.String()
}

func (p *process) log() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.logged.String()
}

// ask is one request on a connection of its own.
func (p *process) ask(method, path, body string) (*http.Response, error) {
	client := http.Client{Timeout: long, Transport: &http.Transport{DisableKeepAlives: true}}
	request, err := http.NewRequest(method, p.url+path, strings.NewReader(body))
	require.NoError(p.t, err)
	request.Header.Set("Content-Type", "application/json")
	response, err := client.Do(request)
	if err != nil {
		return nil, err
	}
	defer response.Body.Close()
	_, err = io.Copy(io.Discard, response.Body)
	return response, err
}

// healthy waits until it is well.
func (p *process) healthy() {
	p.t.Helper()
	require.Eventually(p.t, func() bool {
		response, err := p.ask("GET", "/api/health", "")
		return err == nil && response.StatusCode == 200
	}, 2*long, 100*time.Millisecond, p.log())
}

// stop asks it to end, and says how long that took.
func (p *process) stop() (took time.Duration, err error) {
	p.t.Helper()
	began := time.Now()
	require.NoError(p.t, p.cmd.Process.Signal(syscall.SIGTERM))
	select {
	case err := <-p.exited:
		return time.Since(began), err
	case <-time.After(long):
		p.t.Fatal("it does not stop: ", p.log())
	}
	return 0, nil
}

// dial opens a connection and sends what is given on it.
func (p *process) dial(text string) net.Conn {
	p.t.Helper()
	conn, err := net.Dial("tcp", strings.TrimPrefix(p.url, "http://"))
	require.NoError(p.t, err)
	p.t.Cleanup(func() { conn.Close() })
	_, err = conn.Write([]byte(text))
	require.NoError(p.t, err)
	return conn
}

// database is a server that can be frozen as a whole.
func database(t *testing.T) (url string, freeze func(), thaw func()) {
	t.Helper()
	dir, err := os.MkdirTemp("", "umberfrost-frozen-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o711))
	server, err := localpg.Start(context.Background(), dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	signal := func(s syscall.Signal) {
		for _, pid := range family(t, dir) {
			syscall.Kill(pid, s)
		}
	}
	t.Cleanup(func() {
		signal(syscall.SIGCONT)
		assert.NoError(t, server.Stop())
		os.RemoveAll(dir)
	})
	require.NoError(t, server.CreateDatabase(context.Background(), "frozen", ""))
	return server.URL("frozen"), func() { signal(syscall.SIGSTOP) }, func() { signal(syscall.SIGCONT) }
}

// family is the database server of a folder and all its processes.
func family(t *testing.T, dir string) []int {
	found, err := filepath.Glob(filepath.Join(dir, "*", "postmaster.pid"))
	require.NoError(t, err)
	require.Len(t, found, 1)
	data, err := os.ReadFile(found[0])
	require.NoError(t, err)
	first, _, _ := strings.Cut(string(data), "\n")
	head, err := strconv.Atoi(first)
	require.NoError(t, err)
	pids := []int{head}
	stats, _ := filepath.Glob("/proc/[0-9]*/stat")
	for _, path := range stats {
		data, _ := os.ReadFile(path)
		_, after, _ := strings.Cut(string(data), ") ")
		var pid, parent int
		var state string
		fmt.Sscan(string(data), &pid)
		fmt.Sscan(after, &state, &parent)
		if parent == head {
			pids = append(pids, pid)
		}
	}
	require.Greater(t, len(pids), 1)
	return pids
}

func TestAFrozenDatabaseIsSaidToBeAway(t *testing.T) {
	url, freeze, thaw := database(t)
	p := served(t, "", url)
	p.healthy()
	freeze()
	began := time.Now()
	response, err := p.ask("GET", "/api/health", "")
	require.NoError(t, err)
	t.Log("health after", time.Since(began))
	assert.Equal(t, 503, response.StatusCode)
	assert.NotEmpty(t, response.Header.Get("Retry-After"))
	entry := fmt.Sprintf(`{"id":%q,"kind":"note","personId":%q,"deviceId":%q,"deviceSeq":1,"note":"x"}`, uuid.New(), uuid.New(), uuid.New())
	var writes sync.WaitGroup
	for range 24 { // more than there are connections to the database
		writes.Go(func() {
			response, err := p.ask("POST", "/api/log", entry)
			if assert.NoError(t, err) {
				assert.Equal(t, 503, response.StatusCode, "a write behind a hung one")
				assert.NotEmpty(t, response.Header.Get("Retry-After"))
			}
		})
	}
	writes.Wait()
	t.Log("writes after", time.Since(began))
	began = time.Now()
	response, err = p.ask("GET", "/api/health", "")
	require.NoError(t, err)
	t.Log("health, with all connections taken, after", time.Since(began))
	assert.Equal(t, 503, response.StatusCode)
	thaw()
	p.healthy()
	freeze()
	took, err := p.stop()
	assert.NoError(t, err)
	t.Log("stopped, over a frozen database, after", took)
}

func TestWithoutDescriptorsItBacksOff(t *testing.T) {
	p := served(t, "ulimit -n 40;", pgtest.URL(t))
	p.healthy()
	held := make([]net.Conn, 0, 200)
	for range 200 {
		held = append(held, p.dial("GET /api/health HTTP/1.1\r\nHost: local"))
	}
	time.Sleep(2 * time.Second)
	select {
	case err := <-p.exited:
		t.Fatal("it ended: ", err, p.log())
	default:
	}
	for _, conn := range held {
		conn.Close()
	}
	p.healthy()
}

func TestATermEndsItWhateverIsOpen(t *testing.T) {
	p := served(t, "", pgtest.URL(t))
	p.healthy()
	host := "Host: " + strings.TrimPrefix(p.url, "http://") + "\r\n"
	stream := p.dial("GET /api/events HTTP/1.1\r\n" + host + "\r\n")
	line, err := bufio.NewReader(stream).ReadString('\n')
	require.NoError(t, err)
	assert.Contains(t, line, "200")
	for range 20 {
		p.dial("GET /api/events HTTP/1.1\r\n" + host + "\r\n") // nobody reads it
		p.dial("POST /api/log HTTP/1.1\r\n" + host + "Content-Type: application/json\r\nContent-Length: 1000\r\n\r\n{")
		p.dial("GET /api/hea")
		p.dial("")
	}
	took, err := p.stop()
	assert.NoError(t, err, p.log())
	t.Log("stopped after", took)
}

func TestWhatAServerTellsOfItself(t *testing.T) {
	p := served(t, "", pgtest.URL(t), "--log-format", "json", "--observe", "127.0.0.1:0")
	p.healthy()
	response, err := p.ask("GET", "/api/nothing?secret=1", "")
	require.NoError(t, err)
	id := response.Header.Get("Request-Id")
	var line struct {
		Msg, Method, Path, Request, From string
		Status                           int
	}
	require.Eventually(t, func() bool {
		for text := range strings.Lines(p.log()) {
			if json.Unmarshal([]byte(text), &line) == nil && line.Request == id {
				return true
			}
		}
		return false
	}, long, 50*time.Millisecond, p.log())
	assert.Equal(t, "request GET /api/nothing 404 127.0.0.1", fmt.Sprint(line.Msg, " ", line.Method, " ", line.Path, " ", line.Status, " ", line.From))
	assert.NotContains(t, p.log(), "secret")

	found := regexp.MustCompile(`Counts and profiles: (http://127\.0\.0\.1:\d+)/`).FindStringSubmatch(p.said())
	require.NotNil(t, found, p.said())
	for path, test := range map[string]struct {
		host   string
		status int
		says   string
	}{
		"/metrics":              {"localhost", 200, `umberfrost_request_seconds_count{method="GET",route="/api/*",status="404"} 1`},
		"/metrics?for=others":   {"evil.example", 421, "ask for it as localhost"},
		"/debug/pprof/":         {"127.0.0.1", 200, "goroutine"},
		"/debug/pprof/symbol":   {"localhost", 200, "num_symbols"},
		"/debug/pprof/cmdline":  {"localhost", 200, "serve"},
		"/debug/pprof/whatever": {"localhost", 404, "Unknown profile"},
	} {
		request, err := http.NewRequest("GET", found[1]+path, nil)
		require.NoError(t, err)
		request.Host = test.host
		answer, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		text, err := io.ReadAll(answer.Body)
		require.NoError(t, errors.Join(err, answer.Body.Close()))
		assert.Equal(t, test.status, answer.StatusCode, path)
		assert.Contains(t, string(text), test.says, path)
	}
	_, err = p.stop()
	require.NoError(t, err)
}

func TestDoorsThatAreNotOpened(t *testing.T) {
	for name, test := range map[string]struct {
		how  serving
		want string
	}{
		"the network without TLS":       {serving{listen: []string{"0.0.0.0:0"}}, "served over TLS only"},
		"a network address without TLS": {serving{listen: []string{"192.168.1.20:0"}}, "served over TLS only"},
		"an authority that nobody made": {serving{listen: []string{":0"}, authority: t.TempDir()}, "umberfrost trust"},
		"a certificate without its key": {serving{certificate: "a.crt"}, "give both"},
		"what is no address":            {serving{listen: []string{"8177"}}, "write it like"},
		"counts for everybody":          {serving{observe: "0.0.0.0:9177"}, "not on loopback"},
		"counts for everybody, unsaid":  {serving{observe: ":9177"}, "not on loopback"},
		"a log that nobody can read":    {serving{logFormat: "xml"}, "text or json"},
		"a level that there is not":     {serving{logLevel: "loud"}, "debug, info, warn and error"},
	} {
		t.Run(name, func(t *testing.T) {
			if test.how.logFormat == "" {
				test.how.logFormat = "text"
			}
			if test.how.logLevel == "" {
				test.how.logLevel = "info"
			}
			_, err := test.how.open(0)
			assert.ErrorContains(t, err, test.want)
			assert.Equal(t, 2, exitCode(err))
		})
	}
}

// Beyond its own machine a shop is served over TLS, by a name of its certificate, to devices that are paired.
func TestAShopIsServedBeyondItsMachine(t *testing.T) {
	folder, database := filepath.Join(t.TempDir(), "trust"), pgtest.URL(t)
	_, err := saidBy(trustCommand(), "--folder", folder, "--name", "a b")
	assert.Equal(t, 2, exitCode(err))
	said, err := saidBy(trustCommand(), "--folder", folder, "--name", "shop.local")
	require.NoError(t, err)
	assert.Regexp(t, `(?m)^  ([0-9A-F]{2}:){31}[0-9A-F]{2}$`, said)
	assert.Contains(t, said, "shop.local")

	p := served(t, "", database, "--listen", "0.0.0.0:0", "--trust", folder)
	p.healthy()
	var at string
	require.Eventually(t, func() bool {
		found := regexp.MustCompile(`https://shop\.local:(\d+)`).FindStringSubmatch(p.said())
		if found != nil {
			at = "127.0.0.1:" + found[1]
		}
		return found != nil
	}, long, 50*time.Millisecond)
	data, err := os.ReadFile(filepath.Join(folder, "authority.crt"))
	require.NoError(t, err)
	pool := x509.NewCertPool()
	require.True(t, pool.AppendCertsFromPEM(data))
	tablet := http.Client{Timeout: long, Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: pool},
		DialContext: func(ctx context.Context, network, _ string) (net.Conn, error) {
			return new(net.Dialer).DialContext(ctx, network, at)
		}}}
	ask := func(method, path, body, token string) (int, string) {
		request, err := http.NewRequest(method, "https://shop.local"+path, strings.NewReader(body))
		require.NoError(t, err)
		request.Header.Set("X-Forwarded-For", "10.0.0.7") // the tests have no other machine
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Origin", "https://shop.local")
		if token != "" {
			request.Header.Set("Authorization", "Bearer "+token)
		}
		response, err := tablet.Do(request)
		require.NoError(t, err)
		defer response.Body.Close()
		answer, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return response.StatusCode, string(answer)
	}
	status, _ := ask("GET", "/api/rack", "", "")
	assert.Equal(t, 401, status)
	status, _ = ask("GET", "/authority.crt", "", "")
	assert.Equal(t, 200, status)

	_, err = saidBy(pairCommand(), "--database-url", database, "--role", "everything")
	assert.Equal(t, 2, exitCode(err))
	_, err = saidBy(pairCommand(), "--database-url", database, "--person", "Nobody")
	assert.Equal(t, 2, exitCode(err))
	said, err = saidBy(pairCommand(), "--database-url", database, "--role", "look")
	require.NoError(t, err)
	code, _, _ := strings.Cut(said, "\n")
	status, answer := ask("POST", "/api/pair", fmt.Sprintf(`{"code":%q,"name":"Phone","bearer":true}`, code), "")
	require.Equal(t, 201, status, answer)
	var door struct{ Token, Role string }
	require.NoError(t, json.Unmarshal([]byte(answer), &door))
	assert.Equal(t, "look", door.Role)
	status, _ = ask("GET", "/api/rack", "", door.Token)
	assert.Equal(t, 200, status)
	plain, err := net.Dial("tcp", at)
	require.NoError(t, err)
	defer plain.Close()
	fmt.Fprint(plain, "GET /api/rack HTTP/1.1\r\nHost: shop.local\r\n\r\n")
	line, _ := bufio.NewReader(plain).ReadString('\n')
	assert.NotContains(t, line, "200", "nothing is said without TLS")
	_, err = p.stop()
	assert.NoError(t, err)
}

// Half a request is not waited for as long as its client likes: others are let in after it.
func TestHalfARequestIsGivenUp(t *testing.T) {
	t.Parallel()
	p := served(t, "ulimit -n 40;", pgtest.URL(t))
	p.healthy()
	for range 12 { // more than are let in at a time
		p.dial("POST /api/log HTTP/1.1\r\nHost: localhost\r\nContent-Length: 9\r\n\r\n{")
	}
	p.healthy()
	_, err := p.stop()
	assert.NoError(t, err, p.log())
}
