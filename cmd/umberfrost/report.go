package main

import (
	"context"
	"fmt"
	"io"
	"text/tabwriter"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/unit"
)

// report is what the plan command prints.
type report struct {
	Now         time.Time          `json:"now"`
	Zone        string             `json:"zone"`
	Objective   string             `json:"objective"`
	BoundLate   float64            `json:"lowerBoundDaysLate"`
	Instruments []reportInstrument `json:"instruments"`
	Events      []reportEvent      `json:"events"`
	Proposal    *reportProposal    `json:"proposal,omitempty"`
	WhatIf      []reportDifference `json:"whatIf,omitempty"`
	zone        *time.Location
}

type reportInstrument struct {
	ID          uuid.UUID  `json:"id"`
	Name        string     `json:"name"`
	Promise     string     `json:"promise"`
	Finish      *time.Time `json:"finish,omitempty"`
	SlackHours  *float64   `json:"slackHours,omitempty"`
	LatestStart *time.Time `json:"latestStart,omitempty"`
	LowerBound  *time.Time `json:"lowerBound,omitempty"`
	ShowReady   *time.Time `json:"showReady,omitempty"`
	Impossible  string     `json:"impossible,omitempty"`
	ChancePct   *float64   `json:"chancePct,omitempty"`
	NineInTen   *time.Time `json:"nineInTen,omitempty"`
}

// reportEvent is one event; docs/formats/plan-2.schema.json says what each field is.
type reportEvent struct {
	InstrumentID uuid.UUID    `json:"instrumentId"`
	Instrument   string       `json:"instrument"`
	PieceID      uuid.UUID    `json:"pieceId"`
	Piece        string       `json:"piece"`
	Regions      []uuid.UUID  `json:"regions"`
	Step         uuid.UUID    `json:"step"`
	Coat         int          `json:"coat"`
	Kind         string       `json:"kind"`
	Title        string       `json:"title"`
	PlaceID      *uuid.UUID   `json:"placeId,omitempty"`
	Place        string       `json:"place"`
	PersonID     *uuid.UUID   `json:"personId,omitempty"`
	Person       string       `json:"person,omitempty"`
	Start        *time.Time   `json:"start,omitempty"`
	End          *time.Time   `json:"end,omitempty"`
	Spans        []reportSpan `json:"spans,omitempty"`
	Ready        *time.Time   `json:"ready,omitempty"`
	Done         bool         `json:"done,omitempty"`
	LeftOut      bool         `json:"leftOut,omitempty"`
	Cause        string       `json:"cause"`
	Because      string       `json:"because"`
	Latest       *time.Time   `json:"latest,omitempty"`
	Window       string       `json:"window,omitempty"`
	Missed       bool         `json:"missed,omitempty"`
	ScuffFirst   bool         `json:"scuffFirst,omitempty"`
	Batches      int          `json:"batches,omitempty"`
	HeldBack     bool         `json:"heldBack,omitempty"`
	Shares       *job.Event   `json:"shares,omitempty"`
	Pinned       bool         `json:"pinned,omitempty"`
	Floats       bool         `json:"floats,omitempty"`
	Impossible   string       `json:"impossible,omitempty"`
}

type reportSpan struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

type reportProposal struct {
	Better bool               `json:"better"`
	Before string             `json:"before"`
	After  string             `json:"after"`
	Tried  int                `json:"ordersTried"`
	Gains  []reportDifference `json:"gains,omitempty"`
	Order  []job.Event        `json:"order,omitempty"`
}

type reportDifference struct {
	Name   string     `json:"name"`
	Before *time.Time `json:"before,omitempty"`
	After  *time.Time `json:"after,omitempty"`
	Days   int        `json:"days"`
	Moved  int        `json:"eventsMoved"`
}

func some(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}

func reportOf(in schedule.Input, plan *schedule.Plan) *report {
	r := &report{Now: plan.Now.In(plan.Zone), Zone: plan.Zone.String(), zone: plan.Zone, Objective: search.Measure(plan).String(),
		BoundLate: search.LowerBoundLate(plan)}
	names, bounds := make(map[uuid.UUID][2]string), plan.LowerBounds()
	for i, instrument := range in.Instruments {
		f := plan.Forecasts[i]
		var slack *float64
		if hours := f.Slack.Hours(); f.Impossible == "" {
			slack = &hours
		}
		r.Instruments = append(r.Instruments, reportInstrument{ID: instrument.ID, Name: instrument.Name,
			Promise: instrument.Promise.String(), Finish: some(f.Finish),
			SlackHours: slack, LatestStart: some(plan.LatestStart(i)), LowerBound: some(bounds[i]), ShowReady: some(f.Show),
			Impossible: unit.Unmarked(f.Impossible)})
		for _, piece := range instrument.Pieces {
			names[piece.ID] = [2]string{instrument.Name, piece.Name}
		}
	}
	places := make(map[uuid.UUID]string)
	for _, p := range in.Shop.Places {
		places[p.ID] = p.Name
	}
	for _, e := range plan.Events {
		r.Events = append(r.Events, eventOf(in, plan, e, names[e.Piece], places[e.Place]))
	}
	return r
}

