package job

import (
	"time"

	"github.com/google/uuid"
)

// Sitting is hands-on work that somebody began at one place, to be done in one go. Planned sittings are
// derived and have no identity; one that was begun owns the timers and the entries that were made in it.
type Sitting struct {
	ID        uuid.UUID  `json:"id" db:"id"`
	Place     *uuid.UUID `json:"place,omitempty" db:"place_id"`
	Person    uuid.UUID  `json:"person" db:"person_id"`
	StartedAt time.Time  `json:"startedAt" db:"started_at"`
	EndedAt   *time.Time `json:"endedAt,omitempty" db:"ended_at"`
	Events    []Event    `json:"events" db:"-"`         // in the order in which they were to be done
	Seen      []string   `json:"seen,omitempty" db:"-"` // cautions that were acknowledged
}
