package backup_test

import (
	"bytes"
	"compress/gzip"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/store/backup"
)

var head = backup.Head{Schema: 16, Made: time.Date(2026, 3, 12, 15, 20, 0, 0, time.UTC), Tables: []backup.Table{
	{Name: "person", Columns: []string{"id", "name"}, Rows: 2},
	{Name: "pin", Columns: []string{"step_id"}},
	{Name: "revision", Columns: []string{"number"}, Rows: 1},
}}

// written is a backup with these rows in its tables.
func written(t testing.TB, head backup.Head, tables ...string) []byte {
	var file bytes.Buffer
	w, err := backup.NewWriter(&file, head)
	require.NoError(t, err)
	for _, rows := range tables {
		_, err := io.WriteString(w, rows)
		require.NoError(t, err)
		require.NoError(t, w.EndTable())
	}
	require.NoError(t, w.Close())
	return file.Bytes()
}

// all reads the rows of every table.
func all(rows backup.Rows) ([]string, error) {
	var list []string
	for {
		table, from, err := rows.Next()
		if err == io.EOF {
			return list, nil
		}
		if err != nil {
			return list, err
		}
		text, err := io.ReadAll(from)
		if list = append(list, table.Name+": "+string(text)); err != nil {
			return list, err
		}
	}
}

func read(file []byte, most int64) ([]string, error) {
	r, err := backup.NewReader(bytes.NewReader(file), most)
	if err != nil {
		return nil, err
	}
	return all(r)
}

const people = "1\tMárta\n2\t\\N\n"

func TestWhatIsWrittenIsReadBack(t *testing.T) {
	file := written(t, head, people, "", "7\n")
	list, err := read(file, 1<<20)
	require.NoError(t, err)
	assert.Equal(t, []string{"person: " + people, "pin: ", "revision: 7\n"}, list)

	r, err := backup.NewReader(bytes.NewReader(file), 1<<20)
	require.NoError(t, err)
	assert.Equal(t, int64(16), r.Head.Schema)
	for range head.Tables { // and what nobody reads is passed over, and looked at all the same
		_, _, err = r.Next()
		require.NoError(t, err)
	}
	_, _, err = r.Next()
	assert.Equal(t, io.EOF, err)
}

func TestADamagedBackupIsNone(t *testing.T) {
	plain := func(file []byte) string {
		zip, err := gzip.NewReader(bytes.NewReader(file))
		require.NoError(t, err)
		text, err := io.ReadAll(zip)
		require.NoError(t, err)
		return string(text)
	}
	zipped := func(text string) []byte {
		var file bytes.Buffer
		zip := gzip.NewWriter(&file)
		_, err := io.WriteString(zip, text)
		require.NoError(t, err)
		require.NoError(t, zip.Close())
		return file.Bytes()
	}
	whole := written(t, head, people, "", "7\n")
	text := plain(whole)
	for name, file := range map[string][]byte{
		"empty":             nil,
		"text":              []byte("a shop"),
		"half":              whole[:len(whole)/2],
		"another file":      zipped("{\"format\":\"umberfrost-schedule\"}\n"),
		"no end":            zipped(text[:len(text)-2]),
		"a row is changed":  zipped(strings.Replace(text, "Márta", "Marta", 1)),
		"the head is":       zipped(strings.Replace(text, `"schema":16`, `"schema":15`, 1)),
		"something follows": zipped(text + "drop table person;\n"),
		"fewer rows":        written(t, head, "1\tMárta\n", "", "7\n"),
		"more rows":         written(t, head, people+"3\tx\n", "", "7\n"),
		"a column too many": written(t, head, "1\tM\tx\n2\tN\n", "", "7\n"),
		"a table too few":   written(t, head, people, ""),
		"a table too many":  written(t, head, people, "", "7\n", "8\n"),
		"a row of 65 MB":    written(t, head, "1\t"+strings.Repeat("x", 65<<20)+"\n2\t\\N\n", "", "7\n"),
	} {
		_, err := read(file, 1<<30)
		assert.ErrorIs(t, err, backup.ErrNone, name)
	}
	_, err := read(whole, 100)
	assert.ErrorIs(t, err, backup.ErrNone, "more than may be unpacked")
	_, err = read(zipped(strings.Replace(text, `"version":1`, `"version":2`, 1)), 1<<20)
	assert.ErrorIs(t, err, backup.ErrNewer)
}

const dumped = `--
-- PostgreSQL database dump
--

\restrict IRZloszwuxrJj5fPTVeXgyneI53TMqTRNl7hcVoiaiQrrnzauQnxfzoHdg7CvI2

-- Dumped from database version 15.18 (Debian 15.18-0+deb12u1)

SET statement_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SELECT pg_catalog.set_config('search_path', '', false);

COPY public.goose_db_version (id, version_id, is_applied, tstamp) FROM stdin;
1	0	t	2026-12-02 09:23:20
2	9	t	2026-12-02 09:23:20
3	16	t	2026-12-02 09:23:20
4	17	f	2026-12-02 09:23:20
\.


COPY public.person (id, name, "position") FROM stdin;
1	M\ttab	1
\.

SELECT pg_catalog.setval('public.reading_id_seq', 2, true);

\unrestrict IRZloszwuxrJj5fPTVeXgyneI53TMqTRNl7hcVoiaiQrrnzauQnxfzoHdg7CvI2
`

