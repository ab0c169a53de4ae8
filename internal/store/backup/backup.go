// Package backup reads and writes backups of a shop: the rows of its tables, as data. Nothing of a file is ever run:
// what a file says is a table's name, its columns and its rows, and each of them is held against what is known.
//
// A backup is gzip over lines of text. The first is a Head as JSON. Then come the rows of each of its tables, in its
// order, as PostgreSQL's COPY writes them, each list closed by a line \. of its own. The last line is a Foot as JSON,
// with the digest of all lines before it.
//
// Earlier versions of Umberfrost kept what pg_dump writes; Dump reads the text that pg_restore makes of that.
package backup

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"time"
)

// Name and Version stand at the head of every backup.
const (
	Name    = "umberfrost-backup"
	Version = 1
)

// MostBytes is how much a backup may unpack to: a shop of many busy years is a tenth of it.
const MostBytes = 8 << 30

const (
	mostRow = 64 << 20 // bytes of one row
	mostTop = 1 << 20  // bytes of the head, and of the foot
)

// Errors of a file that callers tell apart.
var (
	ErrNone  = errors.New("it is no backup of Umberfrost that can be read")
	ErrNewer = errors.New("it was made by a newer Umberfrost")
)

// Table is a table of a backup.
type Table struct {
	Name    string   `json:"name"`
	Columns []string `json:"columns"`
	Rows    int64    `json:"rows"`
}

// Head says what a backup holds.
type Head struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	Schema  int64     `json:"schema"` // number of the last migration
	Made    time.Time `json:"made"`
	Tables  []Table   `json:"tables"`
}

// Foot closes a backup.
type Foot struct {
	Digest string `json:"sha256"` // of all lines before it, in hexadecimal
}

// Rows are the tables of a file, one after the other.
type Rows interface {
	// Next gives a table and its rows, as text of COPY; what was not read of the one before is passed over. It fails
	// with io.EOF after the last one, when the file was whole, else with ErrNone and what is wrong.
	Next() (Table, io.Reader, error)
}

func wrong(format string, args ...any) error {
	return fmt.Errorf("%w: %s", ErrNone, fmt.Sprintf(format, args...))
}

// Writer writes a backup.
type Writer struct {
	zip    *gzip.Writer
	digest hash.Hash
	out    io.Writer // to both
}

// NewWriter begins a backup. The rows of each table of the head follow, in its order.
func NewWriter(to io.Writer, head Head) (*Writer, error) {
	head.Format, head.Version = Name, Version
	w := &Writer{zip: gzip.NewWriter(to), digest: sha256.New()}
	w.out = io.MultiWriter(w.zip, w.digest)
	return w, w.line(w.out, head)
}

func (w *Writer) line(to io.Writer, value any) error {
	data, err := json.Marshal(value)
	if err != nil {
		return err
	}
	_, err = to.Write(append(data, '\n'))
	return err
}

// Write writes rows of a table, as COPY gives them.
func (w *Writer) Write(rows []byte) (int, error) { return w.out.Write(rows) }

// EndTable ends the rows of a table.
func (w *Writer) EndTable() error {
	_, err := io.WriteString(w.out, endOfRows+"\n")
	return err
}

// Close ends the backup; it does not close what it was written to.
func (w *Writer) Close() error {
	if err := w.line(w.zip, Foot{hex.EncodeToString(w.digest.Sum(nil))}); err != nil {
		return err
	}
	return w.zip.Close()
}

// Reader reads a backup.
type Reader struct {
	Head Head

	lines  *lines
	digest hash.Hash
	at     int // of the head's tables
	rows   *rows
}

// Magic are the bytes that a backup of this format begins with.
var Magic = []byte{0x1f, 0x8b}

// NewReader reads the head of a backup. It fails with ErrNone or ErrNewer. No more than most bytes are unpacked.
func NewReader(from io.Reader, most int64) (*Reader, error) {
	zip, err := gzip.NewReader(from)
	if err != nil {
		return nil, wrong("%v", err)
	}
	r := &Reader{digest: sha256.New(), lines: newLines(Bounded(zip, most))}
	first, err := r.line(mostTop)
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(first, &r.Head); err != nil || r.Head.Format != Name {
		return nil, wrong("it does not say what it is")
	}
	if r.Head.Version > Version {
		return nil, fmt.Errorf("%w: its format is number %d, and this one knows %d", ErrNewer, r.Head.Version, Version)
	}
	return r, nil
}

