package shop

import (
	"testing"
)

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
