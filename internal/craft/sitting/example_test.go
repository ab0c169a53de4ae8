package sitting_test

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/sitting"
)

// Work of one place that comes together is one sitting.
func Example() {
	at := time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC)
	work := func(start int) schedule.Planned {
		return schedule.Planned{Start: at.Add(time.Duration(start) * time.Minute), End: at.Add(time.Duration(start+20) * time.Minute)}
	}
	fmt.Println(len(sitting.Gather([]schedule.Planned{work(0), work(20), work(300)})))
	// Output:
	// 2
}
