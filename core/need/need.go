// Package need collects the checks that calculators make on their inputs, so
// that each fault reads alike: which field, what was wrong, what is accepted.
package need

import (
	"fmt"
	"math"

	"handwerk/core/fault"
	"handwerk/core/quantity"
)

// Checks gathers faults while inputs are read.
type Checks struct{ fault.Fields }

// Positive reads a quantity that must be above zero and at most most.
func Positive[T quantity.Kind](c *Checks, path string, q quantity.Said[T], most T) T {
	return Within(c, path, q, 0, most, false)
}

// NotNegative reads a quantity from zero to most.
func NotNegative[T quantity.Kind](c *Checks, path string, q quantity.Said[T], most T) T {
	return Within(c, path, q, 0, most, true)
}

// Within reads a quantity between two bounds; the lower one counts if closed.
func Within[T quantity.Kind](c *Checks, path string, q quantity.Said[T], low, high T, closed bool) T {
	if !q.IsSaid() {
		c.Add(path, "", "missing")
		return 0
	}
	v := q.SI()
	// What was typed at a bound is at it, whatever its unit makes of the last digit.
	slack := func(bound T) T { return T(math.Abs(float64(bound)) * 1e-9) }
	if v > high+slack(high) || v < low-slack(low) || (v == low && !closed) {
		word := "more than"
		if closed {
			word = "from"
		}
		c.Add(path, fmt.Sprintf("%s %s up to %s", word, quantity.Say(low, q.Unit), quantity.Say(high, q.Unit)), "%s cannot be", q)
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
func Or[T quantity.Kind](q quantity.Said[T], usual T) T {
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

// Plain writes a number as people do.
func Plain(v float64) string { return fault.Plain(v) }

// Unit is the unit to answer in: that of q, in the family asked for.
func Unit[T quantity.Kind](q quantity.Said[T], system quantity.System) *quantity.Unit {
	return q.Unit.For(system)
}

// Named finds a unit that is known to exist.
func Named(symbol string) *quantity.Unit {
	u, _ := quantity.UnitNamed(symbol)
	return u
}

// Family is the system of a unit, to answer other dimensions in kind.
func Family(u *quantity.Unit) quantity.System {
	if u == nil || u.System == quantity.Both {
		return quantity.Metric
	}
	return u.System
}

// In says an SI value in the usual unit of its dimension and family.
func In[T quantity.Kind](v T, system quantity.System) quantity.Said[T] {
	var t T
	metric := Named(quantity.DefaultUnit(t.Dimension()))
	return quantity.Say(v, metric.For(system))
}
