package main

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
)

// rule says why a text breaks it; nothing where it does not.
type rule struct{ broken func(text) string }

// longest is how many words a kind of text has at most.
var longest = map[kind]int{title: 6, button: 4}

const (
	longestSentence = 14 // words of an instruction's sentence
	mostSentences   = 2  // of an instruction
)

var rules = []rule{
	matching(never, "a word we do not use"),
	matching(renamed, "an old name"),
	matching(stands, "a word we do not use"),
	matching(american, "not British"),
	matching(regexp.MustCompile(`[^ ]  +[^ ]`), "two spaces"),
	matching(regexp.MustCompile(`\S [.,;]( |$)`), "a space before a stop"),
	matching(regexp.MustCompile(`(^|[^"\[(.\d])\d+,\d{3}\b`), "a comma in thousands"),
	matching(
		regexp.MustCompile(`/api/|\b[a-z]+_[a-z_]+\b|\b(HTTP|JSON schema|idempotency|token digest)\b`),
		"a path or an id",
	),
	{func(t text) string {
		if most, bound := longest[t.kind]; bound && words(t.says) > most {
			return fmt.Sprintf("a %s of more than %d words", t.kind, most)
		}
		return ""
	}},
	{func(t text) string {
		if t.kind != instruction {
			return ""
		}
		sentences := sentencesOf(t.says)
		if len(sentences) > mostSentences {
			return fmt.Sprintf("an instruction of more than %d sentences", mostSentences)
		}
		for _, s := range sentences {
			if words(s) > longestSentence {
				return fmt.Sprintf("an instruction with a sentence of more than %d words", longestSentence)
			}
		}
		return ""
	}},
}

// never are the words that stop a reader. "told" and "carries" are not among them: a customer is
// told, and a shaft carries torque.
var never = regexp.MustCompile(
	`(?i)\b(shall|anew|nought|held against|of itself|hangs on|whoever|somebody new|by rule|` +
		`reckon(ed|s)?|mend(s|ed|ing)?|comes to|on record|(is|are) met|as built|gives way|licensed hands|looked at|shortly|said)\b`,
)

// stands is where "is" is meant; what a vehicle stands on, and a stand, are the trade's.
var stands = regexp.MustCompile(
	`(?i)\b(it|that|which|what|where|there|value|reading|pinion|bore|level|sheet|record) stands\b`,
)

// renamed are the words that have a better one now.
var renamed = regexp.MustCompile(`(?i)\b(maker's book|head bearing|tail bearing|(drive|pedal|shift) card|schools?|` +
	`open the gate|said yes|renew(s|ed)?|throw-?out|spigot|cardan|driveshaft|snap ring)\b`)

var american = regexp.MustCompile(
	`(?i)\b(colors?|colored|centers?|centered|grays?|liters?|meters?|tires?|aluminum|catalogs?|` +
		`canceled|labeled|fibers?|favorite|behavior|neighbors?|molds?|hood)\b`,
)

// matching is the rule that a text does not hold what the expression finds.
func matching(expr *regexp.Regexp, why string) rule {
	return rule{func(t text) string {
		if found := strings.TrimSpace(expr.FindString(t.says)); found != "" {
			return why + ", " + found
		}
		return ""
	}}
}

var sentenceEnd = regexp.MustCompile(`[.?!]["”]?( |$)`)

// sentencesOf parts an instruction at its full stops.
func sentencesOf(says string) []string {
	sentences := sentenceEnd.Split(strings.TrimSpace(says), -1)
	return slices.DeleteFunc(sentences, func(s string) bool { return s == "" })
}

var word = regexp.MustCompile(`[\p{L}\p{N}{][\p{L}\p{N}'’.,/{}+-]*`)

// words counts them; a 0 stands for what is filled in.
func words(says string) (n int) {
	for _, w := range word.FindAllString(says, -1) {
		if w != "0" {
			n++
		}
	}
	return n
}
