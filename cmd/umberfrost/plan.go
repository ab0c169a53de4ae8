package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"time"

	"github.com/spf13/cobra"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/formats"
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
		Long: "Read a schedule file (docs/formats/schedule-4.schema.json; - is standard input) and print when everything will be done, " +
			"and why.\n" +
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
		proposal, err := search.Propose(in, search.Effort{Seed: flags.seed})
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
		report.WhatIf = differencesOf(search.Differences(plan, changed))
	}
	if flags.draws > 0 {
		if err := report.addChances(cmd.Context(), plan, flags); err != nil {
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

// exitCode is 2 for an input that cannot be accepted, 1 for all else.
func exitCode(err error) int {
	var bad badInput
	if errors.As(err, &bad) {
		return 2
	}
	return 1
}
