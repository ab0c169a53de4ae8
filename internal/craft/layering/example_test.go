package layering_test

import (
	"fmt"

	"umberfrost/internal/craft/layering"
)

// What goes over what, and when.
func Example() {
	verdict := layering.Over("drying-oil", "nitro")
	fmt.Println(verdict.Answer, verdict.Condition)
	// Output:
	// if barrier-dewaxed-shellac
}
