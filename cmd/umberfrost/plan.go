package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"text/tabwriter"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
)

// badInput is an input that cannot be accepted: the command ends with code 2.
type badInput struct{ error }

func (b badInput) Unwrap() error { return b.error }

type planFlags struct {
	now, whatIf string
	json        bool
	propose     bool
	seed        uint64
	draws       int
}

func planCommand() *cobra.Command {
	var flags planFlags
	cmd := &cobra.Command{
		Use:   "plan FILE",
		Short: "Read a schedule file and print its dates",
		Long: "Read a schedule file (docs/formats/schedule-1.schema.json; - is standard input) and print when everything will be done, and why.\n" +
			"Ends with code 2 on a file that cannot be accepted, naming each place and what would be.",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return runPlan(cmd, args[0], flags)
		},
	}
	cmd.Flags().StringVar(&flags.now, "now", "", "the present, like 2026-03-12T15:20:00Z; the file's own, else the clock's, without it")
	cmd.Flags().BoolVar(&flags.json, "json", false, "print JSON instead of a table")
	cmd.Flags().BoolVar(&flags.propose, "propose", false, "look for a better order of work, and say what it gains")
	cmd.Flags().Uint64Var(&flags.seed, "seed", 1, "seed of the proposal and of the chance")
	cmd.Flags().StringVar(&flags.whatIf, "what-if", "", "another schedule file, planned beside this one")
	cmd.Flags().IntVar(&flags.draws, "chance", 0, "draws for the chance of keeping each promise; 0: none")
	return cmd
}

func runPlan(cmd *cobra.Command, path string, flags planFlags) error {
	in, err := readInput(cmd, path, flags.now)
	if err != nil {
		return err
	}
	plan, err := schedule.Retime(in)
	if err != nil {
		return badInput{err}
	}
	report := reportOf(in, plan)
	if flags.propose {
		proposal, err := schedule.Propose(in, schedule.Effort{Seed: flags.seed})
		if err != nil {
			return err
		}
		report.Proposal = proposalOf(in, plan, proposal)
	}
	if flags.whatIf != "" {
		other, err := readInput(cmd, flags.whatIf, in.Now.Format(time.RFC3339))
		if err != nil {
			return err
		}
		changed, err := schedule.Retime(other)
		if err != nil {
			return badInput{err}
		}
		report.WhatIf = differencesOf(schedule.Differences(plan, changed))
	}
	if flags.draws > 0 {
		if err := report.addChances(cmd.Context(), in, flags); err != nil {
			return err
		}
	}
	if flags.json {
		encoder := json.NewEncoder(cmd.OutOrStdout())
		encoder.SetIndent("", "  ")
		encoder.SetEscapeHTML(false)
		return encoder.Encode(report)
	}
	return report.print(cmd.OutOrStdout())
}

func readInput(cmd *cobra.Command, path, now string) (schedule.Input, error) {
	from := io.Reader(cmd.InOrStdin())
	if path != "-" {
		file, err := os.Open(path)
		if err != nil {
			return schedule.Input{}, badInput{err}
		}
		defer file.Close()
		from = file
	}
	file, err := formats.Read(from)
	if err != nil {
		return schedule.Input{}, badInput{fmt.Errorf("%s cannot be accepted:\n%w", path, err)}
	}
	present := time.Now()
	switch {
	case now != "":
		if present, err = time.Parse(time.RFC3339, now); err != nil {
			return schedule.Input{}, badInput{fmt.Errorf("--now %q is not a time; write it like 2026-03-12T15:20:00Z", now)}
		}
	case file.Now != nil:
		present = *file.Now
	}
	in, err := file.Input(present)
	if err != nil {
		return in, badInput{err}
	}
	return in, nil
}

