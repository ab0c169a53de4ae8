package shop

import (
	"context"
	"fmt"
	"time"

	"umberfrost/internal/shop/planner"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// now is the shop as it is now: from memory when nothing has changed in this minute, by
// retiming when only time has passed, else from the database. Who comes while that
// is being worked out waits for it, and takes what came meanwhile.
func (s *core) now(ctx context.Context) (*snapshot.Snapshot, error) {
	revision, err := s.store.Revision(ctx)
	if err != nil {
		return nil, err
	}
	m, err := s.at(ctx, revision)
	if err != nil {
		return nil, err
	}
	return m.Snapshot, nil
}

// at is the shop as it is now, at a revision or a later one.
func (s *core) at(ctx context.Context, revision int64) (*planner.Published, error) {
	for {
		now := s.clock().Truncate(time.Minute)
		if m := s.board.Current(); m != nil && m.Covers(revision, now) {
			return m, nil
		}
		if over := s.board.PendingOver(revision); over != nil {
			select {
			case <-over:
				continue
			case <-ctx.Done():
				return nil, ctx.Err()
			}
		}
		loaded := s.loading.DoChan(fmt.Sprint(revision, now.Unix()), func() (any, error) {
			loading, stop := context.WithTimeout(context.WithoutCancel(ctx), time.Minute) // whoever asked first may go
			defer stop()
			return nil, s.refresh(loading, revision, now)
		})
		select {
		case result := <-loaded:
			if result.Err != nil {
				return nil, result.Err
			}
		case <-ctx.Done():
			return nil, ctx.Err()
		}
	}
}

// refresh publishes a revision, or a later one, at a minute.
func (s *core) refresh(ctx context.Context, revision int64, now time.Time) error {
	var st *snapshot.State
	if latest := s.board.Current(); latest != nil {
		st = latest.State
	}
	var err error
	if st == nil || st.Revision < revision {
		err = s.store.Read(ctx, func(tx *store.Tx) (err error) {
			st, err = snapshot.Load(ctx, tx, now, st)
			return err
		})
	} else {
		st, err = st.From(now)
	}
	if err != nil {
		return err
	}
	d := s.board.Acquire()
	m, err := d.Date(st, now)
	if err != nil {
		s.board.Release(d)
		return err
	}
	m.SetChances(s.watch.chancesNow())
	s.board.Publish(m, d)
	return nil
}
