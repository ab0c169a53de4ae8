package leaf_test

import (
	"fmt"

	"umberfrost/internal/craft/leaf"
	"umberfrost/internal/craft/unit"
)

// The tack of a size: from when, and until when, leaf is laid on it.
func Example() {
	gold, err := leaf.Find("gold-oil-slow")
	fmt.Println(gold.Name, unit.Unmarked(gold.After.String()), unit.Unmarked(gold.Before.String()), err)
	// Output:
	// Gold, about 22 to 24 carat 11 h 22 h <nil>
}
