package views

import (
	"crypto/sha256"
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
	"umberfrost/internal/shop/snapshot"
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

// Found is a proposal with the order it is about; without one when nothing better
// was found.
type Found struct {
	Proposal *Proposal
	Order    []schedule.Event
}

// DismissedFor is how long a gain that was declined is not offered again.
const DismissedFor = 7 * 24 * time.Hour

// Propose looks for a better order of this moment's work.
func Propose(m *snapshot.Snapshot, effort int) (*Found, error) {
	if len(running(m)) < 2 {
		return &Found{}, nil
	}
	p, err := search.Propose(m.Input, search.Effort{Seed: Seed, Events: effort})
	if err != nil || !p.Better() {
		return &Found{}, err
	}
	answer := search.Answer{Before: m.Plan, After: p.Plan, Order: p.Order, Differences: search.Differences(m.Plan, p.Plan)}
	view := &Proposal{Effects: WhatIfOf(m, nil, answer).Effects, Rows: Pairs(m, answer), Marks: Mondays(m),
		Telling: p.After.Broken < p.Before.Broken || p.After.DaysLate < p.Before.DaysLate}
	view.Telling = view.Telling || makesRoom(m, view.Effects)
	view.Gain = gainText(view.Effects, p)
	sum := sha256.New()
	for _, e := range p.Order {
		fmt.Fprint(sum, e.Step, e.Coat)
	}
	view.ID = fmt.Sprintf("%x", sum.Sum(nil)[:8])
	return &Found{view, p.Order}, nil
}

// makesRoom reports whether an instrument that came within the last hours would be
// ready days sooner: then a better order is worth a line although no promise slips.
func makesRoom(m *snapshot.Snapshot, effects []Effect) bool {
	const lately, days = 12 * time.Hour, 2
	return slices.ContainsFunc(m.Workshop.Instruments, func(in recipe.Instrument) bool {
		return m.Now.Sub(in.CreatedAt) < lately && slices.ContainsFunc(effects,
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

// Decision is what a person makes of a proposal.
type Decision struct {
	ID       string    `json:"id"`
	PersonID uuid.UUID `json:"personId"`
}

// WithTheRest is an order with what has come since at its end.
func WithTheRest(order []schedule.Event, known []job.Event) []schedule.Event {
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
