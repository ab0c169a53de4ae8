package labour_test

import (
	"fmt"

	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/unit"
)

// How long bare wood of a body takes through three grits.
func Example() {
	rate, err := labour.Find("sand-bare", "")
	minutes, _ := rate.Minutes(0.3, 3) // three grits over 0.3 m²
	fmt.Println(unit.Unmarked(minutes.String()), err)
	// Output:
	// 1 h 30 <nil>
}
