package film_test

import (
	"fmt"

	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/unit"
)

// What stays of a wet coat, and the chance of going through.
func Example() {
	dry := film.Dry(60, 0.33, 0.1) // 60 µm wet of a third of solids, thinned by a tenth
	fmt.Println(unit.Unmarked(dry.String()))
	fmt.Printf("%.0f %%\n", 100*film.Risk(80, 40)) // 80 µm of film, 40 of it levelled away
	// Output:
	// 18 µm
	// 1 %
}
