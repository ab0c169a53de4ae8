package formats

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"iter"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// A schedule file of any size: its log and its snapshots, which grow with every year, go out and come in one by one.
// The rest of it, the head, is what a shop is like, and is held whole.

// WriteStream writes a schedule file: the bytes that Write writes of the same.
func WriteStream(to io.Writer, head *File, log iter.Seq2[Entry, error], snapshots iter.Seq2[Snapshot, error]) error {
	begin, end := *head, &bytes.Buffer{}
	begin.Log, begin.Factors, begin.Snapshots = nil, nil, nil
	if err := Write(end, &begin); err != nil {
		return err
	}
	const close = "\n}\n"
	if _, err := to.Write(bytes.TrimSuffix(end.Bytes(), []byte(close))); err != nil {
		return err
	}
	if err := writeList(to, "log", log); err != nil {
		return err
	}
	if len(head.Factors) > 0 {
		if _, err := io.WriteString(to, ",\n  \"factors\": "); err != nil {
			return err
		}
		if err := writeIndented(to, head.Factors, "  "); err != nil {
			return err
		}
	}
	if err := writeList(to, "snapshots", snapshots); err != nil {
		return err
	}
	_, err := io.WriteString(to, close)
	return err
}

// writeList writes a list as a field of the file; none where it is empty.
func writeList[T any](to io.Writer, name string, list iter.Seq2[T, error]) error {
	between := fmt.Sprintf(",\n  %q: [\n    ", name)
	some := false
	for one, err := range list {
		if err != nil {
			return err
		}
		if _, err := io.WriteString(to, between); err != nil {
			return err
		}
		if err := writeIndented(to, one, "    "); err != nil {
			return err
		}
		between, some = ",\n    ", true
	}
	if !some {
		return nil
	}
	_, err := io.WriteString(to, "\n  ]")
	return err
}

func writeIndented(to io.Writer, value any, prefix string) error {
	var text bytes.Buffer
	encoder := json.NewEncoder(&text)
	encoder.SetIndent(prefix, "  ")
	encoder.SetEscapeHTML(false)
	if err := encoder.Encode(value); err != nil {
		return err
	}
	_, err := to.Write(bytes.TrimSuffix(text.Bytes(), []byte("\n")))
	return err
}

// Stream is a schedule file that is read as it is needed.
type Stream struct {
	Head *File // without log and snapshots

	from    io.ReadSeeker
	lists   map[string]int64 // where the value of each list begins
	checker checker
}

// streamed are the lists that are not part of a head.
var streamed = map[string]bool{"log": true, "snapshots": true}

// ErrEarlier says that a file is of a version that is read as a whole only: the shops of that time were small.
var ErrEarlier = errors.New("a schedule file of an earlier version is read as a whole")

// ReadStream reads the head of a schedule file. It fails as Read does, and with ErrEarlier; what is wrong with an
// entry is told when it is come to.
func ReadStream(from io.ReadSeeker) (*Stream, error) {
	s := &Stream{from: from, lists: make(map[string]int64)}
	head, err := s.split()
	if err != nil {
		return nil, invalid("", "it is not JSON: %v", err)
	}
	if document, err := jsonschema.UnmarshalJSON(bytes.NewReader(head)); err == nil && versionOf(document) < 3 {
		return nil, ErrEarlier
	}
	if s.Head, err = read(head); err != nil {
		return nil, err
	}
	s.checker = newChecker()
	s.checker.all(s.Head)
	return s, nil
}

// split reads a file once: its head, and where its lists begin.
func (s *Stream) split() ([]byte, error) {
	decoder := json.NewDecoder(s.from)
	if open, err := decoder.Token(); err != nil || open != json.Delim('{') {
		return nil, errors.Join(err, errors.New("it begins with {"))
	}
	head := make(map[string]json.RawMessage)
	for decoder.More() {
		token, err := decoder.Token()
		if err != nil {
			return nil, err
		}
		key, _ := token.(string)
		if !streamed[key] {
			var value json.RawMessage
			if err := decoder.Decode(&value); err != nil {
				return nil, err
			}
			head[key] = value
			continue
		}
		s.lists[key] = decoder.InputOffset() // behind the key: the colon comes next
		if err := skip(decoder); err != nil {
			return nil, err
		}
	}
	if _, err := decoder.Token(); err != nil {
		return nil, err
	}
	return json.Marshal(head)
}

// skip reads over a value, a token at a time.
func skip(decoder *json.Decoder) error {
	for depth := 0; ; {
		token, err := decoder.Token()
		if err != nil {
			return err
		}
		switch token {
		case json.Delim('{'), json.Delim('['):
			depth++
		case json.Delim('}'), json.Delim(']'):
			depth--
		}
		if depth == 0 {
			return nil
		}
	}
}

// Log reads the entries, each as the published schema and the rules of the job want it.
func (s *Stream) Log() iter.Seq2[Entry, error] {
	return eachOf(s, "log", "entry", func(path string, e *Entry) { s.checker.entry(path, e) })
}

// Snapshots reads what each change did to a forecast.
func (s *Stream) Snapshots() iter.Seq2[Snapshot, error] {
	return eachOf(s, "snapshots", "snapshot", func(string, *Snapshot) {})
}

func eachOf[T any](s *Stream, list, definition string, check func(string, *T)) iter.Seq2[T, error] {
	return func(yield func(T, error) bool) {
		begins, there := s.lists[list]
		if !there {
			return
		}
		var none T
		schema, err := definitionOf(definition)
		if err == nil {
			_, err = s.from.Seek(begins, io.SeekStart)
		}
		if err != nil {
			yield(none, err)
			return
		}
		decoder := json.NewDecoder(&afterColon{s.from, false})
		if open, err := decoder.Token(); err != nil || open != json.Delim('[') {
			yield(none, invalid("/"+list, "it is a list"))
			return
		}
		for i := 0; decoder.More(); i++ {
			one, err := oneOf[T](decoder, schema, fmt.Sprintf("/%s/%d", list, i))
			if err == nil {
				check(fmt.Sprintf("/%s/%d", list, i), &one)
				if len(s.checker.faults) > 0 {
					err = &Invalid{s.checker.faults}
				}
			}
			if !yield(one, err) || err != nil {
				return
			}
		}
	}
}

func oneOf[T any](decoder *json.Decoder, schema *jsonschema.Schema, path string) (one T, err error) {
	var text json.RawMessage
	if err := decoder.Decode(&text); err != nil {
		return one, invalid(path, "it is not JSON: %v", err)
	}
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return one, invalid(path, "it is not JSON: %v", err)
	}
	if err := schema.Validate(document); err != nil {
		var wrong *jsonschema.ValidationError
		if !errors.As(err, &wrong) {
			return one, err
		}
		faults := leaves(wrong)
		for i := range faults {
			faults[i].Path = path + faults[i].Path
		}
		return one, &Invalid{faults}
	}
	if err := json.Unmarshal(text, &one); err != nil {
		return one, invalid(path, "%v", err)
	}
	return one, nil
}

// afterColon reads on behind the colon that stands before a value.
type afterColon struct {
	from   io.Reader
	passed bool
}

func (a *afterColon) Read(into []byte) (int, error) {
	n, err := a.from.Read(into)
	if !a.passed && n > 0 {
		a.passed = true
		if trimmed := bytes.TrimLeft(into[:n], " \t\r\n:"); len(trimmed) < n {
			n = copy(into, trimmed)
		}
	}
	return n, err
}