// eventOf is an event with all that a program asks of it.
func eventOf(in schedule.Input, plan *schedule.Plan, e schedule.Planned, names [2]string, place string) reportEvent {
	step := plan.Step(e.Event)
	line := reportEvent{InstrumentID: e.Instrument, Instrument: names[0], PieceID: e.Piece, Piece: names[1], Regions: step.Regions,
		Step: e.Step, Coat: e.Coat,
		Kind: string(step.Kind), Title: step.EventTitle(e.Coat), Place: place, Start: some(e.Start), End: some(e.End), Done: e.Done,
		LeftOut: e.Skipped,
		Cause:   string(e.Because.Cause), Because: unit.Unmarked(explain.Sentence(plan, e.Event)), ScuffFirst: e.ScuffFirst,
		HeldBack: e.HeldBack,
		Pinned:   e.Pinned, Floats: e.Floats, Impossible: unit.Unmarked(e.Impossible)}
	if e.Place != uuid.Nil {
		line.PlaceID = &e.Place
	}
	if e.Impossible == "" && !e.Done {
		line.Ready = some(e.Ready)
		if e.Person >= 0 && e.Person < len(in.Shop.People) {
			person := in.Shop.People[e.Person]
			line.Person = person.Name
			if person.ID != uuid.Nil {
				line.PersonID = &person.ID
			}
		}
	}
	for _, s := range e.Spans {
		line.Spans = append(line.Spans, reportSpan{s.Start, s.End})
	}
	if e.Batches > 1 {
		line.Batches = e.Batches
	}
	if e.Shares != nil {
		shares := job.Event(*e.Shares)
		line.Shares = &shares
	}
	if e.Window.Kind != schedule.NoWindow {
		line.Latest, line.Window, line.Missed = some(e.Window.Latest), e.Window.Kind.Text(), e.Window.Missed
	}
	return line
}

func differencesOf(list []search.Difference) []reportDifference {
	out := []reportDifference{}
	for _, d := range list {
		out = append(out, reportDifference{d.Name, some(d.Before.Finish), some(d.After.Finish), d.Days, d.Moved})
	}
	return out
}

func proposalOf(in schedule.Input, plan *schedule.Plan, p search.Proposal) *reportProposal {
	out := &reportProposal{Better: p.Better(), Before: p.Before.String(), After: p.After.String(), Tried: p.Tried}
	if p.Better() {
		out.Gains = differencesOf(search.Differences(plan, p.Plan))
		out.Order = p.Order
	}
	return out
}

func (r *report) addChances(ctx context.Context, plan *schedule.Plan, flags planFlags) error {
	chances, err := search.Chances(plan, plan.Learned(), flags.seed, flags.draws, func() bool { return ctx.Err() != nil })
	for i, c := range chances {
		if c.Draws == 0 {
			continue // it cannot be placed today
		}
		kept := float64(c.Kept)
		r.Instruments[i].ChancePct, r.Instruments[i].NineInTen = &kept, some(c.NineInTen)
	}
	return err
}

func (r *report) say(t *time.Time) string {
	if t == nil {
		return "–"
	}
	return t.In(r.zone).Format("Mon 2 Jan 15:04")
}

func (r *report) print(to io.Writer) error {
	fmt.Fprintf(to, "%s, %s\n%s; no order could be less than %g days late\n\n", r.say(&r.Now), r.Zone, r.Objective, r.BoundLate)
	table := tabwriter.NewWriter(to, 0, 0, 2, ' ', 0)
	fmt.Fprintln(table, "INSTRUMENT\tPROMISE\tREADY\tSLACK\tLATEST START\tCHANCE")
	for _, in := range r.Instruments {
		slack, chance := "cannot be placed: "+in.Impossible, "–"
		if in.SlackHours != nil {
			slack = fmt.Sprintf("%.1f days", *in.SlackHours/24)
		}
		if in.ChancePct != nil {
			chance = fmt.Sprintf("%.0f %%, nine in ten by %s", *in.ChancePct, r.say(in.NineInTen))
		}
		fmt.Fprintf(table, "%s\t%s\t%s\t%s\t%s\t%s\n", in.Name, in.Promise, r.say(in.Finish), slack, r.say(in.LatestStart), chance)
	}
	fmt.Fprintln(table, "\nSTART\tEND\tWHAT\tWHERE\tBECAUSE")
	for _, e := range r.Events {
		if !e.Done {
			fmt.Fprintf(table, "%s\t%s\t%s %s: %s\t%s\t%s\n", r.say(e.Start), r.say(e.End), e.Instrument, e.Piece, e.Title, e.Place,
				e.Because)
		}
	}
	if err := table.Flush(); err != nil {
		return err
	}
	if p := r.Proposal; p != nil {
		fmt.Fprintf(to, "\nA better order: %s\n", map[bool]string{true: "yes", false: "none found"}[p.Better])
		fmt.Fprintf(to, "  now:      %s\n  proposed: %s (%d orders tried)\n", p.Before, p.After, p.Tried)
		r.printDifferences(to, p.Gains)
	}
	if r.WhatIf != nil {
		fmt.Fprintln(to, "\nWhat if:")
		r.printDifferences(to, r.WhatIf)
	}
	return nil
}

func (r *report) printDifferences(to io.Writer, list []reportDifference) {
	for _, d := range list {
		fmt.Fprintf(to, "  %s: %s → %s (%+d days, %d events moved)\n", d.Name, r.say(d.Before), r.say(d.After), d.Days, d.Moved)
	}
}
