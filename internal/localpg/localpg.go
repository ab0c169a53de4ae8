// Package localpg runs a private PostgreSQL server on loopback, from the
// server binaries that Debian's packages install, of the version that the data was made
// with. The start command, the demo and the tests use it; a shop with a server of its own does not.
//
// The server listens on 127.0.0.1 only, with a random password, and is a child
// of this process: it stops with it.
package localpg

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"

	"umberfrost/internal/pgbin"
)

const (
	owner     = "umberfrost" // of the cluster; it may do everything, and does nothing but what application may not
	startWait = 90 * time.Second
	stopWait  = 60 * time.Second
)

// ErrInUse says that another process runs a server in this folder.
var ErrInUse = errors.New("another Umberfrost runs on this data folder")

// ErrUnreachable says that the unprivileged user who must run the server for
// root cannot enter the folder, usually because a folder above it is private.
var ErrUnreachable = errors.New("the database user may not enter the data folder")

// Server is a running private server.
type Server struct {
	dir      string
	bin      string              // where the server's programs are
	who      *syscall.Credential // whom it runs as; nil for the present user
	options  Options
	port     int
	password string   // of owner
	app      string   // password of application
	lock     *os.File // held while this process owns the folder

	mu      sync.Mutex // of what runs: held while it is started again or stopped
	running *process   // nil: it was stopped, or another process runs it
}

// Options change how a server is started.
type Options struct {
	Throwaway bool // trade safety for speed: for tests
}

// Start makes a cluster in dir if there is none, starts its server and waits
// until it answers. When run by root the server runs as an unprivileged user,
// who is given dir.
func Start(ctx context.Context, dir string, options Options) (*Server, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	who, err := unprivileged()
	if err != nil {
		return nil, err
	}
	s := &Server{dir: dir, who: who, options: options}
	if s.bin, err = binaries(s.cluster()); err != nil {
		return nil, err
	}
	if err := s.own(); err != nil {
		return nil, err
	}
	if err := s.start(ctx); err != nil {
		s.lock.Close()
		return nil, err
	}
	return s, nil
}

// own takes the folder for this process alone, so that a second start does not
// take a running server for one that was left over.
func (s *Server) own() error {
	if err := os.MkdirAll(s.dir, 0o711); err != nil {
		return err
	}
	lock, err := os.OpenFile(filepath.Join(s.dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return err
	}
	if err := syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		lock.Close()
		return fmt.Errorf("%w: %s", ErrInUse, s.dir)
	}
	s.lock = lock
	return nil
}

func (s *Server) start(ctx context.Context) (err error) {
	if err := s.prepare(); err != nil {
		return err
	}
	if err := s.stopLeftover(); err != nil {
		return err
	}
	if s.port, err = freePort(); err != nil {
		return err
	}
	return s.Resume(ctx)
}

// Attach finds the server that another process runs in a folder.
func Attach(dir string) (*Server, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	s := &Server{dir: dir}
	password, err := os.ReadFile(filepath.Join(dir, "password"))
	if err != nil {
		return nil, err
	}
	running, err := os.ReadFile(filepath.Join(s.cluster(), "postmaster.pid"))
	if err != nil {
		return nil, err
	}
	const portLine = 3 // of that file, counted from 0
	lines := strings.Split(string(running), "\n")
	if len(lines) <= portLine {
		return nil, fmt.Errorf("the server in %s is only starting; try again in a moment", dir)
	}
	if s.port, err = strconv.Atoi(strings.TrimSpace(lines[portLine])); err != nil {
		return nil, fmt.Errorf("the port of the server in %s: %w", dir, err)
	}
	s.password = string(password)
	app, err := os.ReadFile(s.appSecret())
	if s.app = string(app); errors.Is(err, fs.ErrNotExist) {
		err = nil // an earlier version runs it, where there is no such role
	}
	return s, err
}

// Resume starts a stopped server again, at the same port, and waits until it
// answers.
func (s *Server) Resume(ctx context.Context) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.lock == nil {
		if err := s.own(); err != nil {
			return err
		}
	}
	err := s.run(ctx)
	if err == nil {
		err = s.admit(ctx)
	}
	if err != nil {
		s.stop()
	}
	return err
}

// run starts the server's process and waits until it answers.
func (s *Server) run(ctx context.Context) error {
	p, err := s.launch()
	if err != nil {
		return err
	}
	s.running = p
	return s.waitUntilReady(ctx, p)
}

// URL is how the application connects to a database of this server. The database "postgres"
// always exists.
func (s *Server) URL(database string) string {
	if s.app == "" {
		return s.ownerURL(database)
	}
	return s.url(application, s.app, database)
}

