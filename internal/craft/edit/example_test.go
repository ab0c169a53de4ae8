package edit_test

import (
	"fmt"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// Where an event of an instrument stood in the order of work.
func Example() {
	order := []job.Event{{Step: uuid.UUID{1}, Coat: 1}, {Step: uuid.UUID{2}, Coat: 1}}
	in := recipe.Instrument{}
	in.Pieces = []job.Piece{{Steps: []job.Step{{ID: uuid.UUID{2}, Coats: 1}}}}
	seats := edit.SeatsOf(&in, order, nil)
	fmt.Println(len(seats.Order), seats.Order[0].After == order[0])
	// Output:
	// 1 true
}
