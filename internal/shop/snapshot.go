package shop

import (
	"fmt"
	"maps"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
)

// moment is a state with its dates at one minute, worked out on a desk. Who reads it
// holds the desk's lock.
type moment struct {
	*state
	now     time.Time
	input   schedule.Input
	plan    *schedule.Plan
	chances map[uuid.UUID]search.Chance // of promises, by instrument
	made    map[any]any                 // what was made of it for whoever looked first
}

// lasting is a key of what does not depend on chances.
type lasting string

// madeOnce is what is made of a moment when it is first asked for, under a key of its own type.
func madeOnce[K comparable, T any](m *moment, key K, make func() T) T {
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

// setChances notes the chances of promises; what was made of others is forgotten.
func (m *moment) setChances(chances map[uuid.UUID]search.Chance) {
	m.chances = chances
	maps.DeleteFunc(m.made, func(key, _ any) bool { _, lasts := key.(lasting); return !lasts })
}

// published is a moment that everybody sees, and the desk it was worked out on.
type published struct {
	*moment
	desk *desk
}

// desk is what one plan at a time is worked out on: a schedule.Shop keeps what it has
// learned of hours and clocks, which makes the next plan quick, and serves one goroutine at a time.
type desk struct {
	mu     sync.Mutex
	ground *ground // that the Shop is laid out for
	shop   *schedule.Shop
	last   *moment
}

// date works out the dates of a state at a minute: from what changed since the last plan
// on this desk, where that is on the same ground.
func (d *desk) date(st *state, now time.Time) (*moment, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.last != nil && d.last.state == st && d.last.now.Equal(now) {
		again := *d.last
		return &again, nil
	}
	if d.ground != st.ground {
		d.ground, d.shop, d.last = st.ground, st.shop.Twin(), nil
	}
	input := st.derived
	input.Now, input.Shop = now, d.shop
	retime := schedule.Retime
	if d.last != nil {
		retime = d.last.plan.Retime
	}
	plan, err := retime(input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	d.last = &moment{state: st, now: now, input: input, plan: plan}
	made := *d.last
	return &made, nil
}

// snapshot is the shop as it was last worked out, for everybody who looks. A change works
// out the next one on another desk and puts it in its place when it is kept, so nobody
// who looks waits for it; the desk that comes free is for the next change.
type snapshot struct {
	latest atomic.Pointer[published]
	mu     sync.Mutex
	free   []*desk
	coming *expected
}

// expected is a change that is about to be kept, and will be published.
type expected struct {
	revision int64
	over     chan struct{}
}

// current is what everybody sees; nil before anybody has looked.
func (s *snapshot) current() *published { return s.latest.Load() }

// take gives a desk that nobody uses: the one that knows the newest revision.
func (s *snapshot) take() *desk {
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.free) == 0 {
		return &desk{}
	}
	best := 0
	for i, d := range s.free {
		if d.knows() > s.free[best].knows() {
			best = i
		}
	}
	d := s.free[best]
	s.free = slices.Delete(s.free, best, best+1)
	return d
}

// forget leaves one free desk, the one that knows the newest revision, for the next change.
func (s *snapshot) forget() {
	spare := s.take()
	s.mu.Lock()
	defer s.mu.Unlock()
	s.free = []*desk{spare}
}

// knows is the revision that was last dated here.
func (d *desk) knows() int64 {
	if d.last == nil {
		return 0
	}
	return d.last.revision
}

func (s *snapshot) give(d *desk) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.free = append(s.free, d)
}

// publish puts a moment before everybody, unless they see a newer one.
func (s *snapshot) publish(m *moment, on *desk) {
	next := &published{m, on}
	for {
		old := s.latest.Load()
		if old != nil && old.shows(m.revision, m.now) {
			s.give(on)
			return
		}
		if s.latest.CompareAndSwap(old, next) {
			if old != nil {
				s.give(old.desk)
			}
			return
		}
	}
}

// expect tells that a moment is going to be published as soon as it is kept; nil ends that.
func (s *snapshot) expect(m *moment) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.coming != nil {
		close(s.coming.over)
		s.coming = nil
	}
	if m != nil {
		s.coming = &expected{m.revision, make(chan struct{})}
	}
}

// shows reports whether a moment is of this revision, or a later one, and of this minute.
func (m *moment) shows(revision int64, now time.Time) bool {
	return m.revision >= revision && !m.now.Before(now) && m.now.Sub(now) < 2*time.Minute
}

// atDesk makes a view of a moment, unless a newer one has taken its place: then its desk
// is somebody else's already.
func (s *snapshot) atDesk(m *published, view func(*moment) error) (seen bool, err error) {
	m.desk.mu.Lock()
	defer m.desk.mu.Unlock()
	if s.latest.Load() != m {
		return false, nil
	}
	return true, view(m.moment)
}

// expecting is when the change that made a revision will have been published; nil when
// no such change is under way here.
func (s *snapshot) expecting(revision int64) <-chan struct{} {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.coming != nil && s.coming.revision == revision {
		return s.coming.over
	}
	return nil
}
