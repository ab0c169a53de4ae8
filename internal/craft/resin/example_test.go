package resin_test

import (
	"fmt"

	"umberfrost/internal/craft/resin"
)

// How many lifts a pour takes.
func Example() {
	flood, err := resin.Find("flood-epoxy")
	fmt.Println(flood.Name, flood.Lifts(14), err) // 14 mm deep
	// Output:
	// Flood or table-top epoxy 3 <nil>
}
