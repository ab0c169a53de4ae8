package phrase

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestFirstLetters(t *testing.T) {
	for text, want := range map[string][2]string{
		"": {"", ""}, "ösen": {"Ösen", "ösen"}, "Ösen": {"Ösen", "ösen"}, "žaba": {"Žaba", "žaba"}, "Ελαιο": {"Ελαιο", "ελαιο"},
		"漆": {"漆", "漆"}, "2 coats": {"2 coats", "2 coats"}, "brass": {"Brass", "brass"}, "\xff\xfe": {"\xff\xfe", "\xff\xfe"},
		"ßig":      {"ßig", "ßig"},
		"UV-cured": {"UV-cured", "UV-cured"}, "Ö": {"Ö", "ö"},
	} {
		assert.Equal(t, want, [2]string{Capital(text), Lower(text)})
	}
}

func ExampleCapital() {
	fmt.Println(Capital("über allem"))
	// Output: Über allem
}

func ExamplePlural() {
	fmt.Println(Plural(1, "day"), "or", Plural(3, "day"))
	// Output: 1 day or 3 days
}

func TestListed(t *testing.T) {
	for text, things := range map[string][]string{"": nil, "a": {"a"}, "a and b": {"a", "b"}, "a, b and c": {"a", "b", "c"}} {
		assert.Equal(t, text, List(things))
	}
}
