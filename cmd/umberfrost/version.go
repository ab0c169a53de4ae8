package main

import (
	"fmt"
	"runtime"

	"github.com/spf13/cobra"

	"umberfrost/internal/web"
)

// commit is what the program was built from, as make build knows it.
var commit = "unknown"

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version, and the commit it was built from",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := fmt.Fprintf(cmd.OutOrStdout(), "umberfrost %s, commit %s, %s\n", web.Version, commit, runtime.Version())
			return err
		},
	}
}
