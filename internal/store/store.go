// Package store keeps the shop in PostgreSQL: migrations, and the queries of
// each aggregate in a file of its own.
//
// Every change goes through Write, which raises the revision in the same
// transaction. The revision row is also the lock that makes writers take turns,
// so a use case may load, decide and save without another change in between.
package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrUnavailable = errors.New("the database does not answer")
	ErrNotFound    = errors.New("there is no such thing")
	ErrConflict    = errors.New("it is there already")
	ErrRefused     = errors.New("the database does not take this")
	ErrTooMany     = errors.New("this shop has more of it than is read at once")
	ErrSlow        = errors.New("another change is taking long") // nothing was saved
)

// Full says of what the database has no more: its disk is full, or its memory, or its connections are all taken. It is
// ErrUnavailable too.
type Full struct {
	Of    string // disk, memory or connections
	cause error
}

func (e *Full) Error() string   { return "the database has no " + e.Of + " left: " + e.cause.Error() }
func (e *Full) Unwrap() []error { return []error{ErrUnavailable, e.cause} }

// fullCodes are PostgreSQL's codes of what it has no more of.
var fullCodes = map[string]string{"53100": "disk", "53200": "memory", "53300": "connections"}

// fullOf is what is full where an error comes of that; nil else.
func fullOf(err error) *Full {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && fullCodes[pg.Code] != "" {
		return &Full{fullCodes[pg.Code], err}
	}
	noSpace := pg != nil && strings.Contains(strings.ToLower(pg.Message), syscall.ENOSPC.Error()) // also under other codes
	if noSpace || errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT) {
		return &Full{"disk", err}
	}
	return nil
}

// Store is a shop's database.
type Store struct {
	db     *sqlx.DB
	url    string
	config *pgx.ConnConfig // without the time-outs of serverWaits
}

// idleConns is how many connections are kept for the next question.
const idleConns = 8

// What the database is waited for. A statement that takes longer than these is given up by the server itself, so that
// nothing hangs behind it when nobody waits for it any more.
const (
	connectWait = 5 * time.Second
	answerWait  = 5 * time.Second // for its shortest answer, before anything longer is asked
	partWait    = 500 * time.Millisecond
)

// serverWaits are the time-outs that the server keeps, in milliseconds: of a statement, of a lock that another server
// on this database holds, and of a transaction in which nobody asks for anything.
var serverWaits = map[string]string{
	"statement_timeout":                   "60000",
	"lock_timeout":                        "5000",
	"idle_in_transaction_session_timeout": "120000",
}

// Open connects to a database by its URL. It does not migrate.
func Open(ctx context.Context, url string) (*Store, error) {
	config, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("database URL: %w", err)
	}
	if config.ConnectTimeout == 0 {
		config.ConnectTimeout = connectWait
	}
	served := config.Copy()
	for name, wait := range serverWaits {
		if _, said := served.RuntimeParams[name]; !said {
			served.RuntimeParams[name] = wait
		}
	}
	db := sqlx.NewDb(stdlib.OpenDB(*served), "pgx")
	db.SetMaxOpenConns(16)
	db.SetMaxIdleConns(idleConns)
	s := &Store{db: db, url: url, config: config}
	if err := db.PingContext(ctx); err != nil {
		db.Close()
		return nil, explain(err)
	}
	return s, nil
}

// Close gives back the connections. Those of a database that hangs are left to themselves.
func (s *Store) Close() error {
	closed := make(chan error, 1)
	go func() { closed <- s.db.Close() }()
	select {
	case err := <-closed:
		return err
	case <-time.After(partWait):
		return nil
	}
}

// Migrate brings the schema up to date. It is safe to run at every start. It fails with ErrNewer where the schema is
// further than this program knows.
func (s *Store) Migrate(ctx context.Context) error {
	return s.migrations(ctx, func(p *goose.Provider, last int64) error {
		stands, err := p.GetDBVersion(ctx)
		switch {
		case err != nil:
			return fmt.Errorf("reading how far the schema has come: %w", err)
		case stands > last:
			return newerSchema(stands, last)
		}
		_, err = p.Up(ctx)
		return err
	})
}

// migrateTo makes the schema of an empty database as it was after the migration of a number. It fails with ErrNewer or
// ErrNoBackup where there is no such migration.
func (s *Store) migrateTo(ctx context.Context, number int64) error {
	return s.migrations(ctx, func(p *goose.Provider, last int64) error {
		known := slices.ContainsFunc(p.ListSources(), func(m *goose.Source) bool { return m.Version == number })
		switch {
		case number > last:
			return newerSchema(number, last)
		case !known:
			return fmt.Errorf("%w: there never was a schema number %d", ErrNoBackup, number)
		}
		_, err := p.UpTo(ctx, number)
		return err
	})
}

func newerSchema(number, last int64) error {
	return fmt.Errorf("%w: its schema is number %d, and this one knows %d", ErrNewer, number, last)
}

// migrations does something with the migrations of a database; last is the number of the newest.
func (s *Store) migrations(ctx context.Context, do func(p *goose.Provider, last int64) error) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	db := stdlib.OpenDB(*s.config) // a migration takes as long as it takes
	defer db.Close()
	provider, err := goose.NewProvider(goose.DialectPostgres, db, files, goose.WithGoMigrations(toLayers()))
	if err != nil {
		return fmt.Errorf("reading migrations: %w", err)
	}
	sources := provider.ListSources()
	if err := do(provider, sources[len(sources)-1].Version); err != nil {
		return fmt.Errorf("migrating: %w", explain(err))
	}
	return nil
}

