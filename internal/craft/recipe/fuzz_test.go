package recipe

import (
	"encoding/json"
	"testing"

	"umberfrost/internal/craft/looks"
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
	for _, preset := range Presets {
		seed, err := json.Marshal(Wish{Pieces: []PieceWish{body("ash-swamp").From(preset.ID)}})
		if err != nil {
			f.Fatal(err)
		}
		f.Add(seed)
	}
	seed, err := json.Marshal(twelveOnTen())
	if err != nil {
		f.Fatal(err)
	}
	f.Add(seed)
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

// FuzzFromLooks gives wishes as they may have been kept before there were layers.
func FuzzFromLooks(f *testing.F) {
	f.Add([]byte(`{"pieces":[{"kind":"body","wood":"oak-white","look":"burst","texture":true,"wax":true,"ways":{"burst":"rub","pores":"full"},"regions":[{"name":"top","plain":true}]}]}`))
	f.Add([]byte(`{"pieces":[{"look":"plaid","regions":[{"plain":true},{"plain":true}]},{"kind":"neck","look":"charred","ways":{"figure":"warm"}}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		translated, err := looks.Translate(data)
		if err != nil {
			return
		}
		var w Wish
		if err := json.Unmarshal(translated.JSON, &w); err != nil {
			return // another kind of value, which was no wish then either
		}
		if _, _, err := Compose(w); err != nil {
			t.Fatal(err)
		}
		if _, err := looks.Translate(translated.JSON); err != nil {
			t.Fatal(err)
		}
	})
}
