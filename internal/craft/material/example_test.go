package material_test

import (
	"fmt"

	"umberfrost/internal/craft/material"
)

// What a coat is made of, and when it may be coated again.
func Example() {
	clear, err := material.NewCatalogue().Of("nitro", nil) // of no named product: its usual figures
	limit, source := clear.Limit(material.Recoat)
	fmt.Println(limit, source, err)
	// Output:
	// 1.5 h family default <nil>
}
