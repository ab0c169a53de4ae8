package job

import (
	"time"

	"github.com/google/uuid"
)

// Pin fixes an event to a time.
type Pin struct {
	Event
	At     time.Time  `json:"at" db:"at"`
	Person *uuid.UUID `json:"person,omitempty" db:"person_id"` // who decided it
	MadeAt time.Time  `json:"madeAt,omitzero" db:"made_at"`
}

// Begun is an event that somebody is at.
type Begun struct {
	Event
	At time.Time `json:"at"` // since when
}

// ForecastChange is what a change of the shop did to the forecast of one instrument.
type ForecastChange struct {
	Revision     int64      `json:"revision" db:"revision"` // that the change made
	At           time.Time  `json:"at" db:"at"`
	Cause        string     `json:"cause" db:"cause"` // in words
	Entry        *uuid.UUID `json:"entry,omitempty" db:"entry_id"`
	Instrument   uuid.UUID  `json:"instrument" db:"instrument_id"`
	FinishBefore *time.Time `json:"finishBefore,omitempty" db:"finish_before"` // nil: it could not be placed
	FinishAfter  *time.Time `json:"finishAfter,omitempty" db:"finish_after"`
	PlannedStart *time.Time `json:"plannedStart,omitempty" db:"planned_start"` // of the event that the entry is about
	Told         bool       `json:"told,omitempty" db:"told"`                  // it stands in the history of the date, also where that stayed
}
