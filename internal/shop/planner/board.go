// Package planner works out dates, and shows everybody the newest: on a planner a state is dated from what changed
// since the last plan there; the board keeps what everybody sees, and the planners that are free for the next change.
package planner

import (
	"slices"
	"sync"
	"sync/atomic"

	"umberfrost/internal/shop/snapshot"
)

// Published is a snapshot that everybody sees, and the planner it was worked out on.
type Published struct {
	*snapshot.Snapshot
	planner *Planner
}

// Board is the shop as it was last worked out, for everybody who looks. A change works
// out the next one on another planner and puts it in its place when it is kept, so nobody
// who looks waits for it; the planner that comes free is for the next change.
type Board struct {
	latest atomic.Pointer[Published]
	mu     sync.Mutex
	free   []*Planner
	coming *pendingChange
}

// pendingChange is a change that is about to be kept, and will be published.
type pendingChange struct {
	revision int64
	over     chan struct{}
}

// Current is what everybody sees; nil before anybody has looked.
func (s *Board) Current() *Published { return s.latest.Load() }

// Acquire gives a planner that nobody uses: the one that knows the newest revision.
func (s *Board) Acquire() *Planner {
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.free) == 0 {
		return &Planner{}
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

// Trim leaves one free planner, the one that knows the newest revision, for the next change.
func (s *Board) Trim() {
	spare := s.Acquire()
	s.mu.Lock()
	defer s.mu.Unlock()
	s.free = []*Planner{spare}
}

func (s *Board) Release(d *Planner) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.free = append(s.free, d)
}

// Publish puts a snapshot before everybody, unless they see a newer one.
func (s *Board) Publish(m *snapshot.Snapshot, on *Planner) {
	next := &Published{m, on}
	for {
		old := s.latest.Load()
		if old != nil && old.Covers(m.Revision, m.Now) {
			s.Release(on)
			return
		}
		if s.latest.CompareAndSwap(old, next) {
			if old != nil {
				s.Release(old.planner)
			}
			return
		}
	}
}

// Pending tells that a snapshot is going to be published as soon as it is kept; nil ends that.
func (s *Board) Pending(m *snapshot.Snapshot) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.coming != nil {
		close(s.coming.over)
		s.coming = nil
	}
	if m != nil {
		s.coming = &pendingChange{m.Revision, make(chan struct{})}
	}
}

// WithLock makes a view of a snapshot, unless a newer one has taken its place: then its planner
// is somebody else's already.
func (s *Board) WithLock(m *Published, view func(*snapshot.Snapshot) error) (seen bool, err error) {
	m.planner.mu.Lock()
	defer m.planner.mu.Unlock()
	if s.latest.Load() != m {
		return false, nil
	}
	return true, view(m.Snapshot)
}

// PendingOver is when the change that made a revision will have been published; nil when
// no such change is under way here.
func (s *Board) PendingOver(revision int64) <-chan struct{} {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.coming != nil && s.coming.revision == revision {
		return s.coming.over
	}
	return nil
}
