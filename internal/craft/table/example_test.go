package table_test

import (
	"fmt"

	"umberfrost/internal/craft/table"
)

// Reading a table of reference figures.
func Example() {
	err := table.Read("grits", "key,micron\nfepa:P320,46", func(r table.Row) {
		fmt.Println(r.Needed("key"), r.Number("micron", 0, 1000))
	})
	fmt.Println(err)
	// Output:
	// fepa:P320 46
	// <nil>
}
