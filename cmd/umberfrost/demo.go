package main

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"umberfrost/internal/demo"
	"umberfrost/internal/localpg"
	"umberfrost/internal/shop"
)

func demoCommand() *cobra.Command {
	var dir, now string
	var port int
	var how serving
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Start the Saltmarsh Room, a demo shop, on a private database",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			clock, database, err := demoClock(now)
			if err != nil {
				return err
			}
			return runDemo(cmd, dir, port, how, clock, database)
		},
	}
	cmd.Flags().StringVar(&dir, "data", ".data/demo", "folder for the private database")
	how.flags(cmd)
	portFlags(cmd, &port, 8177, &how)
	cmd.Flags().StringVar(&now, "now", "", "a fixed present, like 2026-03-12T15:20:00Z; without it the clock runs")
	return cmd
}

// demoClock is the present of the demo and the database it lives in: a fixed
// present has one of its own, so that the running demo keeps its data.
func demoClock(now string) (func() time.Time, string, error) {
	if now == "" {
		return time.Now, "demo", nil
	}
	fixed, err := time.Parse(time.RFC3339, now)
	if err != nil {
		return nil, "", fmt.Errorf("--now %q is not a time; write it like 2026-03-12T15:20:00Z", now)
	}
	return func() time.Time { return fixed }, fmt.Sprintf("demo_%d", fixed.Unix()), nil
}

func runDemo(cmd *cobra.Command, dir string, port int, how serving, clock func() time.Time, database string) error {
	ctx, out := cmd.Context(), cmd.OutOrStdout()
	server, err := startDatabase(ctx, dir, out)
	if err != nil {
		return err
	}
	defer func() {
		if err := server.Stop(); err != nil {
			fmt.Fprintln(cmd.ErrOrStderr(), err)
		}
	}()
	if err := server.CreateDatabase(ctx, database, ""); err != nil {
		return err
	}
	s, err := openMigrated(ctx, server.URL(database))
	if err != nil {
		return err
	}
	defer s.Close()
	fmt.Fprintln(out, "Setting up the Saltmarsh Room, if it is not there yet.")
	if _, err := demo.Load(ctx, s, clock()); err != nil {
		return fmt.Errorf("loading the demo (make demo-reset starts over): %w", err)
	}
	service, err := shop.New(s, clock)
	if err != nil {
		return err
	}
	if how.authority == "" {
		how.authority = filepath.Join(dir, trustFolder)
	}
	d, err := how.open(port)
	if err != nil {
		return err
	}
	return serve(ctx, service, d, keeping{database: server}, out)
}

// startDatabase starts the private server in dir. Where the user that must run
// it for root may not enter dir, it lives in the system's folder for data that
// outlasts a restart instead.
func startDatabase(ctx context.Context, dir string, out interface{ Write([]byte) (int, error) }) (*localpg.Server, error) {
	fmt.Fprintf(out, "Starting a private PostgreSQL server on loopback, data in %s.\n", dir)
	server, err := localpg.Start(ctx, dir, localpg.Options{})
	if !errors.Is(err, localpg.ErrUnreachable) {
		return server, err
	}
	absolute, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	elsewhere := filepath.Join("/var/tmp", fmt.Sprintf("umberfrost-%x", sha256.Sum256([]byte(absolute)))[:24])
	fmt.Fprintf(out, "The database user may not enter that folder; using %s.\n", elsewhere)
	if err := os.MkdirAll(dir, 0o711); err != nil {
		return nil, err
	}
	if err := os.WriteFile(filepath.Join(dir, "data-is-in"), []byte(elsewhere+"\n"), 0o644); err != nil {
		return nil, err
	}
	return localpg.Start(ctx, elsewhere, localpg.Options{})
}
