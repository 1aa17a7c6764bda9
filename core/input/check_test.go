package input_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

func length(t *testing.T, text string) quantity.Said[quantity.Length] {
	l, err := quantity.ParseAs[quantity.Length](text)
	require.NoError(t, err)
	return l
}

func TestChecksReadAlike(t *testing.T) {
	t.Parallel()
	var c input.Checks
	assert.InDelta(t, 0.005, float64(input.Positive(&c, "a", length(t, "5 mm"), 1)), 1e-12)
	input.Positive(&c, "zero", length(t, "0 mm"), 1)
	input.NotNegative(&c, "nought", length(t, "0 mm"), 1)
	input.NotNegative(&c, "below", length(t, "-1 mm"), 1)
	input.Positive(&c, "absent", quantity.Said[quantity.Length]{}, 1)
	input.Number(&c, "nan", math.NaN(), 0, 1)
	input.Number(&c, "inf", math.Inf(1), 0, math.Inf(1))
	input.Number(&c, "fits", 0.5, 0, 1)
	var paths []string
	for _, f := range c.Fields {
		paths = append(paths, f.Path)
	}
	assert.Equal(t, []string{"zero", "below", "absent", "nan", "inf"}, paths)
	assert.Contains(t, c.Error(), "zero: 0 mm cannot be; accepted: from 0.001 mm up to 1000 mm")
	assert.Contains(t, c.Error(), "absent: missing")
}

func TestDefaultsAndFamilies(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 0.02, float64(input.Or(quantity.Said[quantity.Length]{}, 20*quantity.Millimetre)), 1e-12)
	assert.InDelta(t, 0.0254, float64(input.Or(length(t, "1 in"), 20*quantity.Millimetre)), 1e-12)
	assert.InDelta(t, 7, input.OrNumber(nil, 7), 0)
	assert.InDelta(t, 0, input.OrNumber(new(0.0), 7), 0, "a zero that was given is a zero")
	assert.Equal(t, "0.3", input.Plain(0.1+0.2))
	assert.Equal(t, "1000000000", input.Plain(1e9))
	assert.Equal(t, "0", input.Plain(math.Copysign(0, -1)))
	assert.Equal(t, "in", quantity.In(quantity.Inch, quantity.InchFamily).Unit.Symbol)
	assert.Equal(t, "mm", quantity.In(quantity.Inch, quantity.Metric).Unit.Symbol)
	assert.Equal(t, quantity.InchFamily, quantity.Family(quantity.Named("thou")))
	assert.Equal(t, quantity.Metric, quantity.Family(nil))
}
