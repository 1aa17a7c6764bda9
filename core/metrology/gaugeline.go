package metrology

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"handwerk/core/quantity"
)

// GaugeLine is a line that a gauge has sent, read.
type GaugeLine struct {
	Kind   LineKind
	Value  quantity.Any // of a reading
	Step   float64      // what one more in the last digit is worth, in Value's unit
	Status string       // ok, hold, low-battery; empty where the gauge says none
	Turn   *float64     // part of a turn at which it was read, 0 up to 1
}

// LineKind is what a line of a gauge is.
type LineKind int

// What a line can be.
const (
	NoLine  LineKind = iota // empty
	Reading                 // a figure
	Turned                  // the mark of a whole turn
	Over                    // more than the gauge can show
	Under                   // less
	Rubbish                 // anything else
)

// MaxGaugeLine is the longest line that is read, in bytes; what is longer is rubbish
// up to its end.
const MaxGaugeLine = 128

// lineGrammar: sign, blanks, digits with one mark or a mark and digits, exponent, and the rest.
var lineGrammar = regexp.MustCompile(
	`^([+\-−]?)[ \t]*([0-9]+(?:[.,][0-9]+)?|[.,][0-9]+)(?:[eE]([+\-−]?[0-9]{1,3}))?(.*)$`,
)

var lineStatuses = map[string]LineKind{
	"ok":          Reading,
	"hold":        Reading,
	"low-battery": Reading,
	"over":        Over,
	"under":       Under,
}

// ReadGaugeLine reads one line, without its end:
//
//	[sign] [blanks] number [exponent] [blanks] [unit] [blanks] [status] [t=FRACTION]
//
// or T, the mark of a turn. A number has one mark at most, point or comma, and
// it is always the decimal one. bare is the unit of a number without one; a
// reading of another dimension than it is rubbish. nil: a bare number is rubbish.
func ReadGaugeLine(line string, bare *quantity.Unit) GaugeLine {
	rubbish := GaugeLine{Kind: Rubbish}
	if len(line) > MaxGaugeLine {
		return rubbish
	}
	line = strings.Trim(line, " \t")
	switch line {
	case "":
		return GaugeLine{}
	case "T":
		return GaugeLine{Kind: Turned}
	}
	m := lineGrammar.FindStringSubmatch(line)
	if m == nil {
		return rubbish
	}
	got := GaugeLine{Kind: Reading}
	words := strings.FieldsFunc(m[4], func(r rune) bool { return r == ' ' || r == '\t' })
	words, turnReads := got.takeTurn(words)
	words = got.takeStatus(words)
	unit, known := bare, bare != nil
	if len(words) > 0 {
		unit, known = quantity.UnitNamed(strings.Join(words, " "))
	}
	value, step, counts := lineNumber(m[1], m[2], m[3])
	if !turnReads || !known || !counts || (bare != nil && unit.Dimension != bare.Dimension) {
		return rubbish
	}
	got.Value, got.Step = quantity.Any{Value: value, Unit: unit}, step
	return got
}

// takeTurn takes t=FRACTION off the end.
func (g *GaugeLine) takeTurn(words []string) (rest []string, ok bool) {
	if len(words) == 0 {
		return words, true
	}
	said, has := strings.CutPrefix(words[len(words)-1], "t=")
	if !has {
		return words, true
	}
	m := lineGrammar.FindStringSubmatch(said)
	if m == nil || m[4] != "" {
		return nil, false
	}
	turn, _, ok := lineNumber(m[1], m[2], m[3])
	g.Turn = &turn
	return words[:len(words)-1], ok && turn >= 0 && turn < 1
}

// takeStatus takes the status off the end; over and under are no readings.
func (g *GaugeLine) takeStatus(words []string) []string {
	if len(words) == 0 {
		return words
	}
	kind, is := lineStatuses[words[len(words)-1]]
	if !is {
		return words
	}
	g.Kind = kind
	if kind == Reading {
		g.Status = words[len(words)-1]
	}
	return words[:len(words)-1]
}

// lineNumber reads sign, digits and exponent, and what the last digit is worth.
func lineNumber(sign, digits, exponent string) (value, step float64, ok bool) {
	minus := func(s string) string { return strings.Replace(s, "−", "-", 1) }
	digits = strings.Replace(digits, ",", ".", 1)
	power := 0
	if exponent != "" {
		power, _ = strconv.Atoi(strings.TrimPrefix(minus(exponent), "+"))
	}
	places := 0
	if _, after, has := strings.Cut(digits, "."); has {
		places = len(after)
	}
	value, err := strconv.ParseFloat(minus(sign)+digits+"e"+strconv.Itoa(power), 64)
	if err != nil || math.IsInf(value, 0) || math.Abs(value) > 1e9 {
		return 0, 0, false
	}
	if value == 0 {
		value = 0 // not minus nought
	}
	return value, math.Pow(10, float64(power-places)), true
}
