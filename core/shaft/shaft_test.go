package shaft

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/diff/fd"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
)

func mm(v float64) Length {
	u, _ := quantity.UnitNamed("mm")
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, u)
}

func nm(v float64) Torque {
	u, _ := quantity.UnitNamed("N·m")
	return quantity.Say(quantity.Torque(v), u)
}

// The speed ratio against an independent derivation: the exact angle relation
// tan θ2 = tan θ1 / cos β, differentiated numerically by gonum.
func TestJointRatioIsTheDerivativeOfTheAngles(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		beta := rapid.Float64Range(0.01, 0.75).Draw(t, "beta")
		theta := rapid.Float64Range(-1.4, 1.4).Draw(t, "theta")
		out := func(x float64) float64 { return math.Atan(math.Tan(x) / math.Cos(beta)) }
		assert.InDelta(t, fd.Derivative(out, theta, nil), ratio(quantity.Angle(beta), quantity.Angle(theta)), 1e-5)
	})
}

func TestSingleJointExtremes(t *testing.T) {
	t.Parallel()
	out, err := Joints(JointsIn{Joints: []Joint{{AngleDeg: 10, Phased: true}}})
	require.NoError(t, err)
	assert.InDelta(t, out.Each[0].Fastest-out.Each[0].Slowest, out.Each[0].PeakToPeak, 1e-12,
		"sin β tan β is 1/cos β - cos β exactly")
	assert.InDelta(t, 10, out.EquivalentDeg, 1e-9)
	assert.EqualValues(t, "out", out.Verdict)
}

func TestEqualAnglesInPhaseCancel(t *testing.T) {
	t.Parallel()
	out, err := Joints(JointsIn{Joints: []Joint{{AngleDeg: 8, Phased: true}, {AngleDeg: 8, Phased: true}}})
	require.NoError(t, err)
	assert.InDelta(t, 0, out.EquivalentDeg, 1e-9)
	assert.EqualValues(t, "in", out.Verdict)
	wrong, err := Joints(JointsIn{Joints: []Joint{{AngleDeg: 8, Phased: true}, {AngleDeg: 8, Phased: false}}})
	require.NoError(t, err)
	assert.InDelta(t, 8*math.Sqrt2, wrong.EquivalentDeg, 1e-9, "forks out of phase add up")
	assert.Contains(t, wrong.Says, "turn it a quarter", "equal angles are not made equal once more")
	uneven, err := Joints(JointsIn{Joints: []Joint{{AngleDeg: 8, Phased: true}, {AngleDeg: 1, Phased: true}}})
	require.NoError(t, err)
	assert.Contains(t, uneven.Says, "make the angles equal")
}

// Read from the side and from above: the true angle against the angle between
// the shafts as vectors, and joints whose planes stand square on each other,
// which add up with forks in line and cancel with forks a quarter off.
func TestAnglesReadFromSideAndFromAbove(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		side, plan := rapid.Float64Range(-30, 30).Draw(t, "side"), rapid.Float64Range(-30, 30).Draw(t, "plan")
		out, err := Joints(JointsIn{Joints: []Joint{{SideDeg: &side, PlanDeg: &plan}}})
		require.NoError(t, err)
		up, left := math.Tan(side*math.Pi/180), math.Tan(plan*math.Pi/180)
		between := math.Acos(1 / math.Sqrt(1+up*up+left*left)) // with the shaft before, which points along x
		assert.InDelta(t, 1/math.Cos(between)-math.Cos(between), out.Each[0].PeakToPeak, 1e-9)
	})
	eight, none := 8.0, 0.0
	for _, tt := range []struct {
		phased bool
		want   float64
	}{{true, 8 * math.Sqrt2}, {false, 0}} {
		out, err := Joints(JointsIn{Joints: []Joint{{SideDeg: &eight, PlanDeg: &none},
			{SideDeg: &none, PlanDeg: &eight, Phased: tt.phased}}})
		require.NoError(t, err)
		assert.InDelta(t, tt.want, out.EquivalentDeg, 1e-6)
	}
	twice := Joint{AngleDeg: 3, SideDeg: &eight, PlanDeg: &none}
	for _, bad := range []Joint{{SideDeg: &eight}, twice} {
		_, err := Joints(JointsIn{Joints: []Joint{bad}})
		require.ErrorContains(t, err, "joints[0].side_deg")
	}
}

// Steep chains against the joint's own geometry, apart from any formula of
// speeds: the arms of a cross stand square on each other, so the driven fork
// follows from where the driving one points; speeds by small differences.
func TestSteepChainsAreTurnedThroughExactly(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		var in JointsIn
		for range rapid.IntRange(1, 5).Draw(t, "joints") {
			in.Joints = append(in.Joints, Joint{AngleDeg: rapid.Float64Range(0, 45).Draw(t, "angle"),
				Phased: rapid.Bool().Draw(t, "phased")})
		}
		in.Joints[0].AngleDeg = max(13, in.Joints[0].AngleDeg)
		out, err := Joints(in)
		require.NoError(t, err)
		low, high := math.Inf(1), 0.0
		const h = 1e-5
		for k := range 1440 {
			at := math.Pi * float64(k) / 1440
			speed := math.Mod(chainEnd(in, at+h)-chainEnd(in, at-h)+3*math.Pi, math.Pi)
			if speed > math.Pi/2 {
				speed = math.Pi - speed
			}
			low, high = math.Min(low, speed/(2*h)), math.Max(high, speed/(2*h))
		}
		assert.InEpsilon(t, 1+high-low, 1+out.PeakToPeak, 2e-3)
		back := out.EquivalentDeg * math.Pi / 180
		assert.InEpsilon(t, 1+out.PeakToPeak, 1+math.Sin(back)*math.Tan(back), 1e-9,
			"the one joint that turns as unevenly")
	})
	out, err := Joints(
		JointsIn{
			Joints: []Joint{
				{AngleDeg: 45, Phased: true}, {AngleDeg: 45, Phased: true}, {AngleDeg: 45, Phased: true},
				{AngleDeg: 45, Phased: true},
			},
		},
	)
	require.NoError(t, err)
	assert.InDelta(t, 0, out.PeakToPeak, 1e-9, "pairs of equal angles with forks in line cancel, however steep")
}

