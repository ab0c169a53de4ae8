package mask_test

import (
	"fmt"

	"umberfrost/internal/craft/mask"
)

// How long a tape may stay.
func Example() {
	tape, err := mask.Find("paper-low-tack")
	fmt.Println(tape.Name, tape.StayMost, err)
	// Output:
	// Low-tack paper tape 72h0m0s <nil>
}