func (s *Server) ownerURL(database string) string { return s.url(owner, s.password, database) }

func (s *Server) url(role, password, database string) string {
	u := url.URL{Scheme: "postgres", User: url.UserPassword(role, password), Host: net.JoinHostPort("127.0.0.1", strconv.Itoa(s.port)),
		Path: database}
	u.RawQuery = "sslmode=disable"
	return u.String()
}

// Folder is where its data is.
func (s *Server) Folder() string { return s.dir }

// CreateDatabase makes a database if there is none of this name, as a copy of
// template when one is named.
func (s *Server) CreateDatabase(ctx context.Context, name, template string) error {
	conn, err := pgx.Connect(ctx, s.ownerURL("postgres"))
	if err != nil {
		return fmt.Errorf("connecting to the private server: %w", err)
	}
	defer conn.Close(ctx)
	var exists bool
	if err := conn.QueryRow(ctx, `select exists (select from pg_database where datname = $1)`, name).Scan(&exists); err != nil || exists {
		return err
	}
	statement := "create database " + pgx.Identifier{name}.Sanitize()
	if s.app != "" {
		statement += " owner " + application
	}
	if template != "" {
		statement += " template " + pgx.Identifier{template}.Sanitize()
	}
	_, err = conn.Exec(ctx, statement)
	return err
}

// Stop ends the server cleanly and waits until it is gone.
func (s *Server) Stop() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.stop()
}

func (s *Server) stop() error {
	if s.running == nil {
		return nil
	}
	err := s.running.end()
	s.lock.Close() // closing gives the lock back
	s.lock, s.running = nil, nil
	return err
}

// binaries finds the programs of the version that a cluster was made with; of the newest
// that is installed where there is no cluster yet.
func binaries(cluster string) (string, error) {
	installed := pgbin.Find()
	made, err := os.ReadFile(filepath.Join(cluster, "PG_VERSION"))
	if errors.Is(err, fs.ErrNotExist) {
		return installed.Newest()
	}
	version, wrong := strconv.Atoi(strings.TrimSpace(string(made)))
	if err := errors.Join(err, wrong); err != nil {
		return "", fmt.Errorf("which version made the data in %s: %w", cluster, err)
	}
	bin, err := installed.Of(version)
	if err != nil {
		return "", fmt.Errorf("the data in %s: %w", cluster, err)
	}
	return bin, nil
}

