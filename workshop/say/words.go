// Package say holds what all rooms say alike: refusals, days and times, counted
// things, short texts. It knows nothing of rebuilds.
package say

import (
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
)

// This file is where state becomes words, for screen, record and PDF alike:
// what is needed, what was refused, what an entry did. The words of a kind's
// own acts stand beside its rules.

// SaysOf is what a result says of itself.
func SaysOf(result json.RawMessage) string {
	var x struct {
		Says string `json:"says"`
	}
	_ = json.Unmarshal(result, &x) // no result says nothing
	return x.Says
}

// NameOf finds the text of an id; an imported record may hold one that the
// list does not, and then the id itself must do.
func NameOf[T any](list []T, id string, of func(T) (id, text string)) string {
	for _, x := range list {
		if i, text := of(x); i == id {
			return text
		}
	}
	return id
}

// CountOf says what is still to do: "3 more lines".
func CountOf(n int, one, many string) string {
	return Several(n, "more "+one, "more "+many)
}

// Several says "3 lines".
func Several(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// Money says a sum with its currency, the one way it is said: 1250 EUR, 12.50 EUR.
func Money(sum quantity.Money, currency string) string {
	said := sum.Plain()
	if sum%100 != 0 {
		said = strconv.FormatFloat(sum.Sum(), 'f', 2, 64)
	}
	return strings.TrimSpace(said + " " + currency)
}

// Of says what was said of a thing: "Magnet: fine paste"; a question is answered.
func Of(thing, says string) string {
	if strings.HasSuffix(thing, "?") {
		return thing + " " + Raise(says)
	}
	return thing + ": " + says
}

// Lower begins within a sentence.
func Lower(s string) string { return begin(s, unicode.ToLower) }

// Raise begins like a sentence.
func Raise(s string) string { return begin(s, unicode.ToUpper) }

// begin changes the first letter, whatever the script.
func begin(s string, with func(rune) rune) string {
	first, size := utf8.DecodeRuneInString(s)
	if size == 0 || first == utf8.RuneError {
		return s
	}
	return string(with(first)) + s[size:]
}

// Moment says a time the one way in which screens, prints and the log say it,
// in the shop's time zone: 2026-11-26 11:36.
func Moment(t time.Time, zone *time.Location) string {
	if zone == nil {
		zone = time.UTC
	}
	return t.In(zone).Format("2006-01-02 15:04")
}

// MoneyWords are whole, or to the cent.
func MoneyWords(n float64) string {
	if n == math.Trunc(n) {
		return fmt.Sprintf("%.0f", n)
	}
	return fmt.Sprintf("%.2f", n)
}

// Cents are nought where a record from elsewhere says what no money can be.
func Cents(n float64) float64 {
	if math.IsInf(n*100, 0) || math.IsNaN(n) {
		return 0
	}
	return math.Round(n*100) / 100
}

// PlainWords is a text by its words alone.
func PlainWords(s string) string {
	return strings.Join(strings.Fields(strings.TrimRight(s, " .!")), " ")
}

// OneLine checks a short text on a line of its own and gives it without blanks
// around it.
func OneLine(faults *input.Fields, path, s string, least, most int) string {
	s = strings.TrimSpace(s)
	if n := text.Length(s); n < least || n > most || strings.ContainsAny(s, "\r\n\t") {
		faults.Add(path, "one line of "+Itoa(least)+" to "+Itoa(most)+" characters", "missing or too long")
	}
	return s
}

// FoldCase is a text as it is compared: small letters, single blanks.
func FoldCase(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }

// ListOf lists what is accepted, as a refusal says it.
func ListOf[T any](list []T, id func(T) string) string { return strings.Join(IDs(list, id), ", ") }

// IDs lists the ids of a list.
func IDs[T any](list []T, id func(T) string) []string {
	ids := make([]string, len(list))
	for i, x := range list {
		ids[i] = id(x)
	}
	return ids
}

// MaxText are the characters of a text.
const MaxText = 2000

// MostSaid are the characters of a short text.
const MostSaid = 120

// MostMinutes that one thing may take.
const MostMinutes = 24 * 60
