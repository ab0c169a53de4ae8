package shop

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/store"
)

// Proposal is a better order of work, beside the accepted one.
type Proposal struct {
	ID      string    `json:"id" doc:"names it, so that what is accepted is what was seen"`
	Gain    string    `json:"gain" doc:"saves 2 days on Dunlin, one set-up less"`
	Telling bool      `json:"telling" doc:"a promise is late without it, or later, or an instrument was just added"`
	Effects []Effect  `json:"effects"`
	Rows    []Pair    `json:"rows" doc:"threads of what differs, before and after"`
	Marks   []DayMark `json:"marks" doc:"the Mondays along them"`
}

// ProposalLine is a proposal in one line.
type ProposalLine struct {
	ID   string `json:"id"`
	Gain string `json:"gain"`
}

// ProposalNow is what the search for a better order has come to.
type ProposalNow struct {
	Looked bool      `json:"looked" doc:"false while the first search runs"`
	Found  *Proposal `json:"found,omitempty" doc:"absent when today's order is as good as any that was found"`
}

// found is a proposal with the order it is about; without one when nothing better
// was found.
type found struct {
	proposal *Proposal
	order    []schedule.Event
}

// dismissedFor is how long a gain that was declined is not offered again.
const dismissedFor = 7 * 24 * time.Hour

// propose looks for a better order of this moment's work.
func (m *moment) propose(effort int) (*found, error) {
	if len(m.running()) < 2 {
		return &found{}, nil
	}
	p, err := search.Propose(m.input, search.Effort{Seed: seed, Events: effort})
	if err != nil || !p.Better() {
		return &found{}, err
	}
	answer := search.Answer{Before: m.plan, After: p.Plan, Order: p.Order, Differences: search.Differences(m.plan, p.Plan)}
	view := &Proposal{Effects: m.whatIf(nil, answer).Effects, Rows: m.pairs(answer), Marks: m.mondays(),
		Telling: p.After.Broken < p.Before.Broken || p.After.DaysLate < p.Before.DaysLate}
	view.Telling = view.Telling || m.makesRoom(view.Effects)
	view.Gain = gainText(view.Effects, p)
	sum := sha256.New()
	for _, e := range p.Order {
		fmt.Fprint(sum, e.Step, e.Coat)
	}
	view.ID = fmt.Sprintf("%x", sum.Sum(nil)[:8])
	return &found{view, p.Order}, nil
}

// makesRoom reports whether an instrument that came within the last hours would be
// ready days sooner: then a better order is worth a line although no promise slips.
func (m *moment) makesRoom(effects []Effect) bool {
	const lately, days = 12 * time.Hour, 2
	return slices.ContainsFunc(m.file.Instruments, func(in recipe.Instrument) bool {
		return m.now.Sub(in.CreatedAt) < lately && slices.ContainsFunc(effects,
			func(e Effect) bool { return e.InstrumentID == in.ID && e.Days <= -days })
	})
}

// gainText says what a proposal gains.
func gainText(effects []Effect, p search.Proposal) string {
	var parts, others []string
	for _, e := range effects {
		switch {
		case e.Days < 0 && e.Was:
			parts = append(parts, fmt.Sprintf("%s on %s", phrase.Plural(-e.Days, "day"), e.Name))
		case e.Days < 0:
			others = append(others, fmt.Sprintf("%s on %s", phrase.Plural(-e.Days, "day"), e.Name))
		}
	}
	if parts = few(append(parts, others...)); len(parts) > 0 {
		parts = []string{"saves " + strings.Join(parts, ", ")}
	}
	switch less := p.Before.SetUps - p.After.SetUps; {
	case less == 1:
		parts = append(parts, "one set-up less")
	case less > 1:
		parts = append(parts, fmt.Sprintf("%d set-ups less", less))
	}
	if p.After.Broken < p.Before.Broken {
		parts = append(parts, "what could not be placed finds its place")
	}
	if len(parts) == 0 {
		return "finishes some work a few hours sooner"
	}
	return strings.Join(parts, ", ")
}

