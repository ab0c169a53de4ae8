package store

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"umberfrost/internal/store/backup"
)

// Dump writes the rows of the database, as a transaction sees them, into a file. The file is there when it is whole, or
// not at all.
func (s *Store) Dump(ctx context.Context, tx *Tx, path string, made time.Time) error {
	var snapshot string
	if err := tx.sql.GetContext(ctx, &snapshot, `select pg_export_snapshot()`); err != nil {
		return explain(err)
	}
	raw, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+"-*")
	if err != nil {
		return explain(err)
	}
	defer os.Remove(raw.Name())
	defer raw.Close()
	if err := s.dumpTo(ctx, raw, snapshot, made); err != nil {
		return explain(err)
	}
	if err := raw.Sync(); err != nil {
		return explain(err)
	}
	return os.Rename(raw.Name(), path)
}

func (s *Store) dumpTo(ctx context.Context, to io.Writer, snapshot string, made time.Time) error {
	conn, err := s.connect(ctx)
	if err != nil {
		return err
	}
	defer hangUp(ctx, conn)
	tx, err := conn.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return err
	}
	defer tx.Rollback(context.WithoutCancel(ctx))
	if _, err := tx.Exec(ctx, "set transaction snapshot '"+snapshot+"'"); err != nil {
		return err
	}
	head := backup.Head{Made: made.UTC()}
	if err := tx.QueryRow(ctx, `select max(version_id) from goose_db_version where is_applied`).Scan(&head.Schema); err != nil {
		return err
	}
	if head.Tables, err = tablesOf(ctx, tx); err != nil {
		return err
	}
	for i := range head.Tables {
		if err := tx.QueryRow(ctx, "select count(*) from "+public(head.Tables[i].Name)).Scan(&head.Tables[i].Rows); err != nil {
			return err
		}
	}
	file, err := backup.NewWriter(to, head)
	if err != nil {
		return err
	}
	for _, table := range head.Tables {
		if _, err := conn.PgConn().CopyTo(ctx, file, "copy "+copyOf(table)+" to stdout"); err != nil {
			return fmt.Errorf("reading %s: %w", table.Name, err)
		}
		if err := file.EndTable(); err != nil {
			return err
		}
	}
	return file.Close()
}

// tables are those that keep a shop, but for how far the schema has come.
var tables = []string{"change_kept", "completion", "forecast_snapshot", "instrument", "log_entry", "own_recipe", "own_recipe_version",
	"pairing",
	"pairing_code", "person", "piece", "pin", "place", "place_version", "product", "product_version", "proposal_dismissed", "reading",
	"region",
	"request", "revision", "schedule_edit", "shop_setting", "sitting", "step", "step_after", "step_region", "work_order"}

// tablesOf are those tables with their columns, in the order of their names.
func tablesOf(ctx context.Context, tx pgx.Tx) ([]backup.Table, error) {
	all, err := catalog(ctx, tx)
	if err != nil {
		return nil, err
	}
	list := make([]backup.Table, len(tables))
	for i, name := range tables {
		if list[i] = (backup.Table{Name: name, Columns: all[name]}); len(all[name]) == 0 {
			return nil, fmt.Errorf("the database has no table %s", name)
		}
	}
	return list, nil
}

// catalog is the columns of each table of a database, but for those that it computes itself.
func catalog(ctx context.Context, tx pgx.Tx) (map[string][]string, error) {
	rows, err := tx.Query(ctx, `
		select c.relname, a.attname from pg_class c join pg_attribute a on a.attrelid = c.oid
		where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' and a.attnum > 0 and not a.attisdropped and a.attgenerated = ''
		order by c.relname, a.attnum`)
	if err != nil {
		return nil, err
	}
	all := make(map[string][]string)
	var table, column string
	_, err = pgx.ForEachRow(rows, []any{&table, &column}, func() error {
		all[table] = append(all[table], column)
		return nil
	})
	return all, err
}

// public is a table's name as SQL has it.
func public(table string) string { return pgx.Identifier{"public", table}.Sanitize() }

// copyOf is a table's name with its columns, as COPY is told them.
func copyOf(table backup.Table) string {
	quoted := make([]string, len(table.Columns))
	for i, column := range table.Columns {
		quoted[i] = pgx.Identifier{column}.Sanitize()
	}
	return public(table.Name) + " (" + strings.Join(quoted, ", ") + ")"
}

// connect is a connection for what takes as long as it takes, on which values are written one way on every server.
func (s *Store) connect(ctx context.Context) (*pgx.Conn, error) {
	config := s.config.Copy()
	for name, value := range map[string]string{"client_encoding": "UTF8", "datestyle": "ISO, YMD", "intervalstyle": "postgres",
		"timezone":           "UTC",
		"extra_float_digits": "1", "bytea_output": "hex", "xmloption": "content", "lock_timeout": "20000"} {
		config.RuntimeParams[name] = value
	}
	return pgx.ConnectConfig(ctx, config)
}

// hangUp ends a connection; one to a database that hangs is not waited for.
func hangUp(ctx context.Context, conn *pgx.Conn) {
	parting, stop := context.WithTimeout(context.WithoutCancel(ctx), partWait)
	defer stop()
	conn.Close(parting)
}