// report is what the plan command prints.
type report struct {
	Now         time.Time          `json:"now"`
	Zone        string             `json:"zone"`
	Aims        string             `json:"aims"`
	BoundLate   float64            `json:"boundDaysLate"`
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
	SlackHours  float64    `json:"slackHours"`
	LatestStart *time.Time `json:"latestStart,omitempty"`
	Bound       *time.Time `json:"bound,omitempty"`
	ShowReady   *time.Time `json:"showReady,omitempty"`
	Impossible  string     `json:"impossible,omitempty"`
	ChancePct   *float64   `json:"chancePct,omitempty"`
	NineInTen   *time.Time `json:"nineInTen,omitempty"`
}

type reportEvent struct {
	Instrument string     `json:"instrument"`
	Piece      string     `json:"piece"`
	Step       uuid.UUID  `json:"step"`
	Coat       int        `json:"coat"`
	Title      string     `json:"title"`
	Place      string     `json:"place"`
	Start      *time.Time `json:"start,omitempty"`
	End        *time.Time `json:"end,omitempty"`
	Done       bool       `json:"done,omitempty"`
	Cause      string     `json:"cause"`
	Because    string     `json:"because"`
	Latest     *time.Time `json:"latest,omitempty"`
	Window     string     `json:"window,omitempty"`
	ScuffFirst bool       `json:"scuffFirst,omitempty"`
}

type reportProposal struct {
	Better bool               `json:"better"`
	Before string             `json:"before"`
	After  string             `json:"after"`
	Tried  int                `json:"ordersTried"`
	Gains  []reportDifference `json:"gains,omitempty"`
	Order  []formats.Event    `json:"order,omitempty"`
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
	r := &report{Now: plan.Now.In(plan.Zone), Zone: plan.Zone.String(), zone: plan.Zone, Aims: plan.Aims().Text(), BoundLate: plan.BoundLate()}
	names := make(map[uuid.UUID][2]string)
	titles := make(map[uuid.UUID]schedule.Step)
	for i, instrument := range in.Instruments {
		f := plan.Forecasts[i]
		r.Instruments = append(r.Instruments, reportInstrument{ID: instrument.ID, Name: instrument.Name, Promise: instrument.Promise.String(), Finish: some(f.Finish),
			SlackHours: f.Slack.Hours(), LatestStart: some(plan.LatestStart(i)), Bound: some(plan.Bound(i)), ShowReady: some(f.Show), Impossible: f.Impossible})
		for _, piece := range instrument.Pieces {
			names[piece.ID] = [2]string{instrument.Name, piece.Name}
			for _, step := range piece.Steps {
				titles[step.ID] = step
			}
		}
	}
	places := make(map[uuid.UUID]string)
	for _, p := range in.Shop.Places {
		places[p.ID] = p.Name
	}
	for _, e := range plan.Events {
		line := reportEvent{Instrument: names[e.Piece][0], Piece: names[e.Piece][1], Step: e.Step, Coat: e.Coat, Title: titles[e.Step].EventTitle(e.Coat),
			Place: places[e.Place], Start: some(e.Start), End: some(e.End), Done: e.Done, Cause: string(e.Because.Cause), Because: plan.Sentence(e.Event), ScuffFirst: e.ScuffFirst}
		if e.Window.Kind != schedule.NoWindow {
			line.Latest, line.Window = some(e.Window.Latest), e.Window.Kind.Text()
		}
		r.Events = append(r.Events, line)
	}
	return r
}

func differencesOf(list []schedule.Difference) []reportDifference {
	out := []reportDifference{}
	for _, d := range list {
		out = append(out, reportDifference{d.Name, some(d.Before.Finish), some(d.After.Finish), d.Days, d.Moved})
	}
	return out
}

func proposalOf(in schedule.Input, plan *schedule.Plan, p schedule.Proposal) *reportProposal {
	out := &reportProposal{Better: p.Better(), Before: p.Before.Text(), After: p.After.Text(), Tried: p.Tried}
	if p.Better() {
		out.Gains = differencesOf(schedule.Differences(plan, p.Plan))
		for _, e := range p.Order {
			out.Order = append(out.Order, formats.Event(e))
		}
	}
	return out
}