// unprivileged is the user to run the server as: nil for the present one, or,
// for root, the postgres user that Debian's package made, else nobody.
func unprivileged() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	for _, name := range []string{"postgres", "nobody"} {
		if u, err := user.Lookup(name); err == nil {
			uid, _ := strconv.ParseUint(u.Uid, 10, 32)
			gid, _ := strconv.ParseUint(u.Gid, 10, 32)
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("PostgreSQL may not run as root, and there is no user postgres or nobody to run it as")
}

func (s *Server) cluster() string { return filepath.Join(s.dir, "cluster") }

// prepare makes the cluster where there is none, and reads its password. What is there is
// never made anew: a password that was lost is set again.
func (s *Server) prepare() error {
	reach := exec.Command("/bin/true")
	reach.Dir, reach.SysProcAttr = s.dir, &syscall.SysProcAttr{Credential: s.who}
	if err := reach.Run(); err != nil {
		return fmt.Errorf("%w: %s", ErrUnreachable, s.dir)
	}
	secret := filepath.Join(s.dir, "password")
	saved, err := os.ReadFile(secret)
	if s.password = string(saved); err == nil && s.made() {
		return nil
	}
	s.password = newSecret()
	set := s.initialise
	if s.made() {
		set = s.setPassword
	}
	if err := set(); err != nil {
		return err
	}
	return os.WriteFile(secret, []byte(s.password), 0o600)
}

func newSecret() string {
	random := make([]byte, 24)
	rand.Read(random)
	return hex.EncodeToString(random)
}

// made reports whether there is a cluster.
func (s *Server) made() bool {
	_, err := os.Stat(filepath.Join(s.cluster(), "PG_VERSION"))
	return err == nil
}

// initialise makes the cluster beside its place and puts it there when it is whole.
func (s *Server) initialise() error {
	raw := s.cluster() + ".new"
	if err := os.RemoveAll(raw); err != nil { // left by a start that was cut off
		return err
	}
	if err := os.Mkdir(raw, 0o700); err != nil {
		return err
	}
	handed := filepath.Join(s.dir, "password.handed-over")
	if err := os.WriteFile(handed, []byte(s.password), 0o600); err != nil {
		return err
	}
	defer os.Remove(handed)
	if s.who != nil {
		for _, path := range []string{raw, handed} {
			if err := os.Chown(path, int(s.who.Uid), int(s.who.Gid)); err != nil {
				return err
			}
		}
	}
	args := []string{"--pgdata", raw, "--username", owner, "--auth", "scram-sha-256", "--pwfile", handed, "--encoding", "UTF8", "--locale",
		"C"}
	if s.options.Throwaway {
		args = append(args, "--no-sync")
	}
	if output, err := s.command("initdb", args...).CombinedOutput(); err != nil {
		return fmt.Errorf("making the database cluster: %w\n%s", err, output)
	}
	return os.Rename(raw, s.cluster())
}

// setPassword gives the role of a stopped cluster its password.
func (s *Server) setPassword() error {
	if err := s.stopLeftover(); err != nil {
		return err
	}
	single := s.command("postgres", "--single", "-D", s.cluster(), "postgres")
	single.Stdin = strings.NewReader(fmt.Sprintf("alter role %s password '%s';\n", owner, s.password))
	if output, err := single.CombinedOutput(); err != nil {
		return fmt.Errorf("setting the password of the database: %w\n%s", err, output)
	}
	return nil
}

// command is one of the server's programs, run as the user that the server runs as.
func (s *Server) command(program string, args ...string) *exec.Cmd {
	cmd := exec.Command(filepath.Join(s.bin, program), args...)
	cmd.Dir, cmd.SysProcAttr = "/", &syscall.SysProcAttr{Credential: s.who}
	return cmd
}

// stopLeftover ends a server that a killed start left running in the same place.
func (s *Server) stopLeftover() error {
	if _, err := os.Stat(filepath.Join(s.cluster(), "postmaster.pid")); err != nil {
		return nil
	}
	if s.command("pg_ctl", "status", "--pgdata", s.cluster()).Run() != nil {
		return nil
	}
	if output, err := s.command("pg_ctl", "stop", "--pgdata", s.cluster(), "--mode", "fast", "--wait").CombinedOutput(); err != nil {
		return fmt.Errorf("stopping a server left over in %s: %w\n%s", s.dir, err, output)
	}
	return nil
}

func (s *Server) launch() (*process, error) {
	log, err := os.OpenFile(filepath.Join(s.dir, "server.log"), os.O_CREATE|os.O_WRONLY|os.O_APPEND, 0o644)
	if err != nil {
		return nil, err
	}
	defer log.Close()
	args := []string{"-D", s.cluster(), "-p", strconv.Itoa(s.port), "-c", "listen_addresses=127.0.0.1",
		"-c", "unix_socket_directories=", "-c", "max_connections=60", "-c", "shared_buffers=64MB"}
	if s.options.Throwaway {
		args = append(args, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off",
			"-c", "autovacuum=off", "-c", "checkpoint_timeout=1h", "-c", "max_wal_size=4GB", "-c", "jit=off")
	}
	cmd := exec.Command(s.bin+"/postgres", args...)
	cmd.Stdout, cmd.Stderr, cmd.Dir = log, log, "/"
	cmd.SysProcAttr = &syscall.SysProcAttr{
		Credential: s.who,
		Setpgid:    true,           // Ctrl-C in a terminal is for us; we stop the server in turn
		Pdeathsig:  syscall.SIGINT, // and it stops should we be killed
	}
	p, err := keep(cmd)
	if err != nil {
		return nil, fmt.Errorf("starting PostgreSQL: %w", err)
	}
	return p, nil
}

func (s *Server) waitUntilReady(ctx context.Context, p *process) error {
	ctx, cancel := context.WithTimeout(ctx, startWait)
	defer cancel()
	for {
		conn, err := pgx.Connect(ctx, s.ownerURL("postgres"))
		if err == nil {
			return conn.Close(ctx)
		}
		select {
		case <-p.over:
			return fmt.Errorf("PostgreSQL stopped at once (%v); its log ends:\n%s", p.err, s.logTail())
		case <-ctx.Done():
			return fmt.Errorf("PostgreSQL does not answer: %w", err)
		case <-time.After(50 * time.Millisecond):
		}
	}
}

func (s *Server) logTail() string {
	file, err := os.Open(filepath.Join(s.dir, "server.log"))
	if err != nil {
		return err.Error()
	}
	defer file.Close()
	if info, err := file.Stat(); err == nil && info.Size() > 2000 {
		file.Seek(-2000, io.SeekEnd)
	}
	tail, _ := io.ReadAll(file)
	return string(tail)
}

func freePort() (int, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("finding a free port: %w", err)
	}
	defer listener.Close()
	return listener.Addr().(*net.TCPAddr).Port, nil
}