// line reads a line, its end with it, and counts it into the digest.
func (r *Reader) line(most int) ([]byte, error) {
	text, err := r.lines.next(most)
	r.digest.Write(text)
	return text, err
}

// Next gives the next table of the head.
func (r *Reader) Next() (Table, io.Reader, error) {
	if err := r.rows.rest(); err != nil {
		return Table{}, nil, err
	}
	if r.rows != nil && r.rows.n != r.Head.Tables[r.at-1].Rows {
		return Table{}, nil, wrong("it says that %s has %d rows, and it has %d", r.Head.Tables[r.at-1].Name, r.Head.Tables[r.at-1].Rows,
			r.rows.n)
	}
	if r.at == len(r.Head.Tables) {
		r.rows = nil
		return Table{}, nil, r.end()
	}
	table := r.Head.Tables[r.at]
	r.at++
	r.rows = &rows{line: r.line, columns: len(table.Columns)}
	return table, r.rows, nil
}

// end reads the foot: io.EOF where the file is what was written.
func (r *Reader) end() error {
	digest := hex.EncodeToString(r.digest.Sum(nil))
	last, err := r.line(mostTop)
	if err != nil {
		return err
	}
	var foot Foot
	if err := json.Unmarshal(last, &foot); err != nil || foot.Digest != digest {
		return wrong("its digest is another: it was changed, or damaged")
	}
	if _, err := r.lines.from.ReadByte(); err != io.EOF {
		return wrong("something follows its end")
	}
	return io.EOF
}

// endOfRows is the line that ends the rows of a table.
const endOfRows = `\.`

// rows are those of one table: an io.Reader of whole lines.
type rows struct {
	line    func(most int) ([]byte, error)
	columns int
	n       int64
	left    []byte // of a line
	err     error
}

// Read reads rows. It fails with ErrNone at one that has not the columns of its table.
func (r *rows) Read(into []byte) (int, error) {
	if len(r.left) == 0 && r.err == nil {
		r.left, r.err = r.row()
	}
	if len(r.left) == 0 {
		return 0, r.err
	}
	n := copy(into, r.left)
	r.left = r.left[n:]
	return n, nil
}

// row is the next one; io.EOF behind the last.
func (r *rows) row() ([]byte, error) {
	text, err := r.line(mostRow)
	switch {
	case err != nil:
		return nil, err
	case string(bytes.TrimSuffix(text, []byte("\n"))) == endOfRows:
		return nil, io.EOF
	case bytes.Count(text, []byte("\t")) != max(0, r.columns-1):
		return nil, wrong("row %d has not the %d columns of its table", r.n+1, r.columns)
	}
	r.n++
	return text, nil
}

// rest reads over what was left.
func (r *rows) rest() error {
	if r == nil {
		return nil
	}
	_, err := io.Copy(io.Discard, r)
	return err
}

// lines reads line by line.
type lines struct {
	from *bufio.Reader
	text []byte // the last one
}

func newLines(from io.Reader) *lines { return &lines{from: bufio.NewReaderSize(from, 64<<10)} }

// next is the next line with its end, good until the one after it is read. It fails with ErrNone where there is none, it
// is longer than most bytes, or what it is read from is damaged.
func (l *lines) next(most int) ([]byte, error) {
	l.text = l.text[:0]
	for {
		part, err := l.from.ReadSlice('\n')
		if l.text = append(l.text, part...); len(l.text) > most {
			return nil, wrong("a line of it is longer than %d bytes", most)
		}
		switch {
		case err == nil:
			return l.text, nil
		case errors.Is(err, ErrNone):
			return nil, err
		case !errors.Is(err, bufio.ErrBufferFull):
			return nil, wrong("it breaks off: %v", err)
		}
	}
}

// Bounded gives no more than most bytes of what it reads from, and then fails with ErrNone.
func Bounded(from io.Reader, most int64) io.Reader { return &bounded{from, most} }

type bounded struct {
	from io.Reader
	left int64
}

func (b *bounded) Read(into []byte) (int, error) {
	if b.left <= 0 {
		return 0, wrong("it holds more than is read")
	}
	n, err := b.from.Read(into[:min(int64(len(into)), b.left)])
	b.left -= int64(n)
	return n, err
}
