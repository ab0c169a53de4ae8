package strata_test

import (
	"fmt"

	"umberfrost/internal/craft/strata"
)

// What lies on a region, from the wood upwards.
func Example() {
	body := strata.Stack[string]{{Family: "dewaxed-shellac", Coats: 1}, {Family: "nitro", Coats: 6}}
	top := body[len(body)-1]
	fmt.Println(len(body), "strata,", top.Coats, "coats of", top.Family, "on top")
	// Output:
	// 2 strata, 6 coats of nitro on top
}
