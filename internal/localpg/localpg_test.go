package localpg_test

import (
	"context"
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg"
	"umberfrost/internal/pgbin"
)

// folder is a place that an unprivileged database user may enter.
func folder(t *testing.T) string {
	dir := t.TempDir()
	require.NoError(t, os.Chmod(filepath.Dir(dir), 0o755))
	return filepath.Join(dir, "data")
}

func TestDataOutlivesTheServer(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	options := localpg.Options{Throwaway: true}
	server, err := localpg.Start(ctx, dir, options)
	require.NoError(t, err)
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""), "one that is there is left alone")
	conn, err := pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err)
	_, err = conn.Exec(ctx, `create table coat (n int); insert into coat values (3)`)
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))

	_, err = localpg.Start(ctx, dir, options)
	assert.ErrorIs(t, err, localpg.ErrInUse, "a second start does not disturb the first")

	require.NoError(t, server.Stop())
	require.NoError(t, server.Stop(), "stopping twice is stopping once")
	server, err = localpg.Start(ctx, dir, options)
	require.NoError(t, err)
	defer server.Stop()
	conn, err = pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err)
	defer conn.Close(ctx)
	var n int
	require.NoError(t, conn.QueryRow(ctx, `select n from coat`).Scan(&n))
	assert.Equal(t, 3, n)
}

func TestAPrivateFolderIsSaidToBeOne(t *testing.T) {
	if os.Geteuid() != 0 {
		return // only root has to run the server as somebody else
	}
	dir := t.TempDir()
	require.NoError(t, os.Chmod(dir, 0o700))
	_, err := localpg.Start(context.Background(), filepath.Join(dir, "data"), localpg.Options{Throwaway: true})
	assert.ErrorIs(t, err, localpg.ErrUnreachable)
}

func TestALostPasswordIsSetAgain(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	require.NoError(t, server.Stop())
	require.NoError(t, os.Remove(filepath.Join(dir, "password")))
	server, err = localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	defer server.Stop()
	conn, err := pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err, "what was kept is there")
	require.NoError(t, conn.Close(ctx))
}

func TestDataIsServedByTheVersionThatMadeIt(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	other, err := localpg.Attach(dir)
	require.NoError(t, err)
	assert.Equal(t, server.URL("shop"), other.URL("shop"), "another process finds it while it runs")
	require.NoError(t, server.Stop())
	_, err = localpg.Attach(dir)
	assert.Error(t, err, "and not when it does not")
	version := filepath.Join(dir, "cluster", "PG_VERSION")
	require.NoError(t, os.WriteFile(version, []byte("8\n"), 0o600))
	_, err = localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	assert.ErrorIs(t, err, pgbin.ErrOtherVersion)
	kept, err := os.ReadFile(version)
	require.NoError(t, err)
	assert.Equal(t, "8\n", string(kept), "what is kept there is left alone")
}

// asOwner connects as the cluster's owner, who may do everything.
func asOwner(t *testing.T, dir string, server *localpg.Server, database string) *pgx.Conn {
	password, err := os.ReadFile(filepath.Join(dir, "password"))
	require.NoError(t, err)
	config, err := pgx.ParseConfig(server.URL(database))
	require.NoError(t, err)
	config.User, config.Password = "umberfrost", string(password)
	conn, err := pgx.ConnectConfig(context.Background(), config)
	require.NoError(t, err)
	return conn
}

func TestTheApplicationMayMakeATrialAndNothingMore(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	defer server.Stop()
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	conn, err := pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, may := range []string{`create table coat (n int)`, `create database umberfrost_trial_1 template template0`,
		`drop database umberfrost_trial_1 with (force)`} {
		_, err = conn.Exec(ctx, may)
		assert.NoError(t, err, may)
	}
	for _, mayNot := range []string{`copy coat to program 'true'`, `copy coat to '/tmp/coat'`, `select pg_read_file('/etc/passwd')`,
		`create role other`,
		`alter role umberfrost_app superuser`, `set role umberfrost`, `alter system set fsync = off`, `create extension file_fdw`} {
		_, err = conn.Exec(ctx, mayNot)
		assert.ErrorContains(t, err, "42501", mayNot) // insufficient privilege
	}
}

