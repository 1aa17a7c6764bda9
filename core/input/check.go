package input

import (
	"fmt"
	"math"
)

// Checks gathers faults while a calculator reads its inputs, so that each
// reads alike: which field, what was wrong, what is accepted.
type Checks struct{ Fields }

// Said is a quantity as somebody said it, with its dimension's type T; see
// quantity.Said, which stands above this package.
type Said[T ~float64] interface {
	IsSaid() bool
	SI() T
	String() string
	// Like says another value of the dimension in the same unit.
	Like(T) string
}

// Positive reads a quantity that must be above zero and at most most. What is
// smaller than anything of its kind in a workshop is a slip, and refused.
func Positive[T ~float64](c *Checks, path string, q Said[T], most T) T {
	var kind any = most
	if k, ok := kind.(interface{ Least() float64 }); ok {
		return Within(c, path, q, min(T(k.Least()), most), most, true)
	}
	return Within(c, path, q, 0, most, false)
}

// NotNegative reads a quantity from zero to most.
func NotNegative[T ~float64](c *Checks, path string, q Said[T], most T) T {
	return Within(c, path, q, 0, most, true)
}

// Within reads a quantity between two bounds; the lower one counts if closed.
func Within[T ~float64](c *Checks, path string, q Said[T], low, high T, closed bool) T {
	if !q.IsSaid() {
		c.Add(path, "", "missing")
		return 0
	}
	v := q.SI()
	// What was typed at a bound is at it, whatever its unit makes of the last digit.
	slack := func(bound T) T { return T(math.Abs(float64(bound)) * Rounding) }
	if v > high+slack(high) || v < low-slack(low) || (v == low && !closed) {
		word := "more than"
		if closed {
			word = "from"
		}
		c.Add(path, fmt.Sprintf("%s %s up to %s", word, q.Like(low), q.Like(high)), "%s cannot be", q)
	}
	return v
}

// Number reads a bare number between two bounds, both allowed.
func Number(c *Checks, path string, v, low, high float64) float64 {
	if !(v >= low && v <= high) || math.IsInf(v, 0) {
		c.Add(path, Plain(low)+" to "+Plain(high), "%s cannot be", Plain(v))
	}
	return v
}

// Or gives the said value, or the default when nothing was said.
func Or[T ~float64](q Said[T], usual T) T {
	if q.IsSaid() {
		return q.SI()
	}
	return usual
}

// OrNumber gives the number, or the default when none was given; a zero that
// was given is a zero.
func OrNumber(v *float64, usual float64) float64 {
	if v == nil {
		return usual
	}
	return *v
}
