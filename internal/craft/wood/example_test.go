package wood_test

import (
	"fmt"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// What a wood is like.
func Example() {
	ash, err := wood.Find("ash-swamp")
	fmt.Println(ash.Name, ash.OpenPored(), unit.Unmarked(ash.PoreDepth.String()), err)
	// Output:
	// Ash, swamp (lightweight lowland) true 170 µm <nil>
}
