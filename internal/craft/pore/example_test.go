package pore_test

import (
	"fmt"

	"umberfrost/internal/craft/pore"
)

// How many coats of a filler until nine tenths of the pores are full.
func Example() {
	coats, err := pore.Needed("water-filler", 0.9)
	fmt.Println(coats, err)
	// Output:
	// 3 <nil>
}
