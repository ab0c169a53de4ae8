package working_test

import (
	"fmt"

	"umberfrost/internal/craft/working"
)

// How a figure shows where it came from.
func Example() {
	w := working.New("Dry film", "wet × solids", "20 µm", working.Input{Name: "wet", Value: "60 µm", Source: working.Family})
	fmt.Println(w.Title, "=", w.Formula, "=", w.Result)
	// Output:
	// Dry film = wet × solids = 20 µm
}
