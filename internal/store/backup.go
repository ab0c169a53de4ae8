package store

import (
	"bytes"
	"cmp"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5"

	"umberfrost/internal/pgbin"
)

// Errors of a backup that callers tell apart.
var (
	ErrNotEmpty = errors.New("this shop has instruments or a log already")
	ErrNewer    = errors.New("it was made by a newer Umberfrost")
	ErrNoBackup = errors.New("it is no backup of Umberfrost that can be read")
)

// Dump writes the database as a transaction sees it into a file by pg_dump, in its custom format. The file is
// there when it is whole, or not at all.
func (s *Store) Dump(ctx context.Context, tx *Tx, path string) error {
	var snapshot string
	if err := tx.GetContext(ctx, &snapshot, `select pg_export_snapshot()`); err != nil {
		return explain(err)
	}
	raw, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+"-*")
	if err != nil {
		return err
	}
	defer os.Remove(raw.Name())
	dump, err := s.program(ctx, "pg_dump", "--format=custom", "--no-owner", "--no-privileges", "--snapshot="+snapshot)
	if err == nil {
		dump.Stdout = raw
		err = run(dump)
	}
	if err = errors.Join(err, raw.Sync(), raw.Close()); err != nil {
		return err
	}
	return os.Rename(raw.Name(), path)
}

// Trial reads a backup back into a database of its own, brings that up to date and lets it be looked at; then it
// is dropped. It fails with ErrNoBackup or ErrNewer where the file is not one that can be read here.
func (s *Store) Trial(ctx context.Context, path string, look func(*Store) error) error {
	random := make([]byte, 8)
	if _, err := rand.Read(random); err != nil {
		return err
	}
	name := trialPrefix + hex.EncodeToString(random)
	if _, err := s.db.ExecContext(ctx, "create database "+pgx.Identifier{name}.Sanitize()+" template template0"); err != nil {
		return fmt.Errorf("making a database to read the backup back into: %w", explain(err))
	}
	defer s.db.ExecContext(context.WithoutCancel(ctx), "drop database "+pgx.Identifier{name}.Sanitize()+" with (force)")
	at, err := url.Parse(s.url)
	if err != nil {
		return err
	}
	at.Path = "/" + name
	trial, err := Open(ctx, at.String())
	if err != nil {
		return err
	}
	defer trial.Close()
	restore, err := trial.program(ctx, "pg_restore", "--exit-on-error", "--no-owner", "--no-privileges", "--dbname="+name, path)
	if err != nil {
		return err
	}
	if err := run(restore); err != nil {
		return fmt.Errorf("%w: %w", ErrNoBackup, err)
	}
	if err := trial.Migrate(ctx); err != nil {
		return err
	}
	return look(trial)
}

// trialPrefix begins the name of a database that a backup is tried in.
const trialPrefix = "umberfrost_trial_"

// DropTrials drops what a server that was killed has left of its trials. Nobody else may try a backup meanwhile.
func (s *Store) DropTrials(ctx context.Context) error {
	var left []string
	if err := s.db.SelectContext(ctx, &left, `select datname from pg_database where starts_with(datname, $1)`, trialPrefix); err != nil {
		return explain(err)
	}
	for _, name := range left {
		if _, err := s.db.ExecContext(ctx, "drop database "+pgx.Identifier{name}.Sanitize()+" with (force)"); err != nil {
			return explain(err)
		}
	}
	return nil
}

// Restore puts a backup in the place of an empty shop: all of it, or nothing. Whoever listens is told. It fails
// with ErrNotEmpty where there are instruments or a log.
func (s *Store) Restore(ctx context.Context, path string) error {
	script, err := s.program(ctx, "pg_restore", "--no-owner", "--no-privileges", "--file=-", path)
	if err != nil {
		return err
	}
	sql, err := s.program(ctx, "psql", "--no-psqlrc", "--quiet", "--set=ON_ERROR_STOP=1", "--file=-")
	if err != nil {
		return err
	}
	from, to := io.Pipe()
	var wrong bytes.Buffer
	script.Stdout, script.Stderr = to, &wrong
	sql.Stdin = io.MultiReader(strings.NewReader(clearAway), from, strings.NewReader(settle))
	read := make(chan error, 1)
	go func() {
		err := script.Run()
		to.CloseWithError(err) // where it failed, what ends the transaction never comes
		read <- err
	}()
	err = run(sql)
	from.Close()
	if failed := <-read; failed != nil && err == nil {
		err = fmt.Errorf("%w: %s", failed, strings.TrimSpace(wrong.String()))
	}
	switch {
	case err != nil && strings.Contains(err.Error(), notEmpty):
		return ErrNotEmpty
	case err != nil:
		return err
	}
	s.db.SetMaxIdleConns(0) // they know the tables that were there
	s.db.SetMaxIdleConns(idleConns)
	return s.Migrate(ctx)
}

const notEmpty = "umberfrost: the shop is not empty"

// clearAway makes room, if there is nothing in it that a person would miss.
const clearAway = `
begin;
lock table revision in access exclusive mode;
do $$ begin
	if exists (select from instrument) or exists (select from log_entry) then raise exception '` + notEmpty + `'; end if;
end $$;
select number as stood from revision \gset
drop schema public cascade;
create schema public;
`

// settle makes what was restored a revision that nobody has seen, and tells of it. Devices are paired anew: of those that
// were let in when the backup was made, some may have been withdrawn since.
const settle = `
do $$ begin
	if to_regclass('public.pairing') is not null then
		update public.pairing set withdrawn_at = now() where withdrawn_at is null;
		delete from public.pairing_code;
	end if;
end $$;
update public.revision set number = greatest(number, :stood) + 1;
select pg_notify('revision', number::text) from public.revision \g /dev/null
commit;
`

// program is one of PostgreSQL's, of the server's own version, that works on this database.
func (s *Store) program(ctx context.Context, name string, args ...string) (*exec.Cmd, error) {
	var version string
	if err := s.db.GetContext(ctx, &version, `show server_version_num`); err != nil {
		return nil, explain(err)
	}
	number, err := strconv.Atoi(version)
	if err != nil {
		return nil, fmt.Errorf("the server's version: %w", err)
	}
	path, missing := pgbin.Find().Of(number / 10_000)
	if path = filepath.Join(path, name); missing != nil { // the server runs elsewhere
		if path, err = exec.LookPath(name); err != nil {
			return nil, fmt.Errorf("%s: %w", name, missing)
		}
	}
	at, err := pgx.ParseConfig(s.url)
	if err != nil {
		return nil, err
	}
	address, err := url.Parse(s.url)
	if err != nil {
		return nil, err
	}
	cmd := exec.CommandContext(ctx, path, args...)
	cmd.Dir = "/"
	cmd.Env = append(os.Environ(), "PGHOST="+at.Host, "PGPORT="+strconv.Itoa(int(at.Port)), "PGUSER="+at.User, "PGPASSWORD="+at.Password,
		"PGDATABASE="+at.Database, "PGSSLMODE="+cmp.Or(address.Query().Get("sslmode"), "prefer"))
	return cmd, nil
}

// run runs a program; what it complains of is in the error.
func run(cmd *exec.Cmd) error {
	var wrong bytes.Buffer
	cmd.Stderr = &wrong
	err := cmd.Run()
	if err == nil {
		return nil
	}
	var gone *fs.PathError
	if errors.As(err, &gone) {
		return err
	}
	return fmt.Errorf("%s: %w: %s", filepath.Base(cmd.Path), err, strings.TrimSpace(wrong.String()))
}
