package caution_test

import (
	"fmt"

	"umberfrost/internal/craft/caution"
)

// The hazards of a sprayed two-pack.
func Example() {
	for _, c := range caution.For(caution.Facts{"method": "spray", "family": "urethane-2k"}) {
		fmt.Println(c.Title)
	}
	// Output:
	// Isocyanate in two-part urethane, sealer, primer and effect clears
}
