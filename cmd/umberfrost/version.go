package main

import (
	"fmt"
	"runtime/debug"

	"github.com/spf13/cobra"

	"umberfrost/internal/web"
)

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version, and the commit it was built from",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			info, _ := debug.ReadBuildInfo()
			_, err := fmt.Fprintln(cmd.OutOrStdout(), versionText(info))
			return err
		},
	}
}

// versionText is the version with its commit, as far as the build knows it.
func versionText(info *debug.BuildInfo) string {
	settings := make(map[string]string)
	if info != nil {
		for _, s := range info.Settings {
			settings[s.Key] = s.Value
		}
	}
	commit := settings["vcs.revision"]
	switch {
	case commit == "":
		commit = "unknown"
	case settings["vcs.modified"] == "true":
		commit += ", changed since"
	}
	text := fmt.Sprintf("umberfrost %s, commit %s", web.Version, commit)
	if info != nil {
		text += ", " + info.GoVersion
	}
	return text
}
