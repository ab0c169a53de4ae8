package store_test

import (
	"bytes"
	"context"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/pgbin"
	"umberfrost/internal/store"
	"umberfrost/internal/store/backup"
)

func TestEveryTableIsBackedUp(t *testing.T) {
	t.Parallel()
	conn := connected(t, pgtest.URL(t))
	rows, err := conn.Query(ctx, `select relname from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') order by 1`)
	require.NoError(t, err)
	names, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	assert.Equal(t, slices.DeleteFunc(names, func(name string) bool { return name == backup.VersionTable }), store.Tables,
		"a table that a migration makes belongs into every backup")
}

func TestBackupsOfEverySchemaAreRead(t *testing.T) {
	files, err := filepath.Glob("testdata/*.backup")
	require.NoError(t, err)
	require.Len(t, files, 3, "one of each schema and format that had backups")
	for _, path := range files {
		t.Run(filepath.Base(path), func(t *testing.T) {
			t.Parallel()
			s, held := pgtest.Store(t), map[string]int{"instrument": 2, "log_entry": 4, "person": 2, "reading": 3, "open": 0}
			if strings.Contains(path, "schema-15") {
				held["reading"] = 2
			}
			_, err := s.Raw().Exec(`create table somebody_elses (n serial); insert into somebody_elses default values`)
			require.NoError(t, err)
			require.NoError(t, s.Trial(ctx, path, func(trial *store.Store) error {
				assert.Equal(t, held, counted(t, trial))
				return s.Take(ctx, trial)
			}))
			assert.Equal(t, held, counted(t, s))
			var note string
			require.NoError(t, s.Raw().Get(&note, `select note from log_entry where kind = 'note'`))
			assert.Equal(t, "Knüpfpolitur “5 µm”\nsecond line\twith a tab and \\ backslash", note)
			var keys int
			require.NoError(t, s.Raw().Get(&keys, `select count(*) from pg_constraint where contype = 'f'`))
			assert.Greater(t, keys, 30, "its keys hold")
			var others int
			require.NoError(t, s.Raw().Get(&others, `select count(*) from somebody_elses`))
			assert.Equal(t, 1, others, "what else the database has is left alone")
			_, err = s.Raw().Exec(`insert into forecast_snapshot (revision, at, cause, instrument_id) select 9, now(), 'x', id from instrument`)
			assert.NoError(t, err, "and it counts on behind what is there")
			assert.ErrorIs(t, s.Trial(ctx, path, func(trial *store.Store) error { return s.Take(ctx, trial) }), store.ErrNotEmpty)
			assert.Equal(t, held, counted(t, s))
		})
	}
}

func counted(t *testing.T, s *store.Store) map[string]int {
	counts := make(map[string]int)
	for name, query := range map[string]string{"instrument": `select count(*) from instrument`,
		"log_entry": `select count(*) from log_entry`,
		"person":    `select count(*) from person`, "reading": `select count(*) from reading`,
		"open": `select (select count(*) from pairing where withdrawn_at is null) + (select count(*) from pairing_code)`} {
		var n int
		require.NoError(t, s.Raw().Get(&n, query))
		counts[name] = n
	}
	return counts
}

func TestABackupThatIsRestoredIsTheSame(t *testing.T) {
	t.Parallel()
	s, other := pgtest.Store(t), pgtest.Store(t)
	require.NoError(t, s.Trial(ctx, "testdata/schema-16-dump.backup", func(trial *store.Store) error { return s.Take(ctx, trial) }))
	first, second := filepath.Join(t.TempDir(), "first"), filepath.Join(t.TempDir(), "second")
	dump := func(s *store.Store, path string) {
		require.NoError(t, s.Read(ctx, func(tx *store.Tx) error { return s.Dump(ctx, tx, path, time.Unix(0, 0)) }))
	}
	dump(s, first)
	require.NoError(t, other.Trial(ctx, first, func(trial *store.Store) error { return other.Take(ctx, trial) }))
	dump(other, second)
	a, b := tablesOf(t, first), tablesOf(t, second)
	for _, name := range slices.Sorted(maps.Keys(a)) {
		if name != "revision" { // is one that nobody has seen
			assert.Equal(t, a[name], b[name], name)
		}
	}
}

