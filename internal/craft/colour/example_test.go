package colour_test

import (
	"fmt"

	"umberfrost/internal/craft/colour"
)

// A colour that is said in a word.
func Example() {
	rgb, found := colour.Find("amber")
	fmt.Println(rgb, found)
	// Output:
	// {201 139 44} true
}
