package web

import (
	"encoding/json"
	"strings"
	"testing"
	"unicode/utf8"

	"umberfrost/internal/craft/unit"
)

// FuzzBody looks through whatever a body may be: a text that no database keeps is found, and nothing else is refused.
func FuzzBody(f *testing.F) {
	for _, body := range []string{`{"note":"a\u0000b"}`, `[["\u0000"]]`, `{"\u0000":1}`, "{\x00}", "\xff", `"\\u0000"`,
		strings.Repeat("[", 9999)} {
		f.Add([]byte(body))
	}
	f.Fuzz(func(t *testing.T, body []byte) {
		faults := invalidText(body)
		for _, fault := range faults {
			if strings.ContainsRune(fault.Location+fault.Message, 0) {
				t.Fatalf("%q is told with what it must not have", body)
			}
		}
		var whole any
		if json.Unmarshal(body, &whole) != nil || !utf8.Valid(body) {
			return
		}
		if again, err := json.Marshal(whole); err == nil && strings.Contains(string(again), `\u0000`) &&
			!strings.Contains(string(again), `\\u0000`) && len(faults) == 0 {
			t.Fatalf("%q is kept", body)
		}
	})
}

// FuzzNotation reads whatever a device says of how figures are written.
func FuzzNotation(f *testing.F) {
	f.Add("inch, am-pm month-first")
	f.Fuzz(func(t *testing.T, header string) {
		notationOf(header, func() unit.Notation { return unit.Notation{} })
	})
}

// FuzzHost reads whatever a request is for: only the names of loopback are this machine's.
func FuzzHost(f *testing.F) {
	for _, host := range []string{"localhost:80", "[::1]:80", "127.0.0.1", "[::1", "::ffff:127.0.0.1", "localhost.", "a:b:c"} {
		f.Add(host)
	}
	f.Fuzz(func(t *testing.T, host string) {
		if name := hostName(host); Loopback(name) && name != "localhost" && !strings.Contains(name, ":") &&
			!strings.HasPrefix(name, "127.") {
			t.Fatalf("%q is this machine", host)
		}
	})
}
