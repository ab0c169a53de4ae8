package refuse

import "github.com/google/uuid"

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
