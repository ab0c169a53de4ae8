package main

import (
	"bufio"
	"bytes"
	"context"
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
	return running(t, before, append([]string{"serve", "--database-url", database, "--listen", "127.0.0.1:0"}, args...)...)
}

// running starts the program with a command that serves a shop.
func running(t *testing.T, before string, args ...string) *process {
	t.Helper()
	self, err := os.Executable()
	require.NoError(t, err)
	args = append([]string{"-c", before + ` exec "$0" "$@"`, self}, args...)
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
