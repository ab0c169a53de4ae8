package formats

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"iter"

	"umberfrost/internal/craft/job"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// A schedule file of any size: its log and its snapshots, which grow with every year, go out and come in one by one.
// The rest of it, the head, is what a shop is like, and is held whole.

// WriteStream writes a schedule file: the bytes that Write writes of the same.
func WriteStream(to io.Writer, head *File, log iter.Seq2[job.Entry, error], snapshots iter.Seq2[job.ForecastChange, error]) error {
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

	ctx     context.Context
	from    io.ReaderAt
	found   *scanned
	earlier *File // of an earlier version, which is read as a whole
	checker checker
}

// ReadStream reads the head of a schedule file of this version or an earlier one, of so many bytes. It fails with
// *Invalid, naming each place and what would be accepted, on anything that the published schema or the rules of the job
// refuse, at the first hundred of them, and when the context ends. What is wrong with an entry of the log is told when
// it is come to.
func ReadStream(ctx context.Context, from io.ReaderAt, size int64) (*Stream, error) {
	s, err := readHead(ctx, from, size)
	if err != nil {
		return nil, err
	}
	if len(s.checker.faults) > 0 {
		return nil, &Invalid{s.checker.faults}
	}
	return s, s.Head.plannable()
}

// ReadWhole reads a schedule file as ReadStream does, and all of it.
func ReadWhole(ctx context.Context, from io.ReaderAt, size int64) (*File, error) {
	s, err := readHead(ctx, from, size)
	if err != nil {
		return nil, err
	}
	file, err := s.all()
	if err != nil {
		return nil, err
	}
	return file, file.plannable()
}

// readHead reads a head and gathers what the rules of the job refuse of it.
func readHead(ctx context.Context, from io.ReaderAt, size int64) (*Stream, error) {
	s := &Stream{ctx: ctx, from: from, checker: newChecker()}
	var err error
	if s.found, err = scan(ctx, io.NewSectionReader(from, 0, size)); err != nil {
		return nil, err
	}
	switch version := s.found.version; {
	case version > Version:
		return nil, invalid("/version", "it is of version %d, written by a newer Umberfrost; this one reads up to version %d", version,
			Version)
	case version == 1 || version == 2:
		err = s.readEarlier(size)
	default:
		err = s.fillHead(size)
	}
	if err != nil {
		return nil, err
	}
	s.checker.all(s.Head)
	return s, nil
}

// version is that of the schema by which a file is judged.
func (s *Stream) version() int {
	if s.found.version < 1 {
		return Version
	}
	return s.found.version
}

// fillHead reads all but the log and the snapshots.
func (s *Stream) fillHead(size int64) error {
	head, err := headOf(s.from, size, s.found)
	if err != nil {
		return err
	}
	if err := validate(s.version(), head); err != nil {
		return err
	}
	s.Head = &File{}
	if err := unmarshal(head, s.Head); err != nil {
		return err
	}
	faults := &faultsOf{}
	for _, err := range []error{
		into(s, faults, "/products", &s.Head.Products), into(s, faults, "/recipes", &s.Head.Recipes),
		into(s, faults, "/instruments", &s.Head.Instruments),
		into(s, faults, "/order", &s.Head.Order), into(s, faults, "/pins", &s.Head.Pins), into(s, faults, "/begun", &s.Head.Begun),
		into(s, faults, "/sittings", &s.Head.Sittings), into(s, faults, "/shop/readings", &s.Head.Shop.Readings),
	} {
		if err != nil {
			return err
		}
	}
	return faults.err()
}

// readEarlier reads a file of an earlier version as a whole.
func (s *Stream) readEarlier(size int64) error {
	head, err := headOf(s.from, size, s.found)
	if err != nil {
		return err
	}
	if err := validate(s.version(), head); err != nil {
		return err
	}
	faults := &faultsOf{}
	for list := range s.found.lists {
		for _, err := range itemsOf[json.RawMessage](s, list, faults) {
			if err != nil {
				return err
			}
		}
	}
	if err := faults.err(); err != nil {
		return err
	}
	document, err := jsonschema.UnmarshalJSON(io.NewSectionReader(s.from, 0, size))
	if err != nil {
		return invalid("", "it is not JSON: %v", err)
	}
	if s.found.version == 1 {
		document = fromVersion1(document)
	}
	if document, err = fromVersion2(document); err != nil {
		return invalid("", "%v", err)
	}
	data, err := json.Marshal(document)
	if err != nil {
		return err
	}
	s.earlier = &File{}
	if err := unmarshal(data, s.earlier); err != nil {
		return err
	}
	begins := *s.earlier
	begins.Log, begins.Snapshots = nil, nil
	s.Head = &begins
	return nil
}