func (r *report) addChances(ctx context.Context, in schedule.Input, flags planFlags) error {
	chances, err := schedule.Chances(in, schedule.Learned{}, flags.seed, flags.draws, func() bool { return ctx.Err() != nil })
	for i, c := range chances {
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
	fmt.Fprintf(to, "%s, %s\n%s; no order could be less than %g days late\n\n", r.say(&r.Now), r.Zone, r.Aims, r.BoundLate)
	table := tabwriter.NewWriter(to, 0, 0, 2, ' ', 0)
	fmt.Fprintln(table, "INSTRUMENT\tPROMISE\tREADY\tSLACK\tLATEST START\tCHANCE")
	for _, in := range r.Instruments {
		slack, chance := fmt.Sprintf("%.1f days", in.SlackHours/24), "–"
		if in.Impossible != "" {
			slack = "cannot be placed: " + in.Impossible
		}
		if in.ChancePct != nil {
			chance = fmt.Sprintf("%.0f %%, nine in ten by %s", *in.ChancePct, r.say(in.NineInTen))
		}
		fmt.Fprintf(table, "%s\t%s\t%s\t%s\t%s\t%s\n", in.Name, in.Promise, r.say(in.Finish), slack, r.say(in.LatestStart), chance)
	}
	fmt.Fprintln(table, "\nSTART\tEND\tWHAT\tWHERE\tBECAUSE")
	for _, e := range r.Events {
		if !e.Done {
			fmt.Fprintf(table, "%s\t%s\t%s %s: %s\t%s\t%s\n", r.say(e.Start), r.say(e.End), e.Instrument, e.Piece, e.Title, e.Place, e.Because)
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

func exportCommand() *cobra.Command {
	var url, instrument string
	cmd := &cobra.Command{
		Use:   "export",
		Short: "Write the shop, or one instrument, as a schedule file to standard output",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var only *uuid.UUID
			if instrument != "" {
				id, err := uuid.Parse(instrument)
				if err != nil {
					return badInput{fmt.Errorf("--instrument %q is not the id of an instrument", instrument)}
				}
				only = &id
			}
			return withShop(cmd.Context(), url, func(service *shop.Service) error {
				file, err := service.Export(cmd.Context(), only)
				if err != nil {
					return err
				}
				return formats.Write(cmd.OutOrStdout(), file)
			})
		},
	}
	cmd.Flags().StringVar(&url, "database-url", os.Getenv("DATABASE_URL"), "PostgreSQL URL; the environment's DATABASE_URL when not given")
	cmd.Flags().StringVar(&instrument, "instrument", "", "id of the only instrument to write")
	return cmd
}

func importCommand() *cobra.Command {
	var url string
	cmd := &cobra.Command{
		Use:   "import FILE",
		Short: "Add what a schedule file holds to a shop; nothing there is overwritten",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			from, err := os.Open(args[0])
			if err != nil {
				return badInput{err}
			}
			defer from.Close()
			file, err := formats.Read(from)
			if err != nil {
				return badInput{fmt.Errorf("%s cannot be accepted:\n%w", args[0], err)}
			}
			return withShop(cmd.Context(), url, func(service *shop.Service) error {
				done, err := service.Import(cmd.Context(), file)
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "Added %d instruments, %d log entries, %d products, %d places, %d readings.\n",
						done.Instruments, done.Entries, done.Products, done.Places, done.Readings)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&url, "database-url", os.Getenv("DATABASE_URL"), "PostgreSQL URL; the environment's DATABASE_URL when not given")
	return cmd
}

func withShop(ctx context.Context, url string, do func(*shop.Service) error) error {
	s, err := openMigrated(ctx, url)
	if err != nil {
		return err
	}
	defer s.Close()
	service, err := shop.New(s, time.Now)
	if err != nil {
		return err
	}
	return do(service)
}

// exitCode is 2 for an input that cannot be accepted, 1 for all else.
func exitCode(err error) int {
	var bad badInput
	if errors.As(err, &bad) {
		return 2
	}
	return 1
}
