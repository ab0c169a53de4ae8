package views

import (
	"testing"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/store"
)

// FuzzLogPlace reads whatever is said to be the place of a line of the log.
func FuzzLogPlace(f *testing.F) {
	row := store.LogLine{}
	row.Entry = job.Entry{ID: uuid.New(), HappenedAt: time.Unix(1_773_000_000, 0)}
	f.Add(placeOf(row))
	f.Add("e30")
	f.Fuzz(func(t *testing.T, text string) {
		if place, err := ReadPlace(text); err == nil && place.ID == uuid.Nil {
			t.Fatalf("%q is the place of nothing", text)
		}
	})
}
