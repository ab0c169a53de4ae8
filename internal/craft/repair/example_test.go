package repair_test

import (
	"fmt"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/repair"
)

// Of nothing that is known there is no way to put it right, and it says why.
func Example() {
	ways, err := repair.Ways(recipe.Instrument{}, repair.Asked{Damage: repair.Chip}, recipe.Logged{})
	fmt.Println(len(ways), err)
	// Output:
	// 0 must be a piece of this instrument
}
