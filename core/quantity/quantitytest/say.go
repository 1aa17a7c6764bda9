// Package quantitytest lets tests say quantities as a mechanic writes them.
package quantitytest

import "handwerk/core/quantity"

// TB is what a test offers to whoever ends it.
type TB interface {
	Helper()
	Fatalf(format string, args ...any)
}

// Said reads "7 thou" as a quantity of the dimension of T, or ends the test.
func Said[T quantity.Kind](t TB, text string) quantity.Said[T] {
	t.Helper()
	v, err := quantity.ParseAs[T](text)
	if err != nil {
		t.Fatalf("%q: %v", text, err)
	}
	return v
}

// In expresses an SI value in a unit that exists.
func In[T quantity.Kind](si T, symbol string) quantity.Said[T] {
	return quantity.Say(si, quantity.Named(symbol))
}
