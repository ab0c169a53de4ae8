package backup

import (
	"io"
	"regexp"
	"slices"
	"strings"
)

// DumpMagic are the bytes that pg_dump's custom format begins with.
var DumpMagic = []byte("PGDMP")

// VersionTable is where the number of the last migration stands in a dump.
const VersionTable = "goose_db_version"

// Dump reads the text that pg_restore makes of a dump's data: tables with their rows, between lines that it knows and
// passes over. Nothing else is accepted.
type Dump struct {
	lines *lines
	rows  *rows
}

// NewDump reads a text. No more than most bytes of it are read.
func NewDump(from io.Reader, most int64) *Dump { return &Dump{lines: newLines(Bounded(from, most))} }

var (
	copyLine = regexp.MustCompile(`^COPY public\.(\w+) \(((?:\w+|"\w+")(?:, (?:\w+|"\w+"))*)\) FROM stdin;$`)

	// passed are the lines beside rows: comments, and what tells a server how to read the rest.
	passed = regexp.MustCompile(`^(--.*|` +
		`SET [a-z_]+ = ('[\w ,-]*'|\w+);|` +
		`SELECT pg_catalog\.set_config\('search_path', '', false\);|` +
		`SELECT pg_catalog\.setval\('public\.\w+', \d+, (true|false)\);|` +
		`\\(un)?restrict \w+|)$`)
)

// Next gives the next table of the dump.
func (d *Dump) Next() (Table, io.Reader, error) {
	if err := d.rows.rest(); err != nil {
		return Table{}, nil, err
	}
	d.rows = nil
	for {
		if _, err := d.lines.from.Peek(1); err == io.EOF {
			return Table{}, nil, io.EOF
		}
		text, err := d.lines.next(mostTop)
		if err != nil {
			return Table{}, nil, err
		}
		line := strings.TrimSuffix(string(text), "\n")
		if found := copyLine.FindStringSubmatch(line); found != nil {
			table := Table{Name: found[1], Columns: strings.Split(strings.ReplaceAll(found[2], `"`, ""), ", ")}
			d.rows = &rows{line: d.lines.next, columns: len(table.Columns)}
			return table, d.rows, nil
		}
		if !passed.MatchString(line) {
			return Table{}, nil, wrong("it holds what is no row: %.80q", line)
		}
	}
}

// SchemaOf reads the number of the last migration out of the rows of VersionTable.
func SchemaOf(table Table, rows io.Reader) (int64, error) {
	number, applied := slices.Index(table.Columns, "version_id"), slices.Index(table.Columns, "is_applied")
	if table.Name != VersionTable || number < 0 || applied < 0 {
		return 0, wrong("it does not say how far its schema had come")
	}
	var last int64
	lines := newLines(rows)
	for {
		if _, err := lines.from.Peek(1); err == io.EOF {
			return last, nil
		}
		text, err := lines.next(mostTop)
		if err != nil {
			return 0, err
		}
		fields := strings.Split(strings.TrimSuffix(string(text), "\n"), "\t")
		n, ok := decimal(fields[number])
		if !ok {
			return 0, wrong("its schema has no number: %.20q", fields[number])
		}
		if fields[applied] == "t" {
			last = max(last, n)
		}
	}
}

func decimal(text string) (n int64, ok bool) {
	for _, digit := range text {
		if digit < '0' || digit > '9' || n > 1_000_000 {
			return 0, false
		}
		n = 10*n + int64(digit-'0')
	}
	return n, text != ""
}

// inList is a line of what pg_restore lists of a dump: number, two ids, kind, schema, name, owner.
var inList = regexp.MustCompile(`^\d+; \d+ \d+ (.+)$`)

// kinds are what the dumps of Umberfrost hold beside tables' rows: definitions, which are read over.
var kinds = regexp.MustCompile(`^(TABLE|SEQUENCE|SEQUENCE OWNED BY|DEFAULT|TABLE DATA|SEQUENCE SET|CONSTRAINT|INDEX|FK CONSTRAINT) public |` +
	`^(SCHEMA|COMMENT|ACL|ENCODING|STDSTRINGS|SEARCHPATH) |` +
	`^FUNCTION public log_is_append_only\(\) |^TRIGGER public log_entry log_entry_append_only `)

// CheckList refuses a dump that holds anything which no dump of Umberfrost holds, by pg_restore's list of it. Nothing
// of what is in there is ever run; that it is there says that the file is none of ours.
func CheckList(list io.Reader) error {
	lines := newLines(list)
	for {
		if _, err := lines.from.Peek(1); err == io.EOF {
			return nil
		}
		text, err := lines.next(mostTop)
		if err != nil {
			return err
		}
		line := strings.TrimSuffix(string(text), "\n")
		if strings.HasPrefix(line, ";") || line == "" {
			continue
		}
		if found := inList.FindStringSubmatch(line); found == nil || !kinds.MatchString(found[1]) {
			return wrong("no backup holds such a thing: %.80q", line)
		}
	}
}
