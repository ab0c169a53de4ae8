// Package refuse is how a use case says no: an input that cannot be accepted, by its field; a log entry that somebody
// is asked about first; something that somebody else has taken or changed before. Nothing is saved then.
package refuse

import (
	"errors"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/store"
)

// Errors of the database that a caller of the use cases tells apart.
var (
	ErrNotFound    = store.ErrNotFound    // an id that does not exist
	ErrRefused     = store.ErrRefused     // what no check before the database has seen; nothing was saved
	ErrUnavailable = store.ErrUnavailable // the database does not answer; nothing was saved
	ErrSlow        = store.ErrSlow        // another change is taking long; nothing was saved
)

// Full says of what the database has no more; it is ErrUnavailable too.
type Full = store.Full

// Invalid says which parts of an input cannot be accepted and what would be.
type Invalid struct {
	Faults []recipe.Fault
}

func (e *Invalid) Error() string {
	texts := make([]string, len(e.Faults))
	for i, f := range e.Faults {
		texts[i] = f.Path + ": " + f.Message
	}
	return strings.Join(texts, "; ")
}

func Field(path, message string, value any) *Invalid {
	return &Invalid{[]recipe.Fault{{Path: path, Message: message, Value: value}}}
}

// Doubtful says that a live log entry looks wrong. It has not been kept; it is
// when it comes again with these doubts confirmed.
type Doubtful struct {
	Doubts []Doubt
}

// Doubt is one reason to ask.
type Doubt struct {
	Code    string // out-of-order, too-soon or future
	Message string
}

func (e *Doubtful) Error() string {
	texts := make([]string, len(e.Doubts))
	for i, d := range e.Doubts {
		texts[i] = d.Message
	}
	return strings.Join(texts, " ")
}

// Taken says that somebody else was first.
type Taken struct {
	Message string
	Clashes []Clash // steps with both versions, where there are two to choose from
}

func (e *Taken) Error() string { return e.Message }

// Missing says that an id does not exist.
func Missing(what string, id any) error {
	return fmt.Errorf("%w: there is no %s %v", store.ErrNotFound, what, id)
}

// Clash is a step that somebody else has changed since it was seen.
type Clash struct {
	Change  int       `json:"change" doc:"which of the changes asked for, counted from 0"`
	StepID  uuid.UUID `json:"stepId"`
	Title   string    `json:"title"`
	Version int       `json:"version" doc:"as it is now; an edit that names it is made on top of it"`
	Theirs  []Fact    `json:"theirs" doc:"as it is now"`
	Mine    []Fact    `json:"mine" doc:"as it would be with the change on top; empty where it cannot be any more"`
}

// Fact is one thing that is said of a step.
type Fact struct {
	Label string `json:"label"`
	Text  string `json:"text"`
}

// Within puts the path of a part before those of its faults.
func Within(path string, err error) error {
	bad, ok := err.(*Invalid)
	if !ok {
		return err
	}
	for i := range bad.Faults {
		bad.Faults[i].Path = path + bad.Faults[i].Path
	}
	return bad
}

// FaultAt names the field of a fault of the core where it stands in a request.
func FaultAt(path string, err error) error {
	var wrong *edit.Fault
	if errors.As(err, &wrong) {
		return Field(path+"."+wrong.Field, wrong.Message, nil)
	}
	return err
}
