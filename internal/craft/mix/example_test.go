package mix_test

import (
	"fmt"

	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/unit"
)

// A mix by parts, and the face that it covers.
func Example() {
	parts, err := mix.ParseParts("4:1")
	fmt.Println(parts, err)
	fmt.Println(unit.Unmarked(mix.Face(480, 330).String()))
	// Output:
	// 4:1 <nil>
	// 0.114 m²
}
