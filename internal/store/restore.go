package store

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/url"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"umberfrost/internal/store/backup"
)

// Errors of a backup that callers tell apart.
var (
	ErrNotEmpty = errors.New("this shop has instruments or a log already")
	ErrNewer    = backup.ErrNewer
	ErrNoBackup = backup.ErrNone
)

// trialPrefix begins the name of a database that a backup is tried in.
const trialPrefix = "umberfrost_trial_"

// Trial puts the rows of a backup into a database of its own and lets it be looked at; then it is dropped. The tables
// are those of our own migrations, up to the number that the file names; they are brought up to date once the rows are
// in. Devices are not let in by it: some may have been withdrawn since it was made. It fails with ErrNoBackup or
// ErrNewer where the file is not one that can be read here.
func (s *Store) Trial(ctx context.Context, path string, look func(*Store) error) error {
	file, err := openBackup(ctx, path)
	if err != nil {
		return err
	}
	defer file.Close()
	trial, drop, err := s.makeTrial(ctx)
	if err != nil {
		return err
	}
	defer drop()
	if err := trial.migrateTo(ctx, file.schema); err != nil {
		return err
	}
	if err := trial.fill(ctx, file.rows); err != nil {
		return err
	}
	if err := trial.Migrate(ctx); err != nil {
		return err
	}
	if _, err := trial.db.ExecContext(ctx, `update pairing set withdrawn_at = now() where withdrawn_at is null`); err != nil {
		return explain(err)
	}
	if _, err := trial.db.ExecContext(ctx, `delete from pairing_code`); err != nil {
		return explain(err)
	}
	return look(trial)
}

// makeTrial makes an empty database to try a backup in.
func (s *Store) makeTrial(ctx context.Context) (trial *Store, drop func(), err error) {
	random := make([]byte, 8)
	rand.Read(random)
	name := trialPrefix + hex.EncodeToString(random)
	if _, err := s.db.ExecContext(ctx, "create database "+pgx.Identifier{name}.Sanitize()+" template template0"); err != nil {
		return nil, nil, fmt.Errorf("making a database to read the backup back into: %w", explain(err))
	}
	gone := func() {
		s.db.ExecContext(context.WithoutCancel(ctx), "drop database "+pgx.Identifier{name}.Sanitize()+" with (force)")
	}
	at, err := url.Parse(s.url)
	if err == nil {
		at.Path = "/" + name
		trial, err = Open(ctx, at.String())
	}
	if err != nil {
		gone()
		return nil, nil, err
	}
	return trial, func() { trial.Close(); gone() }, nil
}

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

// Take puts what a trial holds in the place of an empty shop: all of it, or nothing. Whoever listens is told. It fails
// with ErrNotEmpty where there are instruments or a log.
func (s *Store) Take(ctx context.Context, trial *Store) error {
	from, err := trial.connect(ctx)
	if err != nil {
		return explain(err)
	}
	defer hangUp(ctx, from)
	return s.rewrite(ctx, func(tx pgx.Tx) error {
		var stood int64
		if err := tx.QueryRow(ctx, `select number from revision`).Scan(&stood); err != nil {
			return err
		}
		list, err := tablesOf(ctx, tx)
		if err != nil {
			return err
		}
		ours := make(map[string][]string, len(list)) // what else the database has is left alone
		for _, table := range list {
			ours[table.Name] = table.Columns
		}
		rows := &copied{ctx: ctx, from: from, tables: list}
		defer rows.end()
		if err := refill(ctx, tx, ours, rows); err != nil {
			return err
		}
		var number int64 // one that nobody has seen
		if err := tx.QueryRow(ctx, `update revision set number = greatest(number, $1) + 1 returning number`,
			stood).Scan(&number); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, `select pg_notify('revision', $1::text)`, fmt.Sprint(number))
		return err
	})
}

// rewrite changes the whole of an empty shop, while nobody else changes it.
func (s *Store) rewrite(ctx context.Context, do func(pgx.Tx) error) error {
	return s.onConnection(ctx, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, `lock table revision in access exclusive mode`); err != nil {
			return err
		}
		var full bool
		if err := tx.QueryRow(ctx, `select exists (select from instrument) or exists (select from log_entry)`).Scan(&full); err != nil {
			return err
		}
		if full {
			return ErrNotEmpty
		}
		return do(tx)
	})
}

// fill puts rows into a database that was just made.
func (s *Store) fill(ctx context.Context, rows backup.Rows) error {
	return s.onConnection(ctx, func(tx pgx.Tx) error {
		known, err := catalog(ctx, tx)
		if err != nil {
			return err
		}
		delete(known, backup.VersionTable)
		return refill(ctx, tx, known, rows)
	})
}

// onConnection runs a transaction on a connection of its own, which may take its time.
func (s *Store) onConnection(ctx context.Context, do func(pgx.Tx) error) error {
	conn, err := s.connect(ctx)
	if err != nil {
		return explain(err)
	}
	defer hangUp(ctx, conn)
	return explain(pgx.BeginFunc(ctx, conn, do))
}

