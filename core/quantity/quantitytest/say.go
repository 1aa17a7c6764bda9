// Package quantitytest lets tests say quantities as a mechanic writes them.
package quantitytest

import (
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
)

// Said reads "7 thou" as a quantity of the dimension of T, or ends the test.
func Said[T quantity.Kind](t require.TestingT, text string) quantity.Said[T] {
	v, err := quantity.ParseAs[T](text)
	require.NoError(t, err)
	return v
}

// In expresses an SI value in a unit that exists.
func In[T quantity.Kind](si T, symbol string) quantity.Said[T] {
	u, ok := quantity.UnitNamed(symbol)
	if !ok {
		panic("no unit " + symbol)
	}
	return quantity.Say(si, u)
}
