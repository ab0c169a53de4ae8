package main

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"umberfrost/internal/trust"
)

// trustFolder is where a data folder has the shop's authority.
const trustFolder = "trust"

func trustCommand() *cobra.Command {
	var data dataFolder
	var folder string
	var names []string
	cmd := &cobra.Command{
		Use:   "trust",
		Short: "Make the shop an authority that its devices trust, to serve it beyond this machine",
		Long: "Make the shop a certificate authority of its own, unless it has one, and a certificate for its server.\n" +
			"Each device takes the authority's certificate once; what it says and shows is then kept on the device while the network is " +
			"away.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := trust.CheckNames(names); err != nil {
				return badInput{fmt.Errorf("--name: %w", err)}
			}
			if folder == "" {
				dir, err := data.path()
				if err != nil {
					return err
				}
				folder = filepath.Join(dir, trustFolder)
			} else if cmd.Flags().Changed("data") {
				return badInput{errors.New("give --data or --folder, not both")}
			}
			kept, err := trust.Make(folder, append(trust.OwnNames(), names...), time.Now)
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), trustWords, folder, trust.Fingerprint(kept.Authority),
				kept.Authority.NotAfter.Format(time.DateOnly),
				strings.Join(kept.Names(), ", "), strings.Join(kept.Names(), ", "))
			return nil
		},
	}
	data.flags(cmd)
	cmd.Flags().StringVar(&folder, "folder", "", "folder of the authority (default trust in the data folder)")
	cmd.Flags().StringSliceVar(&names, "name", nil, "another name or address that the server is asked for by; may be given again")
	return cmd
}

const trustWords = `The shop's authority is in %s; keep its key to yourself.
Its fingerprint (SHA-256) is
  %s
It is good until %s. The server's certificate is for %s, and is renewed by itself.

Serve the shop on your networks:  umberfrost start --listen 0.0.0.0:8443
On each device, once, open /authority.crt at that port of one of %s,
compare the fingerprint, and let the device trust it for websites:
  Android: Settings, Security, Install a certificate, CA certificate.
  iPad or iPhone: install the profile, then Settings, General, About, Certificate Trust Settings.
  Windows or macOS: open the file, and put it among the trusted root authorities.
Then pair the device with a code from the page Shop.
`
