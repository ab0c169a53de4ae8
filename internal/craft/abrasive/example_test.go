package abrasive_test

import (
	"fmt"

	"umberfrost/internal/craft/abrasive"
)

// A ladder of grits, by their keys.
func Example() {
	ladder, err := abrasive.LadderOf("fepa:P320", "fepa:P400", "fepa:P600")
	fmt.Println(ladder, err)
	// Output:
	// P320, P400, P600 <nil>
}
