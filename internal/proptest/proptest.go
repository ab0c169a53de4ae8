// Package proptest runs property tests the same way every time. A plain `go test`
// draws from a fixed seed, so that it is as green tomorrow as it is today; make test-long
// draws afresh, and what it finds becomes a named example.
package proptest

import (
	"flag"
	"os"
	"sync"
	"testing"

	"pgregory.net/rapid"
)

// seed is what a plain run draws from.
const seed = "20260312"

var fixed = sync.OnceValue(func() error {
	if os.Getenv("RAPID_SEED") != "" || flag.Lookup("rapid.seed").Value.String() != "0" {
		return nil // somebody has chosen
	}
	return flag.Set("rapid.seed", seed)
})

// Check is rapid.Check from a fixed seed, unless the flag rapid.seed or the variable
// RAPID_SEED names another.
func Check(t *testing.T, property func(*rapid.T)) {
	t.Helper()
	if err := fixed(); err != nil {
		t.Fatal(err)
	}
	rapid.Check(t, property)
}

// Few is how many cases of its own a test goes through: few in a plain run, more in make test-long, whose seed is another.
func Few(few, more int) int {
	if os.Getenv("RAPID_SEED") != "" {
		return more
	}
	return few
}
