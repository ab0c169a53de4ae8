package shop

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
		if place, err := readPlace(text); err == nil && place.ID == uuid.Nil {
			t.Fatalf("%q is the place of nothing", text)
		}
	})
}

// FuzzCode reads whatever somebody types for a code.
func FuzzCode(f *testing.F) {
	f.Add("k7qf-3mtx")
	f.Add(" K7QF 3MTX ")
	f.Fuzz(func(t *testing.T, text string) {
		if once := plainCode(text); plainCode(once) != once {
			t.Fatalf("%q is read as %q, and that as another", text, once)
		}
	})
}
