// Umberfrost plans and logs finish schedules for guitar bodies and necks.
package main

import (
	"context"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"umberfrost/internal/web"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	root := &cobra.Command{
		Use:          "umberfrost",
		Short:        "Plan and log finish schedules for guitar bodies and necks",
		SilenceUsage: true,
	}
	root.AddCommand(startCommand(), demoCommand(), serveCommand(), migrateCommand(), openapiCommand(), planCommand(), exportCommand(),
		importCommand(),
		backupCommand(), restoreCommand(), trustCommand(), pairCommand(), versionCommand())
	if err := root.ExecuteContext(ctx); err != nil {
		os.Exit(exitCode(err))
	}
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the API's OpenAPI 3.1 document",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			document, err := web.OpenAPI()
			if err == nil {
				_, err = fmt.Fprintln(cmd.OutOrStdout(), string(document))
			}
			return err
		},
	}
}
