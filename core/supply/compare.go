package supply

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"handwerk/core/quantity"
)

// Interfaces are what commonly keeps a new part from fitting where the old one
// was (common practice): each is held old against new before it is fitted.
var Interfaces = []string{
	"spline count", "spline diameter", "flange pattern", "bolt size", "thread and pitch", "ports",
	"rod length", "side", "ratio on the tag",
}

// Same tells whether an interface reads alike on the old and the new part:
// 10 mm and 1 cm are the same, M7 x 1.0 and M7x1 too, 2 holes and 3 are not.
func Same(old, fresh string) bool {
	var a, b quantity.Any
	if a.UnmarshalText([]byte(old)) == nil && b.UnmarshalText([]byte(fresh)) == nil {
		return a.Dimension() == b.Dimension() && alike(a.SI(), b.SI())
	}
	x, y := tokens(old), tokens(fresh)
	if len(x) != len(y) {
		return false
	}
	for i := range x {
		m, err := strconv.ParseFloat(x[i], 64)
		n, err2 := strconv.ParseFloat(y[i], 64)
		if (err == nil && err2 == nil && !alike(m, n)) || ((err == nil) != (err2 == nil)) ||
			(err != nil && x[i] != y[i]) {
			return false
		}
	}
	return true
}

func alike(a, b float64) bool { return math.Abs(a-b) <= 1e-9*math.Max(math.Abs(a), math.Abs(b)) }

var token = regexp.MustCompile(`[0-9]+(?:[.][0-9]+)?|[\p{L}]+|[^\s\p{L}0-9]`)

// tokens are the numbers, words and signs of a text, however it is spaced and
// written: a comma between digits is a point, a times sign an x.
func tokens(text string) []string {
	text = strings.ToLower(strings.NewReplacer("×", "x", "*", "x").Replace(text))
	text = commaNumber.ReplaceAllString(text, "$1.$2")
	return token.FindAllString(text, -1)
}

var commaNumber = regexp.MustCompile(`([0-9]),([0-9])`)
