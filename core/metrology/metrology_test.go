package metrology

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

func say(t *testing.T, texts ...string) []quantity.Any {
	t.Helper()
	var out []quantity.Any
	for _, text := range texts {
		out = append(out, quantitytest.Any(t, text))
	}
	return out
}

// JCGM 100:2008, table G.2: t95(ν). The last row is the normal limit.
func TestCoverageFactorsOfGUMTableG2(t *testing.T) {
	t.Parallel()
	for dof, want := range map[float64]float64{1: 12.71, 2: 4.30, 4: 2.78, 9: 2.26, 19: 2.09, 50: 2.01,
		math.Inf(1): 1.960} {
		assert.InDelta(t, want, coverage(dof, 0.95), 0.005, "ν = %v", dof)
	}
}

// A second derivation of Welch-Satterthwaite (GUM G.4.1, eq. G.2b) for one
// finite component among infinite ones, worked by hand: u_A = 3, others
// √(16) = 4, so u = 5 and ν = (n-1)·(5/3)^4.
func TestEffectiveDegreesOfFreedom(t *testing.T) {
	t.Parallel()
	// Two readings ±3 give s = 3√2, u_A = 3; an MPE of 4√3 gives u_mpe = 4.
	e := Errors[quantity.Length]{MPE: quantity.Length(4 * math.Sqrt(3))}
	est := Evaluate([]quantity.Length{-3, 3}, e, 0.95)
	assert.InDelta(t, 5, float64(est.U), 1e-12)
	assert.InDelta(t, math.Pow(5.0/3, 4), est.DOF, 1e-9)
	assert.InDelta(t, distuv.StudentsT{Sigma: 1, Nu: math.Pow(5.0/3, 4)}.Quantile(0.975), est.Coverage, 1e-9)
}

func TestOneReadingRestsOnTheInstrument(t *testing.T) {
	t.Parallel()
	in := ReadingSetIn{Readings: say(t, "0.10 mm"), Lower: say(t, "0.05 mm")[0], Upper: say(t, "0.20 mm")[0]}
	out, err := ReadingSet(in)
	require.NoError(t, err)
	assert.True(t, out.RestsOnOne)
	assert.Equal(t, Undecided, out.Verdict, "nothing is known about the spread")
	assert.Equal(t, 1, out.Decider.MoreReadings)

	in.Instrument = &Instrument{Resolution: say(t, "0.01 mm")[0], Repeatability: say(t, "0.003 mm")[0]}
	out, err = ReadingSet(in)
	require.NoError(t, err)
	assert.False(t, out.RestsOnOne)
	assert.Equal(t, In, out.Verdict)
}

// By hand: 0.25 lies 0.05 over 0.20, 0.02 lies 0.03 under 0.05; inside there
// is nothing to say.
func TestOutSaysByHowMuch(t *testing.T) {
	t.Parallel()
	in := ReadingSetIn{
		Instrument: &Instrument{Resolution: say(t, "0.001 mm")[0], Repeatability: say(t, "0.001 mm")[0]},
		Lower:      say(t, "0.05 mm")[0], Upper: say(t, "0.20 mm")[0],
	}
	for _, c := range []struct {
		reading string
		beyond  float64
	}{{"0.25 mm", 0.05}, {"0.02 mm", -0.03}, {"0.10 mm", 0}} {
		in.Readings = say(t, c.reading)
		out, err := ReadingSet(in)
		require.NoError(t, err)
		assert.Equal(t, c.beyond != 0, out.Verdict == Out, c.reading)
		assert.Equal(t, c.beyond != 0, out.Beyond.IsSaid(), c.reading)
		assert.InDelta(t, c.beyond, out.Beyond.Value, 1e-12, c.reading)
	}
}

func TestJudge(t *testing.T) {
	t.Parallel()
	l := Limits{Lower: 1, Upper: 2}
	tests := []struct {
		value, u float64
		limits   Limits
		want     Verdict
	}{
		{1.5, 0.5, l, In},
		{1.5, 0.51, l, Undecided},
		{1.9, 0.2, l, Undecided},
		{2.5, 0.4, l, Out},
		{0.5, 0.4, l, Out},
		{2.0, 0, l, In},
		{5, 1, Open(), None},
		{1.5, math.NaN(), l, Undecided},
		{100, 1, Limits{Lower: 1, Upper: math.Inf(1)}, In},
	}
	for _, tt := range tests {
		assert.Equal(t, tt.want, Judge(tt.value, tt.u, tt.limits), "%v ± %v", tt.value, tt.u)
	}
}

