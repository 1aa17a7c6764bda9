package ringpinion

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/practice"
	"handwerk/core/quantity"
)

func mm(v float64) Length {
	u, _ := quantity.UnitNamed("mm")
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, u)
}

// axle is one of the practice axles, whose truth only the program knows: its model is
// written from geometry, apart from the solver's linear one.
type axle struct {
	in  practice.In
	out practice.Out
}

func newAxle(t testing.TB, seed uint64) *axle {
	a := &axle{in: practice.In{Kind: practice.AxleKind, Seed: seed, Level: practice.Noisy, Reveal: true}}
	a.do(t)
	return a
}

// do does acts and gives what was read, in millimetres.
func (a *axle) do(t testing.TB, acts ...practice.Act) []float64 {
	from := len(a.in.Acts)
	a.in.Acts = append(a.in.Acts, acts...)
	var err error
	a.out, err = practice.Practice(a.in)
	require.NoError(t, err)
	var said []float64
	for _, answer := range a.out.Answers[from:] {
		said = append(said, answer.Reading.Value)
	}
	return said
}

// build puts it together and reads the depth, the slack, and the backlash at four places.
func (a *axle) build(t testing.TB, shim, left, right float64) Trial {
	acts := []practice.Act{
		{Assemble: &practice.Assembly{PinionShim: mm(shim), Left: mm(left), Right: mm(right)}},
		{Read: "depth"},
		{Read: "slack"},
	}
	for _, clock := range []quantity.Number{12, 3, 6, 9} {
		acts = append(acts, practice.Act{Read: "backlash", At: &clock})
	}
	r := a.do(t, acts...)
	return Trial{PinionShim: mm(shim), Left: mm(left), Right: mm(right), Depth: mm(r[1]), ZeroPlay: mm(r[2]),
		Backlash: mm((r[3] + r[4] + r[5] + r[6]) / 4)}
}

func (a *axle) question() TogetherIn {
	g := a.out.Given
	return TogetherIn{
		Required: g.Required, DepthTol: g.DepthTol, BacklashMin: g.BacklashMin, BacklashMax: g.BacklashMax,
		PlayMin: g.PlayMin, PlayMax: g.PlayMax, Direction: Tangential, RingSide: g.RingSide, ShimSide: HeadSide,
		Geometry: &Geometry{g.Geometry.PressureDeg, g.Geometry.SpiralDeg, g.Geometry.PitchDeg}, ShimStep: g.ShimStep,
		AsFound: &Packs{g.AsFound.PinionShim, g.AsFound.Left, g.AsFound.Right},
	}
}

// assemblies counts how often the axle is built, by the advice, until it truly is within
// limits; 9 when it never is. wrong: it was called done before.
func assemblies(t testing.TB, seed uint64) (n int, wrong bool) {
	a := newAxle(t, seed)
	in := a.question()
	for n = 1; n < 9; n++ {
		next, err := RingPinion(in)
		require.NoError(t, err)
		// Done while it is not: the noise spoke, and a careful hand reads again.
		wrong = wrong || next.Done
		in.Trials = append(in.Trials, a.build(t, next.PinionShim.Value, next.Left.Value, next.Right.Value))
		if a.out.Truth.Within {
			return n, wrong
		}
	}
	return 9, wrong
}

func TestFiveHundredAxlesConverge(t *testing.T) {
	t.Parallel()
	counts, mean, wrong := map[int]int{}, 0.0, 0
	for seed := range uint64(500) {
		n, out := assemblies(t, seed)
		if out {
			wrong++
		}
		counts[n]++
		mean += float64(n) / 500
	}
	t.Logf("assemblies %v, mean %.3f, called done while out: %d", counts, mean, wrong)
	assert.GreaterOrEqual(t, counts[1]+counts[2]+counts[3]+counts[4], 495, "%v", counts)
	assert.LessOrEqual(t, mean, 2.1, "%v", counts)
	assert.LessOrEqual(t, wrong, 2, "called done while it was out")
}

// Without the tool the patterns alone find the depth, more slowly.
func TestPatternsAloneConverge(t *testing.T) {
	t.Parallel()
	a := newAxle(t, 7)
	in := a.question()
	shim, left, right := 1.5, 2.5, 2.5
	for range 6 {
		trial := a.build(t, shim, left, right)
		a.do(t, practice.Act{Read: "pattern"})
		seen := a.out.Answers[len(a.out.Answers)-1]
		trial.Depth = Length{}
		trial.Drive, trial.Coast = &Dab{U: seen.Drive.U, V: seen.Drive.V}, &Dab{U: seen.Coast.U, V: seen.Coast.V}
		in.Trials = append(in.Trials, trial)
		out, err := RingPinion(in)
		require.NoError(t, err)
		assert.InDelta(t, 100, out.Depth.Value, 0.15,
			"what is expected comes from the pattern, not from a depth nobody measured")
		assert.Contains(t, out.Findings[0], "no measured depth")
		if out.Done {
			break
		}
		assert.InDelta(t, 100, out.Depth.Value, 0.011, "the next shim is the right one, to half a step")
		shim, left, right = out.PinionShim.Value, out.Left.Value, out.Right.Value
	}
	assert.InDelta(t, 100, a.out.Truth.Depth.Value, 0.06)
	assert.InDelta(t, 0.2, a.out.Truth.Backlash.Value, 0.05)
}

