package main

import (
	"context"
	"errors"
	"os"
	"time"

	"github.com/spf13/cobra"

	"umberfrost/internal/shop"
	"umberfrost/internal/store"
)

func serveCommand() *cobra.Command {
	var url, zone, backups string
	var how serving
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve a shop from a PostgreSQL server it already has",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := openMigrated(cmd.Context(), url)
			if err != nil {
				return err
			}
			defer s.Close()
			service, err := shop.New(s, time.Now)
			if err != nil {
				return err
			}
			if _, err := service.Prepare(cmd.Context(), shop.Default(zone), "Finisher"); err != nil {
				return err
			}
			d, err := how.open(0)
			if err != nil {
				return err
			}
			return serve(cmd.Context(), service, d, keeping{backups: backups}, cmd.OutOrStdout())
		},
	}
	databaseFlag(cmd, &url)
	how.flags(cmd)
	cmd.Flags().StringSliceVar(&how.listen, "listen", []string{"127.0.0.1:8177"},
		"address to serve on; may be given again. Beyond loopback over TLS, to paired devices")
	cmd.Flags().StringVar(&backups, "backups", "", "folder to keep a backup of each of the last fourteen days in; none are kept without it")
	cmd.Flags().StringVar(&zone, "time-zone", "UTC", "IANA time zone of a shop that is set up for the first time")
	return cmd
}

func databaseFlag(cmd *cobra.Command, url *string) {
	cmd.Flags().StringVar(url, "database-url", os.Getenv("DATABASE_URL"),
		"PostgreSQL URL, its password in ~/.pgpass or PGPASSWORD; the environment's DATABASE_URL when not given")
}

func migrateCommand() *cobra.Command {
	var url string
	cmd := &cobra.Command{
		Use:   "migrate",
		Short: "Bring a database's schema up to date",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := openMigrated(cmd.Context(), url)
			if err != nil {
				return err
			}
			return s.Close()
		},
	}
	databaseFlag(cmd, &url)
	return cmd
}

func openMigrated(ctx context.Context, url string) (*store.Store, error) {
	if url == "" {
		return nil, errors.New("say which database: --database-url postgres://user@host/name, with the password in ~/.pgpass or PGPASSWORD")
	}
	s, err := store.Open(ctx, url)
	if err != nil {
		return nil, err
	}
	if err := s.Migrate(ctx); err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}
