// Package shop is what a person does: look at the rack, plan an instrument, log
// a coat. Each use case loads what it needs, asks craft, and saves in one
// transaction. The types it returns are the views of the API.
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
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/mask"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/part"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/resin"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/store"
)

// Service carries out the use cases on one shop's database. What is looked at stands in
// memory, by revision: see snapshot.go.
type Service struct {
	store   *store.Store
	clock   func() time.Time
	board   snapshot
	loading singleflight.Group
	queue   queue
	asking  chan struct{} // holds one while somebody asks what takes longer
	watch   watch
	tries   tries
	hashing hashing
	looking sync.Map // lookedIn by the digest of what a device shows
	backups backups
	thought thought
}

// thought bounds what is worked out in the background.
type thought struct {
	events int // that the search for a better order may place; 0: the usual
	draws  int // for the chance of a promise
}

// New makes a service. The clock is the present; a fixed one makes every date
// repeatable.
func New(s *store.Store, clock func() time.Time) (*Service, error) {
	for _, check := range []func() error{wood.Check, material.Check, labour.Check, abrasive.Check, caution.Check, check.Valid,
		layering.Check, outline.Check, flake.Check, leaf.Check, resin.Check, glue.Check, mask.Check, surface.Check, part.Check, aging.Check, colour.Check, recipe.Check} {
		if err := check(); err != nil {
			return nil, fmt.Errorf("reference data: %w", err)
		}
	}
	return &Service{store: s, clock: clock, queue: queue{taken: make(chan struct{}, 1)}, asking: make(chan struct{}, 1), thought: thought{draws: usualDraws}}, nil
}

// ThinkWithin bounds the search for a better order to so many placed events, and the chance of a promise to so many
// draws. With no draws nothing is thought about in the background at all: tests of other things spend nothing on it.
func (s *Service) ThinkWithin(events, draws int) { s.thought = thought{events, draws} }

// Now is the present as this shop sees it.
func (s *Service) Now() time.Time { return s.clock() }

// readyWithin is how long the database may take to say that it is well.
const readyWithin = 1500 * time.Millisecond

// Ready reports whether the database answers, within two seconds whatever it does.
func (s *Service) Ready(ctx context.Context) error {
	ctx, stop := context.WithTimeout(ctx, readyWithin)
	defer stop()
	_, err := s.store.Revision(ctx)
	return err
}

// look makes a view of the shop as it is now. Views are made one at a time and quickly:
// they ask neither the database nor the planner for anything new.
func (s *Service) look(ctx context.Context, view func(*moment) error) error {
	revision, err := s.store.Revision(ctx)
	if err != nil {
		return err
	}
	return s.lookAt(ctx, revision, view)
}

func (s *Service) lookAt(ctx context.Context, revision int64, view func(*moment) error) error {
	for {
		m, err := s.at(ctx, revision)
		if err != nil {
			return err
		}
		if seen, err := s.board.atDesk(m, view); seen {
			return err
		}
	}
}

// RememberAfter is how long the database may take to answer before what is shown comes from memory.
const RememberAfter = 3 * time.Second

// lookAnyway is a look at the shop as it was last known where the database does not answer soon. It reports whether it
// was that.
func (s *Service) lookAnyway(ctx context.Context, view func(*moment) error) (remembered bool, err error) {
	soon, stop := context.WithTimeout(ctx, RememberAfter)
	defer stop()
	revision, err := s.store.Revision(soon)
	if err == nil {
		return false, s.lookAt(ctx, revision, view)
	}
	for m := s.board.current(); m != nil && ctx.Err() == nil; m = s.board.current() {
		if seen, wrong := s.board.atDesk(m, view); seen {
			return true, wrong
		}
	}
	return false, err
}

// ask is a look that may take its time, on a desk of its own: others go on looking.
func (s *Service) ask(ctx context.Context, view func(*moment) error) error {
	select {
	case s.asking <- struct{}{}:
		defer func() { <-s.asking }()
	case <-ctx.Done():
		return ctx.Err()
	}
	return s.apart(ctx, view)
}

// apart works on the shop as it is now on a desk of its own.
func (s *Service) apart(ctx context.Context, work func(*moment) error) error {
	now, err := s.now(ctx)
	if err != nil {
		return err
	}
	d := s.board.take()
	defer s.board.give(d)
	m, err := d.date(now.state, now.now)
	if err != nil {
		return err
	}
	m.setChances(s.watch.chancesNow())
	return work(m)
}

// unitOfWork is a change under way.
type unitOfWork struct {
	*store.Tx
	desk    *desk
	before  *moment        // the shop as it was
	after   *moment        // as it is when this is kept; nil where nobody has worked that out
	log     *job.Fold      // what the log comes to with what was entered; nil where nothing was
	touched []job.Event    // for which another entry, or none, may stand by it
	changes *changeSet     // what is decided otherwise; nil where nothing is
	plan    *schedule.Plan // of the shop with the changes, where it was worked out to answer
}

// change runs a use case that changes the shop: all of it is kept, or nothing.
func (s *Service) change(ctx context.Context, do func(*unitOfWork) error) error {
	if _, err := s.store.Revision(ctx); err != nil { // or others would stand behind this one, one after the other
		return err
	}
	end, err := s.queue.take(ctx)
	if errors.Is(err, ErrSlow) { // or does the change before it wait for the database?
		err = cmp.Or(s.Ready(context.WithoutCancel(ctx)), err)
	}
	if err != nil {
		return err
	}
	defer end()
	w := &unitOfWork{desk: s.board.take()}
	err = s.store.Write(ctx, func(tx *store.Tx) error {
		w.Tx = tx
		if err := do(w); err != nil {
			return err
		}
		s.board.expect(w.after)
		return nil
	})
	defer s.board.expect(nil)
	if err != nil || w.after == nil {
		s.board.give(w.desk)
		return err
	}
	w.after.setChances(s.watch.chancesNow())
	s.board.publish(w.after, w.desk)
	return nil
}

// onShop is a change that begins with the shop as it is now: as it stands in memory while
// that is the revision before this one, else read again.
func (s *Service) onShop(ctx context.Context, do func(*unitOfWork) error) error {
	return s.change(ctx, func(w *unitOfWork) error {
		if err := s.begin(ctx, w); err != nil {
			return err
		}
		return do(w)
	})
}

func (s *Service) begin(ctx context.Context, w *unitOfWork) error {
	now := s.clock().Truncate(time.Minute)
	var st *state
	if latest := s.board.current(); latest != nil {
		st = latest.state
	}
	var err error
	if st == nil || st.revision != w.Revision-1 {
		if st, err = load(ctx, w.Tx, now, st); err != nil {
			return err
		}
	}
	if st, err = st.from(now); err != nil {
		return err
	}
	w.before, err = w.desk.date(st, now)
	return err
}

// dated works out the shop as it is after this change.
func (w *unitOfWork) dated(st *state) error {
	var err error
	w.after, err = w.desk.date(st, w.before.now)
	return err
}

// reread is the shop after a change that is in the database but not in memory.
func (w *unitOfWork) reread(ctx context.Context) error {
	st, err := load(ctx, w.Tx, w.before.now, w.before.state)
	if err != nil {
		return err
	}
	return w.dated(st)
}
