package recipe_test

import (
	"fmt"

	"umberfrost/internal/craft/recipe"
)

// A wish becomes a schedule.
func Example() {
	draft, faults, err := recipe.Compose(recipe.Archetypes()[0].Wish)
	fmt.Println(len(draft.Pieces) > 0, len(faults), err)
	fmt.Println(draft.Pieces[0].Steps[0].Title)
	// Output:
	// true 0 <nil>
	// Sand the bare wood
}