// chainEnd is where the last driven fork points: cos φ·cos β·cos ψ + sin φ·sin ψ = 0.
func chainEnd(in JointsIn, phi float64) float64 {
	for i, j := range in.Joints {
		if i > 0 && !j.Phased {
			phi += math.Pi / 2
		}
		beta := j.AngleDeg * math.Pi / 180
		phi = math.Atan2(-math.Cos(phi)*math.Cos(beta), math.Sin(phi))
	}
	return phi
}

// A solid round bar, from Den Hartog's beam table: ω1 = π²·√(EI/(ml⁴)).
// Steel, 50 mm, 1.5 m long: I/A = d²/16.
func TestShaftSpeedOfASolidBar(t *testing.T) {
	t.Parallel()
	out, err := ShaftSpeed(SpeedIn{Outer: mm(50), Wall: mm(25), Length: mm(1500)})
	require.NoError(t, err)
	area, inertia := math.Pi*0.05*0.05/4, math.Pi*math.Pow(0.05, 4)/64
	want := math.Pi * math.Pi * math.Sqrt(210e9*inertia/(7850*area*math.Pow(1.5, 4))) * 60 / (2 * math.Pi)
	assert.InDelta(t, want, out.Critical.Value, 0.5)
	assert.InDelta(t, 0.75*want, out.Allowed.Value, 0.5)
}

func TestLongestShaftRunsExactlyAtItsShare(t *testing.T) {
	t.Parallel()
	rpm, _ := quantity.UnitNamed("rpm")
	in := SpeedIn{Outer: mm(76), Wall: mm(2), Length: mm(1400),
		Top: quantity.Said[quantity.Rotation]{Any: quantity.Any{Value: 5000, Unit: rpm}}}
	out, err := ShaftSpeed(in)
	require.NoError(t, err)
	in.Length = out.Longest
	again, err := ShaftSpeed(in)
	require.NoError(t, err)
	assert.InDelta(t, 5000, again.Allowed.Value, 1e-3)
}

// The smaller joint at the axle end goes first, as wanted (common practice).
func TestTheFuseAtTheAxleEnd(t *testing.T) {
	t.Parallel()
	in := LinkIn{Engine: nm(200), Members: []Member{
		{Name: "gearbox output", Ratio: 18, Rating: nm(6000)},
		{Name: "rear propshaft joint", Ratio: 18, Share: new(0.5), Rating: nm(4200)},
		{Name: "axle-end joint", Ratio: 75.1, Share: new(0.25), Rating: nm(3900), Wanted: true},
	}}
	out, err := WeakestLink(in)
	require.NoError(t, err)
	assert.Equal(t, "axle-end joint", out.First)
	assert.True(t, out.Wanted)
	in.Members[0].Rating = nm(3000)
	out, err = WeakestLink(in)
	require.NoError(t, err)
	assert.Equal(t, "gearbox output", out.First)
	assert.Contains(t, out.Says, "not the part meant to break")
}

func TestTyresLimitWhatTheAxleSees(t *testing.T) {
	t.Parallel()
	kg, _ := quantity.UnitNamed("kg")
	in := LinkIn{Engine: nm(400), Grip: new(0.8), Wheel: quantity.Said[quantity.Mass]{Any: quantity.Any{
		Value: 500, Unit: kg,
	}}, Radius: mm(350), Members: []Member{
		{Name: "box", Ratio: 4, Rating: nm(5000)},
		{Name: "half shaft", Ratio: 40, Share: new(0.5), Rating: nm(3000), WheelRatio: 1, Wheels: 1},
	}}
	out, err := WeakestLink(in)
	require.NoError(t, err)
	assert.Equal(t, "tyre grip", out.Loads[1].Limited)
	assert.InDelta(t, 500*9.80665*0.8*0.35, out.Loads[1].Torque.Value, 1e-6)
}

func TestShaftsNameTheBadField(t *testing.T) {
	t.Parallel()
	_, err := Joints(JointsIn{Joints: []Joint{{AngleDeg: 90, Phased: true}}})
	require.ErrorContains(t, err, "a joint at 90 degrees does not turn")
	_, err = Joints(JointsIn{})
	require.ErrorContains(t, err, "joints:")
	_, err = ShaftSpeed(SpeedIn{Outer: mm(50), Wall: mm(30), Length: mm(1000)})
	require.ErrorContains(t, err, "wall:")
	_, err = ShaftSpeed(SpeedIn{Outer: mm(50), Wall: mm(2)})
	require.ErrorContains(t, err, "length: missing")
	_, err = WeakestLink(LinkIn{Engine: nm(100), Members: []Member{{Name: "a", Ratio: 1}}})
	require.ErrorContains(t, err, "members")
}