// Tx is one transaction.
type Tx struct {
	sql      *sqlx.Tx
	Revision int64 // of a write: the revision this change makes
}

// Read runs a function on one consistent view of the database.
func (s *Store) Read(ctx context.Context, do func(*Tx) error) error {
	return s.in(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true}, do)
}

// Write runs a change. All of it is kept, or nothing; the revision is raised
// with it and announced when it is committed.
func (s *Store) Write(ctx context.Context, do func(*Tx) error) error {
	if _, err := s.Revision(ctx); err != nil { // a database that hangs is noticed before others stand behind this change
		return err
	}
	return s.in(ctx, nil, func(tx *Tx) error {
		if err := tx.sql.GetContext(ctx, &tx.Revision, `update revision set number = number + 1 returning number`); err != nil {
			return err
		}
		if err := do(tx); err != nil {
			return err
		}
		_, err := tx.sql.ExecContext(ctx, `select pg_notify('revision', $1::text)`, fmt.Sprint(tx.Revision))
		return err
	})
}

// Standing is the number of the last change that a transaction sees, and the shop's id.
func (tx *Tx) Standing(ctx context.Context) (revision int64, shop uuid.UUID, err error) {
	row := struct {
		Number int64     `db:"number"`
		Shop   uuid.UUID `db:"shop_id"`
	}{}
	err = tx.sql.GetContext(ctx, &row, `select number, shop_id from revision`)
	return row.Number, row.Shop, explain(err)
}

// NewShop gives a shop that begins here an id of its own.
func (tx *Tx) NewShop(ctx context.Context) error {
	_, err := tx.sql.ExecContext(ctx, `update revision set shop_id = gen_random_uuid()`)
	return explain(err)
}

// Revision is the number of the last committed change. A database that does not say it within a few seconds is away.
func (s *Store) Revision(ctx context.Context) (int64, error) {
	ctx, stop := context.WithTimeout(ctx, answerWait)
	defer stop()
	var number int64
	err := s.db.GetContext(ctx, &number, `select number from revision`)
	return number, explain(err)
}

func (s *Store) in(ctx context.Context, options *sql.TxOptions, do func(*Tx) error) error {
	tx, err := s.db.BeginTxx(ctx, options)
	if err != nil {
		return explain(err)
	}
	defer tx.Rollback() // does nothing once committed
	if err := do(&Tx{sql: tx}); err != nil {
		return explain(err)
	}
	return explain(tx.Commit())
}

// awayCodes begin the codes of errors that come of a database that is away, full or held up, not of what was asked:
// connections, resources, an operator, a statement that took too long, a transaction that was given up.
var awayCodes = []string{"08", "53", "57", "25P03", "40"}

// lockCode is of a lock that somebody else holds for too long: a change of another server on this database.
const lockCode = "55P03"

// explain turns the database's errors into the ones that callers tell apart.
func explain(err error) error {
	var pg *pgconn.PgError
	var connect *pgconn.ConnectError
	var network net.Error
	switch {
	case err == nil, errors.Is(err, ErrUnavailable), errors.Is(err, ErrNotFound), errors.Is(err, ErrConflict), errors.Is(err, ErrRefused),
		errors.Is(err, ErrSlow):
		return err
	case fullOf(err) != nil:
		return fullOf(err)
	case errors.Is(err, sql.ErrNoRows):
		return fmt.Errorf("%w: %w", ErrNotFound, err)
	case errors.As(err, &pg):
		switch {
		case pg.Code == "23505":
			return fmt.Errorf("%w: %w", ErrConflict, err)
		case pg.Code == lockCode:
			return fmt.Errorf("%w: %w", ErrSlow, err)
		case slices.ContainsFunc(awayCodes, func(code string) bool { return strings.HasPrefix(pg.Code, code) }):
			return fmt.Errorf("%w: %w", ErrUnavailable, err)
		case strings.HasPrefix(pg.Code, "22"), strings.HasPrefix(pg.Code, "23"):
			return fmt.Errorf("%w: %w", ErrRefused, err)
		}
		return err
	case errors.As(err, &connect), errors.As(err, &network), errors.Is(err, driver.ErrBadConn), pgconn.SafeToRetry(err),
		strings.Contains(err.Error(), "unexpected EOF"), strings.Contains(err.Error(), "conn closed"):
		return fmt.Errorf("%w: %w", ErrUnavailable, err)
	}
	return err
}

// some is what a change of one row comes to: ErrNotFound where there was no such row.
func some(result sql.Result, err error) error {
	if err != nil {
		return explain(err)
	}
	if changed, err := result.RowsAffected(); err != nil || changed == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}

// jsonb is a value kept in a jsonb column.
type jsonb[T any] struct{ V T }

// Scan reads the column.
func (j *jsonb[T]) Scan(from any) error {
	switch data := from.(type) {
	case nil:
		return nil
	case []byte:
		return json.Unmarshal(data, &j.V)
	case string:
		return json.Unmarshal([]byte(data), &j.V)
	}
	return fmt.Errorf("cannot read %T as JSON", from)
}

// Value writes the column.
func (j jsonb[T]) Value() (driver.Value, error) {
	data, err := json.Marshal(j.V)
	return string(data), err
}