// tablesOf are the rows of each table of a backup.
func tablesOf(t *testing.T, path string) map[string]string {
	file, err := os.Open(path)
	require.NoError(t, err)
	defer file.Close()
	r, err := backup.NewReader(file, backup.MostBytes)
	require.NoError(t, err)
	list := make(map[string]string)
	for range r.Head.Tables {
		table, rows, err := r.Next()
		require.NoError(t, err)
		var text bytes.Buffer
		_, err = text.ReadFrom(rows)
		require.NoError(t, err)
		list[table.Name] = text.String()
	}
	return list
}

func TestABackupThatNoShopHadIsRefused(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	whole := filepath.Join(t.TempDir(), "whole")
	require.NoError(t, s.Trial(ctx, "testdata/schema-16-dump.backup", func(trial *store.Store) error {
		return trial.Read(ctx, func(tx *store.Tx) error { return trial.Dump(ctx, tx, whole, time.Unix(0, 0)) })
	}))
	file, err := os.Open(whole)
	require.NoError(t, err)
	defer file.Close()
	r, err := backup.NewReader(file, backup.MostBytes)
	require.NoError(t, err)
	rows := tablesOf(t, whole)
	for name, change := range map[string]func(head *backup.Head, rows map[string]string){
		"a table more": func(h *backup.Head, _ map[string]string) {
			h.Tables = append(h.Tables, backup.Table{Name: "evil", Columns: []string{"id"}})
		},
		"a table twice":     func(h *backup.Head, _ map[string]string) { h.Tables = append(h.Tables, h.Tables[0]) },
		"a table less":      func(h *backup.Head, _ map[string]string) { h.Tables = h.Tables[1:] },
		"a system table":    func(h *backup.Head, _ map[string]string) { h.Tables[0].Name = "pg_catalog.pg_authid" },
		"a column more":     func(h *backup.Head, _ map[string]string) { h.Tables[9].Columns = append(h.Tables[9].Columns, "evil") },
		"a schema of ours":  func(h *backup.Head, _ map[string]string) { h.Schema = 11; h.Tables = h.Tables[:1] },
		"no schema of ours": func(h *backup.Head, _ map[string]string) { h.Schema = -1 },
		"a key to nothing": func(_ *backup.Head, rows map[string]string) {
			rows["log_entry"] = strings.Replace(rows["log_entry"], "938e3053", "938e3054", 1)
		},
		"a value of no kind": func(_ *backup.Head, rows map[string]string) {
			rows["person"] = strings.Replace(rows["person"], "938e3053", "x", 1)
		},
		"a row that a check refuses": func(_ *backup.Head, rows map[string]string) {
			rows["revision"] = strings.Replace(rows["revision"], "t\t", "f\t", 1)
		},
	} {
		head, changed := r.Head, maps.Clone(rows)
		head.Tables = slices.Clone(head.Tables)
		for i := range head.Tables {
			head.Tables[i].Columns = slices.Clone(head.Tables[i].Columns)
		}
		change(&head, changed)
		var text bytes.Buffer
		w, err := backup.NewWriter(&text, head)
		require.NoError(t, err)
		for _, table := range head.Tables {
			_, err = w.Write([]byte(changed[table.Name]))
			require.NoError(t, err)
			require.NoError(t, w.EndTable())
		}
		require.NoError(t, w.Close())
		path := filepath.Join(t.TempDir(), "changed")
		require.NoError(t, os.WriteFile(path, text.Bytes(), 0o600))
		err = s.Trial(ctx, path, func(*store.Store) error { t.Error(name + " is read"); return nil })
		assert.ErrorIs(t, err, store.ErrNoBackup, name)
	}
	newer := filepath.Join(t.TempDir(), "newer")
	var text bytes.Buffer
	head := r.Head
	head.Schema = 9999
	w, err := backup.NewWriter(&text, head)
	require.NoError(t, err)
	require.NoError(t, w.Close())
	require.NoError(t, os.WriteFile(newer, text.Bytes(), 0o600))
	assert.ErrorIs(t, s.Trial(ctx, newer, nil), store.ErrNewer)
}

// evil is what a crafted dump would like to run: as a superuser it could.
const evil = `create function evil() returns boolean language plpgsql as $$ begin copy (select 1) to program 'cat > MARKER'; return true; end $$`

