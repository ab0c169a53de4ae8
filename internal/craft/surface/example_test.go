package surface_test

import (
	"fmt"

	"umberfrost/internal/craft/surface"
)

// A surface as it comes.
func Example() {
	bare, err := surface.Find("bare")
	fmt.Println(bare.What, err)
	// Output:
	// Bare wood, machined or scraped <nil>
}
