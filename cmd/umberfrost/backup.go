package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"umberfrost/internal/shop"
)

func backupCommand() *cobra.Command {
	var from which
	cmd := &cobra.Command{
		Use:   "backup FILE",
		Short: "Write the whole shop into a file, while it is worked in, and read it back",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return from.do(cmd, func(ctx context.Context, service *shop.Service, out io.Writer) error {
				made, err := service.Backup(ctx, args[0])
				if err == nil {
					fmt.Fprintf(out, "%s: %d instruments, %d lines of the log, %d bytes. It was read back and holds the same.\n", made.Path,
						made.Instruments,
						made.Entries, made.Bytes)
				}
				return err
			})
		},
	}
	from.flags(cmd)
	return cmd
}

func restoreCommand() *cobra.Command {
	var to which
	cmd := &cobra.Command{
		Use:   "restore FILE",
		Short: "Put a backup in the place of an empty shop: all of it, or nothing",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if _, err := os.Stat(args[0]); err != nil {
				return badInput{err}
			}
			err := to.do(cmd, func(ctx context.Context, service *shop.Service, out io.Writer) error {
				if err := service.Restore(ctx, args[0]); err != nil {
					return err
				}
				lines, err := service.Instruments(ctx)
				if err == nil {
					fmt.Fprintf(out, "Restored: %d instruments.\n", len(lines))
				}
				return err
			})
			switch {
			case errors.Is(err, shop.ErrNotEmpty):
				return badInput{fmt.Errorf("%w; a backup goes into an empty one: name another --data folder, or another database", err)}
			case errors.Is(err, shop.ErrNewer), errors.Is(err, shop.ErrNoBackup):
				return badInput{fmt.Errorf("%s: %w", args[0], err)}
			}
			return err
		},
	}
	to.flags(cmd)
	return cmd
}