// refill puts rows in the place of all that is in some tables, of which the columns are known. What keys point to need not
// come before them: they are looked at when all is there. It fails with ErrNoBackup where a table or a column is not
// known, or a row is none of its table's.
func refill(ctx context.Context, tx pgx.Tx, known map[string][]string, rows backup.Rows) error {
	all := slices.Sorted(maps.Keys(known))
	keys, err := foreignKeys(ctx, tx, all)
	if err != nil {
		return err
	}
	for _, key := range keys {
		if _, err := tx.Exec(ctx, key.drop); err != nil {
			return err
		}
	}
	quoted := make([]string, len(all))
	for i, table := range all {
		quoted[i] = public(table)
	}
	if _, err := tx.Exec(ctx, "truncate "+strings.Join(quoted, ", ")); err != nil {
		return err
	}
	if err := copyIn(ctx, tx, known, rows); err != nil {
		return err
	}
	if err := setSequences(ctx, tx, all); err != nil {
		return err
	}
	for _, key := range keys {
		if _, err := tx.Exec(ctx, key.add); err != nil {
			return dataFault(err)
		}
	}
	return nil
}

// copyIn sends the rows of each table, and counts that all are there.
func copyIn(ctx context.Context, tx pgx.Tx, known map[string][]string, rows backup.Rows) error {
	came := make(map[string]bool, len(known))
	for {
		table, list, err := rows.Next()
		if err == io.EOF {
			break
		}
		if err != nil {
			return err
		}
		if table.Name == backup.VersionTable {
			continue
		}
		columns, there := known[table.Name]
		if !there || came[table.Name] || !slices.Equal(slices.Sorted(slices.Values(columns)), slices.Sorted(slices.Values(table.Columns))) {
			return fmt.Errorf("%w: a shop of that time has no table %.60q with these columns", ErrNoBackup, table.Name)
		}
		came[table.Name] = true
		counted := &countedRows{from: list}
		if _, err := tx.Conn().PgConn().CopyFrom(ctx, counted, "copy "+copyOf(table)+" from stdin"); err != nil {
			if counted.err != nil { // the file broke off, or the connection that it comes by
				return counted.err
			}
			return fmt.Errorf("%s: %w", table.Name, dataFault(err))
		}
		var kept int64
		if err := tx.QueryRow(ctx, "select count(*) from "+public(table.Name)).Scan(&kept); err != nil {
			return err
		}
		if kept != counted.n {
			return fmt.Errorf("%w: of %d rows of %s %d could be kept", ErrNoBackup, counted.n, table.Name, kept)
		}
	}
	for table := range known {
		if !came[table] {
			return fmt.Errorf("%w: it holds no table %s", ErrNoBackup, table)
		}
	}
	return nil
}

// countedRows counts rows, and keeps what went wrong with what they are read from.
type countedRows struct {
	from io.Reader
	n    int64
	err  error
}

func (c *countedRows) Read(into []byte) (int, error) {
	n, err := c.from.Read(into)
	c.n += int64(bytes.Count(into[:n], []byte("\n")))
	if err != nil && err != io.EOF {
		c.err = err
	}
	return n, err
}

// dataFault says of what a database does not take that the file is at fault.
func dataFault(err error) error {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && (strings.HasPrefix(pg.Code, "22") || strings.HasPrefix(pg.Code, "23")) {
		return fmt.Errorf("%w: %s", ErrNoBackup, pg.Message)
	}
	return err
}

// foreignKey is how a key is dropped and put back.
type foreignKey struct{ drop, add string }

// foreignKeys are those of some tables.
func foreignKeys(ctx context.Context, tx pgx.Tx, of []string) ([]foreignKey, error) {
	rows, err := tx.Query(ctx, `
		select format('alter table %s drop constraint %I', conrelid::regclass, conname),
			format('alter table %s add constraint %I %s', conrelid::regclass, conname, pg_get_constraintdef(pg_constraint.oid))
		from pg_constraint join pg_class c on c.oid = conrelid
		where contype = 'f' and connamespace = 'public'::regnamespace and c.relname = any($1) order by conrelid::regclass::text, conname`, of)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (key foreignKey, err error) {
		err = row.Scan(&key.drop, &key.add)
		return key, err
	})
}

// setSequences lets every column of some tables that counts by itself go on behind what is there.
func setSequences(ctx context.Context, tx pgx.Tx, of []string) error {
	rows, err := tx.Query(ctx, `
		select format('select setval(%L, coalesce((select max(%I) from %s), 0) + 1, false)',
			pg_get_serial_sequence(c.oid::regclass::text, a.attname), a.attname, c.oid::regclass)
		from pg_class c join pg_attribute a on a.attrelid = c.oid
		where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' and c.relname = any($1) and a.attnum > 0 and not a.attisdropped
			and pg_get_serial_sequence(c.oid::regclass::text, a.attname) is not null`, of)
	if err != nil {
		return err
	}
	list, err := pgx.CollectRows(rows, pgx.RowTo[string])
	for _, set := range list {
		if _, err := tx.Exec(ctx, set); err != nil {
			return err
		}
	}
	return err
}

// copied are the rows of another database.
type copied struct {
	ctx    context.Context
	from   *pgx.Conn
	tables []backup.Table
	pipe   *io.PipeReader
	over   chan struct{}
}

// Next gives its next table.
func (c *copied) Next() (backup.Table, io.Reader, error) {
	c.end()
	if len(c.tables) == 0 {
		return backup.Table{}, nil, io.EOF
	}
	table := c.tables[0]
	c.tables = c.tables[1:]
	from, to := io.Pipe()
	c.pipe, c.over = from, make(chan struct{})
	go func() {
		defer close(c.over)
		_, err := c.from.PgConn().CopyTo(c.ctx, to, "copy "+copyOf(table)+" to stdout")
		to.CloseWithError(err)
	}()
	return table, from, nil
}

// end ends reading the table that is being read.
func (c *copied) end() {
	if c.pipe != nil {
		c.pipe.Close()
		<-c.over
	}
}
