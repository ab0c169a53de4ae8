package part_test

import (
	"fmt"

	"umberfrost/internal/craft/part"
)

// A bridge of bare brass: what comes off before anything else.
func Example() {
	brass, err := part.FindMetal("brass-bare")
	fmt.Println(brass.Name, brass.Kind, brass.Strip, err)
	// Output:
	// Brass, bare solid grease only <nil>
}
