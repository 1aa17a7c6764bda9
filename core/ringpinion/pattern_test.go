package ringpinion

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"pgregory.net/rapid"
)

// The qualitative charts of the trade (common practice): each single error is
// recognised by its sign.
func TestPatternsOfTheCharts(t *testing.T) {
	t.Parallel()
	for name, tt := range map[string]struct {
		drive, coast Dab
		shim, way    string
	}{
		"pinion too far out":            {Dab{U: 0.5, V: 0.8}, Dab{U: -0.5, V: 0.8}, "pinion", "in"},
		"pinion too deep":               {Dab{U: -0.5, V: -0.8}, Dab{U: 0.5, V: -0.8}, "pinion", "out"},
		"backlash too large":            {Dab{U: 0.7, V: 0.2}, Dab{U: 0.7, V: 0.2}, "ring", "in"},
		"backlash too small":            {Dab{U: -0.7, V: -0.2}, Dab{U: -0.7, V: -0.2}, "ring", "out"},
		"in the middle":                 {Dab{U: 0.1}, Dab{V: 0.1}, "none", ""},
		"slightly to the toe, unloaded": {Dab{U: -0.3}, Dab{U: -0.3, V: 0.1}, "none", ""},
		"drive flank at the toe alone":  {Dab{U: -0.6}, Dab{}, "ring", "out"},
		"drive flank at the heel alone": {Dab{U: 0.6}, Dab{}, "ring", "in"},
		"drive flank at the face alone": {Dab{V: 0.6}, Dab{}, "pinion", "in"},
		"drive flank at the root alone": {Dab{V: -0.6}, Dab{}, "pinion", "out"},
	} {
		out, err := Pattern(PatternIn{Drive: tt.drive, Coast: tt.coast})
		require.NoError(t, err)
		assert.Equal(t, tt.shim, out.Shim, name)
		assert.Equal(t, tt.way, out.Way, name)
	}
}

func TestMirroredPatternMirrorsTheMove(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) float64 { return rapid.Float64Range(-1, 1).Draw(t, name) }
		in := PatternIn{Drive: Dab{U: draw("du"), V: draw("dv")}, Coast: Dab{U: draw("cu"), V: draw("cv")}}
		a, err := Pattern(in)
		require.NoError(t, err)
		in.Drive, in.Coast = Dab{U: -in.Drive.U, V: -in.Drive.V}, Dab{U: -in.Coast.U, V: -in.Coast.V}
		b, err := Pattern(in)
		require.NoError(t, err)
		assert.InDelta(t, a.PinionOut, -b.PinionOut, 1e-9)
		assert.InDelta(t, a.RingOut, -b.RingOut, 1e-9)
		if a.Verdict == b.Verdict { // slightly to the toe is good, slightly to the heel is not
			assert.Equal(t, a.Shim, b.Shim)
		}
	})
}

// nineAnswers along and across a flank, as the bench offers them.
func nineAnswers() []Dab {
	var list []Dab
	for _, u := range []float64{0, -0.6, 0.6} {
		for _, v := range []float64{0, -0.6, 0.6} {
			list = append(list, Dab{U: u, V: v})
		}
	}
	return list
}

// All 81 answers: only flanks that pull apart between root and face are
// crossed; every other one gets a move, and the move mends: the drive flank
// leads, so what is left of both flanks, the coast at half weight, grows
// smaller, and in the charts' own words face on the drive flank never sends a
// pinion out, nor root one in (common practice).
func TestEveryAnswerOfTheBenchGetsAMoveThatMends(t *testing.T) {
	t.Parallel()
	for _, cutting := range []Cutting{FaceMilled, FaceHobbed} {
		crossed := 0
		for _, drive := range nineAnswers() {
			for _, coast := range nineAnswers() {
				in := PatternIn{Drive: drive, Coast: coast, Cutting: cutting}
				out, err := Pattern(in)
				require.NoError(t, err)
				if drive.V*coast.V < 0 {
					assert.True(t, out.Crossed, "%v", in)
					crossed++
					continue
				}
				assert.False(t, out.Crossed, "%v", in)
				if out.Verdict == metrology.Undecided {
					assert.Less(t, out.Confidence, 0.15, "%v: no single move fits, so it is dabbed again", in)
					assert.Contains(t, out.Says, "dab again")
					continue
				}
				if out.Shim == "none" {
					assert.Equal(t, [2]Dab{}, [2]Dab{drive, coast})
					continue
				}
				assert.Less(t, leftAfter(in, out), leftAfter(in, PatternOut{Shim: "none"}), "%v: %s", in, out.Says)
				if out.Shim == "pinion" && drive.V != 0 {
					assert.Equal(t, map[bool]string{true: "in", false: "out"}[drive.V > 0], out.Way, "%v", in)
				}
			}
		}
		assert.Equal(t, 18, crossed)
	}
}

// leftAfter a small move by the charts: how far both flanks stand from their
// middles, the coast flank at half weight.
func leftAfter(in PatternIn, move PatternOut) float64 {
	const small = 0.05
	sign := map[string]float64{"in": -small, "out": small, "": 0}[move.Way]
	moves := map[Cutting]map[string][4]float64{
		FaceMilled: {"pinion": {0.5, 0.8, -0.5, 0.8}, "ring": {0.7, 0.25, 0.7, 0.25}},
		FaceHobbed: {"pinion": {0.2, 0.8, -0.2, 0.8}, "ring": {0.8, 0.1, 0.8, 0.1}},
	}[in.Cutting][move.Shim]
	sum := 0.0
	for i, at := range in.seen() {
		weight := []float64{1, 1, 0.25, 0.25}[i]
		sum += weight * math.Pow(at+sign*moves[i], 2)
	}
	return sum
}

// Where the tooth is as deep at the heel as at the toe, a pattern high on both
// flanks is the pinion's, one along the tooth the ring's (common practice).
func TestTheWayOfCuttingChangesTheMove(t *testing.T) {
	t.Parallel()
	for _, tt := range []struct {
		drive, coast Dab
		milled       string
		hobbed       string
	}{
		{Dab{U: 0.5, V: 0.25}, Dab{U: -0.5, V: 0.25}, "pinion in", "pinion in"},
		{Dab{U: 0.6, V: 0.6}, Dab{V: 0.6}, "pinion in", "pinion in"},
		{Dab{U: 0.6, V: 0.3}, Dab{U: 0.3, V: 0.1}, "ring in", "ring in"},
	} {
		for cutting, want := range map[Cutting]string{FaceMilled: tt.milled, FaceHobbed: tt.hobbed} {
			out, err := Pattern(PatternIn{Drive: tt.drive, Coast: tt.coast, Cutting: cutting})
			require.NoError(t, err)
			assert.Equal(t, want, out.Shim+" "+out.Way, "%s %v", cutting, tt)
		}
	}
	_, err := Pattern(PatternIn{Cutting: "cast"})
	require.ErrorContains(t, err, "cutting")
}

func TestCrossedPatternsAreNoShimsFault(t *testing.T) {
	t.Parallel()
	out, err := Pattern(PatternIn{Drive: Dab{V: 0.9}, Coast: Dab{V: -0.9}})
	require.NoError(t, err)
	assert.True(t, out.Crossed)
	assert.Contains(t, out.Says, "swapped or turned caps")
	half, err := Pattern(PatternIn{Drive: Dab{U: 0.5, V: 0.8}, Coast: Dab{U: -0.5, V: 0.8}, Reversals: 2})
	require.NoError(t, err)
	assert.InDelta(t, 0.75, half.Step.Value, 1e-9, "halved on each reversal")
}
