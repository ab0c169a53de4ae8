package main

import (
	"context"
	"fmt"
	"os"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
)

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
	databaseFlag(cmd, &url)
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
	databaseFlag(cmd, &url)
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
