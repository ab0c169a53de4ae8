package shop

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// KeepBackupsIn says where the daily backups go, and Daily makes the one that is due.
func (s *Service) KeepBackupsIn(folder string)     { s.backups.folder = folder }
func (s *Service) Daily(ctx context.Context) error { return s.daily(ctx) }

// AsKept fails where the shop in memory differs from what the database holds, read anew; it holds where nobody has looked
// since the last change.
func (s *Service) AsKept(ctx context.Context) error {
	m := s.board.Current()
	if m == nil {
		return nil
	}
	return s.store.Read(ctx, func(tx *store.Tx) error {
		read, err := snapshot.Load(ctx, tx, m.Now, nil)
		if err != nil || read.Revision != m.Revision {
			return err
		}
		for _, part := range []struct {
			name      string
			has, kept any
		}{
			{"what is decided", m.Workshop.With(m.Archive), read.Workshop.With(read.Archive)},
			{"what stands", standing(m.Log), standing(read.Log)},
			{"the steps that the log speaks of", m.Log.Spoken(), read.Log.Spoken()},
		} {
			if err := same(part.name, part.has, part.kept); err != nil {
				return err
			}
		}
		if !maps.Equal(m.Facts, read.Facts) && len(m.Facts) != len(read.Facts) {
			return fmt.Errorf("%d facts in memory, %d in the database", len(m.Facts), len(read.Facts))
		}
		input := read.Derived
		input.Now, input.Shop = m.Now, read.Shop
		plan, err := schedule.Retime(input)
		if err != nil {
			return err
		}
		return same("the dates", m.Plan.Events, plan.Events)
	})
}

// standing is what a log comes to, in its order.
func standing(log *job.Fold) []job.Entry {
	list := slices.Clone(log.Facts())
	for _, e := range log.All() {
		list = append(list, e)
	}
	slices.SortFunc(list, (*job.Entry).Compare)
	out := make([]job.Entry, len(list))
	for i, e := range list { // without what is not read to fold a log
		out[i] = job.Entry{ID: e.ID, Kind: e.Kind, Step: e.Step, Coat: e.Coat, Piece: e.Piece, Place: e.Place, Milestone: e.Milestone,
			Passed: e.Passed, Person: e.Person, Minutes: e.Minutes, Flags: e.Flags, Actual: e.Actual}
		out[i].HappenedAt, out[i].RecordedAt = e.HappenedAt.UTC(), e.RecordedAt.UTC()
	}
	return out
}

// same fails where two values are written differently.
func same(name string, has, kept any) error {
	a, err := json.MarshalIndent(has, "", " ")
	if err != nil {
		return err
	}
	b, err := json.MarshalIndent(kept, "", " ")
	if err != nil {
		return err
	}
	if bytes.Equal(a, b) {
		return nil
	}
	x, y := bytes.Split(a, []byte("\n")), bytes.Split(b, []byte("\n"))
	for i := range min(len(x), len(y)) {
		if !bytes.Equal(x[i], y[i]) {
			from := max(0, i-12)
			return fmt.Errorf("%s: in memory\n%s\nin the database\n%s", name, bytes.Join(x[from:min(len(x), i+4)], []byte("\n")),
				bytes.Join(y[from:min(len(y), i+4)], []byte("\n")))
		}
	}
	return fmt.Errorf("%s: %d lines in memory, %d in the database", name, len(x), len(y))
}
