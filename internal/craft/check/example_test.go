package check_test

import (
	"fmt"

	"umberfrost/internal/craft/check"
)

// What is looked at before work goes on.
func Example() {
	look, err := check.Find("dull-gone")
	fmt.Println(look.Title, err)
	// Output:
	// No shiny specks left <nil>
}