// Proposal shows the better order that was found last, declined or not.
func (s *Service) Proposal(context.Context) (ProposalNow, error) {
	f := s.found()
	if f == nil {
		return ProposalNow{}, nil
	}
	return ProposalNow{Looked: true, Found: f.proposal}, nil
}

func (s *Service) found() *found {
	s.watch.mu.Lock()
	defer s.watch.mu.Unlock()
	return s.watch.found
}

// line is the proposal worth a quiet line: one without which a promise slips, or that
// makes room for what was just added, and that nobody has declined lately.
func (s *Service) line(ctx context.Context) (*ProposalLine, error) {
	f := s.found()
	if f == nil || f.proposal == nil || !f.proposal.Telling {
		return nil, nil
	}
	var declined bool
	err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		declined, err = tx.ProposalDismissed(ctx, f.proposal.Gain, s.clock().Add(-dismissedFor))
		return err
	})
	if err != nil || declined {
		return nil, err
	}
	return &ProposalLine{f.proposal.ID, f.proposal.Gain}, nil
}

// Decision is what a person makes of a proposal.
type Decision struct {
	ID       string    `json:"id"`
	PersonID uuid.UUID `json:"personId"`
}

// AcceptProposal makes a proposed order the accepted one. It fails with *Taken when
// the shop has changed so that the order gains nothing any more.
func (s *Service) AcceptProposal(ctx context.Context, in Decision) (Kept, error) {
	if err := s.decides(ctx, &in); err != nil {
		return Kept{}, err
	}
	f := s.found()
	if f == nil || f.proposal == nil || f.proposal.ID != in.ID {
		return Kept{}, &Taken{Message: "that order is no longer the best that is known; look at the new one"}
	}
	kept := Kept{Changes: []string{"a better order of work: " + f.proposal.Gain}}
	err := s.onShop(ctx, func(w *unitOfWork) error {
		b, err := w.before.bend(nil, in.PersonID)
		if err != nil {
			return err
		}
		b.file.Order, b.wider = withTheRest(f.order, w.before.file.Order), false
		if err := w.decide(ctx, b); err != nil {
			return err
		}
		if search.Measure(w.after.plan).Compare(search.Measure(w.before.plan)) >= 0 {
			return &Taken{Message: "work has gone on since, and that order gains nothing now; a new one is being looked for"}
		}
		kept.Moved = moved(w.before, w.after)
		return w.recordHistory(ctx, kept.Changes[0], nil)
	})
	return kept, err
}

// decides says who makes a decision, and fails with *Invalid where that is nobody of this shop.
func (s *Service) decides(ctx context.Context, in *Decision) error {
	m, err := s.now(ctx)
	if err != nil {
		return err
	}
	in.PersonID = who(ctx, in.PersonID)
	if wrong := m.isOfShop("personId", in.PersonID); wrong != nil {
		return wrong
	}
	return nil
}

// withTheRest is an order with what has come since at its end.
func withTheRest(order []schedule.Event, known []job.Event) []schedule.Event {
	named := make(map[schedule.Event]bool, len(order))
	for _, e := range order {
		named[e] = true
	}
	all := slices.Clone(order)
	for _, e := range known {
		if !named[e] {
			all = append(all, e)
		}
	}
	return all
}

// DismissProposal declines what a proposal gains: it is not offered again for a
// week.
func (s *Service) DismissProposal(ctx context.Context, in Decision) error {
	if err := s.decides(ctx, &in); err != nil {
		return err
	}
	f := s.found()
	if f == nil || f.proposal == nil || f.proposal.ID != in.ID {
		return nil // it is gone already
	}
	err := s.change(ctx, func(w *unitOfWork) error { return w.DismissProposal(ctx, f.proposal.Gain, s.clock()) })
	if errors.Is(err, store.ErrConflict) {
		return nil
	}
	return err
}
