package glue_test

import (
	"fmt"

	"umberfrost/internal/craft/glue"
	"umberfrost/internal/craft/unit"
)

// How long the clamps stay on.
func Example() {
	white, err := glue.Find("pva-white")
	fmt.Println(white.Name, unit.Unmarked(white.Clamp.String()), err)
	// Output:
	// White wood glue 1 h <nil>
}
