package shop

import (
	"context"
	"errors"

	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Proposal shows the better order that was found last, declined or not.
func (s Thinker) Proposal(context.Context) (views.ProposalNow, error) {
	f := s.found()
	if f == nil {
		return views.ProposalNow{}, nil
	}
	return views.ProposalNow{Looked: true, Found: f.Proposal}, nil
}

func (s Thinker) found() *views.Found {
	s.watch.mu.Lock()
	defer s.watch.mu.Unlock()
	return s.watch.found
}

// line is the proposal worth a quiet line: one without which a promise slips, or that
// makes room for what was just added, and that nobody has declined lately.
func (s Thinker) line(ctx context.Context) (*views.ProposalLine, error) {
	f := s.found()
	if f == nil || f.Proposal == nil || !f.Proposal.Telling {
		return nil, nil
	}
	var declined bool
	err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		declined, err = tx.ProposalDismissed(ctx, f.Proposal.Gain, s.clock().Add(-views.DismissedFor))
		return err
	})
	if err != nil || declined {
		return nil, err
	}
	return &views.ProposalLine{ID: f.Proposal.ID, Gain: f.Proposal.Gain}, nil
}

// AcceptProposal makes a proposed order the accepted one. It fails with *Taken when
// the shop has changed so that the order gains nothing any more.
func (s Decider) AcceptProposal(ctx context.Context, in views.Decision) (views.Kept, error) {
	if err := s.decides(ctx, &in); err != nil {
		return views.Kept{}, err
	}
	f := Thinker(s).found()
	if f == nil || f.Proposal == nil || f.Proposal.ID != in.ID {
		return views.Kept{}, &refuse.Taken{Message: "that order is no longer the best that is known; look at the new one"}
	}
	kept := views.Kept{Changes: []string{"a better order of work: " + f.Proposal.Gain}}
	err := s.onShop(ctx, func(w *changes.Unit) error {
		b, err := changes.NewSet(w.Before, nil, in.PersonID)
		if err != nil {
			return err
		}
		b.Workshop.Order, b.Wider = views.WithTheRest(f.Order, w.Before.Workshop.Order), false
		if err := w.Decide(ctx, b); err != nil {
			return err
		}
		if search.Measure(w.After.Plan).Compare(search.Measure(w.Before.Plan)) >= 0 {
			return &refuse.Taken{Message: "work has gone on since, and that order gains nothing now; a new one is being looked for"}
		}
		kept.Moved = changes.Moved(w.Before, w.After)
		return w.RecordHistory(ctx, kept.Changes[0], nil)
	})
	return kept, err
}

// decides says who makes a decision, and fails with *Invalid where that is nobody of this shop.
func (s Decider) decides(ctx context.Context, in *views.Decision) error {
	m, err := s.now(ctx)
	if err != nil {
		return err
	}
	in.PersonID = access.Who(ctx, in.PersonID)
	if wrong := m.IsOfShop("personId", in.PersonID); wrong != nil {
		return wrong
	}
	return nil
}

// DismissProposal declines what a proposal gains: it is not offered again for a
// week.
func (s Decider) DismissProposal(ctx context.Context, in views.Decision) error {
	if err := s.decides(ctx, &in); err != nil {
		return err
	}
	f := Thinker(s).found()
	if f == nil || f.Proposal == nil || f.Proposal.ID != in.ID {
		return nil // it is gone already
	}
	err := s.change(ctx, func(w *changes.Unit) error { return w.DismissProposal(ctx, f.Proposal.Gain, s.clock()) })
	if errors.Is(err, store.ErrConflict) {
		return nil
	}
	return err
}
