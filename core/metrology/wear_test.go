package metrology_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
)

func TestLifeLeft(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		value, fresh, limit, left float64
	}{
		{8.0, 8.0, 6.4, 1}, {6.4, 8.0, 6.4, 0}, {7.2, 8.0, 6.4, 0.5}, {6.0, 8.0, 6.4, -0.25}, // a lining shrinks
		{0.1, 0.1, 0.5, 1}, {0.3, 0.1, 0.5, 0.5}, {0.6, 0.1, 0.5, -0.25}, // a play grows
	} {
		left, err := metrology.LifeLeft(c.value, c.fresh, c.limit)
		require.NoError(t, err)
		assert.InDelta(t, c.left, left, 1e-12)
	}
	_, err := metrology.LifeLeft(1, 2, 2)
	assert.ErrorContains(t, err, "limit")
}

// The unit makes no difference, nor does the direction in which it wears.
func TestLifeLeftKnowsNoUnit(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		f := func(name string) float64 { return rapid.Float64Range(-1e3, 1e3).Draw(t, name) }
		value, fresh, limit := f("value"), f("fresh"), f("limit")
		if d := fresh - limit; d > -1 && d < 1 {
			return
		}
		a, err := metrology.LifeLeft(value, fresh, limit)
		require.NoError(t, err)
		b, err := metrology.LifeLeft(25.4*value, 25.4*fresh, 25.4*limit)
		require.NoError(t, err)
		c, err := metrology.LifeLeft(-value, -fresh, -limit)
		require.NoError(t, err)
		require.InDelta(t, a, b, 1e-9)
		require.InDelta(t, a, c, 1e-9)
	})
}