func TestAFolderOfAnEarlierVersionIsHandedOver(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	owner := asOwner(t, dir, server, "postgres")
	for _, before := range []string{`drop role umberfrost_app`, `create database shop`, `create database umberfrost_trial_left`} {
		_, err = owner.Exec(ctx, before)
		require.NoError(t, err)
	}
	require.NoError(t, owner.Close(ctx))
	owner = asOwner(t, dir, server, "shop")
	_, err = owner.PgConn().Exec(ctx, `
		drop schema public cascade; create schema public; create extension hstore;
		create type sheen as enum ('gloss', 'matte'); create domain micron as float check (value >= 0);
		create table piece (id bigint generated always as identity primary key); create sequence loose;
		create table coat (n serial primary key, piece bigint references piece, shine sheen, film micron);
		create view shiny as select * from coat where shine = 'gloss';
		create function keep() returns trigger language plpgsql as $$ begin raise exception 'kept'; end $$;
		create trigger kept before delete on coat for each row execute function keep();
		insert into coat (shine, film) values ('gloss', 24.5)`).ReadAll()
	require.NoError(t, err)
	require.NoError(t, owner.Close(ctx))
	require.NoError(t, server.Stop())
	require.NoError(t, os.Remove(filepath.Join(dir, "app-password")))

	for range 2 { // the second start finds nothing left to do
		server, err = localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
		require.NoError(t, err)
		conn, err := pgx.Connect(ctx, server.URL("shop"))
		require.NoError(t, err)
		var film float64
		require.NoError(t, conn.QueryRow(ctx, `select film from shiny`).Scan(&film))
		assert.Equal(t, 24.5, film)
		for _, may := range []string{`alter table coat add x int`, `alter table coat drop x`, `alter sequence loose restart`,
			`alter type sheen add value 'satin'`,
			`alter type sheen rename value 'satin' to 'silk'`, `alter function keep() cost 2`, `alter domain micron set not null`,
			`alter domain micron drop not null`,
			`create table another (id int)`, `drop table another`, `insert into coat (film) values (1)`,
			`alter table piece alter id restart`} {
			if _, err = conn.Exec(ctx, may); err != nil {
				assert.ErrorContains(t, err, "already exists", may)
			}
		}
		_, err = conn.Exec(ctx, `delete from coat`)
		assert.ErrorContains(t, err, "kept")
		var left int
		require.NoError(t, conn.QueryRow(ctx,
			`select count(*) from pg_class where relowner <> 'umberfrost_app'::regrole and relnamespace = 'public'::regnamespace`).Scan(&left))
		assert.Zero(t, left, "all of it is the application's")
		assert.Eventually(t, func() bool { // once whoever handed it over has left it
			_, err = conn.Exec(ctx, `drop database if exists umberfrost_trial_left with (force)`)
			return err == nil
		}, time.Minute, 50*time.Millisecond)
		require.NoError(t, conn.Close(ctx))
		require.NoError(t, server.Stop())
	}
}

func TestAServerThatDiesIsStartedAgain(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	var told lockedBuffer
	watched := make(chan struct{})
	go func() {
		defer close(watched)
		server.Watch(ctx, slog.New(slog.NewTextHandler(&told, nil)))
	}()
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	conn, err := pgx.Connect(ctx, server.URL("shop")) // stays open: what is left of the server must not keep it from starting
	require.NoError(t, err)
	defer conn.Close(ctx)
	for range 2 {
		pid, err := os.ReadFile(filepath.Join(dir, "cluster", "postmaster.pid"))
		require.NoError(t, err)
		number, err := strconv.Atoi(strings.SplitN(string(pid), "\n", 2)[0])
		require.NoError(t, err)
		require.NoError(t, syscall.Kill(number, syscall.SIGKILL))
		require.Eventually(t, func() bool {
			now, err := os.ReadFile(filepath.Join(dir, "cluster", "postmaster.pid"))
			if err != nil || string(now) == string(pid) {
				return false
			}
			again, err := pgx.Connect(ctx, server.URL("shop"))
			return err == nil && again.Close(ctx) == nil
		}, 2*time.Minute, 100*time.Millisecond)
	}
	assert.Contains(t, told.String(), "has ended by itself")
	require.NoError(t, server.Stop())
	<-watched
}

type lockedBuffer struct {
	mu   sync.Mutex
	text strings.Builder
}

func (b *lockedBuffer) Write(text []byte) (int, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.text.Write(text)
}

func (b *lockedBuffer) String() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.text.String()
}
