package timer_test

import (
	"fmt"

	"umberfrost/internal/craft/timer"
)

// Wiping off runs within its step, not behind it.
func Example() {
	fmt.Println(timer.Within(timer.WipeOff), timer.Follows(timer.WipeOff))
	// Output:
	// true false
}