func TestUndecidedSaysWhatWouldDecide(t *testing.T) {
	t.Parallel()
	in := ReadingSetIn{
		Readings:   say(t, "0.185 mm", "0.190 mm"),
		Instrument: &Instrument{Resolution: say(t, "0.001 mm")[0]},
		Upper:      say(t, "0.20 mm")[0],
	}
	out, err := ReadingSet(in)
	require.NoError(t, err)
	require.Equal(t, Undecided, out.Verdict)
	require.NotZero(t, out.Decider.MoreReadings)

	coarse := ReadingSetIn{
		Readings:   say(t, "0.19 mm", "0.19 mm", "0.19 mm"),
		Instrument: &Instrument{Resolution: say(t, "0.05 mm")[0]},
		Upper:      say(t, "0.20 mm")[0],
	}
	out, err = ReadingSet(coarse)
	require.NoError(t, err)
	require.Equal(t, Undecided, out.Verdict)
	require.True(t, out.Decider.Resolution.IsSaid(), "more readings cannot help: %s", out.Decider.Says)
	coarse.Instrument.Resolution = out.Decider.Resolution
	out, err = ReadingSet(coarse)
	require.NoError(t, err)
	assert.Equal(t, In, out.Verdict, "the scale it asked for decides")
}

func TestShiftingAllReadingsChangesNoSpread(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		values := rapid.SliceOfN(rapid.Float64Range(-1, 1), 2, 20).Draw(t, "readings")
		shift := rapid.Float64Range(-5, 5).Draw(t, "shift")
		var a, b []quantity.Length
		for _, v := range values {
			a = append(a, quantity.Length(v))
			b = append(b, quantity.Length(v+shift))
		}
		ea, eb := Evaluate(a, Errors[quantity.Length]{}, 0.95), Evaluate(b, Errors[quantity.Length]{}, 0.95)
		assert.InDelta(t, float64(ea.Expanded), float64(eb.Expanded), 1e-9*(1+float64(ea.Expanded)))
		assert.InDelta(t, float64(ea.Mean)+shift, float64(eb.Mean), 1e-12)
	})
}

// Twice the same data never widen the uncertainty.
func TestMoreReadingsOfTheSameDataNeverWiden(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		values := rapid.SliceOfN(rapid.Float64Range(0, 1e-3), 2, 12).Draw(t, "readings")
		var once []quantity.Length
		for _, v := range values {
			once = append(once, quantity.Length(v))
		}
		e := Errors[quantity.Length]{Resolution: 1e-6}
		a, b := Evaluate(once, e, 0.95), Evaluate(append(once, once...), e, 0.95)
		assert.LessOrEqual(t, float64(b.Expanded), float64(a.Expanded)*(1+1e-12))
		assert.InDelta(t, float64(a.Mean), float64(b.Mean), 1e-15)
	})
}

func TestReadingSetNamesTheBadField(t *testing.T) {
	t.Parallel()
	tests := []struct {
		name string
		in   ReadingSetIn
		says string
	}{
		{"none", ReadingSetIn{}, "readings: 0 readings"},
		{"mixed", ReadingSetIn{Readings: say(t, "1 mm", "1 N·m")}, "readings[1]: a torque among readings of length"},
		{"limits crossed", ReadingSetIn{Readings: say(t, "1 mm"), Lower: say(t, "2 mm")[0], Upper: say(t, "1 mm")[0]},
			"lower: 2 mm lies above 1 mm"},
		{"limit of another kind", ReadingSetIn{Readings: say(t, "1 mm"), Upper: say(t, "1 L")[0]},
			"upper: 1 L is a volume"},
		{
			"resolution negative",
			ReadingSetIn{Readings: say(t, "1 mm"), Instrument: &Instrument{Resolution: say(t, "-1 mm")[0]}},
			"instrument.resolution: -1 mm is negative",
		},
		{"confidence", ReadingSetIn{Readings: say(t, "1 mm"), Confidence: 95}, "confidence: 95"},
		{"units", ReadingSetIn{Readings: say(t, "1 mm"), Units: "imperial"}, "units:"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			_, err := ReadingSet(tt.in)
			require.Error(t, err)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

func BenchmarkReadingSet(b *testing.B) {
	var in ReadingSetIn
	for i := range 10 {
		in.Readings = append(in.Readings, quantitytest.Any(b, fmt.Sprintf("0.6%d mm", i)))
	}
	in.Lower, in.Upper = in.Readings[0], in.Readings[9]
	for b.Loop() {
		if _, err := ReadingSet(in); err != nil {
			b.Fatal(err)
		}
	}
}
