package main

import (
	"context"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
)

func pairCommand() *cobra.Command {
	var where which
	var role, person string
	cmd := &cobra.Command{
		Use:   "pair",
		Short: "Make a code that lets one device in",
		Long: "Make a code that lets one device into the shop within ten minutes, as the page Shop does: for a server whose own machine " +
			"has no screen.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return where.do(cmd, func(ctx context.Context, service *shop.Service, out io.Writer) error {
				reference, err := service.Reference(ctx)
				if err != nil {
					return err
				}
				asked := shop.CodeAsked{Role: access.Role(role)}
				var names []string
				for _, p := range reference.People {
					names = append(names, p.Name)
					if strings.EqualFold(p.Name, person) || (person == "" && len(names) == 1) {
						asked.PersonID = p.ID
					}
				}
				made, err := service.MakeCode(ctx, asked)
				if err != nil {
					return badInput{fmt.Errorf("%w; people here: %s", err, strings.Join(names, ", "))}
				}
				_, err = fmt.Fprintf(out, "%s\nIt lets one device in, until %s. Open the shop's address on it, and enter the code.\n",
					made.Code, made.Ends.Local().Format("15:04"))
				return err
			})
		},
	}
	where.flags(cmd)
	cmd.Flags().StringVar(&role, "role", "bench", "what the device may do: look, bench (log and move work) or shop (everything)")
	cmd.Flags().StringVar(&person, "person", "", "name of who will be on it (default the first of the shop)")
	return cmd
}
