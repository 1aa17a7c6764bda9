// Package text judges what a person may have typed, or a program sent in his
// name: readable characters, lines and tabs.
package text

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/runenames"
)

// Bad says what is wrong with a text, naming the first character that cannot
// stand in it; empty when all is well. Refused are broken UTF-8 and what a
// decoder put in its place, control characters but tab and line breaks, and
// the characters that turn the direction of writing, which make a text read
// otherwise than it is stored (Unicode Standard Annex 9, section 2).
func Bad(s string) string {
	if !utf8.ValidString(s) {
		return "the text is broken: it is not UTF-8"
	}
	for _, r := range s {
		switch {
		case r == '\t' || r == '\n' || r == '\r':
		case r == utf8.RuneError:
			return "a character in the text could not be read"
		case unicode.IsControl(r), turns(r):
			return fmt.Sprintf("the character U+%04X %s cannot stand in a text", r, runenames.Name(r))
		}
	}
	return ""
}

// turns tells the embeddings, overrides and isolates of bidirectional text.
func turns(r rune) bool { return (r >= 0x202A && r <= 0x202E) || (r >= 0x2066 && r <= 0x2069) }

// Accepted is what a fault of Bad says is accepted.
const Accepted = "letters, figures and signs, tabs and line breaks"

// Length of a text in characters, as people count.
func Length(s string) int { return utf8.RuneCountInString(s) }

// List says words as one would aloud: "1, 2 and 3".
func List(words []string) string {
	last := len(words) - 1
	if last < 1 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:last], ", ") + " and " + words[last]
}
