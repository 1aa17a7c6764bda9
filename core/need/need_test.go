package need

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
)

func length(t *testing.T, text string) quantity.Said[quantity.Length] {
	l, err := quantity.ParseAs[quantity.Length](text)
	require.NoError(t, err)
	return l
}

func TestChecksReadAlike(t *testing.T) {
	var c Checks
	assert.InDelta(t, 0.005, float64(Positive(&c, "a", length(t, "5 mm"), 1)), 1e-12)
	Positive(&c, "zero", length(t, "0 mm"), 1)
	NotNegative(&c, "nought", length(t, "0 mm"), 1)
	NotNegative(&c, "below", length(t, "-1 mm"), 1)
	Positive(&c, "absent", quantity.Said[quantity.Length]{}, 1)
	Number(&c, "nan", math.NaN(), 0, 1)
	Number(&c, "inf", math.Inf(1), 0, math.Inf(1))
	Number(&c, "fits", 0.5, 0, 1)
	var paths []string
	for _, f := range c.Fields {
		paths = append(paths, f.Path)
	}
	assert.Equal(t, []string{"zero", "below", "absent", "nan", "inf"}, paths)
	assert.Contains(t, c.Error(), "zero: 0 mm cannot be; accepted: more than 0 mm up to 1000 mm")
	assert.Contains(t, c.Error(), "absent: missing")
}

func TestDefaultsAndFamilies(t *testing.T) {
	assert.InDelta(t, 0.02, float64(Or(quantity.Said[quantity.Length]{}, 20*quantity.Millimetre)), 1e-12)
	assert.InDelta(t, 0.0254, float64(Or(length(t, "1 in"), 20*quantity.Millimetre)), 1e-12)
	assert.InDelta(t, 7, OrNumber(nil, 7), 0)
	assert.InDelta(t, 0, OrNumber(new(0.0), 7), 0, "a zero that was given is a zero")
	assert.Equal(t, "0.3", Plain(0.1+0.2))
	assert.Equal(t, "1000000000", Plain(1e9))
	assert.Equal(t, "0", Plain(math.Copysign(0, -1)))
	assert.Equal(t, "in", In(quantity.Inch, quantity.InchFamily).Unit.Symbol)
	assert.Equal(t, "mm", In(quantity.Inch, quantity.Metric).Unit.Symbol)
	assert.Equal(t, quantity.InchFamily, Family(Named("thou")))
	assert.Equal(t, quantity.Metric, Family(nil))
	assert.Equal(t, "mm", Unit(length(t, "7 thou"), quantity.Metric).Symbol)
}
