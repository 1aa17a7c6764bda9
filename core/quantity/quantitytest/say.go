// Package quantitytest lets tests say quantities as a mechanic writes them.
package quantitytest

import "handwerk/core/quantity"

// TB is what a test offers to whoever ends it.
type TB interface {
	Errorf(format string, args ...any)
	FailNow()
}

// Said reads "7 thou" as a quantity of the dimension of T, or ends the test.
func Said[T quantity.Kind](t TB, text string) quantity.Said[T] {
	v, err := quantity.ParseAs[T](text)
	check(t, text, err)
	return v
}

// Any reads a quantity of any dimension, or ends the test.
func Any(t TB, text string) (a quantity.Any) {
	check(t, text, a.UnmarshalText([]byte(text)))
	return a
}

func check(t TB, text string, err error) {
	if err != nil {
		t.Errorf("%q: %v", text, err)
		t.FailNow()
	}
}