// After a trial measured by the tool a pattern alone does not forget it.
func TestALastTrialWithPatternOnlyGoesOnFromTheTool(t *testing.T) {
	t.Parallel()
	a := newAxle(t, 3)
	in := a.question()
	first := a.build(t, 1.5, 2.5, 2.5)
	second := a.build(t, 1.6, 2.5, 2.5)
	second.Depth = Length{}
	second.Drive, second.Coast = &Dab{U: 0.1, V: 0.2}, &Dab{U: -0.1, V: 0.2}
	in.Trials = []Trial{first, second}
	out, err := RingPinion(in)
	require.NoError(t, err)
	assert.InDelta(t, 100, out.Depth.Value, 0.02)
	in.Trials = in.Trials[:1]
	alone, err := RingPinion(in)
	require.NoError(t, err)
	assert.InDelta(t, alone.PinionShim.Value, out.PinionShim.Value, 0.041, "the tool outweighs the pattern")
}

func TestSwappedPacksAreNoticed(t *testing.T) {
	t.Parallel()
	a := newAxle(t, 1)
	in := a.question()
	for _, packs := range [][2]float64{{2.5, 2.5}, {2.3, 2.7}} {
		trial := a.build(t, 1.5, packs[0], packs[1])
		trial.Left, trial.Right = trial.Right, trial.Left
		in.Trials = append(in.Trials, trial)
	}
	out, err := RingPinion(in)
	require.NoError(t, err)
	require.NotEmpty(t, out.Findings)
	assert.Contains(t, out.Findings[0], "the wrong way")
}

func BenchmarkRingPinion(b *testing.B) {
	a := newAxle(b, 1)
	in := a.question()
	for i := range 4 {
		trial := a.build(b, 1.4+0.05*float64(i), 2.5, 2.5+0.03*float64(i))
		in.Trials = append(in.Trials, trial)
	}
	for b.Loop() {
		if _, err := RingPinion(in); err != nil {
			b.Fatal(err)
		}
	}
}

// The tool's reading with its constant is the depth, and the packs at which
// the play goes give the preload: the same answer as the figures worked out by
// hand.
func TestATrialAsItIsRead(t *testing.T) {
	t.Parallel()
	a := newAxle(t, 5)
	in := a.question()
	read := a.build(t, 1.5, 2.5, 2.5)
	trial := read
	trial.SidePlay, trial.ZeroPlay = mm(read.ZeroPlay.Value-5), Length{}
	in.Trials = []Trial{trial}
	want, err := RingPinion(in)
	require.NoError(t, err)
	read.Gauge, read.Depth = mm(trial.Depth.Value-20), Length{}
	in.Constant, in.Trials = mm(20), []Trial{read}
	got, err := RingPinion(in)
	require.NoError(t, err)
	for name, pair := range map[string][2]Length{
		"shim": {want.PinionShim, got.PinionShim}, "left": {want.Left, got.Left}, "right": {want.Right, got.Right},
		"depth": {want.Depth, got.Depth}, "play": {want.SidePlay, got.SidePlay},
	} {
		assert.InDelta(t, pair[0].Value, pair[1].Value, 1e-6, name)
	}
	read.Depth, read.SidePlay = trial.Depth, trial.SidePlay
	in.Trials = []Trial{read}
	_, err = RingPinion(in)
	require.ErrorContains(t, err, "trials[0].gauge")
	require.ErrorContains(t, err, "trials[0].zero_play_packs")
}

// At the edge an assembly is read again as it is; still there, it is moved to the middle.
func TestAtTheEdgeItIsReadAgainOnce(t *testing.T) {
	t.Parallel()
	in := newAxle(t, 2).question()
	edge := Trial{
		PinionShim: mm(1.5),
		Left:       mm(2.5),
		Right:      mm(2.5),
		Depth:      mm(100),
		Backlash:   mm(0.249),
		SidePlay:   mm(-0.08),
	}
	in.Trials = []Trial{edge}
	out, err := RingPinion(in)
	require.NoError(t, err)
	assert.EqualValues(t, "undecided", out.Stands)
	assert.InDelta(t, 2.5, out.Left.Value, 1e-9)
	in.Trials = []Trial{edge, edge}
	out, err = RingPinion(in)
	require.NoError(t, err)
	assert.EqualValues(t, "out", out.Stands)
	assert.Greater(t, out.Left.Value, 2.5, "the ring, on the left, goes nearer")
	middle := edge
	middle.Backlash = mm(0.215)
	in.Trials = []Trial{edge, middle}
	out, err = RingPinion(in)
	require.NoError(t, err)
	assert.True(t, out.Done, "the mean of both lies well within")
}

// Flanks that touch tell nothing but that: the ring goes away, and what is read then counts alone.
func TestFlanksThatTouchAreTakenApart(t *testing.T) {
	t.Parallel()
	in := newAxle(t, 2).question()
	touch := Trial{
		PinionShim: mm(1.5),
		Left:       mm(2.5),
		Right:      mm(2.5),
		Depth:      mm(100),
		Backlash:   mm(0),
		SidePlay:   mm(-0.08),
	}
	in.Trials = []Trial{touch}
	out, err := RingPinion(in)
	require.NoError(t, err)
	assert.Contains(t, out.Findings[0], "no backlash")
	k := out.K.Value
	assert.InDelta(t, (0.2+0.05)/k, (out.Right.Value-out.Left.Value)/2, 0.02, "to the middle, and a little more")
	read := touch
	read.Left, read.Right, read.Backlash = out.Left, out.Right, mm(0.10)
	in.Trials = append(in.Trials, read)
	out, err = RingPinion(in)
	require.NoError(t, err)
	assert.InDelta(t, 0.1/k, (out.Right.Value-out.Left.Value)/2-(read.Right.Value-read.Left.Value)/2, 0.02)
}