func TestADumpIsReadAsRows(t *testing.T) {
	table, rows, err := backup.NewDump(strings.NewReader(dumped), 1<<20).Next()
	require.NoError(t, err)
	schema, err := backup.SchemaOf(table, rows)
	require.NoError(t, err)
	assert.Equal(t, int64(16), schema, "the last that was applied")

	d := backup.NewDump(strings.NewReader(dumped), 1<<20)
	_, _, err = d.Next()
	require.NoError(t, err)
	table, rows, err = d.Next()
	require.NoError(t, err)
	assert.Equal(t, []string{"id", "name", "position"}, table.Columns)
	text, err := io.ReadAll(rows)
	require.NoError(t, err)
	assert.Equal(t, "1\tM\\ttab\t1\n", string(text))
	_, _, err = d.Next()
	assert.Equal(t, io.EOF, err)
	_, err = all(backup.NewDump(strings.NewReader(dumped), 300))
	assert.ErrorIs(t, err, backup.ErrNone, "more than is read")
}

func TestADumpWithAnythingElseIsRefused(t *testing.T) {
	for _, line := range []string{
		`\! touch /tmp/x`, `\copy person from program 'id'`, `\i /etc/passwd`, `\restrict a; select 1`,
		`COPY public.person (id) FROM program 'id';`,
		`COPY public.person (id) FROM '/etc/passwd';`, `COPY public.person (id) FROM stdin; select 1;`,
		`COPY other.person (id) FROM stdin;`,
		`COPY public."person; drop table x" (id) FROM stdin;`, `COPY public.person (id, "a"" b") FROM stdin;`,
		`COPY public.person FROM stdin;`,
		`COPY public.person (id) TO PROGRAM 'id';`, `SELECT pg_catalog.setval('public.x', 2, true); drop table person;`,
		`SELECT lo_import('/etc/passwd');`,
		`SET session_authorization = 'umberfrost'; drop table person;`, `SET x = (select 1);`, `SET search_path = public, 'a; b';`,
		`DO $$ begin end $$;`, `CREATE EXTENSION dblink;`, `ALTER TABLE person ADD CHECK (evil());`, `drop table person; -- x`, ` -- x`,
	} {
		for _, text := range []string{line + "\n", dumped + line + "\n", strings.Replace(dumped, "\\.\n", "\\.\n"+line+"\n", 1)} {
			_, err := all(backup.NewDump(strings.NewReader(text), 1<<20))
			assert.ErrorIs(t, err, backup.ErrNone, line)
		}
	}
	for _, row := range []string{"1\tx", "1\tx\t1\t2", ""} {
		_, err := all(backup.NewDump(strings.NewReader(strings.Replace(dumped, "1\tM\\ttab\t1", row, 1)), 1<<20))
		assert.ErrorIs(t, err, backup.ErrNone, row)
	}
}

func TestWhatADumpListsIsKnown(t *testing.T) {
	ours := ";\n; Archive created at 2026-12-02\n\n" +
		"246; 1255 16608 FUNCTION public log_is_append_only() umberfrost\n238; 1259 16765 TABLE public change_kept umberfrost\n" +
		"3742; 0 0 SEQUENCE SET public forecast_snapshot_id_seq umberfrost\n3561; 2620 16609 TRIGGER public log_entry " +
		"log_entry_append_only umberfrost\n" +
		"3541; 2606 16625 FK CONSTRAINT public completion completion_entry_id_fkey umberfrost\n5; 2615 2200 SCHEMA - public umberfrost\n"
	require.NoError(t, backup.CheckList(strings.NewReader(ours)))
	for _, line := range []string{
		"2; 3079 16500 EXTENSION - dblink ", "246; 1255 16608 FUNCTION public evil() umberfrost",
		"3; 2620 1 TRIGGER public person evil umberfrost",
		"3; 3466 1 EVENT TRIGGER - evil umberfrost", "3; 1259 1 TABLE other person umberfrost",
		"3; 2618 1 RULE public person evil umberfrost",
		"3; 1259 1 VIEW public person umberfrost", "3; 2613 1 BLOB - 16500 umberfrost", "3; 1247 1 DOMAIN public evil umberfrost",
		"a line of another kind",
	} {
		assert.ErrorIs(t, backup.CheckList(strings.NewReader(ours+line+"\n")), backup.ErrNone, line)
	}
}

func FuzzReader(f *testing.F) {
	f.Add(written(f, head, people, "", "7\n"))
	f.Fuzz(func(t *testing.T, file []byte) {
		r, err := backup.NewReader(bytes.NewReader(file), 1<<20)
		if err != nil {
			return
		}
		list, err := all(r)
		if err != nil {
			return
		}
		var tables []string
		for i, rows := range list {
			tables = append(tables, strings.TrimPrefix(rows, r.Head.Tables[i].Name+": "))
		}
		again, err := read(written(t, r.Head, tables...), 1<<21)
		require.NoError(t, err, "what is read is what was written")
		assert.Equal(t, list, again)
	})
}

func FuzzDump(f *testing.F) {
	f.Add([]byte(dumped))
	f.Fuzz(func(t *testing.T, text []byte) {
		d := backup.NewDump(bytes.NewReader(text), 1<<20)
		for {
			table, rows, err := d.Next()
			if err != nil {
				return
			}
			for _, name := range append(table.Columns, table.Name) {
				assert.NotContains(t, name, `"`)
				assert.NotContains(t, name, " ")
			}
			list, err := io.ReadAll(rows)
			if err != nil {
				return
			}
			for row := range strings.Lines(string(list)) {
				assert.NotEqual(t, "\\.\n", row)
				assert.Equal(t, len(table.Columns)-1, strings.Count(row, "\t"))
			}
		}
	})
}
