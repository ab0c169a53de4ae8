// Package pgtest gives tests databases on a real PostgreSQL server: one server
// for a test binary, one fresh, migrated database for a test.
package pgtest

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"

	"umberfrost/internal/localpg"
	"umberfrost/internal/store"
)

var (
	once    sync.Once
	server  *localpg.Server
	dir     string
	failure error
	count   atomic.Int64
)

// Main runs the tests of a package and stops the server after them. Call it
// from TestMain.
func Main(m *testing.M) {
	code := m.Run()
	if server != nil {
		server.Stop()
		os.RemoveAll(dir)
	}
	os.Exit(code)
}

// URL returns a fresh, migrated, empty database.
func URL(t testing.TB) string {
	t.Helper()
	once.Do(start)
	if failure != nil {
		t.Fatal(failure)
	}
	name := fmt.Sprintf("test_%d", count.Add(1))
	if err := server.CreateDatabase(context.Background(), name, "migrated"); err != nil {
		t.Fatal(err)
	}
	return server.URL(name)
}

// Superuser is a URL of this server with a role that may do everything, as no shop has it.
func Superuser(t testing.TB, of string) string {
	t.Helper()
	password, err := os.ReadFile(filepath.Join(dir, "password"))
	if err != nil {
		t.Fatal(err)
	}
	at, err := url.Parse(of)
	if err != nil {
		t.Fatal(err)
	}
	at.User = url.UserPassword("umberfrost", string(password))
	return at.String()
}

// From opens a database as a file of SQL makes it, one of an earlier version, and brings it
// up to date.
func From(t testing.TB, path string) *store.Store {
	t.Helper()
	once.Do(start)
	if failure != nil {
		t.Fatal(failure)
	}
	sql, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	ctx, name := context.Background(), fmt.Sprintf("test_%d", count.Add(1))
	if err := server.CreateDatabase(ctx, name, ""); err != nil {
		t.Fatal(err)
	}
	conn, err := pgx.Connect(ctx, server.URL(name))
	if err != nil {
		t.Fatal(err)
	}
	_, err = conn.PgConn().Exec(ctx, string(sql)).ReadAll()
	if conn.Close(ctx); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(ctx, server.URL(name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	if err := s.Migrate(ctx); err != nil {
		t.Fatal(err)
	}
	return s
}

// Store opens a fresh, migrated, empty database.
func Store(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), URL(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func start() {
	ctx := context.Background()
	if dir, failure = os.MkdirTemp("", "umberfrost-test-"); failure != nil {
		return
	}
	os.Chmod(dir, 0o711) // the server may run as another user
	if server, failure = localpg.Start(ctx, dir, localpg.Options{Throwaway: true}); failure != nil {
		return
	}
	if failure = server.CreateDatabase(ctx, "migrated", ""); failure != nil {
		return
	}
	s, err := store.Open(ctx, server.URL("migrated"))
	if err != nil {
		failure = err
		return
	}
	defer s.Close()
	failure = s.Migrate(ctx)
}
