package job

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Kinds of log entry.
const (
	Done    = "done"
	Skipped = "skipped" // left out on purpose, with a reason
	Failed  = "failed"  // a check that did not pass
	Note    = "note"
	Void    = "void"    // strikes another entry
	Moved   = "moved"   // a piece was carried to another place
	Tested  = "tested"  // a film was tested for a milestone
	Settled = "settled" // a step done in rounds has come to its end; coat says after how many
	Timed   = "timed"   // a timer was started
	Stopped = "stopped" // a timer was stopped: it had rung, or was not needed
)

// Duplicate flags an entry that came late for an event that another had completed.
const Duplicate = "duplicate"

// Entry is one line of the append-only log.
type Entry struct {
	ID         uuid.UUID          `json:"id" db:"id"`
	Kind       string             `json:"kind" db:"kind"`
	Instrument uuid.UUID          `json:"instrument" db:"instrument_id"`
	Step       *uuid.UUID         `json:"step,omitempty" db:"step_id"`
	Coat       *int               `json:"coat,omitempty" db:"coat"`
	Piece      *uuid.UUID         `json:"piece,omitempty" db:"piece_id"`
	Place      *uuid.UUID         `json:"place,omitempty" db:"place_id"`
	Milestone  material.Milestone `json:"milestone,omitempty" db:"milestone"`
	Passed     *bool              `json:"passed,omitempty" db:"passed"`
	Voids      *uuid.UUID         `json:"voids,omitempty" db:"voids"`
	HappenedAt time.Time          `json:"happenedAt" db:"happened_at"`
	RecordedAt time.Time          `json:"recordedAt,omitzero" db:"recorded_at"`
	Person     uuid.UUID          `json:"person,omitzero" db:"person_id"`
	Device     uuid.UUID          `json:"device,omitzero" db:"device_id"`
	DeviceSeq  int64              `json:"deviceSeq,omitempty" db:"device_seq"`
	Minutes    *int               `json:"minutes,omitempty" db:"minutes"`
	Note       string             `json:"note,omitempty" db:"note"`
	Flags      []string           `json:"flags,omitempty" db:"-"`
	Figures    *material.Figures  `json:"figures,omitempty" db:"-"`          // what its product's figures were
	Planned    *Planned           `json:"planned,omitempty" db:"-"`          // what its step was to be
	Actual     *Actual            `json:"actual,omitempty" db:"-"`           // what was true of it
	Timer      *Timer             `json:"timer,omitempty" db:"-"`            // of timed
	Stops      *uuid.UUID         `json:"stops,omitempty" db:"stops"`        // of stopped: the entry that started the timer
	Corrects   *uuid.UUID         `json:"corrects,omitempty" db:"corrects"`  // the entry that it was struck for
	Sitting    *uuid.UUID         `json:"sitting,omitempty" db:"sitting_id"` // in which it was logged
	Entered    *Entered           `json:"entered,omitempty" db:"-"`          // on which paired device; nil: on the shop's own machine
}

// Entered is the paired device on which an entry was made, and who was on it: not always who has worked.
type Entered struct {
	Pairing uuid.UUID `json:"pairing"`
	Device  string    `json:"device"` // as it was called then
	Person  uuid.UUID `json:"person"`
}

// Planned is what a step was to be when an entry about it was made: what is planned may become another
// thing later, what was done does not.
type Planned struct {
	Title   string          `json:"title"` // of the event, as people read it
	Coats   int             `json:"coats,omitempty"`
	Family  string          `json:"family,omitempty"`
	Product *uuid.UUID      `json:"product,omitempty"`
	Method  material.Method `json:"method,omitempty"`
	Minutes unit.Minutes    `json:"minutes,omitempty"` // of one coat
	Ladder  []string        `json:"ladder,omitempty"`
	Where   []string        `json:"where,omitempty"` // its regions by name; none: all of its piece
}

// Event is the event that an entry speaks of; none where it speaks of no step.
func (e *Entry) Event() Event {
	if e.Step == nil || e.Coat == nil {
		return Event{}
	}
	return Event{Step: *e.Step, Coat: *e.Coat}
}

// entryKind is what a kind of entry says of its event or its piece, and what it needs to say it.
type entryKind struct {
	completes bool     // it ends its event
	states    bool     // it says something that is so beside what is completed
	needs     []string // fields that it has, by their names in JSON
}

// entryKinds are all of them.
var entryKinds = map[string]entryKind{
	Done:    {completes: true, needs: []string{"step", "coat"}},
	Skipped: {completes: true, needs: []string{"step", "coat"}},
	Failed:  {needs: []string{"step", "coat"}},
	Note:    {},
	Void:    {needs: []string{"voids"}},
	Moved:   {states: true, needs: []string{"piece", "place"}},
	Tested:  {states: true, needs: []string{"milestone", "passed", "step", "coat"}},
	Settled: {states: true, needs: []string{"step", "coat"}},
	Timed:   {needs: []string{"timer", "step", "coat"}},
	Stopped: {needs: []string{"stops"}},
}

// EntryKinds lists the kinds of entry, by name.
func EntryKinds() []string { return slices.Sorted(maps.Keys(entryKinds)) }

// Lacks lists the fields, by their names in JSON, that an entry of its kind needs and does not have.
func (e *Entry) Lacks() []string {
	has := map[string]bool{"step": e.Step != nil, "coat": e.Coat != nil, "voids": e.Voids != nil, "piece": e.Piece != nil,
		"place": e.Place != nil, "milestone": e.Milestone != "", "passed": e.Passed != nil,
		"timer": e.Timer != nil, "stops": e.Stops != nil}
	var lacks []string
	for _, field := range entryKinds[e.Kind].needs {
		if !has[field] {
			lacks = append(lacks, field)
		}
	}
	return lacks
}

// Completes reports whether an entry ends its event.
func (e *Entry) Completes() bool { return entryKinds[e.Kind].completes }

func (e *Entry) states() bool { return entryKinds[e.Kind].states }

// Used is the product that an entry says was used instead of the planned one; nil where it names none.
func (e *Entry) Used() *uuid.UUID {
	if e.Actual == nil {
		return nil
	}
	return e.Actual.Product
}

// Compare puts entries in the order of the log: when it happened, when it was recorded, by id.
func (e *Entry) Compare(other *Entry) int {
	return cmp.Or(e.HappenedAt.Compare(other.HappenedAt), e.RecordedAt.Compare(other.RecordedAt), slices.Compare(e.ID[:], other.ID[:]))
}

// twin reports whether an entry came late for an event that another had completed.
func (e *Entry) twin() bool { return slices.Contains(e.Flags, Duplicate) }
