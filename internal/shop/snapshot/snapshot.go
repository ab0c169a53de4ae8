package snapshot

import (
	"maps"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
)

// Snapshot is a state with its dates at one minute, worked out on a planner. Who reads it
// holds the planner's lock.
type Snapshot struct {
	*State
	Now     time.Time
	Input   schedule.Input
	Plan    *schedule.Plan
	Chances map[uuid.UUID]search.Chance // of promises, by instrument
	made    map[any]any                 // what was made of it for whoever looked first
}

// Lasting is a key of what does not depend on chances.
type Lasting string

// Once is what is made of a snapshot when it is first asked for, under a key of its own type.
func Once[K comparable, T any](m *Snapshot, key K, make func() T) T {
	if known, is := m.made[key]; is {
		return known.(T)
	}
	value := make()
	if m.made == nil {
		m.made = map[any]any{}
	}
	m.made[key] = value
	return value
}

// SetChances notes the chances of promises; what was made of others is forgotten.
func (m *Snapshot) SetChances(chances map[uuid.UUID]search.Chance) {
	m.Chances = chances
	maps.DeleteFunc(m.made, func(key, _ any) bool { _, lasts := key.(Lasting); return !lasts })
}

// Covers reports whether a snapshot is of this revision, or a later one, and of this minute.
func (m *Snapshot) Covers(revision int64, now time.Time) bool {
	return m.Revision >= revision && !m.Now.Before(now) && m.Now.Sub(now) < 2*time.Minute
}
