package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
)

func exportCommand() *cobra.Command {
	var from which
	var instrument string
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
			return from.do(cmd, func(ctx context.Context, service *shop.Service, out io.Writer) error {
				if only == nil {
					return service.ExportTo(ctx, out)
				}
				file, err := service.Export(ctx, only)
				if err != nil {
					return err
				}
				return formats.Write(out, file)
			})
		},
	}
	from.flags(cmd)
	cmd.Flags().StringVar(&instrument, "instrument", "", "id of the only instrument to write")
	return cmd
}

func importCommand() *cobra.Command {
	var to which
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
			info, err := from.Stat()
			if err != nil {
				return badInput{err}
			}
			file, err := formats.ReadStream(cmd.Context(), from, info.Size())
			if err != nil {
				return badInput{fmt.Errorf("%s cannot be accepted:\n%w", args[0], err)}
			}
			return to.do(cmd, func(ctx context.Context, service *shop.Service, out io.Writer) error {
				done, err := service.ImportStream(ctx, file)
				if wrong := new(formats.Invalid); errors.As(err, &wrong) {
					return badInput{fmt.Errorf("%s cannot be accepted:\n%w", args[0], err)}
				}
				if err == nil {
					fmt.Fprintf(out, "Added %d instruments, %d log entries, %d products, %d places, %d readings, %d recipes, %d people, "+
						"%d sittings.\n",
						done.Instruments, done.Entries, done.Products, done.Places, done.Readings, done.Recipes, done.People, done.Sittings)
					if len(done.Left) > 0 {
						fmt.Fprintf(out, "Not kept, as the shop has it already or keeps no such thing: %s.\n",
							strings.Join(done.Left, ", "))
					}
				}
				return err
			})
		},
	}
	to.flags(cmd)
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
