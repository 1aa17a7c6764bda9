package decision

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
)

// The bill is parts, fluids, outside work and hours at the rate; what the vehicle's
// standing costs its owner is taken off the draws again.
func TestAnEstimateIsWhatStandsOnTheBill(t *testing.T) {
	t.Parallel()
	o := option("rebuild")
	o.Fluids = fixed(40)
	in := In{Options: []Option{o}, Rate: 58, DayCost: 50}
	out, err := Decide(in)
	require.NoError(t, err)
	list := Estimates(in, out)
	require.Len(t, list, 1)
	got := list[0]
	assert.Equal(t, quantity.MoneyOf(400), got.Parts)
	assert.Equal(t, quantity.MoneyOf(40), got.Fluids)
	assert.Equal(t, quantity.MoneyOf(580), got.Work)
	assert.InDelta(t, out.Options[0].P90-50*out.Options[0].Days, got.Nine.Sum(), 0.01)
	assert.GreaterOrEqual(t, got.Ask, got.Nine)
	assert.Empty(t, Estimates(in, Out{}), "nothing was weighed")
}

func TestASumIsAskedRound(t *testing.T) {
	t.Parallel()
	for sum, ask := range map[float64]float64{0: 0, 31: 40, 199.5: 200, 201: 250, 1234: 1250, 2001: 2100} {
		assert.Equal(t, quantity.MoneyOf(ask), SumToAsk(sum), "%g", sum)
	}
}