func TestACraftedDumpRunsNothing(t *testing.T) {
	for name, craft := range map[string]struct {
		sql   string
		data  [2]string // replaced in the file, with as many bytes
		taken bool      // its rows are read, as data
	}{
		"a check":            {sql: evil + `; alter table person add check (evil())`},
		"a default":          {sql: evil + `; alter table person alter column name set default evil()::text`},
		"a generated column": {sql: `create function e2(text) returns text immutable language sql as $$ select pg_read_file('/etc/passwd') $$; alter table person add x text generated always as (e2(name)) stored`},
		"a trigger": {sql: evil +
			`; create function fire() returns trigger language plpgsql as $$ begin perform evil(); return new; end $$; create trigger evil before insert on person execute function fire()`},
		"an extension":       {sql: `create extension hstore`},
		"a function":         {sql: evil},
		"a view":             {sql: `create view spy as select 1`},
		"a table more":       {sql: `create table "person (id) from program 'touch MARKER'; --" (id int)`},
		"a column more":      {sql: `alter table person add column "name) from program 'touch MARKER'; --" int`},
		"a table of another": {sql: `create schema other; create table other.person (id int)`},
		"a large object":     {sql: `select lo_from_bytea(0, 'x')`},
		"a line for psql": {data: [2]string{"Somebody else who works here at times, and has left a longer name than most have, and " +
			"longer still, for a path must fit in", "x\t1\t\\N\tf\t\\N\n\\.\n\\! touch MARKER\n"}},
		"a check of its own": {sql: `alter table person add check (pg_read_file('/etc/passwd') <> '')`, taken: true},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			folder := t.TempDir()
			for _, dir := range []string{filepath.Dir(filepath.Dir(folder)), filepath.Dir(folder), folder} {
				os.Chmod(dir, 0o777) // the server runs as somebody else
			}
			marker := filepath.Join(folder, "ran")
			super := pgtest.Superuser(t, pgtest.URL(t))
			conn := connected(t, super)
			_, err := conn.Exec(ctx, `insert into person (id, name, position) values (gen_random_uuid(), $1, 1)`, "Somebody else")
			require.NoError(t, err)
			if craft.data[0] != "" {
				_, err = conn.Exec(ctx, `alter table person drop constraint if exists person_name_check; update person set name = '`+craft.data[0]+`'`)
				require.NoError(t, err)
			}
			_, err = conn.PgConn().Exec(ctx, strings.ReplaceAll(craft.sql, "MARKER", marker)).ReadAll()
			require.NoError(t, err)
			os.Remove(marker)
			path := filepath.Join(folder, "crafted.backup")
			dump := exec.Command(program(t, "pg_dump"), "--format=custom", "--compress=0", "--file="+path, super)
			output, err := dump.CombinedOutput()
			require.NoError(t, err, string(output))
			if craft.data[0] != "" {
				file, err := os.ReadFile(path)
				require.NoError(t, err)
				put := strings.ReplaceAll(craft.data[1], "MARKER", marker)
				require.LessOrEqual(t, len(put), len(craft.data[0]), "a shorter path")
				put += strings.Repeat("#", len(craft.data[0])-len(put))
				require.Contains(t, string(file), craft.data[0])
				require.NoError(t, os.WriteFile(path, bytes.Replace(file, []byte(craft.data[0]), []byte(put), 1), 0o600))
			}
			s, err := store.Open(ctx, pgtest.Superuser(t, pgtest.URL(t)))
			require.NoError(t, err)
			defer s.Close()
			err = s.Trial(ctx, path, func(trial *store.Store) error {
				assert.True(t, craft.taken, "refused")
				var checks int
				require.NoError(t, trial.Raw().Get(&checks,
					`select count(*) from pg_constraint where pg_get_constraintdef(oid) like '%passwd%'`))
				assert.Zero(t, checks, "what the file says of a table is not looked at")
				return nil
			})
			if !craft.taken {
				assert.ErrorIs(t, err, store.ErrNoBackup)
			}
			assert.NoFileExists(t, marker)
			if name == "a check" { // and it would have run
				restore := exec.Command(program(t, "pg_restore"), "--clean", "--if-exists", "--dbname="+pgtest.Superuser(t, pgtest.URL(t)),
					path)
				restore.CombinedOutput()
				assert.FileExists(t, marker)
			}
		})
	}
}

func program(t *testing.T, name string) string {
	bin, err := pgbin.Find().Newest()
	require.NoError(t, err)
	return filepath.Join(bin, name)
}

func connected(t *testing.T, url string) *pgx.Conn {
	conn, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	t.Cleanup(func() { conn.Close(context.Background()) })
	return conn
}
