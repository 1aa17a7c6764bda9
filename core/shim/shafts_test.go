package shim

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

func shaftMM(v float64) Length {
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, quantity.Named("mm"))
}

func counted(thickness float64, n int) StockItem {
	return StockItem{Thickness: shaftMM(thickness), Count: &n}
}

func floatOf(readings ...float64) FloatIn {
	in := FloatIn{TrialPack: shaftMM(1), TargetMin: shaftMM(0.05), TargetMax: shaftMM(0.15), Sense: PackReduces,
		Instrument: &metrology.Instrument{Resolution: shaftMM(0.01).Any}}
	for _, r := range readings {
		in.Readings = append(in.Readings, shaftMM(r))
	}
	return in
}

// Packs at both ends: whatever pair of the drawer is taken, none gives a float nearer to
// the middle (all pairs of up to two shims an end, tried one by one).
func TestPacksOnBothSidesAgainstAllPairs(t *testing.T) {
	t.Parallel()
	in := floatOf(0.52, 0.52, 0.52)
	sizes := []float64{0.9, 1, 1.05, 1.1, 1.2, 1.3}
	for _, s := range sizes {
		in.Stock = append(in.Stock, counted(s, 1))
	}
	in.MaxShims = 2
	for _, move := range []float64{-0.1, 0, 0.05, 0.15} {
		in.Far = &FarSide{TrialPack: shaftMM(1), Move: shaftMM(move)}
		out, err := EndFloat(in)
		require.NoError(t, err)
		require.NotNil(t, out.Sides)
		best := math.Inf(1)
		for i := range 1 << len(sizes) {
			for j := range 1 << len(sizes) {
				if i&j != 0 {
					continue // a shim lies at one end only
				}
				sum := 0.0
				for k, s := range sizes {
					if (i|j)>>k&1 == 1 {
						sum += s
					}
				}
				best = math.Min(best, math.Abs(0.52-(sum-2)-0.10))
			}
		}
		is := out.Sides
		assert.InDelta(t, best, math.Abs(is.Float.Value-0.10), 1e-6)
		assert.InDelta(t, 0.52-(is.Near.Sum.Value+is.Far.Sum.Value-2), is.Float.Value, 1e-6)
		assert.InDelta(t, (is.Near.Sum.Value-is.Far.Sum.Value)/2, is.Moves.Value, 1e-6)
	}
}

// The next shaft is shimmed from what the one before it left.
func TestShaftsShareADrawer(t *testing.T) {
	t.Parallel()
	in := floatOf(0.6, 0.6, 0.6)
	in.Stock = []StockItem{counted(1.5, 1), counted(1.4, 1)}
	in.Others = []Shaft{{Name: "countershaft", Readings: in.Readings, TrialPack: in.TrialPack, TargetMin: in.TargetMin,
		TargetMax: in.TargetMax, Sense: PackReduces}}
	out, err := EndFloat(in)
	require.NoError(t, err)
	assert.InDelta(t, 1.5, out.Packs[0].Sum.Value, 1e-9)
	require.Len(t, out.Others, 1)
	assert.InDelta(t, 1.4, out.Others[0].Pack.Sum.Value, 1e-9, "the 1.50 is used")
	assert.Equal(t, metrology.Out, out.Others[0].Pack.Verdict)
	assert.InDelta(t, 1.5, out.Others[0].Aim.Value, 1e-9)
	assert.Equal(t, 1, *in.Stock[0].Count, "what was asked with stays as it is")

	in.Others[0].Sense = "wrong"
	_, err = EndFloat(in)
	require.ErrorContains(t, err, "others[0].sense")
	in.Others, in.Far = nil, &FarSide{TrialPack: shaftMM(1), Move: shaftMM(5)}
	_, err = EndFloat(in)
	require.ErrorContains(t, err, "far_side.move")
	in.Far.Move, in.Sense = Length{}, PackIncreases
	_, err = EndFloat(in)
	require.ErrorContains(t, err, "sense")
}
