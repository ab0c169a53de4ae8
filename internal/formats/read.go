package formats

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	published "umberfrost/docs/formats"
)

// MaxBytes is the largest file that is read: a shop of many years.
const MaxBytes = 64 << 20

// Fault is one thing in a file that cannot be accepted: where, as a JSON pointer,
// and what would be.
type Fault struct {
	Path    string
	Message string
}

// Invalid is all that is wrong with a file.
type Invalid struct{ Faults []Fault }

func (e *Invalid) Error() string {
	lines := make([]string, len(e.Faults))
	for i, f := range e.Faults {
		lines[i] = strings.TrimPrefix(f.Path+": "+f.Message, ": ") // of the whole file there is no place
	}
	return strings.Join(lines, "\n")
}

func invalid(path, format string, args ...any) *Invalid {
	return &Invalid{[]Fault{{path, fmt.Sprintf(format, args...)}}}
}

// schemas are those of each version, the first one first.
var schemas = [Version]func() (*jsonschema.Schema, error){
	schemaOf("schedule-1.schema.json", published.ScheduleSchema1),
	schemaOf("schedule-2.schema.json", published.ScheduleSchema2),
	schemaOf("schedule-3.schema.json", published.ScheduleSchema3),
	schemaOf("schedule-4.schema.json", published.ScheduleSchema),
}

func schemaOf(name string, data []byte) func() (*jsonschema.Schema, error) {
	return sync.OnceValues(func() (*jsonschema.Schema, error) {
		compiler, err := compilerOf(name, data)
		if err != nil {
			return nil, err
		}
		return compiler.Compile(name)
	})
}

func compilerOf(name string, data []byte) (*jsonschema.Compiler, error) {
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	return compiler, compiler.AddResource(name, document)
}

// Read reads a schedule file of this version or an earlier one. It fails with *Invalid, naming each place and what
// would be accepted, on anything that the published schema or the rules of the job
// refuse; a file that is read can be planned.
func Read(from io.Reader) (*File, error) {
	data, err := io.ReadAll(io.LimitReader(from, MaxBytes+1))
	if err != nil {
		return nil, err
	}
	if len(data) > MaxBytes {
		return nil, invalid("", "the file is larger than %d MiB", MaxBytes>>20)
	}
	return ReadWhole(context.Background(), bytes.NewReader(data), int64(len(data)))
}

// validate fails with *Invalid where the schema of a version does not accept a document.
func validate(version int, data []byte) error {
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return invalid("", "it is not JSON: %v", err)
	}
	s, err := schemas[version-1]()
	if err != nil {
		return fmt.Errorf("the published schema: %w", err)
	}
	return faultsBy(s.Validate(document), "")
}

// faultsBy are the places below a path that a schema refuses.
func faultsBy(err error, path string) error {
	var wrong *jsonschema.ValidationError
	if !errors.As(err, &wrong) {
		return err
	}
	faults := leaves(wrong)
	faults = faults[:min(len(faults), mostFaults)]
	for i := range faults {
		faults[i].Path = path + faults[i].Path
	}
	return &Invalid{faults}
}

// unmarshal reads JSON that a schema has accepted. What Go's types refuse all the same is told by its field.
func unmarshal(data []byte, into any) error {
	err := json.Unmarshal(data, into)
	var kind *json.UnmarshalTypeError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &kind):
		return invalid("/"+strings.ReplaceAll(kind.Field, ".", "/"), "what stands here (%s) is of another kind, or out of range",
			kind.Value)
	}
	return invalid("", "some of it cannot be read: %s", strings.TrimPrefix(err.Error(), "json: "))
}

// mostFaults is how many faults of a file are said at a time.
const mostFaults = 100

var english = message.NewPrinter(language.English)

// leaves are the places that are wrong themselves, not those that hold them.
func leaves(e *jsonschema.ValidationError) []Fault {
	if len(e.Causes) == 0 {
		return []Fault{{"/" + strings.Join(e.InstanceLocation, "/"), e.ErrorKind.LocalizedString(english)}}
	}
	var list []Fault
	for _, cause := range e.Causes {
		if list = append(list, leaves(cause)...); len(list) >= mostFaults {
			break
		}
	}
	return list
}

// Write writes a schedule file, indented, for people to read as well.
func Write(to io.Writer, file *File) error {
	file.Format, file.Version = Name, Version
	encoder := json.NewEncoder(to)
	encoder.SetIndent("", "  ")
	encoder.SetEscapeHTML(false)
	return encoder.Encode(file)
}
