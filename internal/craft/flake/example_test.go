package flake_test

import (
	"fmt"

	"umberfrost/internal/craft/flake"
	"umberfrost/internal/craft/unit"
)

// How high flake stands, which a clear has to bury.
func Example() {
	flake50, err := flake.Find("flake-50")
	fmt.Println(flake50.Material, unit.Unmarked(flake50.Standing.String()), err)
	// Output:
	// polyester or aluminium flake 18 µm <nil>
}
