// Package shop is what a person does: look at the rack, plan an instrument, log
// a coat. The service is a thin door to its rooms: it takes the snapshot, asks a view or begins a change, and
// publishes what was kept. The types it returns are the views of the API.
package shop

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"sync"
	"time"

	"golang.org/x/sync/singleflight"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/aging"
	"umberfrost/internal/craft/caution"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/colour"
	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/glue"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/mask"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/part"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/resin"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/planner"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Service carries out the use cases on one shop's database: each through one of its doors. What is looked at stands in
// memory, by revision.
type Service struct {
	*core
	Reader
	Decider
	Recorder
	Devices
	Files
	Thinker
}

// The doors of the service: each a few use cases of one sort on the same shop.
type (
	Reader   struct{ *core } // shows the shop as it is
	Decider  struct{ *core } // changes what is decided
	Recorder struct{ *core } // keeps what happened and what was measured
	Devices  struct{ *core } // pairs devices, and knows who is on them
	Files    struct{ *core } // brings the shop out and in: schedule files and backups
	Thinker  struct{ *core } // works in the background, and says what it has found
)

// core is the shop that the doors open on.
type core struct {
	store   *store.Store
	clock   func() time.Time
	board   planner.Board
	loading singleflight.Group
	queue   queue
	asking  chan struct{} // holds one while somebody asks what takes longer
	watch   watch
	tries   tries
	hashing hashing
	looking sync.Map // lookedIn by the digest of what a device shows
	backups backups
	budget  budget
}

// budget bounds what is worked out in the background.
type budget struct {
	events int // that the search for a better order may place; 0: the usual
	draws  int // for the chance of a promise
}

// New makes a service. The clock is the present; a fixed one makes every date
// repeatable.
func New(s *store.Store, clock func() time.Time) (*Service, error) {
	for _, check := range []func() error{wood.Check, material.Check, labour.Check, abrasive.Check, caution.Check, check.Valid,
		layering.Check, outline.Check, flake.Check, leaf.Check, resin.Check, glue.Check, mask.Check, surface.Check, part.Check, aging.Check,
		colour.Check, recipe.Check} {
		if err := check(); err != nil {
			return nil, fmt.Errorf("reference data: %w", err)
		}
	}
	c := &core{store: s, clock: clock, queue: queue{taken: make(chan struct{}, 1)}, asking: make(chan struct{}, 1),
		budget: budget{draws: views.DefaultDraws}}
	return &Service{c, Reader{c}, Decider{c}, Recorder{c}, Devices{c}, Files{c}, Thinker{c}}, nil
}

// ThinkWithin bounds the search for a better order to so many placed events, and the chance of a promise to so many
// draws. With no draws nothing is thought about in the background at all: tests of other things spend nothing on it.
func (s *core) ThinkWithin(events, draws int) { s.budget = budget{events, draws} }

// Now is the present as this shop sees it.
func (s *core) Now() time.Time { return s.clock() }

// readyWithin is how long the database may take to say that it is well.
const readyWithin = 1500 * time.Millisecond

// Ready reports whether the database answers, within two seconds whatever it does.
func (s *core) Ready(ctx context.Context) error {
	ctx, stop := context.WithTimeout(ctx, readyWithin)
	defer stop()
	_, err := s.store.Revision(ctx)
	return err
}

// look makes a view of the shop as it is now. Views are made one at a time and quickly:
// they ask neither the database nor the planner for anything new.
func (s *core) look(ctx context.Context, view func(*snapshot.Snapshot) error) error {
	revision, err := s.store.Revision(ctx)
	if err != nil {
		return err
	}
	return s.lookAt(ctx, revision, view)
}

func (s *core) lookAt(ctx context.Context, revision int64, view func(*snapshot.Snapshot) error) error {
	for {
		m, err := s.at(ctx, revision)
		if err != nil {
			return err
		}
		if seen, err := s.board.WithLock(m, view); seen {
			return err
		}
	}
}

// RememberAfter is how long the database may take to answer before what is shown comes from memory.
const RememberAfter = 3 * time.Second

// lookAnyway is a look at the shop as it was last known where the database does not answer soon. It reports whether it
// was that.
func (s *core) lookAnyway(ctx context.Context, view func(*snapshot.Snapshot) error) (remembered bool, err error) {
	soon, stop := context.WithTimeout(ctx, RememberAfter)
	defer stop()
	revision, err := s.store.Revision(soon)
	if err == nil {
		return false, s.lookAt(ctx, revision, view)
	}
	for m := s.board.Current(); m != nil && ctx.Err() == nil; m = s.board.Current() {
		if seen, wrong := s.board.WithLock(m, view); seen {
			return true, wrong
		}
	}
	return false, err
}

// ask is a look that may take its time, on a planner of its own: others go on looking.
func (s *core) ask(ctx context.Context, view func(*snapshot.Snapshot) error) error {
	select {
	case s.asking <- struct{}{}:
		defer func() { <-s.asking }()
	case <-ctx.Done():
		return ctx.Err()
	}
	return s.fork(ctx, view)
}

// fork works on the shop as it is now on a planner of its own.
func (s *core) fork(ctx context.Context, work func(*snapshot.Snapshot) error) error {
	now, err := s.now(ctx)
	if err != nil {
		return err
	}
	d := s.board.Acquire()
	defer s.board.Release(d)
	m, err := d.Date(now.State, now.Now)
	if err != nil {
		return err
	}
	m.SetChances(s.watch.chancesNow())
	return work(m)
}

// change runs a use case that changes the shop: all of it is kept, or nothing.
func (s *core) change(ctx context.Context, do func(*changes.Unit) error) error {
	if _, err := s.store.Revision(ctx); err != nil { // or others would stand behind this one, one after the other
		return err
	}
	end, err := s.queue.take(ctx)
	if errors.Is(err, refuse.ErrSlow) { // or does the change before it wait for the database?
		err = cmp.Or(s.Ready(context.WithoutCancel(ctx)), err)
	}
	if err != nil {
		return err
	}
	defer end()
	w := &changes.Unit{Planner: s.board.Acquire()}
	err = s.store.Write(ctx, func(tx *store.Tx) error {
		w.Tx = tx
		if err := do(w); err != nil {
			return err
		}
		s.board.Pending(w.After)
		return nil
	})
	defer s.board.Pending(nil)
	if err != nil || w.After == nil {
		s.board.Release(w.Planner)
		return err
	}
	w.After.SetChances(s.watch.chancesNow())
	s.board.Publish(w.After, w.Planner)
	return nil
}

// onShop is a change that begins with the shop as it is now: as it stands in memory while
// that is the revision before this one, else read again.
func (s *core) onShop(ctx context.Context, do func(*changes.Unit) error) error {
	return s.change(ctx, func(w *changes.Unit) error {
		if err := s.begin(ctx, w); err != nil {
			return err
		}
		return do(w)
	})
}

func (s *core) begin(ctx context.Context, w *changes.Unit) error {
	now := s.clock().Truncate(time.Minute)
	var st *snapshot.State
	if latest := s.board.Current(); latest != nil {
		st = latest.State
	}
	var err error
	if st == nil || st.Revision != w.Revision-1 {
		if st, err = snapshot.Load(ctx, w.Tx, now, st); err != nil {
			return err
		}
	}
	if st, err = st.From(now); err != nil {
		return err
	}
	w.Before, err = w.Planner.Date(st, now)
	return err
}
