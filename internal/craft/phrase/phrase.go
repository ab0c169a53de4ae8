// Package phrase joins words into sentences. Names come from people, in any script,
// so that a word is never cut by bytes.
package phrase

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Capital begins a text with a capital letter.
func Capital(text string) string { return first(text, unicode.ToUpper) }

// Lower begins a text with a small letter, unless it begins with an abbreviation in
// capitals: "UV-cured" stays.
func Lower(text string) string {
	_, size := utf8.DecodeRuneInString(text)
	if second, _ := utf8.DecodeRuneInString(text[size:]); unicode.IsUpper(second) {
		return text
	}
	return first(text, unicode.ToLower)
}

func first(text string, change func(rune) rune) string {
	letter, size := utf8.DecodeRuneInString(text)
	if letter == utf8.RuneError {
		return text // empty, or not text at all
	}
	return string(change(letter)) + text[size:]
}

// Quoted puts a title between quotation marks.
func Quoted(title string) string { return "“" + title + "”" }

// Plural counts things: "1 day", "3 days".
func Plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

// List joins things: "a", "a and b", "a, b and c".
func List(things []string) string {
	if len(things) < 2 {
		return strings.Join(things, "")
	}
	last := len(things) - 1
	return strings.Join(things[:last], ", ") + " and " + things[last]
}
