package aging_test

import (
	"fmt"

	"umberfrost/internal/craft/aging"
)

// Dulling a whole instrument.
func Example() {
	dull, err := aging.Find("dull-all")
	fmt.Println(dull.Effect, dull.Tools, err)
	// Output:
	// Overall dulling [soft pad soapy water] <nil>
}
