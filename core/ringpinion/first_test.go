package ringpinion

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/shim"
)

// Before any trial the ring is set a little away, whichever pack it sits at; the preload stays.
func TestTheFirstAssemblyHasTheRingALittleAway(t *testing.T) {
	t.Parallel()
	in := newAxle(t, 4).question()
	for side, sign := range map[string]float64{"left": 1, "right": -1} {
		in.RingSide = side
		out, err := RingPinion(in)
		require.NoError(t, err)
		assert.Equal(t, metrology.None, out.Stands)
		assert.InDelta(t, sign*0.2, out.Right.Value-2.5, 1e-9, side)
		assert.InDelta(t, 5, out.Left.Value+out.Right.Value, 1e-9)
		assert.InDelta(t, 1.5, out.PinionShim.Value, 1e-9)
		assert.False(t, out.Backlash.IsSaid(), "nothing is expected yet")
	}
	in.AsFound = &Packs{mm(1.5), mm(0.1), mm(2.5)}
	in.RingSide = "left"
	_, err := RingPinion(in)
	require.ErrorContains(t, err, "as_found")
	in.AsFound = nil
	_, err = RingPinion(in)
	require.ErrorContains(t, err, "what was in it")
}

// An axle that was set up by what the one before taught ends surer than one that began
// with the geometry of the book, and what it teaches is never surer than axles differ.
func TestAFamilyTeachesTheNextAxle(t *testing.T) {
	t.Parallel()
	a := newAxle(t, 4)
	in := a.question()
	trials := []Trial{a.build(t, 1.5, 2.3, 2.7), a.build(t, 1.5, 2.5, 2.5)}
	in.Trials = trials
	first, err := RingPinion(in)
	require.NoError(t, err)
	in.Trials = nil
	untaught, err := RingPinion(in)
	require.NoError(t, err)
	taught := Teach(first.K, first.Gives)
	in.Learned = &taught
	begun, err := RingPinion(in)
	require.NoError(t, err)
	assert.Equal(t, Factor{taught.Value, taught.Spread, "earlier axles of this family"}, begun.K)
	assert.Less(t, begun.K.Spread, untaught.K.Spread)
	assert.InDelta(t, math.Sqrt(first.K.Spread*first.K.Spread+math.Pow(0.03*first.K.Value, 2)), taught.Spread, 1e-12)
	in.Trials = trials
	second, err := RingPinion(in)
	require.NoError(t, err)
	assert.Less(t, second.K.Spread, first.K.Spread)
	for range 50 {
		taught = Teach(Factor{taught.Value, taught.Spread / 2, ""}, nil)
	}
	assert.Greater(t, taught.Spread, 0.03*taught.Value)

	in.Learned = &Learned{Gives: &Given{}}
	_, err = RingPinion(in)
	require.ErrorContains(t, err, "learned.value")
	require.ErrorContains(t, err, "learned.spread")
	require.ErrorContains(t, err, "learned.gives.spread")
}

// The next assembly is made up of the drawer, each shim once.
func TestTheNextAssemblyIsMadeUpOfTheDrawer(t *testing.T) {
	t.Parallel()
	a := newAxle(t, 4)
	in := a.question()
	for _, v := range []float64{1, 1.5, 1.6, 0.5, 0.5, 0.3, 0.2, 0.1, 0.1, 0.05, 2, 2, 0.02, 0.04} {
		n := 1
		in.Stock = append(in.Stock, shim.StockItem{Thickness: mm(v), Count: &n})
	}
	out, err := RingPinion(in)
	require.NoError(t, err)
	require.Len(t, out.Packs, 3)
	used := map[string]int{}
	for i, want := range []Length{out.PinionShim, out.Left, out.Right} {
		p, sum := out.Packs[i], 0.0
		for _, x := range p.Pieces {
			sum += x.Thickness.Value * float64(x.Count)
			used[x.Thickness.String()] += x.Count
		}
		assert.InDelta(t, sum, p.Sum.Value, 1e-9)
		assert.InDelta(t, sum-want.Value, p.Off.Value, 1e-9)
	}
	for _, s := range in.Stock {
		assert.LessOrEqual(t, used[s.Thickness.String()], 2, "two of a size lie there at most")
	}
	assert.LessOrEqual(t, used["1 mm"], 1)
	negative := -1
	in.Stock[0].Count = &negative
	_, err = RingPinion(in)
	require.ErrorContains(t, err, "stock[0].count")
}
