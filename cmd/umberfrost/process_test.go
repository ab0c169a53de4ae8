package main

import (
	"bufio"
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
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/trust"
)

func TestAFrozenDatabaseIsSaidToBeAway(t *testing.T) {
	url, freeze, thaw := database(t)
	p := served(t, "", url)
	p.healthy()
	response, err := p.ask("GET", "/api/rack", "")
	require.NoError(t, err)
	require.Equal(t, 200, response.StatusCode)
	freeze()
	began := time.Now()
	response, err = p.ask("GET", "/api/health", "")
	require.NoError(t, err)
	t.Log("health after", time.Since(began))
	assert.Equal(t, 503, response.StatusCode)
	began = time.Now()
	rack, err := p.ask("GET", "/api/rack", "")
	require.NoError(t, err)
	t.Log("rack from memory after", time.Since(began))
	assert.Equal(t, 200, rack.StatusCode)
	began = time.Now()
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

func TestAPrivateDatabaseThatDiesIsStartedAgain(t *testing.T) {
	dir, err := os.MkdirTemp("", "umberfrost-dies-")
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(dir) })
	require.NoError(t, os.Chmod(dir, 0o711))
	p := running(t, "", "start", "--throwaway", "--data", dir, "--port", "18640")
	p.healthy()
	for _, pid := range family(t, dir)[:1] {
		require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
	}
	require.Eventually(t, func() bool { return strings.Contains(p.log(), "the database server has ended by itself") }, long,
		50*time.Millisecond)
	p.healthy()
	took, err := p.stop()
	assert.NoError(t, err, p.log())
	t.Log("stopped, with another server than it began with, after", took)
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
	assert.Equal(t, "request GET /api/nothing 404 127.0.0.1", fmt.Sprint(line.Msg, " ", line.Method, " ", line.Path, " ", line.Status, " ",
		line.From))
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

	const at = "127.0.0.1:18641"
	p := served(t, "", database, "--listen", "0.0.0.0:18641", "--trust", folder)
	p.healthy()
	require.Eventually(t, func() bool { return strings.Contains(p.said(), "Stop it with Ctrl-C.") }, long, 50*time.Millisecond)
	assert.NotContains(t, p.said(), "https://shop.local", "a name that does not lead here is not offered")
	for _, ip := range trust.OwnNames() {
		if own := net.ParseIP(ip); own != nil && !own.IsLoopback() {
			assert.Contains(t, p.said(), "https://"+net.JoinHostPort(ip, "18641"))
		}
	}
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
