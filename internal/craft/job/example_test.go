package job_test

import (
	"fmt"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
)

// A coat that is logged stands until its entry is struck.
func Example() {
	step, coat := uuid.UUID{1}, 1
	done := job.Entry{ID: uuid.UUID{2}, Kind: job.Done, Step: &step, Coat: &coat}
	struck := job.Entry{ID: uuid.UUID{3}, Kind: job.Void, Voids: &done.ID}
	event := job.Event{Step: step, Coat: coat}
	fmt.Println(job.FoldOf([]job.Entry{done}).Standing(event) != nil)
	fmt.Println(job.FoldOf([]job.Entry{done, struck}).Standing(event) != nil)
	// Output:
	// true
	// false
}
