package cure_test

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
)

// How long until a film may be buffed, with the caution of a shop.
func Example() {
	made, err := material.NewCatalogue().Of("nitro", nil)
	wait := cure.Earliest(*made, material.Buff, 1.25)
	fmt.Println(cure.DurationText(time.Duration(wait.Hours()*float64(time.Hour))), err)
	// Output:
	// 26 days 6 h <nil>
}