// Log reads the entries, each as the published schema and the rules of the job want it.
func (s *Stream) Log() iter.Seq2[job.Entry, error] {
	if s.earlier != nil {
		return checked(s, "log", each(s.earlier.Log), s.checker.entry)
	}
	return checked(s, "log", itemsOf[job.Entry](s, "/log", nil), s.checker.entry)
}

// Snapshots reads what each change did to a forecast.
func (s *Stream) Snapshots() iter.Seq2[job.ForecastChange, error] {
	if s.earlier != nil {
		return each(s.earlier.Snapshots)
	}
	return itemsOf[job.ForecastChange](s, "/snapshots", nil)
}

// all reads the rest of a file. It fails with what is wrong with any of it, as far as is told at a time.
func (s *Stream) all() (*File, error) {
	file := *s.Head
	if s.earlier != nil {
		file.Log, file.Snapshots = s.earlier.Log, s.earlier.Snapshots
	} else {
		faults := &faultsOf{}
		for _, err := range []error{into(s, faults, "/log", &file.Log), into(s, faults, "/snapshots", &file.Snapshots), faults.err()} {
			if err != nil {
				return nil, err
			}
		}
	}
	for i := range file.Log {
		s.checker.entry(fmt.Sprintf("/log/%d", i), &file.Log[i])
	}
	if len(s.checker.faults) > 0 {
		return nil, &Invalid{s.checker.faults}
	}
	return &file, nil
}

func each[T any](list []T) iter.Seq2[T, error] {
	return func(yield func(T, error) bool) {
		for _, one := range list {
			if !yield(one, nil) {
				return
			}
		}
	}
}

// checked looks at each item of a list, and ends at the first that is wrong.
func checked[T any](s *Stream, name string, list iter.Seq2[T, error], check func(path string, one *T)) iter.Seq2[T, error] {
	return func(yield func(T, error) bool) {
		n := 0
		for one, err := range list {
			if err == nil {
				check(fmt.Sprintf("/%s/%d", name, n), &one)
				if len(s.checker.faults) > 0 {
					err = &Invalid{s.checker.faults}
				}
			}
			n++
			if !yield(one, err) || err != nil {
				return
			}
		}
	}
}

// into reads a long list of a head.
func into[T any](s *Stream, faults *faultsOf, list string, items *[]T) error {
	for one, err := range itemsOf[T](s, list, faults) {
		if err != nil {
			return err
		}
		*items = append(*items, one)
	}
	return nil
}

// faultsOf are what is wrong with a file, as far as is told at a time.
type faultsOf struct{ list []Fault }

func (f *faultsOf) add(err error) error {
	var wrong *Invalid
	if !errors.As(err, &wrong) {
		return err
	}
	f.list = append(f.list, wrong.Faults...)
	if len(f.list) >= mostFaults {
		return &Invalid{f.list[:mostFaults]}
	}
	return nil
}

func (f *faultsOf) err() error {
	if len(f.list) == 0 {
		return nil
	}
	return &Invalid{f.list}
}

// itemsOf gives the items of a long list, each as the published schema wants it. What is wrong is gathered, until it is
// enough; where there is nothing to gather it in, it ends at the first.
func itemsOf[T any](s *Stream, list string, faults *faultsOf) iter.Seq2[T, error] {
	return func(yield func(T, error) bool) {
		var none T
		at, there := s.found.lists[list]
		if !there {
			return
		}
		schema, err := itemSchema(s.version(), list)
		if err != nil {
			yield(none, fmt.Errorf("the published schema: %w", err))
			return
		}
		decoder := json.NewDecoder(io.NewSectionReader(s.from, at.from, at.to-at.from))
		if _, err := decoder.Token(); err != nil { // it is a list: so it was when it was looked over
			yield(none, err)
			return
		}
		for n := 0; decoder.More(); n++ {
			one, err := oneOf[T](decoder, schema, fmt.Sprintf("%s/%d", list, n))
			if n%100 == 0 && s.ctx.Err() != nil {
				err = s.ctx.Err()
			}
			if wrong := new(Invalid); err != nil && faults != nil && errors.As(err, &wrong) {
				if err = faults.add(err); err == nil {
					continue
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
	if err := faultsBy(schema.Validate(document), path); err != nil {
		return one, err
	}
	if err := unmarshal(text, &one); err != nil {
		var wrong *Invalid
		if errors.As(err, &wrong) {
			wrong.Faults[0].Path = path + wrong.Faults[0].Path
		}
		return one, err
	}
	return one, nil
}
