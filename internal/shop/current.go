package shop

import (
	"context"
	"fmt"
	"time"

	"umberfrost/internal/store"
)

// now is the shop as it is now: from memory when nothing has changed in this minute, by
// retiming when only time has passed, else from the database. Who comes while that
// is being worked out waits for it, and takes what came meanwhile.
func (s *Service) now(ctx context.Context) (*moment, error) {
	revision, err := s.store.Revision(ctx)
	if err != nil {
		return nil, err
	}
	m, err := s.at(ctx, revision)
	if err != nil {
		return nil, err
	}
	return m.moment, nil
}

// at is the shop as it is now, at a revision or a later one.
func (s *Service) at(ctx context.Context, revision int64) (*published, error) {
	for {
		now := s.clock().Truncate(time.Minute)
		if m := s.board.current(); m != nil && m.shows(revision, now) {
			return m, nil
		}
		if over := s.board.expecting(revision); over != nil {
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
func (s *Service) refresh(ctx context.Context, revision int64, now time.Time) error {
	var st *state
	if latest := s.board.current(); latest != nil {
		st = latest.state
	}
	var err error
	if st == nil || st.revision < revision {
		err = s.store.Read(ctx, func(tx *store.Tx) (err error) {
			st, err = load(ctx, tx, now, st)
			return err
		})
	} else {
		st, err = st.from(now)
	}
	if err != nil {
		return err
	}
	d := s.board.take()
	m, err := d.date(st, now)
	if err != nil {
		s.board.give(d)
		return err
	}
	m.setChances(s.watch.chancesNow())
	s.board.publish(m, d)
	return nil
}
