package workshop_test

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/workshop"
)

// What is archived is not planned.
func Example() {
	w := workshop.Workshop{}
	w.Instruments = []recipe.Instrument{{Instrument: job.Instrument{Name: "Curlew"}},
		{Instrument: job.Instrument{Name: "Knot", Archived: new(time.Unix(0, 0))}}}
	archive := w.TakeArchived()
	fmt.Println(len(w.Instruments), "is planned,", len(archive.Instruments), "is put aside")
	fmt.Println(len(w.With(archive).Instruments), "in all")
	// Output:
	// 1 is planned, 1 is put aside
	// 2 in all
}
