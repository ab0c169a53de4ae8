package changes

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
)

// entryField is a field that entries of some kinds have.
type entryField struct {
	name  string
	said  func(*Entry) bool
	clear func(*Entry)
}

// entryFields are the fields that say something in entries of some kinds only.
var entryFields = []entryField{
	{"stepId", func(e *Entry) bool { return e.StepID != uuid.Nil }, func(e *Entry) { e.StepID = uuid.Nil }},
	{"coat", func(e *Entry) bool { return e.Coat != 0 }, func(e *Entry) { e.Coat = 0 }},
	{"pieceId", func(e *Entry) bool { return e.PieceID != uuid.Nil }, func(e *Entry) { e.PieceID = uuid.Nil }},
	{"placeId", func(e *Entry) bool { return e.PlaceID != uuid.Nil }, func(e *Entry) { e.PlaceID = uuid.Nil }},
	{"milestone", func(e *Entry) bool { return e.Milestone != "" }, func(e *Entry) { e.Milestone = "" }},
	{"passed", func(e *Entry) bool { return e.Passed != nil }, func(e *Entry) { e.Passed = nil }},
	{"voids", func(e *Entry) bool { return e.Voids != uuid.Nil }, func(e *Entry) { e.Voids = uuid.Nil }},
	{"minutes", func(e *Entry) bool { return e.Minutes != nil }, func(e *Entry) { e.Minutes = nil }},
	{"caughtUp", func(e *Entry) bool { return e.CaughtUp }, func(e *Entry) { e.CaughtUp = false }},
	{"actual", func(e *Entry) bool { return e.Actual != nil }, func(e *Entry) { e.Actual = nil }},
	{"along", func(e *Entry) bool { return len(e.Along) > 0 }, func(e *Entry) { e.Along = nil }},
	{"correctsId", func(e *Entry) bool { return e.Corrects != uuid.Nil }, func(e *Entry) { e.Corrects = uuid.Nil }},
	{"timer", func(e *Entry) bool { return e.Timer != nil }, func(e *Entry) { e.Timer = nil }},
	{"stopsId", func(e *Entry) bool { return e.Stops != uuid.Nil }, func(e *Entry) { e.Stops = uuid.Nil }},
}

// ownFields is an entry with the fields of its kind only, and a flag where there were others. One that was made just now
// by somebody who could know better is refused instead, naming each.
func (in Entry) ownFields() (own Entry, flags []string, err error) {
	var faults []recipe.Fault
	kind := entryKinds[in.Kind]
	for _, field := range entryFields {
		if !field.said(&in) || slices.Contains(kind.fields(), field.name) {
			continue
		}
		faults = append(faults, recipe.Fault{Path: field.name, Message: "does not belong to an entry of the kind " + in.Kind +
			"; leave it out"})
		field.clear(&in)
	}
	switch {
	case len(faults) == 0:
		return in, nil, nil
	case in.Late || in.Older:
		return in, []string{ignored}, nil
	}
	return in, nil, &refuse.Invalid{Faults: faults}
}
