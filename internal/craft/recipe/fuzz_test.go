package recipe

import (
	"encoding/json"
	"testing"
)

// FuzzCompose gives wishes as they come from outside: whatever they say, they are
// composed or refused, and what is composed passes its own lint.
func FuzzCompose(f *testing.F) {
	for _, a := range Archetypes() {
		seed, err := json.Marshal(a.Wish)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(seed)
	}
	f.Add([]byte(`{"pieces":[{"kind":"body","wood":"","length":"x"}],"ways":{"holes":"x"},"board":{"wood":"y"}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		var w Wish
		if json.Unmarshal(data, &w) != nil {
			return
		}
		w.Choices()
		draft, faults, err := Compose(w)
		if err != nil {
			t.Fatal(err)
		}
		if len(faults) == 0 && len(Lint(draft, w)) > 0 {
			t.Fatalf("it objects to itself: %+v", Lint(draft, w))
		}
	})
}
